import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import { Fragment, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, useAct, type BakeSet, type At, type Delivery } from '../api/client';
import { column, digits, length, percent, plural, scaleFor, whole, type LengthScale } from '../frame/format';
import { useSelection, useStand } from '../frame/selection';
import { Handle, Span, Ticks, consequences, gaugeScale, type GaugeScale } from './SpanGauge';

function spanWords(set: BakeSet, show: (value: number) => string): { text: string; closed: boolean } {
    const needed = set.needed.out ?? 0;
    const wrong = set.firstWrong.out;
    return wrong === null
        ? { text: 'open to d', closed: false }
        : wrong > needed
          ? { text: `open ${show(wrong - needed)}`, closed: false }
          : { text: `closed by ${show(needed - wrong)}`, closed: true };
}

interface RowProps {
    set: BakeSet;
    scale: GaugeScale;
    lengths: LengthScale;
    chosen: boolean;
    /** The reach outward that is being tried on it. */
    tried: number | null;
    onChoose: () => void;
    onTry: (reach: number) => void;
}

function Row({ set, scale, lengths, chosen, tried, onChoose, onTry }: RowProps) {
    if (set.needed.out === null) {
        return (
            <div className={`gauge-row${chosen ? ' chosen' : ''}`} onClick={onChoose}>
                <b className="mono ellipsis">{set.name}</b>
                <span className="soft">
                    {set.state === 'waiting' || set.state === 'measuring' ? 'shooting rays…' : (set.error ?? 'not measured: it has not both low and high parts')}
                </span>
                <span />
            </div>
        );
    }
    const show = column(scale.to, lengths);
    const span = spanWords(set, show);
    const safe = set.firstWrong.out;
    const at = tried ?? set.inUse.out ?? 0;
    return (
        <div className={`gauge-row${chosen ? ' chosen' : ''}`} onClick={onChoose}>
            <span style={{ minWidth: 0 }}>
                <button type="button" className="plain mono ellipsis" style={{ fontWeight: 600, maxWidth: '100%' }} aria-pressed={chosen} title={set.name}>
                    {set.name}
                </button>
                <span className="soft" style={{ fontSize: 12, display: 'block' }}>
                    {plural(set.low.length + set.high.length, 'part')}
                    {set.byHand ? ', reach set here' : set.reach ? ', reach of the standard' : ''}
                </span>
                <span className="visually-hidden">
                    needs {length(set.needed.out, lengths)} outward and {length(set.needed.in ?? 0, lengths)} inward; {span.text}
                </span>
            </span>
            <span style={{ position: 'relative' }}>
                <Span neededOut={set.needed.out} neededIn={set.needed.in ?? 0} wrong={safe} scale={scale} />
                <Handle at={at} scale={scale} name={set.name} words={length(at, lengths)} onTry={onTry} />
            </span>
            <span className="num">
                {show(at)} <span className="soft">/ {safe === null ? 'd' : show(safe)}</span>
                <br />
                <span className={span.closed ? 'blocker' : 'soft'} style={{ fontSize: 12 }}>
                    {span.text}
                </span>
            </span>
        </div>
    );
}

interface WhatIfProps {
    set: BakeSet;
    lengths: LengthScale;
    tried: number;
    onTry: (reach: number | null) => void;
    keep: ReturnType<typeof useAct<{ set: string; out: number | null; in: number | null }>>;
    settled: boolean;
}

/** What the tried reach would do to a set, read from the rays that were shot: nothing is computed anew until it is kept. */
function WhatIf({ set, lengths, tried, onTry, keep, settled }: WhatIfProps) {
    const inward = set.inUse.in ?? 0;
    const [into, setInto] = useState<number | null>(null);
    const { miss, wrong } = consequences(set, tried);
    const needed = set.needed.out ?? 0;
    const changed = tried !== (set.inUse.out ?? 0) || (into !== null && into !== inward);
    const field = (label: string, value: number, onChange: (value: number) => void) => (
        <input
            type="number"
            aria-label={label}
            value={Number((value * lengths.factor).toPrecision(4))}
            min={0}
            step="any"
            style={{ width: 78 }}
            onChange={(event) => onChange(Math.max(0, Number(event.target.value) / lengths.factor))}
        />
    );
    return (
        <div className="what-if">
            <label className="soft">out {field(`reach outward of ${set.name}`, tried, onTry)}</label>
            <label className="soft">
                in {field(`reach inward of ${set.name}`, into ?? inward, setInto)} {lengths.unit}
            </label>
            <span role="status" style={{ flex: 1 }}>
                {tried < needed && <b className="blocker">clips what is higher; </b>}
                {miss === null ? (
                    <span className="soft">further than these rays were followed: keep it to see</span>
                ) : (
                    <>
                        <b className={miss > 0.0005 ? 'blocker' : ''}>{percent(miss, 2)}</b> meets nothing, <b className={wrong > 0.0005 ? 'trouble' : ''}>{percent(wrong, 2)}</b>{' '}
                        goes wrong
                    </>
                )}
            </span>
            {keep.error instanceof ApiError && (
                <span className="blocker" role="alert">
                    {keep.error.message}
                </span>
            )}
            {changed ? (
                <>
                    <Button
                        variant="text"
                        onClick={() => {
                            onTry(null);
                            setInto(null);
                        }}
                    >
                        As it was
                    </Button>
                    <Button
                        variant="contained"
                        disabled={!settled || keep.isPending || tried <= 0}
                        onClick={() => keep.mutate({ set: set.name, out: tried, in: into ?? (set.byHand ? (set.reach?.in ?? null) : null) })}
                    >
                        Keep
                    </Button>
                </>
            ) : (
                set.byHand && (
                    <Button variant="outlined" disabled={!settled || keep.isPending} onClick={() => keep.mutate({ set: set.name, out: null, in: null })}>
                        As recommended
                    </Button>
                )
            )}
        </div>
    );
}

/** What the fitted cages did, and what no cage can mend; the sets that stay troubled first. */
function Cages({ cages, lengths, chosen }: { cages: Delivery['outputs'][number]['cages']; lengths: LengthScale; chosen: string | null }) {
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
            <table className="sheet">
                <colgroup>
                    <col />
                    <col style={{ width: 82 }} />
                    <col style={{ width: 92 }} />
                    <col style={{ width: 92 }} />
                    <col style={{ width: 130 }} />
                    <col style={{ width: 110 }} />
                </colgroup>
                <thead>
                    <tr>
                        <th>set</th>
                        <th className="num">vertices</th>
                        <th className="num" title="further out than the recommended single distance">
                            need more
                        </th>
                        <th className="num" title="nearer than it">
                            need less
                        </th>
                        <th className="num" title="share of low area whose ray goes wrong from any cage: split the set, explode, or retouch it after the bake">
                            no cage mends
                        </th>
                        <th className="num" title="how far high poly stands out of the cage">
                            left out{lengths.unit ? `, ${lengths.unit}` : ''}
                        </th>
                    </tr>
                </thead>
                <tbody>
                    {shown.map((cage) => (
                        <tr key={cage.set} className={`choosable${cage.set === chosen ? ' chosen' : ''}`} onClick={() => selection.select({ set: cage.set })}>
                            <td className="mono">{cage.set}</td>
                            <td className="num">{whole(cage.vertices)}</td>
                            <td className="num">{whole(cage.more)}</td>
                            <td className="num">{whole(cage.less)}</td>
                            <td className={`num${cage.wrongShare > 0.0005 ? ' trouble' : ' soft'}`}>{percent(cage.wrongShare)}</td>
                            <td className={`num${cage.clean || cage.outsideBy === 0 ? ' soft' : ' trouble'}`}>
                                {cage.outsideBy * lengths.factor < 0.001 ? 0 : digits(cage.outsideBy * lengths.factor, 2)}
                            </td>
                        </tr>
                    ))}
                </tbody>
            </table>
            {cages.length > shown.length && <p className="soft">and {cages.length - shown.length} more that fit clean</p>}
        </>
    );
}

/** The moves that set the sets apart. */
function Moves({ moves, lengths, chosen }: { moves: NonNullable<Delivery['explode']>['moves']; lengths: LengthScale; chosen: string | null }) {
    const selection = useSelection();
    return (
        <table className="sheet">
            <colgroup>
                <col style={{ width: '20%' }} />
                <col />
                <col style={{ width: 62 }} />
                <col style={{ width: 62 }} />
                <col style={{ width: 62 }} />
                <col style={{ width: 78 }} />
                <col style={{ width: 58 }} />
                <col style={{ width: 96 }} />
            </colgroup>
            <thead>
                <tr>
                    <th>set</th>
                    <th>in each other’s way</th>
                    <th className="num">x</th>
                    <th className="num">y</th>
                    <th className="num">z {lengths.unit}</th>
                    <th className="num">bleed now</th>
                    <th className="num">after</th>
                    <th className="num" title="share of directions over its faces in which another set stands, before and after: what occlusion is lost by moving">
                        shade lost
                    </th>
                </tr>
            </thead>
            <tbody>
                {moves.map((move) => (
                    <tr key={move.set} className={`choosable${move.set === chosen ? ' chosen' : ''}`} onClick={() => selection.select({ set: move.set })}>
                        <td className="mono">{move.set}</td>
                        <td className="mono soft">{move.meets.join(', ')}</td>
                        {move.vector.map((v, axis) => (
                            <td key={axis} className={`num${v === 0 ? ' soft' : ''}`}>
                                {(v * lengths.factor).toFixed(2)}
                            </td>
                        ))}
                        <td className={`num${move.bleedBefore > 0.001 ? ' trouble' : ''}`}>{percent(move.bleedBefore)}</td>
                        <td className="num">{percent(move.bleedAfter)}</td>
                        <td className="num soft">
                            {move.occlusionBefore === null || move.occlusionAfter === null ? '–' : percent(Math.max(0, move.occlusionBefore - move.occlusionAfter), 2)}
                        </td>
                    </tr>
                ))}
            </tbody>
        </table>
    );
}

/** How wide the gaps are, and whether every set is moved. */
function Layout({ delivery, explode, lengths }: { delivery: At<'clearance'>; explode: NonNullable<Delivery['explode']>; lengths: LengthScale }) {
    const lay = useAct<{ clearance: number | null; all: boolean }>(delivery.id, () => 'explode');
    const [gap, setGap] = useState<number | null>(null);
    const [all, setAll] = useState(explode.all);
    const changed = (gap !== null && gap !== explode.clearance) || all !== explode.all;
    return (
        <div className="layout-choice">
            <label>
                gap{' '}
                <input
                    type="number"
                    min={0}
                    step="any"
                    aria-label="gap between sets that are moved"
                    value={Number(((gap ?? explode.clearance) * lengths.factor).toPrecision(4))}
                    style={{ width: 78 }}
                    onChange={(event) => setGap(Math.max(0, Number(event.target.value) / lengths.factor))}
                />{' '}
                {lengths.unit}
            </label>
            <label>
                <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} /> every set apart
            </label>
            {explode.byHand && !changed && (
                <Button variant="text" disabled={delivery.state !== 'done' || lay.isPending} onClick={() => lay.mutate({ clearance: null, all })}>
                    Gap as usual
                </Button>
            )}
            {changed && (
                <Button
                    variant="outlined"
                    disabled={delivery.state !== 'done' || lay.isPending}
                    onClick={() => lay.mutate({ clearance: gap ?? (explode.byHand ? explode.clearance : null), all })}
                >
                    Lay out again
                </Button>
            )}
            {lay.error instanceof ApiError && (
                <span className="blocker" role="alert">
                    {lay.error.message}
                </span>
            )}
        </div>
    );
}

/** That these files are an exploded layout already, and the way back. */
function Exploded({ delivery, lengths }: { delivery: At<'clearance'>; lengths: LengthScale }) {
    const navigate = useNavigate();
    const back = useAct<void, { assetId: number; deliveryId: number }>(delivery.id, () => 'assemble');
    const moves = delivery.exploded?.moves ?? [];
    const drifted = delivery.findings.filter((finding) => finding.code === 'explode-drift').length;
    const clashes = delivery.findings.filter((finding) => finding.code === 'explode-clash').length;
    return (
        <div className="offer quiet">
            <span style={{ flex: 1 }}>
                <b>
                    {moves.length === 0
                        ? 'An exploded layout in which no set was moved'
                        : `An exploded layout: ${moves.length === 1 ? '1 set stands' : `${moves.length} sets stand`} apart ${delivery.exploded?.of ? `from where ${moves.length === 1 ? 'it was' : 'they were'} in delivery ${delivery.exploded.of}` : 'by its explode.json'}`}
                </b>
                <br />
                <span className="soft">
                    {moves
                        .slice(0, 4)
                        .map((move) => `${move.set} by ${length(Math.hypot(...move.vector), lengths)}`)
                        .join(', ')}
                    {moves.length > 4 ? ` and ${moves.length - 4} more` : ''}
                    {moves.length > 0 && (drifted + clashes === 0 ? '. No part of a set was moved otherwise, none is in another’s way.' : '. See the findings.')}
                </span>
                {back.error instanceof ApiError && (
                    <span className="blocker" role="alert">
                        {' '}
                        {back.error.message}
                    </span>
                )}
            </span>
            <Button
                variant="outlined"
                disabled={back.isPending || moves.length === 0 || delivery.state !== 'done'}
                onClick={() => back.mutate(undefined, { onSuccess: (made) => void navigate(`/assets/${made.assetId}/deliveries/${made.deliveryId}/clearance`) })}
            >
                {back.isPending ? 'Putting back…' : 'Put back together'}
            </Button>
        </div>
    );
}

/** Which distance to bake at, and which sets must be kept apart. */
export function Clearance({ delivery }: { delivery: At<'clearance'> }) {
    const selection = useSelection();
    const stand = useStand();
    const make = useAct<'exploded' | 'cage'>(
        delivery.id,
        () => 'outputs',
        (kind) => ({ kind }),
    );
    const keep = useAct<{ set: string; out: number | null; in: number | null }>(delivery.id, () => 'reach');
    const [tried, setTried] = useState<{ set: string; out: number } | null>(null);
    const [from, setFrom] = useState(delivery.checkedAt);
    if (from !== delivery.checkedAt) {
        setFrom(delivery.checkedAt);
        setTried(null);
    }
    const sizes = delivery.files.map((file) => file.bounds).filter((box) => box !== null);
    const extent = Math.max(0, ...sizes.map((box) => Math.max(...box.max.map((max, axis) => max - (box.min[axis] ?? 0)))));
    const unit = delivery.files.find((file) => file.unit)?.unit ?? null;
    const scale = gaugeScale(delivery.sets);
    const lengths = unit === 'm' ? scaleFor('m', Math.min(extent, scale.to * 2)) : scaleFor(null, extent);
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
    // What has no distance, or was not measured, comes first.
    const sorted = [...delivery.sets].sort((a, b) => Number(working.includes(a)) - Number(working.includes(b)));
    const { setExplode } = stand;
    useEffect(() => () => setExplode(0), [setExplode]);

    return (
        <>
            <div className="scroll" tabIndex={0} role="region" aria-label="work area">
                <div className="head">
                    <div>
                        <h1>
                            {measured.length === 0
                                ? delivery.state === 'done'
                                    ? 'No set could be measured'
                                    : 'Shooting rays'
                                : working.length === measured.length
                                  ? measured.length === 1
                                      ? 'The set has a distance that works'
                                      : `All ${measured.length} sets have a distance that works`
                                  : `${working.length} of ${measured.length} sets have a distance that works`}
                        </h1>
                        <p>
                            How far rays must reach to meet all of the high poly, and how far they may before they meet something else.
                            {delivery.standard.setsKeptApart ? ' Sets are kept apart in the bake.' : ' Sets are baked together, so each is in the others’ way.'}
                        </p>
                    </div>
                </div>
                {delivery.exploded && <Exploded delivery={delivery} lengths={lengths} />}
                {measured.length > 0 && (
                    <div className="gauge-row soft" style={{ cursor: 'default', minHeight: 24, borderBottomColor: 'var(--rule-strong)', fontSize: 12.5 }}>
                        <span>bake set</span>
                        <Ticks scale={scale} lengths={lengths} />
                        <span style={{ textAlign: 'right' }}>in use / safe to{lengths.unit ? `, ${lengths.unit}` : ''}</span>
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
                            {common === null ? (
                                <span className="blocker">no common reach</span>
                            ) : (
                                <>
                                    {common[0] === 0 ? 0 : column(scale.to, lengths)(common[0] ?? 0)}{' '}
                                    <span className="soft">/ {(common[1] ?? -1) < 0 ? 'd' : column(scale.to, lengths)(common[1] ?? 0)}</span>
                                </>
                            )}
                        </span>
                    </div>
                )}
                {sorted.map((set) => (
                    <Fragment key={set.name}>
                        <Row
                            set={set}
                            scale={scale}
                            lengths={lengths}
                            chosen={set.name === chosen}
                            tried={tried?.set === set.name ? tried.out : null}
                            onChoose={() => selection.select({ set: set.name })}
                            onTry={(out) => {
                                setTried({ set: set.name, out });
                                if (set.name !== chosen) {
                                    selection.select({ set: set.name });
                                }
                            }}
                        />
                        {set.name === chosen && set.needed.out !== null && (
                            <WhatIf
                                key={delivery.checkedAt}
                                set={set}
                                lengths={lengths}
                                tried={tried?.set === set.name ? tried.out : (set.inUse.out ?? 0)}
                                onTry={(out) => setTried(out === null ? null : { set: set.name, out })}
                                keep={keep}
                                settled={delivery.state === 'done'}
                            />
                        )}
                    </Fragment>
                ))}
                {measured.length > 0 && (
                    <div className="gauge-key">
                        <span>
                            <i className="swatch" style={{ background: 'var(--needed)', width: 22 }} />
                            needed, in and out
                        </span>
                        <span>
                            <i className="swatch" style={{ background: 'var(--safe)', width: 22 }} />
                            safe span
                        </span>
                        <span>
                            <i className="swatch" style={{ background: 'var(--ink)', transform: 'rotate(45deg) scale(.9)' }} />
                            &nbsp;reach in use: drag it
                        </span>
                        <span>
                            <i className="swatch" style={{ background: 'var(--trouble)', width: 4, height: 14 }} />
                            first wrong hit
                        </span>
                    </div>
                )}
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
                        <Layout key={delivery.checkedAt} delivery={delivery} explode={explode} lengths={lengths} />
                        {delivery.standard.setsKeptApart && (
                            <p className="soft">The standard keeps sets apart, so this move is needed only for a bake that does not match by name.</p>
                        )}
                    </>
                )}
            </div>
            <div className="foot">
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
                <span className="grow" />
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
                    {busy ? 'Writing…' : moved.length === 0 ? 'Nothing has to move' : written?.state === 'done' ? 'Write again' : 'Write exploded files'}
                </Button>
            </div>
        </>
    );
}
