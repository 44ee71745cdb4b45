import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { decide, put, type At, type FixState } from '../api/client';
import { measured, plural, when } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { Offer } from '../frame/sheet';
import { useMay } from '../people/session';

/** `2 are mended`, `2 are mended and 1 is waived`. */
export const settled = ({ mended, waived }: { mended: number; waived: number }): string =>
    `${mended} ${mended === 1 ? 'is' : 'are'} mended${waived > 0 ? ` and ${waived} ${waived === 1 ? 'is' : 'are'} waived` : ''}`;

/** That the asset was sent back, and how far it is mended. */
export function SentBack({ state, number }: { state: FixState; number: number }) {
    const isDone = state.mended + state.waived === state.causes;
    return (
        <Offer
            quiet={isDone}
            acts={
                <Button variant="outlined" component={Link} to={`/fix-lists/${state.id}`}>
                    Open the list
                </Button>
            }
        >
            {state.against === null
                ? `Sent back to ${state.to}, ${when(state.sentAt)}: ${plural(state.causes, 'cause')} of delivery ${state.delivery} to mend.`
                : `Of ${plural(state.causes, 'cause')} sent back to ${state.to}, ${settled(state)} in delivery ${state.against}${state.against === number ? ', this one' : ''}.`}
        </Offer>
    );
}

/** What was accepted of this asset: by whom, why, and whether it still holds. */
export function Waivers({ delivery }: { delivery: At<'hand-off'> }) {
    const may = useMay('waive');
    const client = useQueryClient();
    const notice = useNotice();
    const withdraw = useMutation({
        mutationFn: (id: number) => decide(delivery.version, (version) => put<void>('DELETE', `/api/deliveries/${delivery.id}/waivers/${id}`, undefined, version)),
        onSuccess: async () => {
            notice.done('The waiver is taken back; the delivery is judged again');
            await client.invalidateQueries();
        },
        onError: notice.failed,
    });
    const shown = delivery.waivers.filter((one) => one.state !== 'taken back' && one.state !== 'later');
    if (shown.length === 0) {
        return null;
    }
    return (
        <>
            <h2>Waivers</h2>
            <Table aria-label="waivers">
                <TableBody>
                    {shown.map((one) => (
                        <TableRow key={one.id}>
                            <TableCell style={{ width: 96 }} className={one.state === 'holds' ? 'clear' : one.state === 'died' ? 'trouble' : 'soft'} title={one.words ?? undefined}>
                                {one.state}
                            </TableCell>
                            <TableCell style={{ overflow: 'visible', overflowWrap: 'anywhere' }}>
                                {one.title}: <span className="mono">{one.subject}</span>
                                {one.measure && <b> up to {measured(one.measure, delivery).value}</b>}
                                <br />
                                <span className="soft">
                                    “{one.reason}” {one.by}, {when(one.at)}
                                    {one.until && `, until ${one.until}`}
                                    {one.words && ` · ${one.words}`}
                                </span>
                            </TableCell>
                            <TableCell style={{ width: 100 }} align="right">
                                {may && one.state !== 'ended' && (
                                    <Button
                                        variant="outlined"
                                        disabled={withdraw.isPending || delivery.state !== 'done'}
                                        aria-label={`Take back the waiver of ${one.code} on ${one.subject}`}
                                        onClick={() => withdraw.mutate(one.id)}
                                    >
                                        Take back
                                    </Button>
                                )}
                            </TableCell>
                        </TableRow>
                    ))}
                </TableBody>
            </Table>
        </>
    );
}
