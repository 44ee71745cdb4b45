import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { useAct, type Delivery, type Finding } from '../api/client';
import { measured, plural } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { Failure } from '../frame/sheet';
import { Line } from '../people/forms';
import { useMay } from '../people/session';

/** Accepts findings in writing: what, as it measures now, why, and if wanted until when. */
function WaiveDialog({ delivery, findings, close }: { delivery: Delivery; findings: Finding[]; close: () => void }) {
    const [reason, setReason] = useState('');
    const [until, setUntil] = useState('');
    const notice = useNotice();
    // As the findings were when they were opened here.
    const [since] = useState(delivery.version);
    const waive = useAct<{ findings: number[]; reason: string; until: string | null }>(delivery.id, () => 'waivers', undefined, since);
    const [one] = findings;
    const value = findings.length === 1 && one?.measure ? measured(one.measure, delivery).value : null;
    return (
        <Dialog open onClose={close} aria-labelledby="waive-title" fullWidth maxWidth="sm">
            <form
                onSubmit={(event) => {
                    event.preventDefault();
                    waive.mutate(
                        { findings: findings.map((each) => each.id), reason, until: until === '' ? null : until },
                        {
                            onSuccess: () => {
                                notice.done(`${plural(findings.length, 'finding')} waived; the delivery is judged again`);
                                close();
                            },
                        },
                    );
                }}
            >
                <DialogTitle id="waive-title">Waive {findings.length === 1 ? 'this finding' : plural(findings.length, 'finding')}</DialogTitle>
                <DialogContent>
                    <p style={{ marginTop: 0 }}>
                        {one?.message}
                        {findings.length > 1 && <span className="soft"> and {plural(findings.length - 1, 'more', 'more')}</span>}
                    </p>
                    <p className="soft">
                        It stays listed as waived and does not block. {value === null ? 'The waiver' : `Accepted at ${value}, the waiver`} goes along to the next deliveries, and
                        dies when it gets worse.
                    </p>
                    <Line label="Reason" multiline minRows={2} autoFocus value={reason} onText={setReason} placeholder="why it may stay, for whoever reads the ticket" />
                    <Line label="Last day (if it is to end)" type="date" value={until} onText={setUntil} sx={{ width: 180 }} />
                    {waive.error && <Failure>{waive.error.message}</Failure>}
                </DialogContent>
                <DialogActions>
                    <Button onClick={close}>Cancel</Button>
                    <Button type="submit" variant="contained" disabled={reason.trim() === '' || waive.isPending}>
                        Waive
                    </Button>
                </DialogActions>
            </form>
        </Dialog>
    );
}

/** The button that opens it, for who has leave. */
export function WaiveButton({ delivery, findings }: { delivery: Delivery; findings: Finding[] }) {
    const may = useMay('waive');
    const [open, setOpen] = useState(false);
    const can = findings.filter((one) => !one.waived && one.code !== 'file-unreadable' && one.code !== 'waiver-died');
    if (!may || can.length === 0 || delivery.state !== 'done') {
        return null;
    }
    return (
        <>
            <Button variant="text" onClick={() => setOpen(true)}>
                {can.length === 1 ? 'Waive…' : `Waive all ${can.length}…`}
            </Button>
            {open && <WaiveDialog delivery={delivery} findings={can} close={() => setOpen(false)} />}
        </>
    );
}
