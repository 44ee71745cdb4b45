import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { fetchMesh, useRays, type Delivery } from '../api/client';
import { digits, scaleFor } from '../frame/format';
import { chosenParts, useSelection, useStand } from '../frame/selection';
import { colors, type Mode } from '../theme';
import { parseDisplay } from './display';
import { StandScene, type Show, type View } from './scene';

const NONE = { points: [], segments: [] };

/** Which rays a finding is about. */
function raysOf(code: string): ('miss' | 'wrong' | 'short')[] {
    return code === 'ray-miss' ? ['miss'] : code === 'span-closed' || code === 'reach-long' ? ['wrong'] : code === 'reach-short' ? ['short'] : [];
}

/** The ends of rays. */
const ends = (segments: number[]): number[] => segments.filter((_, i) => i % 6 > 2);

type Cage = 'single' | 'cage' | 'fitted';

function niceLength(most: number): number {
    const power = 10 ** Math.floor(Math.log10(most));
    return ([5, 2, 1].find((step) => step * power <= most) ?? 1) * power;
}

/** The 3D view beside every station. */
export function Stand({ delivery, mode, initial }: { delivery: Delivery; mode: Mode; initial: Show }) {
    const host = useRef<HTMLDivElement>(null);
    const scene = useRef<StandScene | null>(null);
    const [show, setShow] = useState<Show>(initial);
    const [wire, setWire] = useState(false);
    const [seeThrough, setSeeThrough] = useState(false);
    const [perPixel, setPerPixel] = useState(0);
    const [broken, setBroken] = useState(false);
    const selection = useSelection();
    const stand = useStand();
    const ready = delivery.state === 'done';
    const { data, isError } = useQuery({
        queryKey: ['mesh', delivery.id, delivery.checkedAt],
        enabled: ready,
        staleTime: Infinity,
        queryFn: async () => {
            const [low, high, id] = await Promise.all(['low', 'high', 'id'].map((role) => fetchMesh(delivery.id, role)));
            return { low: low ? parseDisplay(low) : [], high: high ? parseDisplay(high) : [], id: id ? parseDisplay(id) : [] };
        },
    });
    const fitted = delivery.outputs.filter((output) => output.kind === 'cage' && output.state === 'done').at(-1)?.id ?? null;
    const cages: { kind: Cage; words: string }[] = [
        { kind: 'single', words: 'at the reach in use' },
        ...(delivery.parts.some((part) => part.role === 'cage') ? [{ kind: 'cage' as const, words: 'handed in' }] : []),
        ...(fitted !== null ? [{ kind: 'fitted' as const, words: 'fitted' }] : []),
    ];
    const [wanted, setWanted] = useState<Cage | null>(null);
    const cage = cages.find((one) => one.kind === wanted)?.kind ?? cages.at(-1)?.kind ?? 'single';
    const { data: cageParts } = useQuery({
        queryKey: ['mesh', delivery.id, delivery.checkedAt, cage, cage === 'fitted' ? fitted : null],
        enabled: ready && show === 'cage',
        staleTime: Infinity,
        queryFn: async () => {
            const mesh = await fetchMesh(delivery.id, cage);
            return mesh ? parseDisplay(mesh) : [];
        },
    });
    const [answered, setAnswered] = useState(stand.asked);
    if (answered !== stand.asked) {
        setAnswered(stand.asked);
        setShow(stand.asked?.show ?? show);
        setWanted(null);
    }
    const select = useRef(selection.select);
    useEffect(() => {
        select.current = selection.select;
    });
    const [shownFor, setShownFor] = useState(initial);
    if (shownFor !== initial) {
        setShownFor(initial);
        setShow(initial);
    }

    useEffect(() => {
        const element = host.current;
        if (!element) {
            return;
        }
        let made: StandScene;
        try {
            made = new StandScene(element, colors[mode], setPerPixel, (part) => select.current({ part }));
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

    const chosen = useMemo(() => chosenParts(delivery, selection), [delivery, selection]);
    const finding = delivery.findings.find((one) => one.id === selection.finding);
    const { data: rays } = useRays(delivery, finding ? (raysOf(finding.code).length > 0 ? (finding.set ?? null) : null) : selection.set);
    const marks = useMemo(() => {
        const segments = rays ? (finding ? raysOf(finding.code) : (['miss', 'wrong', 'short'] as const)).flatMap((kind) => rays[kind]) : [];
        const places = finding?.where ?? [];
        return { points: places.length > 0 ? places : ends(segments), segments };
    }, [finding, rays]);

    useEffect(() => {
        if (data) {
            scene.current?.load(data);
        }
    }, [data, mode]);
    useEffect(() => {
        if (data && cageParts) {
            scene.current?.loadCage(cageParts);
        }
    }, [data, cageParts, mode]);
    useEffect(() => {
        // Of a layout that is exploded already, the way back.
        const [moves, sign] = delivery.exploded ? [delivery.exploded.moves, -1] : [delivery.explode?.moves ?? [], 1];
        scene.current?.setVectors(new Map(moves.map((move) => [move.set, move.vector.map((v) => sign * v) as [number, number, number]])));
    }, [data, delivery.explode, delivery.exploded, mode]);
    useEffect(() => scene.current?.explode(stand.explode), [stand.explode, data, mode]);
    useEffect(() => scene.current?.show(show, wire, seeThrough && (show === 'both' || show === 'cage')), [show, wire, seeThrough, data, cageParts, mode]);
    useEffect(() => scene.current?.mark(chosen, stand.explode > 0 ? NONE : marks), [chosen, marks, show, stand.explode, data, mode]);
    const flown = useRef(0);
    useEffect(() => {
        if (stand.fly > flown.current) {
            flown.current = stand.fly;
            scene.current?.flyTo(marks.points, chosen);
        }
    }, [stand.fly, marks, chosen]);

    const size = delivery.files.find((file) => file.bounds)?.bounds;
    const extent = size ? Math.max(...size.max.map((max, axis) => max - (size.min[axis] ?? 0))) : 1;
    const scale = scaleFor(delivery.files.find((file) => file.unit)?.unit ?? null, extent);
    const bar = perPixel > 0 ? niceLength(perPixel * 130) : 0;
    const thinned = data ? [...data.low, ...data.high].some((part) => part.triangles < part.all) : false;

    return (
        <div className="stand" ref={host} role="region" aria-label={`3D view of ${delivery.assetName}: ${show}`}>
            <div className="top">
                <ToggleButtonGroup value={show} onChange={(_, value: Show | null) => value && setShow(value)} aria-label="what the stand shows">
                    {(['low', 'high', 'both', 'cage', 'ID'] as const).map((one) => (
                        <ToggleButton key={one} value={one}>
                            {one}
                        </ToggleButton>
                    ))}
                </ToggleButtonGroup>
                <div style={{ display: 'flex', gap: 4 }}>
                    <ToggleButtonGroup
                        exclusive={false}
                        value={[...(wire ? ['wire'] : []), ...(seeThrough ? ['see-through'] : [])]}
                        onChange={(_, value: string[]) => {
                            setWire(value.includes('wire'));
                            setSeeThrough(value.includes('see-through'));
                        }}
                        aria-label="how it is drawn"
                    >
                        <ToggleButton value="wire">wire</ToggleButton>
                        <ToggleButton value="see-through">see-through</ToggleButton>
                    </ToggleButtonGroup>
                    <ToggleButtonGroup value="" onChange={(_, value: View | null) => value && scene.current?.look(value)} aria-label="look from">
                        {(['front', 'side', 'top'] as const).map((view) => (
                            <ToggleButton key={view} value={view}>
                                {view}
                            </ToggleButton>
                        ))}
                        <ToggleButton value="free">fit</ToggleButton>
                    </ToggleButtonGroup>
                </div>
            </div>
            {show === 'cage' && data && (
                <div className="cages">
                    <ToggleButtonGroup value={cage} onChange={(_, value: Cage | null) => value && setWanted(value)} aria-label="which cage">
                        {cages.map((one) => (
                            <ToggleButton key={one.kind} value={one.kind}>
                                {one.words}
                            </ToggleButton>
                        ))}
                    </ToggleButtonGroup>
                    <span>{cageParts?.length === 0 ? 'no set was measured' : 'what is not veiled stands out of the cage'}</span>
                </div>
            )}
            {!data && (
                <div className="empty">
                    {broken
                        ? 'This browser shows no 3D (WebGL is off). Everything else works.'
                        : isError
                          ? 'The meshes could not be fetched.'
                          : delivery.state === 'failed' || delivery.state === 'cancelled'
                            ? 'There is nothing to show: the delivery was not read to the end.'
                            : 'The meshes are shown when they are read and measured.'}
                </div>
            )}
            {data && data.low.length + data.high.length === 0 && <div className="empty">No part has a role yet, so there is nothing to show.</div>}
            {chosen.size > 0 && data && (
                <div className="names">
                    {[...chosen].slice(0, 4).map((name) => (
                        <div key={name} className={delivery.parts.find((part) => part.name === name)?.role === 'high' ? 'high' : 'low'}>
                            {name}
                        </div>
                    ))}
                    {chosen.size > 4 && <div className="soft">and {chosen.size - 4} more</div>}
                </div>
            )}
            {data && bar > 0 && (
                <div className="scale" style={{ width: bar / perPixel }}>
                    {digits(bar * scale.factor, 1)}
                    {scale.unit ? ` ${scale.unit}` : ' units'}
                    <div />
                    {thinned && <span className="soft">thinned for the screen</span>}
                </div>
            )}
        </div>
    );
}
