import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useAct, type Delivery } from '../api/client';
import { causesOf, severityOf } from '../frame/causes';
import { plural } from '../frame/format';
import { Mark } from '../frame/marks';
import { useNotice } from '../frame/Notice';
import { Choice, Failure } from '../frame/sheet';
import { Line } from '../people/forms';
import { usePeople } from '../people/PeoplePage';
import { standingWords, useMay } from '../people/session';

function SendBackDialog({ delivery, close }: { delivery: Delivery; close: () => void }) {
    const told = causesOf(delivery, 'hand-off').filter((one) => !one.cause.waived && one.cause.code !== 'waiver-died');
    const numbers = new Map(told.map((one) => [one.id, delivery.causes.indexOf(one.cause)]));
    const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set(told.filter((one) => severityOf(one.cause) !== 'note').map((one) => one.id)));
    const { data: people } = usePeople();
    // Whoever handed it in is the likeliest to mend it.
    const likely = people?.find((one) => one.name === delivery.handedInBy) ?? people?.find((one) => one.role === 'artist');
    const [chosen, setChosen] = useState<string | null>(null);
    const to = chosen ?? (likely ? String(likely.id) : '');
    const [note, setNote] = useState('');
    const notice = useNotice();
    const navigate = useNavigate();
    const [since] = useState(delivery.version);
    const send = useAct<{ causes: number[]; to: number; note: string | null }, { id: number; sent: boolean }>(delivery.id, () => 'fix-lists', undefined, since);
    const name = people?.find((one) => String(one.id) === to)?.name ?? '';
    const tick = (id: number, on: boolean): void =>
        setTicked((old) => {
            const next = new Set(old);
            if (on) {
                next.add(id);
            } else {
                next.delete(id);
            }
            return next;
        });
    return (
        <Dialog open onClose={close} aria-labelledby="send-back-title" fullWidth maxWidth="md">
            <form
                onSubmit={(event) => {
                    event.preventDefault();
                    send.mutate(
                        { causes: [...ticked].map((id) => numbers.get(id) ?? -1), to: Number(to), note: note.trim() === '' ? null : note },
                        {
                            onSuccess: ({ id, sent }) => {
                                notice.done(sent ? `Sent to ${name}` : `The list is made, but the mail to ${name} could not be sent`);
                                close();
                                void navigate(`/fix-lists/${id}`);
                            },
                        },
                    );
                }}
            >
                <DialogTitle id="send-back-title">Send {delivery.assetName} back</DialogTitle>
                <DialogContent>
                    <p className="soft" style={{ marginTop: 0 }}>
                        What is ticked becomes one sheet: each cause with a picture of the place, its value and limit, and what mends it.
                    </p>
                    <Box
                        component="ul"
                        aria-label="causes to mend"
                        tabIndex={0}
                        sx={{ listStyle: 'none', m: 0, mb: 2, p: 0, maxHeight: '38vh', overflowY: 'auto', border: 1, borderColor: 'divider' }}
                    >
                        {told.map((one) => (
                            <Box component="li" key={one.id} sx={{ borderBottom: 1, borderColor: 'divider', px: 1 }}>
                                <FormControlLabel
                                    sx={{ alignItems: 'flex-start', py: 0.5 }}
                                    control={<Checkbox size="small" checked={ticked.has(one.id)} onChange={(event) => tick(one.id, event.target.checked)} />}
                                    label={
                                        <span>
                                            <Mark kind={severityOf(one.cause)} /> <span className="visually-hidden">{severityOf(one.cause)} </span>
                                            {one.cause.message} <span className="mono soft">{one.cause.code}</span>
                                        </span>
                                    }
                                />
                            </Box>
                        ))}
                    </Box>
                    <Box sx={{ mb: 1.5 }}>
                        <Box component="span" sx={{ fontWeight: 600, mr: 1 }}>
                            To
                        </Box>
                        <Choice
                            label="who is to mend it"
                            value={to}
                            empty="choose somebody"
                            options={(people ?? []).filter((one) => one.state !== 'locked out').map((one) => [String(one.id), `${one.name}, ${standingWords[one.role]}`] as const)}
                            onChoose={setChosen}
                            width={280}
                        />
                    </Box>
                    <Line label="Note (if there is more to say)" multiline minRows={2} value={note} onText={setNote} />
                    {send.error && <Failure>{send.error.message}</Failure>}
                </DialogContent>
                <DialogActions>
                    <Button onClick={close}>Cancel</Button>
                    <Button type="submit" variant="contained" disabled={ticked.size === 0 || to === '' || send.isPending}>
                        Send back {plural(ticked.size, 'cause')}
                    </Button>
                </DialogActions>
            </form>
        </Dialog>
    );
}

/** The button that opens it, for who has leave. */
export function SendBackButton({ delivery }: { delivery: Delivery }) {
    const may = useMay('sendBack');
    const [open, setOpen] = useState(false);
    if (!may || delivery.state !== 'done' || delivery.causes.every((one) => one.waived)) {
        return null;
    }
    return (
        <>
            <Button variant="outlined" onClick={() => setOpen(true)}>
                Send back…
            </Button>
            {open && <SendBackDialog delivery={delivery} close={() => setOpen(false)} />}
        </>
    );
}
