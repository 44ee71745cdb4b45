import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Delivery } from '../api/client';
import { digits, percent, plural, whole, type LengthScale } from '../frame/format';
import { useSelection, useStand } from '../frame/selection';

/** What the fitted cages did, and what no cage can mend; the sets that stay troubled first. */
export function Cages({ cages, lengths, chosen }: { cages: Delivery['outputs'][number]['cages']; lengths: LengthScale; chosen: string | null }) {
    const selection = useSelection();
    const stand = useStand();
    const left = (cage: (typeof cages)[number]): number => (cage.clean ? 0 : 1 + cage.wrongShare);
    const sorted = [...cages].sort((a, b) => left(b) - left(a) || (a.set < b.set ? -1 : 1));
    const clean = cages.filter((cage) => cage.clean).length;
    const shown = sorted.slice(0, Math.max(12, cages.length - clean));
    return (
        <>
            <p style={{ margin: '12px 0 4px', display: 'flex', gap: 12, alignItems: 'baseline' }}>
                <span style={{ flex: 1 }}>
                    <b>{clean === cages.length ? `Cages fit all ${plural(cages.length, 'set')} clean` : `Cages fit ${clean} of ${plural(cages.length, 'set')} clean`}</b>{' '}
                    <span className="soft">– shot again from each cage</span>
                </span>
                <Button variant="text" onClick={stand.showCage}>
                    Show in the stand
                </Button>
            </p>
            <Table>
                <colgroup>
                    <col />
                    <col style={{ width: 82 }} />
                    <col style={{ width: 92 }} />
                    <col style={{ width: 92 }} />
                    <col style={{ width: 130 }} />
                    <col style={{ width: 110 }} />
                </colgroup>
                <TableHead>
                    <TableRow>
                        <TableCell>set</TableCell>
                        <TableCell className="num">vertices</TableCell>
                        <TableCell className="num" title="further out than the recommended single distance">
                            need more
                        </TableCell>
                        <TableCell className="num" title="nearer than it">
                            need less
                        </TableCell>
                        <TableCell className="num" title="share of low area whose ray goes wrong from any cage: split the set, explode, or retouch it after the bake">
                            no cage mends
                        </TableCell>
                        <TableCell className="num" title="how far high poly stands out of the cage">
                            left out, {lengths.unit}
                        </TableCell>
                    </TableRow>
                </TableHead>
                <TableBody>
                    {shown.map((cage) => (
                        <TableRow key={cage.set} className={`choosable${cage.set === chosen ? ' chosen' : ''}`} onClick={() => selection.select({ set: cage.set })}>
                            <TableCell className="mono">{cage.set}</TableCell>
                            <TableCell className="num">{whole(cage.vertices)}</TableCell>
                            <TableCell className="num">{whole(cage.more)}</TableCell>
                            <TableCell className="num">{whole(cage.less)}</TableCell>
                            <TableCell className={`num${cage.wrongShare > 0.0005 ? ' trouble' : ' soft'}`}>{percent(cage.wrongShare)}</TableCell>
                            <TableCell className={`num${cage.clean || cage.outsideBy === 0 ? ' soft' : ' trouble'}`}>
                                {cage.outsideBy * lengths.factor < 0.001 ? 0 : digits(cage.outsideBy * lengths.factor, 2)}
                            </TableCell>
                        </TableRow>
                    ))}
                </TableBody>
            </Table>
            {cages.length > shown.length && <p className="soft">and {cages.length - shown.length} more that fit clean</p>}
        </>
    );
}
