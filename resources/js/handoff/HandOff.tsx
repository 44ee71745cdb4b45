import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { ApiError, useAct, type At } from '../api/client';
import { bytes, length, percent, plural, scaleFor, when, whole, type LengthScale } from '../frame/format';
import { causesOf, severityOf } from '../frame/causes';
import { Mark } from '../frame/marks';
import { Foot, Grow, Head, Scroll, Tick } from '../frame/sheet';
import { useMay } from '../people/session';
import { copyable, Copied, TicketRest, useCopy } from './TicketRest';
import { SentBack, Waivers } from './Waivers';
import { TicketBox, Way } from './looks';

/** Rows of reach on the screen; the page to print has all. */
const ROWS = 60;

/** Up to so many sets each have a row of their own. */
const EACH = 12;

type Measured = At<'hand-off'>['sets'][number];

interface Reach {
    set: Measured;
    names: string[];
    out: number;
    in: number;
    outShare: string;
    inShare: string;
}

/** Sets whose reach reads alike, in one row with the greatest of them: an asset of hundreds of like parts has few. */
function reachesOf(sets: Measured[], lengths: LengthScale): Reach[] {
    const rows = new Map<string, Reach>();
    for (const set of sets) {
        const [out, inward, size] = [set.inUse.out ?? 0, set.inUse.in ?? 0, set.diagonal ?? 1];
        const [outShare, inShare] = [percent(out / size), percent(inward / size)];
        const key = sets.length <= EACH ? set.name : [length(out, lengths), length(inward, lengths), outShare, inShare, set.reach !== null].join(' ');
        const row = rows.get(key);
        if (row) {
            row.names.push(set.name);
            row.out = Math.max(row.out, out);
            row.in = Math.max(row.in, inward);
        } else {
            rows.set(key, { set, names: [set.name], out, in: inward, outShare, inShare });
        }
    }
    return [...rows.values()];
}

/** The ticket, and what stands in its way. */
export function HandOff({ delivery }: { delivery: At<'hand-off'> }) {
    const seal = useAct<{ with: string[] }>(delivery.id, () => 'packages');
    const [along, setAlong] = useState<string[]>([]);
    const copy = useCopy();
    const recheck = useAct<void>(delivery.id, () => 'recheck');
    const mayMend = useMay('mend');
    // Judged by an earlier version of the standard: what is sealed has to be judged by the one in force.
    const outdated = delivery.state === 'done' && delivery.judgedBy !== null && delivery.judgedBy !== delivery.standard.version;
    const maySeal = useMay('seal');
    const { pathname } = useLocation();
    const base = pathname.replace(/\/[^/]+$/, '');
    const ready = delivery.verdict === 'ready';
    const told = causesOf(delivery, 'hand-off').filter((one) => !one.cause.waived);
    const blockers = told.filter((one) => severityOf(one.cause) === 'blocker');
    const notRun = delivery.checks.filter((check) => check.state === 'not-run');
    const last = delivery.packages.filter((one) => one.state === 'done').at(-1);
    // What was sealed and is out of date is not what is handed off.
    const sealed = last?.stale === null ? last : undefined;
    const stale = last?.stale ?? null;
    const latest = delivery.packages.at(-1);
    const busy = latest !== undefined && !['done', 'failed'].includes(latest.state);
    const cautions = told.filter((one) => severityOf(one.cause) === 'caution').length;
    const passed = delivery.checks.filter((check) => check.state === 'passed').length;
    const found = delivery.checks.filter((check) => check.state === 'found').length;
    const measured = delivery.sets.filter((set) => set.inUse.out !== null);
    const lengths = scaleFor(delivery.unit, Math.max(0, ...measured.map((set) => (set.inUse.out ?? 0) * 2)));
    const reaches = reachesOf(measured, lengths);

    return (
        <>
            <Scroll>
                <Head
                    title={
                        delivery.state !== 'done'
                            ? 'Being checked'
                            : sealed
                              ? `Sealed ${when(sealed.sealedAt)}`
                              : ready && outdated
                                ? 'The standard changed: check again'
                                : ready && stale !== null
                                  ? 'The package is out of date: seal again'
                                  : ready
                                    ? 'Ready to hand off'
                                    : delivery.verdict === 'waiting'
                                      ? `Waiting for ${delivery.progress.waitsFor ?? 'the other side'}`
                                      : `${plural(blockers.length + notRun.length, 'cause stands', 'causes stand')} in the way`
                    }
                >
                    {delivery.checks.length > 0 &&
                        `${passed} checks passed, ${found} found something, ${delivery.checks.length - passed - found - notRun.length} had nothing to look at${notRun.length > 0 ? `, ${notRun.length} did not run` : ''}.`}
                    {outdated && stale === null && ` It was checked by version ${delivery.judgedBy ?? 0} of the standard; version ${delivery.standard.version} is in force.`}
                    {stale !== null && ` ${last?.name ?? 'The package'} was sealed ${when(last?.sealedAt ?? '')}; ${stale}.`}
                    {ready && cautions > 0 && ` ${plural(cautions, 'caution')} will be on the ticket.`}
                </Head>
                {delivery.state === 'done' && !ready && (
                    <Way aria-label="what stands in the way">
                        {blockers.map((told) => (
                            <li key={told.id}>
                                <Mark kind="blocker" />{' '}
                                <Link to={`${base}/${told.cause.station}?${told.members.length === 1 ? 'finding' : 'cause'}=${told.id}`}>{told.cause.message}</Link>{' '}
                                <span className="mono soft">{told.cause.code}</span>
                                <br />
                                <span className="soft">{told.cause.remedy}</span>
                            </li>
                        ))}
                        {notRun.map((check) => (
                            <li key={check.code}>
                                <Mark kind="caution" /> <Link to={`${base}/${check.station}`}>{check.title}</Link> did not run: {check.reason}{' '}
                                <span className="mono soft">{check.code}</span>
                            </li>
                        ))}
                    </Way>
                )}
                {delivery.sentBack && <SentBack state={delivery.sentBack} number={delivery.number} />}
                <TicketBox aria-label="ticket">
                    <div style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
                        <h1>{delivery.assetName}</h1>
                        <span className="soft">
                            delivery {delivery.number} · {delivery.handedInBy} · {when(delivery.handedInAt)}
                        </span>
                        {delivery.state === 'done' && (
                            <span style={{ whiteSpace: 'nowrap' }}>
                                <a href={`/api/deliveries/${delivery.id}/ticket/html`} target="_blank" rel="noreferrer">
                                    Page to print
                                </a>{' '}
                                · <a href={`/api/deliveries/${delivery.id}/ticket/json`}>JSON</a>
                            </span>
                        )}
                    </div>
                    <h2>Files</h2>
                    <Table>
                        <TableBody>
                            {delivery.files.map((file) => (
                                <TableRow key={file.id}>
                                    <TableCell className="mono">{file.name}</TableCell>
                                    <TableCell
                                        style={{ width: 90 }}
                                        className={file.kind === 'side' ? 'soft' : file.role === 'high' ? 'high' : file.role === 'low' ? 'low' : 'soft'}
                                    >
                                        {file.kind === 'side' ? 'side file' : (file.role ?? 'by its parts')}
                                    </TableCell>
                                    <TableCell className="num" style={{ width: 104 }}>
                                        {bytes(file.bytes)}
                                    </TableCell>
                                    <TableCell className="num soft" style={{ width: 150 }} title={file.sha256 ?? undefined}>
                                        {file.sha256 ? `${file.sha256.slice(0, 14)}…` : '–'}
                                    </TableCell>
                                </TableRow>
                            ))}
                        </TableBody>
                    </Table>
                    <h2>Reach a set</h2>
                    <Table>
                        <colgroup>
                            <col />
                            <col style={{ width: 136 }} />
                            <col style={{ width: 84 }} />
                            <col style={{ width: 136 }} />
                            <col style={{ width: 84 }} />
                            <col style={{ width: 118 }} />
                        </colgroup>
                        <TableHead>
                            <TableRow>
                                <TableCell>set</TableCell>
                                <TableCell className="num">out</TableCell>
                                <TableCell className="num">% of set</TableCell>
                                <TableCell className="num">in</TableCell>
                                <TableCell className="num">% of set</TableCell>
                                <TableCell>why</TableCell>
                            </TableRow>
                        </TableHead>
                        <TableBody>
                            {reaches.slice(0, ROWS).map(({ set, names, ...reach }) => (
                                <TableRow key={set.name}>
                                    <TableCell>
                                        <span className="mono">{set.name}</span>
                                        {names.length > 1 && (
                                            <span className="soft" title={names.slice(1, 60).join(', ') + (names.length > 60 ? ', …' : '')}>
                                                {' '}
                                                and {whole(names.length - 1)} more
                                            </span>
                                        )}
                                    </TableCell>
                                    <TableCell className="num">
                                        <Copied label={`reach out of ${set.name}`} value={copyable(reach.out)} onCopy={copy}>
                                            {length(reach.out, lengths)}
                                        </Copied>
                                    </TableCell>
                                    <TableCell className="num soft">{reach.outShare}</TableCell>
                                    <TableCell className="num">
                                        <Copied label={`reach in of ${set.name}`} value={copyable(reach.in)} onCopy={copy}>
                                            {length(reach.in, lengths)}
                                        </Copied>
                                    </TableCell>
                                    <TableCell className="num soft">{reach.inShare}</TableCell>
                                    <TableCell className="soft">{set.reach ? 'set by the standard' : 'recommended'}</TableCell>
                                </TableRow>
                            ))}
                        </TableBody>
                    </Table>
                    {reaches.length > ROWS && <p className="soft">{plural(reaches.length - ROWS, 'more reach', 'more reaches')} on the page to print.</p>}
                    <h2>Bake settings</h2>
                    <p className="soft" style={{ margin: '0 0 4px' }}>
                        Click a value to copy it; a reach is copied as the number alone, in file units.
                    </p>
                    <Table>
                        <TableBody>
                            {delivery.settings.map((row) => (
                                <TableRow key={row.setting}>
                                    <TableCell style={{ width: '22%' }}>{row.setting}</TableCell>
                                    <TableCell style={{ width: '38%', fontWeight: 600, overflow: 'visible' }}>
                                        <Copied label={row.setting} value={row.value} onCopy={copy}>
                                            {row.value}
                                        </Copied>
                                    </TableCell>
                                    <TableCell className="soft" style={{ overflow: 'visible' }}>
                                        {row.reason}
                                    </TableCell>
                                </TableRow>
                            ))}
                        </TableBody>
                    </Table>
                    <Waivers delivery={delivery} />
                    <TicketRest delivery={delivery} />
                </TicketBox>
                {delivery.state === 'done' && ready && maySeal && (
                    <div role="group" aria-label="what goes along" style={{ marginTop: 14, display: 'flex', flexDirection: 'column' }}>
                        <h2>What goes along with the package</h2>
                        <p className="soft" style={{ margin: '2px 0' }}>
                            Written from what is sealed, at the moment of sealing. The files, the ticket, the color ID legend and maps that came back are always in it.
                        </p>
                        {delivery.along.map((one) => (
                            <Tick
                                key={one.kind}
                                checked={along.includes(one.kind)}
                                disabled={one.lacks !== null}
                                onTick={(on) => setAlong((old) => (on ? [...old, one.kind] : old.filter((kind) => kind !== one.kind)))}
                            >
                                {one.words}
                                {one.lacks !== null && <span className="soft">, {one.lacks}</span>}
                            </Tick>
                        ))}
                    </div>
                )}
            </Scroll>
            <Foot>
                <span className="soft ellipsis">
                    {sealed ? (
                        <>
                            <b>{sealed.name}</b> · {bytes(sealed.bytes ?? 0)}
                            {sealed.with.length > 0 && `, with ${sealed.with.map((kind) => delivery.along.find((one) => one.kind === kind)?.words ?? kind).join(', ')}`} · read back
                            and found as meant
                        </>
                    ) : ready ? (
                        'One zip: the files as handed in, the ticket, checksums. It is read back after writing.'
                    ) : (
                        'What blocks must be mended first.'
                    )}
                </span>
                <Grow />
                {seal.error instanceof ApiError && <span className="blocker">{seal.error.message}</span>}
                {latest?.state === 'failed' && <span className="blocker">{latest.error}</span>}
                {outdated && (
                    <Button variant="contained" disabled={!mayMend || recheck.isPending} onClick={() => recheck.mutate()}>
                        Check again
                    </Button>
                )}
                {sealed && (
                    <Button variant="contained" href={`/api/packages/${sealed.id}`}>
                        Download package
                    </Button>
                )}
                <Button
                    variant={ready && !sealed && !outdated ? 'contained' : 'outlined'}
                    disabled={!ready || outdated || busy || delivery.state !== 'done' || !maySeal}
                    title={maySeal ? undefined : 'a technical artist seals packages'}
                    onClick={() => seal.mutate({ with: along })}
                >
                    {busy ? 'Sealing…' : last ? 'Seal again' : 'Seal package'}
                </Button>
            </Foot>
        </>
    );
}
