import Button from '@mui/material/Button';
import { Link, useLocation } from 'react-router';
import { ApiError, useAct, type At } from '../api/client';
import { bytes, length, percent, plural, scaleFor, when } from '../frame/format';
import { severityOf } from '../frame/Findings';
import { Mark } from '../frame/marks';

/** The ticket, and what stands in its way. */
export function HandOff({ delivery }: { delivery: At<'hand-off'> }) {
    const seal = useAct<void>(delivery.id, () => 'packages');
    const { pathname } = useLocation();
    const base = pathname.replace(/\/[^/]+$/, '');
    const ready = delivery.verdict === 'ready';
    const blockers = delivery.findings.filter((finding) => finding.severity === 'blocker' && !finding.waived);
    const notRun = delivery.checks.filter((check) => check.state === 'not-run');
    const sealed = delivery.packages.filter((one) => one.state === 'done').at(-1);
    const latest = delivery.packages.at(-1);
    const busy = latest !== undefined && !['done', 'failed'].includes(latest.state);
    const cautions = delivery.findings.filter((finding) => finding.severity === 'caution').length;
    const passed = delivery.checks.filter((check) => check.state === 'passed').length;
    const found = delivery.checks.filter((check) => check.state === 'found').length;
    const unit = delivery.files.find((file) => file.unit)?.unit ?? null;
    const measured = delivery.sets.filter((set) => set.inUse.out !== null);
    const lengths = scaleFor(unit, Math.max(0, ...measured.map((set) => (set.inUse.out ?? 0) * 2)));

    return (
        <>
            <div className="scroll" tabIndex={0} role="region" aria-label="work area">
                <div className="head">
                    <div>
                        <h1>
                            {delivery.state !== 'done'
                                ? 'Being checked'
                                : sealed
                                  ? `Sealed ${when(sealed.sealedAt)}`
                                  : ready
                                    ? 'Ready to hand off'
                                    : `${plural(blockers.length + notRun.length, 'thing stands', 'things stand')} in the way`}
                        </h1>
                        <p>
                            {delivery.checks.length > 0 &&
                                `${passed} checks passed, ${found} found something, ${delivery.checks.length - passed - found - notRun.length} had nothing to look at${notRun.length > 0 ? `, ${notRun.length} did not run` : ''}.`}
                            {ready && cautions > 0 && ` ${plural(cautions, 'caution')} will be on the ticket.`} Checks that are not built yet are not counted.
                        </p>
                    </div>
                </div>
                {delivery.state === 'done' && !ready && (
                    <ul className="way" aria-label="what stands in the way">
                        {blockers.map((finding) => (
                            <li key={finding.id}>
                                <Mark kind={severityOf(finding)} />{' '}
                                <Link to={`${base}/${finding.station}?finding=${finding.id}${finding.set ? `&set=${encodeURIComponent(finding.set)}` : ''}`}>
                                    {finding.message}
                                </Link>{' '}
                                <span className="mono soft">{finding.code}</span>
                            </li>
                        ))}
                        {notRun.map((check) => (
                            <li key={check.code}>
                                <Mark kind="caution" /> <Link to={`${base}/${check.station}`}>{check.title}</Link> did not run: {check.reason}{' '}
                                <span className="mono soft">{check.code}</span>
                            </li>
                        ))}
                    </ul>
                )}
                <article className="ticket" aria-label="ticket">
                    <div style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
                        <h1>{delivery.assetName}</h1>
                        <span className="soft">
                            delivery {delivery.number} · {delivery.handedInBy} · {when(delivery.handedInAt)}
                        </span>
                    </div>
                    <h2>Files</h2>
                    <table className="sheet">
                        <tbody>
                            {delivery.files.map((file) => (
                                <tr key={file.id}>
                                    <td className="mono">{file.name}</td>
                                    <td style={{ width: 90 }} className={file.kind === 'side' ? 'soft' : file.role === 'high' ? 'high' : file.role === 'low' ? 'low' : 'soft'}>
                                        {file.kind === 'side' ? 'side file' : (file.role ?? 'by its parts')}
                                    </td>
                                    <td className="num" style={{ width: 104 }}>
                                        {bytes(file.bytes)}
                                    </td>
                                    <td className="num soft" style={{ width: 150 }} title={file.sha256 ?? undefined}>
                                        {file.sha256 ? `${file.sha256.slice(0, 14)}…` : '–'}
                                    </td>
                                </tr>
                            ))}
                        </tbody>
                    </table>
                    <h2>Reach a set</h2>
                    <table className="sheet">
                        <thead>
                            <tr>
                                <th>set</th>
                                <th className="num">out</th>
                                <th className="num">% of d</th>
                                <th className="num">in</th>
                                <th className="num">% of d</th>
                                <th>why</th>
                            </tr>
                        </thead>
                        <tbody>
                            {measured.slice(0, 300).map((set) => (
                                <tr key={set.name}>
                                    <td className="mono">{set.name}</td>
                                    <td className="num">{length(set.inUse.out ?? 0, lengths)}</td>
                                    <td className="num soft">{percent((set.inUse.out ?? 0) / (set.diagonal ?? 1))}</td>
                                    <td className="num">{length(set.inUse.in ?? 0, lengths)}</td>
                                    <td className="num soft">{percent((set.inUse.in ?? 0) / (set.diagonal ?? 1))}</td>
                                    <td className="soft">{set.reach ? 'set by the standard' : 'recommended'}</td>
                                </tr>
                            ))}
                        </tbody>
                    </table>
                    <h2>Bake settings</h2>
                    <table className="sheet">
                        <tbody>
                            {delivery.settings.map((row) => (
                                <tr key={row.setting}>
                                    <td style={{ width: '22%' }}>{row.setting}</td>
                                    <td style={{ width: '38%', fontWeight: 600, overflow: 'visible' }}>{row.value}</td>
                                    <td className="soft" style={{ overflow: 'visible' }}>
                                        {row.reason}
                                    </td>
                                </tr>
                            ))}
                        </tbody>
                    </table>
                </article>
            </div>
            <div className="foot">
                <span className="soft ellipsis">
                    {sealed ? (
                        <>
                            <b>{sealed.name}</b> · {bytes(sealed.bytes ?? 0)} · read back and found as meant
                        </>
                    ) : ready ? (
                        'One zip: the files as handed in, the ticket, checksums. It is read back after writing.'
                    ) : (
                        'What blocks must be mended first.'
                    )}
                </span>
                <span className="grow" />
                {seal.error instanceof ApiError && <span className="blocker">{seal.error.message}</span>}
                {latest?.state === 'failed' && <span className="blocker">{latest.error}</span>}
                {sealed && (
                    <Button variant="contained" href={`/api/packages/${sealed.id}`}>
                        Download package
                    </Button>
                )}
                <Button variant={ready && !sealed ? 'contained' : 'outlined'} disabled={!ready || busy || delivery.state !== 'done'} onClick={() => seal.mutate()}>
                    {busy ? 'Sealing…' : sealed ? 'Seal again' : 'Seal package'}
                </Button>
            </div>
        </>
    );
}
