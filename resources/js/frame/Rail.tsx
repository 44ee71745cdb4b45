import ButtonBase from '@mui/material/ButtonBase';
import { Fragment } from 'react';
import { Link } from 'react-router';
import type { Delivery, Station } from '../api/client';
import { plural } from './format';
import { RailBox } from './looks';
import { Mark } from './marks';

/** `1 blocker, 13 parts`. */
export const countWords = (count: number, kind: string, subjects: number): string =>
    `${plural(count, kind)}${subjects > count ? `, ${plural(subjects, 'part or set', 'parts and sets')} in all` : ''}`;

function State({ station }: { station: Station }) {
    const counts = (
        [
            ['blocker', station.blockers],
            ['caution', station.cautions],
            ['note', station.notes],
        ] as const
    ).filter(([, count]) => count > 0);
    return (
        <>
            {counts.map(([kind, count]) => (
                <span key={kind} className={`state ${kind}`} title={countWords(count, kind, station.subjects)}>
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
            {station.state === 'computing' && (
                <span className="state" role="img" aria-label={`computing: ${station.reason ?? 'being checked'}`}>
                    …
                </span>
            )}
            {station.state === 'not-run' && counts.length === 0 && <span className="state caution">not run</span>}
            {station.state === 'waiting' && (
                <span className="state" role="img" aria-label={station.reason ?? 'waiting'}>
                    –
                </span>
            )}
        </>
    );
}

/** The order of work, with the state of each station. */
export function Rail({ delivery, current, base, search }: { delivery: Delivery; current: string; base: string; search: string }) {
    return (
        <RailBox aria-label="stations">
            {delivery.stations.map((station, i) => (
                <Fragment key={station.key}>
                    {i > 0 && <span className="joint" aria-hidden="true" />}
                    <ButtonBase
                        component={Link}
                        to={`${base}/${station.key}${search}`}
                        className={station.key === current ? 'here' : ''}
                        aria-current={station.key === current ? 'page' : undefined}
                        title={station.reason ?? undefined}
                    >
                        <kbd aria-hidden="true">{i + 1}</kbd>
                        {station.title}
                        <State station={station} />
                    </ButtonBase>
                </Fragment>
            ))}
        </RailBox>
    );
}
