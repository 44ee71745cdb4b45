import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import type { Delivery, Finding } from '../api/client';
import { WaiveButton } from '../findings/Waive';
import type { Told } from './causes';
import { measured, plural } from './format';
import { mendOf } from './mends';
import { useNotice } from './Notice';
import { useMay } from '../people/session';

/** What the value is, what the bake will look like, and what to do; with the button that does it where there is one. */
export function Detail({ delivery, told, member }: { delivery: Delivery; told: Told; member: Finding | null }) {
    const navigate = useNavigate();
    const notice = useNotice();
    const client = useQueryClient();
    const check = delivery.checks.find((one) => one.code === told.cause.code);
    const one = member ?? (told.members.length === 1 ? told.members[0] : undefined);
    const value = one?.measure ? measured(one.measure, delivery) : null;
    const mayDecide = useMay('decide');
    const mend = member === null && !told.cause.waived ? mendOf(delivery, told) : null;
    const run = useMutation({
        mutationFn: () => mend?.run(delivery) ?? Promise.resolve(null),
        onSuccess: async (path) => {
            notice.done(mend?.done ?? 'Done');
            await client.invalidateQueries();
            if (path !== null) {
                void navigate(path);
            }
        },
        onError: notice.failed,
    });
    return (
        <Box
            component="dl"
            sx={{ m: 0, ml: '24px', mb: 1, display: 'grid', gridTemplateColumns: 'auto 1fr', gap: '1px 10px', '& dt': { color: 'text.secondary' }, '& dd': { m: 0 } }}
        >
            {value && (
                <>
                    <dt>measured</dt>
                    <dd>
                        <b>{value.value}</b>
                        {value.limit !== null && <span className="soft"> (limit {value.limit})</span>}
                        {one?.texels ? <span className="soft">, {plural(one.texels, 'pixel')} of the map</span> : null}
                    </dd>
                </>
            )}
            {check && (
                <>
                    <dt>after the bake</dt>
                    <dd>{check.afterBake}</dd>
                </>
            )}
            <dt>what mends it</dt>
            <dd>
                {told.cause.remedy}
                {mend && (
                    <Button variant="outlined" sx={{ ml: 1 }} disabled={run.isPending || (mend.decides === true && !mayDecide)} onClick={() => run.mutate()}>
                        {mend.words}
                    </Button>
                )}{' '}
                <WaiveButton delivery={delivery} findings={member ? [member] : told.members} />
            </dd>
        </Box>
    );
}
