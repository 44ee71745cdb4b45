import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Link, useNavigate } from 'react-router';
import type { AssetRow, Station } from '../api/client';
import { plural, when, whole } from '../frame/format';
import { Mark } from '../frame/marks';
import { countWords } from '../frame/Rail';
import { Cells, Ready } from './looks';

function Cell({ station }: { station: Station }) {
    const kind = station.blockers > 0 ? 'blocker' : station.cautions > 0 ? 'caution' : station.notes > 0 ? 'note' : null;
    const words = `${station.title}: ${kind ? countWords(station[`${kind}s`], kind, station.subjects) : station.state.replace('-', ' ')}`;
    const look = kind ?? (station.state === 'clear' ? 'clear' : station.state === 'computing' ? 'computing' : 'idle');
    return (
        <span className={look} title={words}>
            {kind ? <Mark kind={kind} size={10} /> : station.state === 'clear' ? <Mark kind="clear" size={10} /> : station.state === 'computing' ? '…' : ''}
            <span className="visually-hidden">{words}</span>
        </span>
    );
}

function Verdict({ asset }: { asset: AssetRow }) {
    if (asset.state === 'failed' || asset.state === 'cancelled') {
        return <b className="caution">{asset.state}</b>;
    }
    if (asset.state !== 'done') {
        return <span className="low">{asset.doing ?? 'waiting'}…</span>;
    }
    if (asset.waitsFor !== null) {
        return <span>waiting for the {asset.waitsFor} poly</span>;
    }
    const back = asset.sentBack;
    // Sent back, and nothing new came since.
    if (back?.against === null && asset.verdict !== 'ready') {
        return (
            <>
                <b className="blocker">
                    <Mark kind="blocker" /> {asset.blockers > 0 ? plural(asset.blockers, 'blocker') : 'a check did not run'}
                </b>
                <br />
                <span className="soft">sent back to {back.to}</span>
            </>
        );
    }
    if (asset.verdict === 'ready' && asset.outdated) {
        return (
            <b className="caution" title="its package was sealed of another standard or other choices">
                <Mark kind="caution" /> package out of date
            </b>
        );
    }
    return asset.verdict === 'ready' ? (
        <Ready>{asset.sealed ? '✓ SEALED' : '✓ READY'}</Ready>
    ) : (
        <b className="blocker">
            <Mark kind="blocker" /> {asset.blockers > 0 ? plural(asset.blockers, 'blocker') : 'a check did not run'}
        </b>
    );
}

/** The assets of a page, each by its newest delivery; `empty` is said where there is none. */
export function RackTable({ assets, empty }: { assets: AssetRow[]; empty: string | null }) {
    const navigate = useNavigate();
    return (
        <Table>
            <colgroup>
                <col />
                <col style={{ width: 230 }} />
                <col style={{ width: 190 }} />
                <col style={{ width: 80 }} />
                <col style={{ width: 130 }} />
                <col style={{ width: 190 }} />
            </colgroup>
            <TableHead>
                <TableRow>
                    <TableCell>asset</TableCell>
                    <TableCell>intake → hand-off</TableCell>
                    <TableCell>verdict</TableCell>
                    <TableCell className="num">delivery</TableCell>
                    <TableCell className="num">triangles low / high</TableCell>
                    <TableCell className="num">last change</TableCell>
                </TableRow>
            </TableHead>
            <TableBody>
                {assets.map((asset) => (
                    <TableRow
                        key={asset.id}
                        className="choosable"
                        onClick={() =>
                            void navigate(`/assets/${asset.id}/deliveries/${asset.deliveryId}/${asset.stations.find((station) => station.blockers > 0)?.key ?? 'intake'}`)
                        }
                    >
                        <TableCell>
                            <Link
                                to={`/assets/${asset.id}/deliveries/${asset.deliveryId}/${asset.stations.find((station) => station.blockers > 0)?.key ?? 'intake'}`}
                                style={{ fontWeight: 700, textDecoration: 'none', fontSize: 15 }}
                                onClick={(event) => event.stopPropagation()}
                            >
                                {asset.name}
                            </Link>
                            <br />
                            <span className="soft">
                                {plural(asset.parts, 'part')} in {plural(asset.sets, 'set')}
                            </span>
                        </TableCell>
                        <TableCell>
                            <Cells>
                                {asset.stations.map((station) => (
                                    <Cell key={station.key} station={station} />
                                ))}
                            </Cells>
                        </TableCell>
                        <TableCell>
                            <Verdict asset={asset} />
                        </TableCell>
                        <TableCell className="num">{asset.delivery}</TableCell>
                        <TableCell className="num">
                            {whole(asset.lowTriangles)}
                            <br />
                            <span className="soft">{whole(asset.highTriangles)}</span>
                        </TableCell>
                        <TableCell className="num" style={{ fontFamily: 'inherit' }}>
                            {when(asset.changedAt)}
                            <br />
                            <span className="soft">{asset.changedBy}</span>
                        </TableCell>
                    </TableRow>
                ))}
                {assets.length === 0 && empty !== null && (
                    <TableRow>
                        <TableCell colSpan={6} className="soft">
                            {empty}
                        </TableCell>
                    </TableRow>
                )}
            </TableBody>
        </Table>
    );
}
