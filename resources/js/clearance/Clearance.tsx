import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { ApiError, useAct, useSince, type At } from '../api/client';
import { column, extentOf, percent, plural, scaleFor, whole } from '../frame/format';
import { LongList } from '../frame/LongList';
import { useSelection, useStand } from '../frame/selection';
import { Foot, Grow, Head, Offer, Scroll } from '../frame/sheet';
import { Cages } from './Cages';
import { GaugeKey, Row, WhatIf, type Tried } from './GaugeRow';
import { Exploded, Layout, Moves } from './Layout';
import { Span, Ticks, gaugeScale } from './SpanGauge';

/** Which distance to bake at, and which sets must be kept apart. */
export function Clearance({ delivery }: { delivery: At<'clearance'> }) {
    const selection = useSelection();
    const stand = useStand();
    const make = useAct<'exploded' | 'cage'>(
        delivery.id,
        () => 'outputs',
        (kind) => ({ kind }),
    );
    const [tried, setTried] = useState<Tried | null>(null);
    const keep = useAct<{ set: string; out: number | null; in: number | null }>(
        delivery.id,
        () => 'reach',
        undefined,
        useSince(delivery.version, tried !== null && tried.kept !== true),
    );
    const [from, setFrom] = useState(delivery.checkedAt);
    if (delivery.checkedAt !== null && from !== delivery.checkedAt) {
        setFrom(delivery.checkedAt);
        if (tried?.kept) {
            setTried(null);
        }
    }
    const scale = gaugeScale(delivery.sets);
    const lengths = scaleFor(delivery.unit, Math.min(extentOf(delivery), scale.to * 2));
    const measured = delivery.sets.filter((set) => set.needed.out !== null);
    const working = measured.filter((set) => set.firstWrong.out === null || set.firstWrong.out > (set.needed.out ?? 0));
    const finding = delivery.findings.find((one) => one.id === selection.finding);
    const chosen = selection.set ?? finding?.set ?? null;
    const common = delivery.common.out;
    const neededAll = Math.max(0, ...measured.map((set) => set.needed.out ?? 0));
    const wrongAll = measured.reduce<number | null>((least, set) => (set.firstWrong.out === null ? least : Math.min(least ?? Infinity, set.firstWrong.out)), null);
    const explode = delivery.explode;
    const moves = explode?.moves ?? [];
    const moved = moves.filter((move) => move.vector.some((v) => v !== 0));
    const written = delivery.outputs.filter((output) => output.kind === 'exploded').at(-1);
    const cage = delivery.outputs.filter((output) => output.kind === 'cage').at(-1);
    const fitting = cage !== undefined && !['done', 'failed'].includes(cage.state);
    const busy = written !== undefined && !['done', 'failed'].includes(written.state);
    const closed = measured.length - working.length;
    const works = new Set(working.map((set) => set.name));
    // What another station tells is not told again here, but pointed to.
    const toldHere = new Set(delivery.findings.filter((one) => one.code === 'span-closed').map((one) => one.set));
    const bleeding = new Set(delivery.findings.filter((one) => one.code === 'sets-bleed').flatMap((one) => [one.set, one.other]));
    const elsewhere = measured.filter((set) => !works.has(set.name) && !toldHere.has(set.name) && bleeding.has(set.name)).map((set) => set.name);
    const { pathname, search } = useLocation();
    // What has no distance, or was not measured, comes first.
    // While rays are shot, what is known comes before what is not.
    const rank = (set: (typeof measured)[number]): number => (works.has(set.name) ? 1 : set.needed.out === null && delivery.state !== 'done' ? 2 : 0);
    const sorted = [...delivery.sets].sort((a, b) => rank(a) - rank(b));
    const { setExplode } = stand;
    useEffect(() => () => setExplode(0), [setExplode]);

    return (
        <>
            <Scroll>
                <Head
                    title={
                        measured.length === 0
                            ? delivery.state === 'done'
                                ? 'No set could be measured'
                                : 'Shooting rays'
                            : delivery.state !== 'done'
                              ? `${working.length} of ${plural(measured.length, 'set')} measured so far ${working.length === 1 ? 'has' : 'have'} a distance that works`
                              : working.length === measured.length
                                ? measured.length === 1
                                    ? 'The set has a distance that works'
                                    : `All ${measured.length} sets have a distance that works`
                                : `${working.length} of ${measured.length} sets have a distance that works`
                    }
                >
                    How far rays must reach to meet all of the high poly, and how far they may before they meet something else.
                    {delivery.standard.setsKeptApart ? ' Sets are kept apart in the bake.' : ' Sets are baked together, so each is in the others’ way.'}
                </Head>
                {elsewhere.length > 0 && (
                    <Offer quiet>
                        <b className="mono">{elsewhere.slice(0, 3).join(', ')}</b>
                        {elsewhere.length > 3 && ` and ${elsewhere.length - 3} more`} {elsewhere.length === 1 ? 'has' : 'have'} no safe reach because other sets get in the way: see{' '}
                        <Link to={{ pathname: pathname.replace(/[^/]+$/, 'sets'), search }}>Sets</Link>.
                    </Offer>
                )}
                {delivery.exploded && <Exploded delivery={delivery} lengths={lengths} />}
                {measured.length > 0 && (
                    <div className="gauge-row soft" style={{ cursor: 'default', minHeight: 24, borderBottomColor: 'var(--rule-strong)', fontSize: 12.5 }}>
                        <span>bake set</span>
                        <Ticks scale={scale} lengths={lengths} />
                        <span style={{ textAlign: 'right' }}>in use / safe to, {lengths.unit}</span>
                    </div>
                )}
                {measured.length > 1 && (
                    <div className="gauge-row" style={{ cursor: 'default' }}>
                        <span>
                            <b className="mono">all sets</b>
                            <span className="soft" style={{ fontSize: 12, display: 'block' }}>
                                usual 1 %: {delivery.common.usualServes} of {delivery.common.of}
                            </span>
                        </span>
                        <Span neededOut={neededAll} neededIn={Math.max(...measured.map((set) => set.needed.in ?? 0))} wrong={wrongAll} scale={scale} />
                        <span className="num">
                            {delivery.state !== 'done' ? (
                                <span className="soft">so far</span>
                            ) : common === null ? (
                                <span className="blocker">no common reach</span>
                            ) : (
                                <>
                                    {common[0] === 0 ? 0 : column(scale.to, lengths)(common[0] ?? 0)}{' '}
                                    <span className="soft">/ {(common[1] ?? -1) < 0 ? 'any' : column(scale.to, lengths)(common[1] ?? 0)}</span>
                                </>
                            )}
                        </span>
                    </div>
                )}
                <LongList
                    count={sorted.length}
                    height={46}
                    keyOf={(index) => sorted[index]?.name ?? String(index)}
                    render={(index) => {
                        const set = sorted[index];
                        return (
                            set && (
                                <>
                                    <Row
                                        set={set}
                                        scale={scale}
                                        lengths={lengths}
                                        chosen={set.name === chosen}
                                        tried={tried?.set === set.name ? (tried.out ?? null) : null}
                                        onChoose={() => selection.select({ set: set.name })}
                                        onTry={(out) => {
                                            setTried({ set: set.name, out, in: tried?.set === set.name ? tried.in : null });
                                            if (set.name !== chosen) {
                                                selection.select({ set: set.name });
                                            }
                                        }}
                                    />
                                    {set.name === chosen && set.needed.out !== null && (
                                        <WhatIf set={set} lengths={lengths} tried={tried?.set === set.name ? tried : null} onTry={setTried} keep={keep} />
                                    )}
                                </>
                            )
                        );
                    }}
                />
                {measured.length > 0 && <GaugeKey />}
                {cage?.state === 'done' && <Cages cages={cage.cages} lengths={lengths} chosen={chosen} />}
                {explode && measured.length > 1 && (
                    <>
                        <p style={{ margin: '12px 0 4px' }}>
                            <b>
                                {moves.length === 0
                                    ? 'No set has to be moved apart'
                                    : moved.length === 0
                                      ? 'No set can be moved apart'
                                      : `Apart by moving ${plural(moved.length, 'set')}`}
                            </b>{' '}
                            {moves.length > 0 && (
                                <span className="soft">
                                    –{' '}
                                    {explode.proved
                                        ? `proved by shooting again: no seen ray of ${whole(explode.samples)} goes astray`
                                        : `${percent(explode.bleedAfter)} still goes astray after the move`}
                                </span>
                            )}
                        </p>
                        {moves.length > 0 && <Moves moves={moves} lengths={lengths} chosen={chosen} />}
                        <Layout delivery={delivery} explode={explode} lengths={lengths} />
                        {delivery.standard.setsKeptApart && (
                            <p className="soft">The standard keeps sets apart, so this move is needed only for a bake that does not match by name.</p>
                        )}
                    </>
                )}
            </Scroll>
            <Foot>
                <span>{delivery.exploded ? 'as handed in' : 'assembled'}</span>
                <Slider
                    aria-label={delivery.exploded ? 'from as handed in to put back' : 'from assembled to exploded'}
                    min={0}
                    max={100}
                    value={100 * stand.explode}
                    disabled={(delivery.exploded?.moves ?? moved).length === 0}
                    onChange={(_, value) => setExplode(value / 100)}
                    sx={{ width: 120, mx: 1 }}
                />
                <span>{delivery.exploded ? 'put back' : 'exploded'}</span>
                <Grow />
                {cage?.state === 'failed' && <span className="blocker">{cage.error}</span>}
                {cage?.state === 'done' ? (
                    <Button variant="outlined" href={`/api/outputs/${cage.id}`}>
                        Download cages
                    </Button>
                ) : (
                    <Button
                        variant={closed > 0 && cage === undefined && moved.length === 0 ? 'contained' : 'outlined'}
                        disabled={measured.length === 0 || fitting || delivery.state !== 'done'}
                        onClick={() => make.mutate('cage')}
                    >
                        {fitting ? 'Fitting…' : 'Fit cages'}
                    </Button>
                )}
                {make.error instanceof ApiError && <span className="blocker">{make.error.message}</span>}
                {written?.state === 'failed' && <span className="blocker">{written.error}</span>}
                {written?.state === 'done' && (
                    <Button variant="outlined" href={`/api/outputs/${written.id}`}>
                        Download {written.name}
                    </Button>
                )}
                <Button
                    variant={moved.length > 0 && written?.state !== 'done' ? 'contained' : 'outlined'}
                    disabled={moved.length === 0 || busy || delivery.state !== 'done'}
                    onClick={() => make.mutate('exploded')}
                >
                    {busy
                        ? 'Writing…'
                        : moved.length === 0 && delivery.state === 'done'
                          ? 'Nothing has to move'
                          : written?.state === 'done'
                            ? 'Write again'
                            : 'Write exploded files'}
                </Button>
            </Foot>
        </>
    );
}
