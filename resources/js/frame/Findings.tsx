import type { Delivery, Finding } from '../api/client';
import { Mark } from './marks';
import { useSelection, useStand } from './selection';

const order = { blocker: 0, caution: 1, note: 2 } as const;

export const severityOf = (finding: Finding): keyof typeof order => (finding.severity === 'blocker' ? 'blocker' : finding.severity === 'caution' ? 'caution' : 'note');

export function stationFindings(delivery: Delivery, station: string): Finding[] {
    return delivery.findings.filter((finding) => station === 'hand-off' || finding.station === station).sort((a, b) => order[severityOf(a)] - order[severityOf(b)]);
}

/** What the checks of this station found, and which of them passed, did not apply or did not run. */
export function Findings({ delivery, station }: { delivery: Delivery; station: string }) {
    const selection = useSelection();
    const stand = useStand();
    const findings = stationFindings(delivery, station);
    const checks = delivery.checks.filter((check) => check.station === station && check.state !== 'found');
    const notRun = checks.filter((check) => check.state === 'not-run');
    const passed = checks.filter((check) => check.state === 'passed');
    const idle = checks.filter((check) => check.state !== 'passed' && check.state !== 'not-run');
    const computing = !['done', 'failed', 'cancelled'].includes(delivery.state);

    return (
        <section className="findings" aria-label="findings">
            <header>
                <h2>
                    {computing
                        ? 'Being checked'
                        : findings.length === 0
                          ? 'No findings here'
                          : `${findings.length} ${findings.length === 1 ? 'finding' : 'findings'} ${station === 'hand-off' ? 'in all' : 'here'}`}
                </h2>
                {findings.length > 0 && (
                    <span className="soft">
                        <kbd>J</kbd> <kbd>K</kbd> walk · <kbd>↵</kbd> show
                    </span>
                )}
            </header>
            <div className="list">
                {findings.map((finding) => (
                    <button
                        type="button"
                        key={finding.id}
                        className={`plain finding${finding.id === selection.finding ? ' chosen' : ''}`}
                        style={{ display: 'grid' }}
                        aria-pressed={finding.id === selection.finding}
                        onClick={() => {
                            selection.select({ finding: finding.id, set: finding.set, part: finding.part });
                            stand.flyTo();
                        }}
                    >
                        <span style={{ paddingTop: 3 }}>
                            <Mark kind={severityOf(finding)} />
                            <span className="visually-hidden">{finding.severity}</span>
                        </span>
                        <span>
                            {finding.message}
                            <br />
                            <span className="remedy">{finding.remedy}</span>
                        </span>
                        <span className={`code ${severityOf(finding)}`}>
                            {finding.code}
                            {finding.waived ? ' (waived)' : ''}
                        </span>
                    </button>
                ))}
                {notRun.length > 0 && (
                    <ul className="checks" aria-label="checks that did not run">
                        {notRun.map((check) => (
                            <li key={check.code}>
                                <span aria-hidden="true">–</span>
                                <span className="code">{check.code}</span>
                                <span className="caution">not run: {check.reason ?? ''}</span>
                            </li>
                        ))}
                    </ul>
                )}
                {passed.length + idle.length > 0 && (
                    <details className="checks" open={findings.length === 0 && notRun.length === 0 && passed.length + idle.length <= 12}>
                        <summary>
                            {passed.length > 0 && (
                                <>
                                    <Mark kind="clear" /> {passed.length} passed
                                </>
                            )}
                            {passed.length > 0 && idle.length > 0 && ', '}
                            {idle.length > 0 && `${idle.length} with nothing to look at`}
                        </summary>
                        <ul className="checks" aria-label="other checks">
                            {[...passed, ...idle].map((check) => (
                                <li key={check.code}>
                                    <span aria-hidden="true">{check.state === 'passed' ? <Mark kind="clear" /> : '–'}</span>
                                    <span className="code">{check.code}</span>
                                    <span className="soft">{check.state === 'passed' ? check.title : (check.reason ?? 'nothing of its kind is there')}</span>
                                </li>
                            ))}
                        </ul>
                    </details>
                )}
                {station === 'surface' && checks.length + findings.length === 0 && !computing && <p className="soft">None of its checks ran.</p>}
            </div>
        </section>
    );
}
