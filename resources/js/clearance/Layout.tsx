import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, useAct, useSince, type At, type Delivery } from '../api/client';
import { length, percent, type LengthScale } from '../frame/format';
import { useSelection } from '../frame/selection';
import { Field, Offer, Tick } from '../frame/sheet';
import { useMay } from '../people/session';

/** The moves that set the sets apart. */
export function Moves({ moves, lengths, chosen }: { moves: NonNullable<Delivery['explode']>['moves']; lengths: LengthScale; chosen: string | null }) {
    const selection = useSelection();
    return (
        <Table>
            <colgroup>
                <col style={{ width: '20%' }} />
                <col />
                <col style={{ width: 62 }} />
                <col style={{ width: 62 }} />
                <col style={{ width: 62 }} />
                <col style={{ width: 78 }} />
                <col style={{ width: 58 }} />
                <col style={{ width: 96 }} />
            </colgroup>
            <TableHead>
                <TableRow>
                    <TableCell>set</TableCell>
                    <TableCell>in each other’s way</TableCell>
                    <TableCell className="num">x</TableCell>
                    <TableCell className="num">y</TableCell>
                    <TableCell className="num">z {lengths.unit}</TableCell>
                    <TableCell className="num">bleed now</TableCell>
                    <TableCell className="num">after</TableCell>
                    <TableCell className="num" title="share of directions over its faces in which another set stands, before and after: what occlusion is lost by moving">
                        shade lost
                    </TableCell>
                </TableRow>
            </TableHead>
            <TableBody>
                {moves.map((move) => (
                    <TableRow key={move.set} className={`choosable${move.set === chosen ? ' chosen' : ''}`} onClick={() => selection.select({ set: move.set })}>
                        <TableCell className="mono">{move.set}</TableCell>
                        <TableCell className="mono soft">{move.meets.join(', ')}</TableCell>
                        {move.vector.map((v, axis) => (
                            <TableCell key={axis} className={`num${v === 0 ? ' soft' : ''}`}>
                                {(v * lengths.factor).toFixed(2)}
                            </TableCell>
                        ))}
                        <TableCell className={`num${move.bleedBefore > 0.001 ? ' trouble' : ''}`}>{percent(move.bleedBefore)}</TableCell>
                        <TableCell className="num">{percent(move.bleedAfter)}</TableCell>
                        <TableCell className="num soft">
                            {move.occlusionBefore === null || move.occlusionAfter === null ? '–' : percent(Math.max(0, move.occlusionBefore - move.occlusionAfter), 2)}
                        </TableCell>
                    </TableRow>
                ))}
            </TableBody>
        </Table>
    );
}

/** How wide the gaps are, and whether every set is moved. */
export function Layout({ delivery, explode, lengths }: { delivery: At<'clearance'>; explode: NonNullable<Delivery['explode']>; lengths: LengthScale }) {
    const mayDecide = useMay('decide');
    const [gap, setGap] = useState<number | null>(null);
    const [ticked, setAll] = useState<boolean | null>(null);
    const all = ticked ?? explode.all;
    const changed = gap !== null || ticked !== null;
    const lay = useAct<{ clearance: number | null; all: boolean }>(delivery.id, () => 'explode', undefined, useSince(delivery.version, changed));
    // What is laid out as it is asked for here is no draft any more.
    if (gap === explode.clearance) {
        setGap(null);
    }
    if (ticked === explode.all) {
        setAll(null);
    }
    return (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2.25, minHeight: 40 }}>
            <span>
                gap{' '}
                <Field
                    type="number"
                    least={0}
                    label="gap between sets that are moved"
                    value={Number(((gap ?? explode.clearance) * lengths.factor).toPrecision(4))}
                    sx={{ width: 92 }}
                    onText={(text) => setGap(Math.max(0, Number(text) / lengths.factor))}
                />{' '}
                {lengths.unit}
            </span>
            <Tick checked={all} onTick={setAll}>
                every set apart
            </Tick>
            {explode.byHand && !changed && (
                <Button variant="text" disabled={lay.isPending || !mayDecide} onClick={() => lay.mutate({ clearance: null, all })}>
                    Reset gap
                </Button>
            )}
            {changed && (
                <Button
                    variant="outlined"
                    disabled={lay.isPending || !mayDecide}
                    onClick={() => lay.mutate({ clearance: gap ?? (explode.byHand ? explode.clearance : null), all })}
                >
                    Lay out again
                </Button>
            )}
            {lay.error instanceof ApiError && (
                <span className="blocker" role="alert">
                    {lay.error.message}
                </span>
            )}
        </Box>
    );
}

/** That these files are an exploded layout already, and the way back. */
export function Exploded({ delivery, lengths }: { delivery: At<'clearance'>; lengths: LengthScale }) {
    const navigate = useNavigate();
    const back = useAct<void, { assetId: number; deliveryId: number }>(delivery.id, () => 'assemble');
    const moves = delivery.exploded?.moves ?? [];
    const drifted = delivery.findings.filter((finding) => finding.code === 'explode-drift').length;
    const clashes = delivery.findings.filter((finding) => finding.code === 'explode-clash').length;
    return (
        <Offer
            quiet
            acts={
                <Button
                    variant="outlined"
                    disabled={back.isPending || moves.length === 0 || delivery.state !== 'done'}
                    onClick={() => back.mutate(undefined, { onSuccess: (made) => void navigate(`/assets/${made.assetId}/deliveries/${made.deliveryId}/clearance`) })}
                >
                    {back.isPending ? 'Reassembling…' : 'Reassemble'}
                </Button>
            }
        >
            <b>
                {moves.length === 0
                    ? 'An exploded layout in which no set was moved'
                    : `An exploded layout: ${moves.length === 1 ? '1 set stands' : `${moves.length} sets stand`} apart ${delivery.exploded?.of ? `from where ${moves.length === 1 ? 'it was' : 'they were'} in delivery ${delivery.exploded.of}` : 'by its explode.json'}`}
            </b>
            <br />
            <span className="soft">
                {moves
                    .slice(0, 4)
                    .map((move) => `${move.set} by ${length(Math.hypot(...move.vector), lengths)}`)
                    .join(', ')}
                {moves.length > 4 ? ` and ${moves.length - 4} more` : ''}
                {moves.length > 0 && (drifted + clashes === 0 ? '. No part of a set was moved otherwise, none is in another’s way.' : '. See the findings.')}
            </span>
            {back.error instanceof ApiError && (
                <span className="blocker" role="alert">
                    {' '}
                    {back.error.message}
                </span>
            )}
        </Offer>
    );
}
