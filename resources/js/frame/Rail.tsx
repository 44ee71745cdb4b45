import { Link } from 'react-router';
import type { Delivery, Station } from '../api/client';
import { Mark } from './marks';

function State({ station }: { station: Station }) {
    const counts = (
        [
            ['blocker', station.blockers],
            ['caution', station.cautions],
            ['note', station.notes],
        ] as const
    ).filter(([, count]) => count > 0);
    const unbuilt = station.state === 'not-built';
    return (
        <>
            {counts.map(([kind, count]) => (
                <span key={kind} className={`state ${kind}`} title={`${count} ${kind}${count === 1 ? '' : 's'}`}>
                    <Mark kind={kind} /> {count}
                    <span className="visually-hidden">{kind}s</span>
                </span>
            ))}
            {station.state === 'clear' && (
                <span className="state" title="clear">
                    <Mark kind="clear" />
                    <span className="visually-hidden">clear</span>
                </span>
            )}
            {unbuilt && <span className="unbuilt">not built</span>}
            {station.state === 'computing' && (
                <span className="state" aria-label="computing">
                    …
                </span>
            )}
            {station.state === 'not-run' && counts.length === 0 && <span className="state caution">not run</span>}
            {station.state === 'waiting' && (
                <span className="state" aria-label={station.reason ?? 'waiting'}>
                    –
                </span>
            )}
        </>
    );
}

/** The order of work, with the state of each station. */
export function Rail({ delivery, current, base, search }: { delivery: Delivery; current: string; base: string; search: string }) {
    return (
        <nav className="rail" aria-label="stations">
            {delivery.stations.map((station, i) => (
                <span key={station.key} style={{ display: 'contents' }}>
                    {i > 0 && <span className="joint" aria-hidden="true" />}
                    <Link
                        to={`${base}/${station.key}${search}`}
                        className={station.key === current ? 'here' : ''}
                        aria-current={station.key === current ? 'page' : undefined}
                        title={station.reason ?? undefined}
                    >
                        <span className="key" aria-hidden="true">
                            {i + 1}
                        </span>
                        {station.title}
                        <State station={station} />
                    </Link>
                </span>
            ))}
        </nav>
    );
}
