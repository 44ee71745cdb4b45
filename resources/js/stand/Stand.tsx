import Box from '@mui/material/Box';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useRays, type Delivery } from '../api/client';
import { chosenFindings } from '../frame/causes';
import { length, scaleOf, shortLength } from '../frame/format';
import { chosenParts, useSelection, useStand } from '../frame/selection';
import { colors, type Mode } from '../theme';
import { paintOf } from './colors';
import { StandBox } from './looks';
import { StandScene, type Point, type Show } from './scene';
import { CageTools, StandTools, type Tools } from './StandTools';
import { useCage, useMeshes, type CageKind } from './useMeshes';

const NONE = { points: [], segments: [] };

/** Which rays a finding is about. */
function raysOf(code: string): ('miss' | 'wrong' | 'short')[] {
    return code === 'ray-miss' ? ['miss'] : code === 'span-closed' || code === 'reach-long' ? ['wrong'] : code === 'reach-short' ? ['short'] : [];
}

/** The ends of rays. */
const ends = (segments: number[]): number[] => segments.filter((_, i) => i % 6 > 2);

function niceLength(most: number): number {
    const power = 10 ** Math.floor(Math.log10(most));
    return ([5, 2, 1].find((step) => step * power <= most) ?? 1) * power;
}

/** The places and rays that the chosen findings are about. */
function useMarks(delivery: Delivery) {
    const selection = useSelection();
    const { finding, cause, set } = selection;
    const findings = useMemo(() => chosenFindings(delivery, { finding, cause }), [delivery, finding, cause]);
    const one = findings.length === 1 ? findings[0] : undefined;
    const { data: rays } = useRays(delivery, one ? (raysOf(one.code).length > 0 ? (one.set ?? null) : null) : findings.length > 0 ? null : set);
    return useMemo(() => {
        const segments = rays ? (one ? raysOf(one.code) : (['miss', 'wrong', 'short'] as const)).flatMap((kind) => rays[kind]) : [];
        const places = findings.flatMap((each) => each.where);
        return { points: places.length > 0 ? places : ends(segments), segments };
    }, [findings, one, rays]);
}

function emptyWords(delivery: Delivery, { broken, isError, parts }: { broken: boolean; isError: boolean; parts: number }): string | null {
    if (broken) {
        return 'This browser shows no 3D (WebGL is off). Everything else works.';
    }
    if (parts > 0) {
        return null;
    }
    if (isError) {
        return 'The meshes could not be fetched.';
    }
    const unread = delivery.files.filter((file) => file.kind === 'mesh' && (file.state === 'waiting' || file.state === 'reading'));
    return delivery.state === 'failed' || delivery.state === 'cancelled'
        ? 'There is nothing to show: the delivery was not read to the end.'
        : unread.length > 0 || delivery.state === 'writing'
          ? 'Each file is shown as soon as it is read.'
          : 'There is nothing to show: no file could be read.';
}

/** What is left and right of it are two bakes of one view; it is dragged, or moved with the arrow keys. */
function Divider({ own, other, at, onMove }: { own: string; other: string; at: number; onMove: (at: number) => void }) {
    const drag = (event: React.PointerEvent<HTMLDivElement>): void => {
        const box = event.currentTarget.parentElement?.getBoundingClientRect();
        if (box && event.buttons > 0) {
            onMove(Math.min(0.98, Math.max(0.02, (event.clientX - box.left) / box.width)));
        }
    };
    return (
        <div
            className="stand-divider"
            role="slider"
            tabIndex={0}
            aria-label={`divider between ${own} and ${other}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(100 * at)}
            style={{ left: `${100 * at}%` }}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={drag}
            onKeyDown={(event) => {
                const by = event.key === 'ArrowLeft' ? -0.02 : event.key === 'ArrowRight' ? 0.02 : 0;
                if (by !== 0) {
                    event.preventDefault();
                    event.stopPropagation();
                    onMove(Math.min(0.98, Math.max(0.02, at + by)));
                }
            }}
        >
            <span className="left">{own}</span>
            <span className="right">{other}</span>
        </div>
    );
}

/** The 3D view beside every station. */
export function Stand({ delivery, mode, initial, full, onFull }: { delivery: Delivery; mode: Mode; initial: Show; full: boolean; onFull: () => void }) {
    const host = useRef<HTMLDivElement>(null);
    const scene = useRef<StandScene | null>(null);
    const [tools, setTools] = useState<Tools>({ show: initial, wire: false, seeThrough: false, by: 'role', cut: null, measures: false });
    const [points, setPoints] = useState<Point[]>([]);
    const [perPixel, setPerPixel] = useState(0);
    const [broken, setBroken] = useState(false);
    const [divider, setDivider] = useState(0.5);
    const selection = useSelection();
    const stand = useStand();
    const { show, wire, seeThrough, by, cut, measures } = tools;
    const change = (some: Partial<Tools>): void => setTools((old) => ({ ...old, ...some }));
    const { parts, isError } = useMeshes(delivery);

    const fitted = delivery.outputs.filter((output) => output.kind === 'cage' && output.state === 'done').at(-1)?.id ?? null;
    const cages: { kind: CageKind; words: string }[] = [
        { kind: 'single', words: 'at the reach in use' },
        ...(delivery.parts.some((part) => part.role === 'cage') ? [{ kind: 'handed' as const, words: 'handed in' }] : []),
        ...(fitted !== null ? [{ kind: 'fitted' as const, words: 'fitted' }] : []),
    ];
    const [wanted, setWanted] = useState<CageKind | null>(null);
    const cage = cages.find((one) => one.kind === wanted)?.kind ?? cages.at(-1)?.kind ?? 'single';
    const made = useCage(delivery, cage, fitted, show === 'cage');
    const sheet = show === 'ID' ? stand.sheet : null;
    const shown = useMemo(() => {
        if (sheet) {
            return sheet.parts;
        }
        const own = parts.filter((part) => part.role !== 'cage' || (show === 'cage' && cage === 'handed'));
        return [...own, ...(show === 'cage' && made ? made : []), ...(stand.ghost ?? [])];
    }, [parts, made, show, cage, sheet, stand.ghost]);

    const [answered, setAnswered] = useState(stand.asked);
    if (answered !== stand.asked) {
        setAnswered(stand.asked);
        change({ show: stand.asked?.show ?? show });
        setWanted(null);
    }
    const [shownFor, setShownFor] = useState(initial);
    if (shownFor !== initial) {
        setShownFor(initial);
        change({ show: initial });
    }
    const select = useRef(selection.select);
    const picked = useRef(sheet?.onPick);
    useEffect(() => {
        select.current = selection.select;
        picked.current = sheet?.onPick;
    });

    useEffect(() => {
        const element = host.current;
        if (!element) {
            return;
        }
        let made: StandScene;
        try {
            made = new StandScene(element, colors[mode], {
                onScale: setPerPixel,
                onPick: (part, keys, adds) => (picked.current ? picked.current(keys, adds) : select.current({ part })),
                onPoint: (at) => setPoints((old) => (old.length === 1 ? [...old, at] : [at])),
            });
        } catch {
            queueMicrotask(() => setBroken(true));
            return;
        }
        scene.current = made;
        const observer = new ResizeObserver(() => made.resize());
        observer.observe(element);
        return () => {
            observer.disconnect();
            made.dispose();
            scene.current = null;
        };
    }, [mode]);

    const names = useMemo(() => chosenParts(delivery, selection), [delivery, selection]);
    const chosen = useMemo(
        () => (sheet ? sheet.chosen : new Set(shown.filter((part) => part.ghost !== true && names.has(part.name)).map((part) => part.key))),
        [sheet, shown, names],
    );
    const paint = useMemo(() => sheet?.paint ?? paintOf(by, shown, delivery, colors[mode], mode === 'dark'), [sheet, by, shown, delivery, mode]);
    const marks = useMarks(delivery);

    useEffect(() => scene.current?.load(shown), [shown, mode]);
    useEffect(() => {
        // Of a layout that is exploded already, the way back.
        const [moves, sign] = delivery.exploded ? [delivery.exploded.moves, -1] : [delivery.explode?.moves ?? [], 1];
        scene.current?.setVectors(new Map(moves.map((move) => [move.set, move.vector.map((v) => sign * v) as Point])));
    }, [shown, delivery.explode, delivery.exploded, mode]);
    useEffect(() => scene.current?.explode(stand.explode), [stand.explode, shown, mode]);
    useEffect(() => scene.current?.dress({ show, wire, seeThrough, paint, chosen }), [show, wire, seeThrough, paint, chosen, shown, mode]);
    useEffect(() => scene.current?.setSurface(stand.surface), [stand.surface, shown, mode]);
    useEffect(() => scene.current?.setLit(stand.lit), [stand.lit, shown, mode]);
    useEffect(() => scene.current?.setDivider(divider), [divider, mode]);
    useEffect(() => scene.current?.setCut(cut), [cut, shown, mode]);
    useEffect(() => scene.current?.setPicksPoints(measures), [measures, mode]);
    useEffect(
        () => scene.current?.mark(stand.explode > 0 ? NONE : stand.probe ? { points: stand.probe, segments: stand.probe } : marks, measures ? points : []),
        [chosen, marks, measures, points, show, stand.explode, stand.surface, stand.lit, stand.probe, shown, mode],
    );
    const flown = useRef(0);
    useEffect(() => {
        if (stand.fly > flown.current) {
            flown.current = stand.fly;
            scene.current?.flyTo(stand.probe ?? marks.points);
        }
    }, [stand.fly, stand.probe, marks, chosen]);

    const scale = scaleOf(delivery);
    const bar = perPixel > 0 ? niceLength(perPixel * 130) : 0;
    const thinned = parts.some((part) => part.triangles < part.all);
    const empty = emptyWords(delivery, { broken, isError, parts: parts.length });
    const [from, to] = points;
    const distance = from && to ? Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]) : null;

    return (
        <StandBox className="stand" ref={host} role="region" aria-label={`3D view of ${delivery.assetName}: ${show}`}>
            <Box className="stand-top">
                <StandTools tools={tools} onTools={change} onLook={(view) => scene.current?.lookFrom(view)} full={full} onFull={onFull} />
                {show === 'cage' && parts.length > 0 && (
                    <CageTools
                        cages={cages}
                        cage={cage}
                        onCage={setWanted}
                        words={
                            cage !== 'handed' && made?.length === 0
                                ? 'no set was measured'
                                : delivery.state !== 'done' && cage !== 'handed'
                                  ? 'cages are there once all is measured'
                                  : 'what is not veiled stands out of the cage'
                        }
                    />
                )}
            </Box>
            {stand.lit?.other && show === 'low' && <Divider own={stand.lit.own.label} other={stand.lit.other.label} at={divider} onMove={setDivider} />}
            {empty !== null && <div className="stand-empty">{empty}</div>}
            {(names.size > 0 || measures) && parts.length > 0 && (
                <div className="stand-names" role={measures ? 'status' : undefined}>
                    {measures && <div>{distance === null ? (from ? 'pick the second point' : 'pick two points on the model') : `distance ${length(distance, scale)}`}</div>}
                    {[...names].slice(0, 4).map((name) => (
                        <div key={name} className={delivery.parts.find((part) => part.name === name)?.role === 'high' ? 'high' : 'low'}>
                            {name}
                        </div>
                    ))}
                    {names.size > 4 && <div className="soft">and {names.size - 4} more</div>}
                </div>
            )}
            {parts.length > 0 && bar > 0 && (
                <div className="stand-scale" style={{ width: bar / perPixel }}>
                    {shortLength(bar, scale)}
                    <div />
                    {thinned && <span className="soft">thinned for the screen</span>}
                </div>
            )}
        </StandBox>
    );
}
