import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { ask, useDelivery, type Delivery, type FixCause, type FixList } from '../api/client';
import { Bar } from '../frame/Bar';
import { severityOf } from '../frame/causes';
import { measured, plural, when } from '../frame/format';
import { App } from '../frame/looks';
import { Mark } from '../frame/marks';
import { useNotice } from '../frame/Notice';
import { Failure, Offer } from '../frame/sheet';
import { RackBox } from '../rack/looks';
import type { Page } from '../people/forms';
import { settled } from '../handoff/Waivers';
import { FixSheet } from './looks';
import { namesOf, usePictures } from './pictures';

function Cause({ cause, number, picture, delivery, against }: { cause: FixCause; number: number; picture: string | null; delivery: Delivery; against: number | null }) {
    const notice = useNotice();
    const names = namesOf(cause, delivery);
    const severity = severityOf(cause);
    const open = cause.findings.filter((one) => one.state === 'open');
    const value = (measure: { value: number; limit: number; unit: string }): string => measured(measure, delivery).value;
    const [one] = cause.findings;
    const limit = one?.measure ? measured(one.measure, delivery).limit : null;
    return (
        <li className={`fix ${cause.state === 'mended' || cause.state === 'waived' ? 'mended' : ''}`}>
            <div className="picture">
                {picture === null ? (
                    <span className="soft">drawing the place…</span>
                ) : picture === '' ? (
                    <span className="soft">no picture of this one</span>
                ) : (
                    <img src={picture} alt={`the place in ${names.slice(0, 3).join(', ') || delivery.assetName}`} />
                )}
            </div>
            <div>
                <h2>
                    {number}. <Mark kind={severity} /> {cause.message}
                </h2>
                <p className="soft">
                    {severity} · <span className="mono">{cause.code}</span>
                    {against !== null && (
                        <>
                            {' '}
                            ·{' '}
                            <b className={cause.state === 'mended' || cause.state === 'waived' ? 'clear' : 'caution'}>
                                {cause.state === 'mended'
                                    ? `mended in delivery ${against}`
                                    : cause.state === 'open'
                                      ? `still open in delivery ${against}`
                                      : `${cause.mended} of ${cause.findings.length} mended in delivery ${against}`}
                            </b>
                        </>
                    )}
                </p>
                <dl>
                    {one?.measure && cause.findings.length === 1 && (
                        <>
                            <dt>measured</dt>
                            <dd>
                                <b>{value(one.measure)}</b>
                                {limit !== null && <span className="soft"> (limit {limit})</span>}
                                {one.now && <span> · now {value(one.now)}</span>}
                            </dd>
                        </>
                    )}
                    {cause.afterBake !== '' && (
                        <>
                            <dt>after the bake</dt>
                            <dd>{cause.afterBake}</dd>
                        </>
                    )}
                    <dt>what to do</dt>
                    <dd>
                        <b>{cause.remedy}</b>
                    </dd>
                    {names.length > 0 && (
                        <>
                            <dt>parts</dt>
                            <dd className="mono names">
                                {names.slice(0, 60).join('  ')}
                                {names.length > 60 && <span className="soft"> and {names.length - 60} more</span>}{' '}
                                <Button
                                    className="no-print"
                                    variant="outlined"
                                    onClick={() =>
                                        void navigator.clipboard.writeText(names.join('\n')).then(() => notice.done(`${plural(names.length, 'name')} copied`), notice.failed)
                                    }
                                >
                                    Copy {names.length === 1 ? 'name' : `${names.length} names`}
                                </Button>
                            </dd>
                        </>
                    )}
                </dl>
                {cause.findings.length > 1 && (
                    <ul className="members">
                        {cause.findings.slice(0, 40).map((each, i) => (
                            <li key={i} className={each.state === 'open' ? '' : 'soft'}>
                                {each.message}
                                {each.measure && <b> · {value(each.measure)}</b>}
                                {each.state !== 'open' && ` · ${each.state}`}
                                {each.now && each.measure && each.now.value !== each.measure.value && ` · now ${value(each.now)}`}
                            </li>
                        ))}
                        {cause.findings.length > 40 && (
                            <li className="soft">
                                and {cause.findings.length - 40} more{open.length < cause.findings.length ? `; ${open.length} open in all` : ''}
                            </li>
                        )}
                    </ul>
                )}
            </div>
        </li>
    );
}

function Causes({ list, delivery }: { list: FixList; delivery: Delivery }) {
    const pictures = usePictures(delivery, list.causes);
    const done = pictures.every((one) => one !== null);
    return (
        <ol className="fixes" data-pictures={done ? 'all' : 'some'}>
            {list.causes.map((cause, i) => (
                <Cause key={i} cause={cause} number={i + 1} picture={pictures[i] ?? null} delivery={delivery} against={list.against} />
            ))}
        </ol>
    );
}

/** What one artist is to mend, on one sheet; it prints as it stands. */
export function FixListPage({ mode, setMode }: Page) {
    const { listId = '' } = useParams();
    const { data: list, error } = useQuery({ queryKey: ['fix-list', listId], queryFn: () => ask<FixList>(`/api/fix-lists/${listId}`), refetchInterval: 15_000 });
    const { data: delivery, error: lost } = useDelivery(list?.deliveryId ?? 0, list !== undefined);
    useEffect(() => {
        document.title = list ? `To mend: ${list.asset} – Yellow Anvil` : 'To mend – Yellow Anvil';
    }, [list]);
    const problem = error ?? lost;
    return (
        <App className="printable">
            <Bar mode={mode} setMode={setMode}>
                <span>
                    {list && (
                        <Link className="crumb" to={`/assets/${list.assetId}/deliveries/${list.againstId ?? list.deliveryId}/intake`}>
                            {list.asset}
                        </Link>
                    )}
                    <span className="crumb"> / </span>
                    <b>to mend</b>
                </span>
                <span className="grow" />
            </Bar>
            <RackBox aria-label="to mend">
                {problem && <Failure>{problem.message}</Failure>}
                {!list && !problem && <h1 className="soft">Fetching the list…</h1>}
                {list && (
                    <FixSheet>
                        <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'flex-start', gap: 2 }}>
                            <div>
                                <h1>
                                    {list.asset}, delivery {list.delivery}: {plural(list.causes.length, 'cause')} to mend
                                </h1>
                                <p className="soft">
                                    for <b>{list.to}</b>, sent by {list.by}, {when(list.sentAt)}
                                </p>
                            </div>
                            <Button className="no-print" variant="outlined" onClick={() => window.print()}>
                                Print
                            </Button>
                        </Box>
                        {list.against !== null && (
                            <Offer quiet={list.mended + list.waived === list.causes.length}>
                                {list.mended + list.waived === list.causes.length
                                    ? `All of it is ${list.waived > 0 ? 'mended or waived' : 'mended'} in delivery ${list.against}.`
                                    : `Delivery ${list.against}: of ${plural(list.causes.length, 'cause')}, ${settled(list)}.`}
                            </Offer>
                        )}
                        {list.note && <blockquote>{list.note}</blockquote>}
                        {delivery && <Causes key={list.id} list={list} delivery={delivery} />}
                        <p className="soft no-print">
                            Mend it in your modelling program, export with the same names, and hand the files in on the rack: the next delivery says what of this is mended.
                        </p>
                    </FixSheet>
                )}
            </RackBox>
        </App>
    );
}
