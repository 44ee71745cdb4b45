import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { ask, useDelivery, type Changes as Data, type Delivery, type FindingChange } from '../api/client';
import { severityOf } from '../frame/causes';
import { measured, plural } from '../frame/format';
import { Mark } from '../frame/marks';
import { useSelection, useStand } from '../frame/selection';
import { Failure, Foot, Grow, Head, Offer, Scroll } from '../frame/sheet';
import type { ShownPart } from '../stand/display';
import { useMeshes } from '../stand/useMeshes';
import { settled } from '../handoff/Waivers';
import { ChangeList } from './looks';

const MOST = 300;

/** One way in which findings changed, told where there is any. */
function Some({ title, list, delivery, isGone = false }: { title: string; list: FindingChange[]; delivery: Delivery; isGone?: boolean }) {
    if (list.length === 0) {
        return null;
    }
    const value = (measure: { value: number; limit: number; unit: string }): string => measured(measure, delivery).value;
    return (
        <section aria-label={title}>
            <h2>
                {title} <span className="soft">{list.length}</span>
            </h2>
            <ChangeList>
                {list.slice(0, MOST).map((one, i) => (
                    <li key={i}>
                        <Mark kind={isGone ? 'clear' : severityOf(one)} /> <span className="visually-hidden">{one.severity}</span>
                        {one.id === null ? (
                            one.message
                        ) : (
                            <Link to={`/assets/${delivery.assetId}/deliveries/${delivery.id}/${one.station}?finding=${one.id}`}>{one.message}</Link>
                        )}{' '}
                        {one.was && one.measure && (
                            <b>
                                {value(one.was)} → {value(one.measure)}
                            </b>
                        )}{' '}
                        <span className="mono soft">
                            {one.code}
                            {one.waived ? ' (waived)' : ''}
                        </span>
                    </li>
                ))}
                {list.length > MOST && <li className="soft">and {list.length - MOST} more</li>}
            </ChangeList>
        </section>
    );
}

/** Puts the parts of the delivery before beside those of now in the stand, in plum. */
function Ghost({ before, changed }: { before: Delivery; changed: ReadonlySet<string> }) {
    const { parts } = useMeshes(before);
    const { setGhost } = useStand();
    const ghosts = useMemo(() => parts.filter((part) => changed.has(part.name)).map((part): ShownPart => ({ ...part, key: `before ${part.key}`, ghost: true })), [parts, changed]);
    useEffect(() => {
        setGhost(ghosts);
        return () => setGhost(null);
    }, [ghosts, setGhost]);
    return null;
}

/** What changed since the delivery before: its parts, and its findings with them. */
export function Changes({ delivery }: { delivery: Delivery }) {
    const { data, error } = useQuery({ queryKey: ['changes', delivery.id, delivery.mark], queryFn: () => ask<Data>(`/api/deliveries/${delivery.id}/changes`) });
    const { data: before } = useDelivery(data?.beforeId ?? 0, data?.beforeId != null);
    const [ghosts, setGhosts] = useState(true);
    const selection = useSelection();
    const stand = useStand();
    // Only what has another place or shape shows as another; the rest would lie on itself.
    const shapes = useMemo(
        () => new Set((data?.parts ?? []).filter((one) => one.states.some((state) => ['moved', 'reshaped', 'gone'].includes(state))).map((one) => one.was ?? one.name)),
        [data],
    );
    if (error) {
        return <Failure sx={{ mx: '18px', mt: 1.25 }}>{error.message}</Failure>;
    }
    if (!data) {
        return (
            <p className="soft" role="status" style={{ padding: '10px 18px' }}>
                Fetching what changed…
            </p>
        );
    }
    if (!data.isKnown) {
        return (
            <Scroll>
                <Head title={data.before === null ? 'This is the first delivery' : 'Not compared yet'}>
                    {data.before === null
                        ? 'There is none before it to compare with.'
                        : 'What changed is known once the delivery is checked; of one that an earlier version checked, once it is checked again.'}
                </Head>
            </Scroll>
        );
    }
    const count = (state: string): number => data.parts.filter((one) => one.states.includes(state)).length;
    const told = [
        ['added', count('added')],
        ['gone', count('gone')],
        ['renamed', count('renamed')],
        ['moved', count('moved')],
        ['reshaped', count('reshaped')],
        ['with other UVs', count('re-unwrapped')],
        ['with other shading', count('re-shaded')],
        ['recolored', count('recoloured')],
    ].filter(([, many]) => many !== 0);
    return (
        <>
            <Scroll>
                <Head
                    title={data.parts.length === 0 ? `No part changed since delivery ${data.before}` : `${plural(data.parts.length, 'part')} changed since delivery ${data.before}`}
                >
                    {told.map(([word, many]) => `${many} ${word}`).join(', ')}
                    {told.length > 0 ? '; ' : ''}
                    {data.same} the same. Findings: {data.gone.length} gone, {data.new.length} new, {data.better.length} better, {data.worse.length} worse, {data.sameFindings} the
                    same.
                </Head>
                {data.isSource && <Offer quiet>This delivery was made here from delivery {data.before}.</Offer>}
                {data.died.length > 0 && (
                    <Offer>
                        {plural(data.died.length, 'waiver')} died: {data.died.length === 1 ? 'its finding is' : 'their findings are'} worse than what was accepted.
                    </Offer>
                )}
                {delivery.sentBack?.against === delivery.number && (
                    <Offer
                        quiet={delivery.sentBack.mended + delivery.sentBack.waived === delivery.sentBack.causes}
                        acts={
                            <Button variant="outlined" component={Link} to={`/fix-lists/${delivery.sentBack.id}`}>
                                Open the list
                            </Button>
                        }
                    >
                        Of {plural(delivery.sentBack.causes, 'cause')} sent back to {delivery.sentBack.to}, {settled(delivery.sentBack)}.
                    </Offer>
                )}
                {data.parts.length > 0 && (
                    <Table aria-label="parts that changed" sx={{ mb: 2 }}>
                        <colgroup>
                            <col style={{ width: '34%' }} />
                            <col style={{ width: 56 }} />
                            <col />
                        </colgroup>
                        <TableBody>
                            {data.parts.slice(0, MOST).map((one, i) => {
                                const isGone = one.states.includes('gone');
                                return (
                                    <TableRow key={i} selected={selection.part === one.name}>
                                        <TableCell className="mono">
                                            <ButtonBase
                                                className="mono"
                                                disabled={isGone}
                                                sx={{ justifyContent: 'flex-start', textAlign: 'left', overflowWrap: 'anywhere' }}
                                                onClick={() => {
                                                    selection.select({ part: one.name });
                                                    stand.flyTo();
                                                }}
                                            >
                                                {one.name}
                                            </ButtonBase>
                                        </TableCell>
                                        <TableCell className={one.role === 'high' ? 'high' : one.role === 'low' ? 'low' : 'soft'}>{one.role ?? '–'}</TableCell>
                                        <TableCell className={isGone ? 'trouble' : undefined}>{one.words.join('; ')}</TableCell>
                                    </TableRow>
                                );
                            })}
                            {data.parts.length > MOST && (
                                <TableRow>
                                    <TableCell colSpan={3} className="soft">
                                        and {data.parts.length - MOST} more
                                    </TableCell>
                                </TableRow>
                            )}
                        </TableBody>
                    </Table>
                )}
                <Some title="Waivers that died" list={data.died} delivery={delivery} />
                <Some title="New findings" list={data.new} delivery={delivery} />
                <Some title="Worse" list={data.worse} delivery={delivery} />
                <Some title="Better" list={data.better} delivery={delivery} />
                <Some title="Gone" list={data.gone} delivery={delivery} isGone />
                {ghosts && before && shapes.size > 0 && <Ghost before={before} changed={shapes} />}
            </Scroll>
            <Foot>
                <span className="soft">
                    {shapes.size === 0
                        ? 'No part has another place or shape.'
                        : `The stand shows ${plural(shapes.size, 'part')} of delivery ${data.before} in plum, over those of now.`}
                </span>
                <Grow />
                {shapes.size > 0 && (
                    <Button variant="outlined" aria-pressed={ghosts} onClick={() => setGhosts((old) => !old)}>
                        {ghosts ? 'Hide' : 'Show'} the parts before
                    </Button>
                )}
                {data.beforeId !== null && (
                    <Button variant="outlined" component={Link} to={`/assets/${delivery.assetId}/deliveries/${data.beforeId}/intake`}>
                        Open delivery {data.before}
                    </Button>
                )}
            </Foot>
        </>
    );
}
