import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState, type KeyboardEvent } from 'react';
import type { BakeSet } from '../api/client';
import { percent } from '../frame/format';

type Side = 'front' | 'side' | 'top';

/** Which axes a view has across and up, and which way up is. */
const AXES: Record<Side, readonly [number, number, 1 | -1]> = { front: [0, 1, -1], side: [2, 1, -1], top: [0, 2, 1] };

export interface Spot {
    name: string;
    x: number;
    y: number;
    r: number;
}

const WIDTH = 560;
const HEIGHT = 250;
const EDGE = 26;

/** Where sets stand on the drawing: their middles to one scale, as large as they are but never too small to be hit. */
export function spotsOf(sets: Pick<BakeSet, 'name' | 'bounds'>[], side: Side): Spot[] {
    const [across, up, sign] = AXES[side];
    const known = sets.flatMap((set) => {
        const box = set.bounds;
        if (!box) {
            return [];
        }
        const at = (axis: number): number => ((box.min[axis] ?? 0) + (box.max[axis] ?? 0)) / 2;
        const size = (axis: number): number => (box.max[axis] ?? 0) - (box.min[axis] ?? 0);
        return [{ name: set.name, x: at(across), y: sign * at(up), r: Math.min(size(across), size(up)) / 2 }];
    });
    const range = (values: number[]): [number, number] => [Math.min(...values), Math.max(...values)];
    const [[x0, x1], [y0, y1]] = [range(known.map((one) => one.x)), range(known.map((one) => one.y))];
    const scale = Math.min((WIDTH - 2 * EDGE) / (x1 - x0 || 1), (HEIGHT - 2 * EDGE) / (y1 - y0 || 1));
    return known.map((one) => ({
        name: one.name,
        x: WIDTH / 2 + scale * (one.x - (x0 + x1) / 2),
        y: HEIGHT / 2 + scale * (one.y - (y0 + y1) / 2),
        r: Math.max(known.length > 60 ? 3 : 7, Math.min(24, scale * one.r)),
    }));
}

const LETTER = 6.4;
const LINE = 11;

/** Where each name stands without covering another one: under its circle, over it, or beside it; those in trouble first, the rest where there is room. */
export function labelsOf(spots: Spot[], isFirst: (name: string) => boolean): Map<string, { x: number; y: number }> {
    const taken: [number, number, number, number][] = [];
    const placed = new Map<string, { x: number; y: number }>();
    for (const spot of [...spots].sort((a, b) => Number(isFirst(b.name)) - Number(isFirst(a.name)))) {
        const half = (LETTER * spot.name.trim().length) / 2;
        const beside = half + spot.r + 5;
        const places = [
            { x: spot.x, y: spot.y + spot.r + LINE },
            { x: spot.x, y: spot.y - spot.r - 4 },
            { x: spot.x + beside, y: spot.y + 4 },
            { x: spot.x - beside, y: spot.y + 4 },
        ];
        const free = places.find(
            ({ x, y }) => x - half > 0 && x + half < WIDTH && y - LINE > 0 && y < HEIGHT && taken.every(([l, t, r, b]) => x + half < l || x - half > r || y < t || y - LINE > b),
        );
        if (free) {
            taken.push([free.x - half, free.y - LINE, free.x + half, free.y]);
            placed.set(spot.name, free);
        }
    }
    return placed;
}

/** The side from which sets stand the furthest apart. */
export function widest(sets: Pick<BakeSet, 'name' | 'bounds'>[]): Side {
    const boxes = sets.flatMap((set) => (set.bounds ? [set.bounds] : []));
    const spread = (axis: number): number => {
        const middles = boxes.map((box) => ((box.min[axis] ?? 0) + (box.max[axis] ?? 0)) / 2);
        return Math.max(...middles) - Math.min(...middles);
    };
    const area = (side: Side): number => {
        const [across, up] = AXES[side];
        return (spread(across) + 1e-9) * (spread(up) + 1e-9);
    };
    return (['front', 'side', 'top'] as const).reduce((best, one) => (area(one) > 1.2 * area(best) ? one : best));
}

/** Pairs of sets of which one meets the other first, with the greater share of both ways. */
export function jointsOf(sets: Pick<BakeSet, 'name' | 'bleeds'>[], limit: number): { from: string; to: string; share: number }[] {
    const joints = new Map<string, { from: string; to: string; share: number }>();
    for (const set of sets) {
        for (const bleed of set.bleeds.filter((one) => one.share > limit)) {
            const [from, to] = [set.name, bleed.other].sort() as [string, string];
            const key = `${from}\n${to}`;
            joints.set(key, { from, to, share: Math.max(bleed.share, joints.get(key)?.share ?? 0) });
        }
    }
    return [...joints.values()].sort((a, b) => a.share - b.share);
}

/** Sets as circles where they stand, joined where one gets in another one's rays; choosing one chooses it everywhere. */
export function Drawing({ sets, limit, chosen, onPick }: { sets: BakeSet[]; limit: number; chosen: string | null; onPick: (set: string) => void }) {
    const joints = jointsOf(sets, limit);
    const [picked, setSide] = useState<Side | null>(null);
    const side = picked ?? widest(sets);
    const spots = spotsOf(sets, side);
    const at = new Map(spots.map((spot) => [spot.name, spot]));
    const troubled = new Set(joints.flatMap(({ from, to }) => [from, to]));
    if (spots.length < 2 || joints.length === 0) {
        return null;
    }
    const labels = labelsOf(spots.length <= 40 ? spots : spots.filter((spot) => troubled.has(spot.name) || spot.name === chosen), (name) => name === chosen || troubled.has(name));
    const onKey = (name: string) => (event: KeyboardEvent) => {
        if (event.key === 'Enter' || event.key === ' ') {
            event.preventDefault();
            onPick(name);
        }
    };
    return (
        <Box sx={{ border: 1, borderColor: 'divider', bgcolor: 'background.paper', my: 1.5, position: 'relative' }}>
            <ToggleButtonGroup
                value={side}
                onChange={(_, value: Side | null) => value && setSide(value)}
                aria-label="drawing seen from"
                sx={{ position: 'absolute', right: 8, top: 8 }}
            >
                {(['front', 'side', 'top'] as const).map((one) => (
                    <ToggleButton key={one} value={one}>
                        {one}
                    </ToggleButton>
                ))}
            </ToggleButtonGroup>
            <svg
                viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
                style={{ display: 'block', width: '100%', maxHeight: 300 }}
                role="group"
                aria-label="sets where they stand, joined where one gets in another one’s rays"
            >
                {[...spots]
                    .sort((a, b) => Number(troubled.has(a.name)) - Number(troubled.has(b.name)) || b.r - a.r)
                    .map((spot) => {
                        const isTroubled = troubled.has(spot.name);
                        const isChosen = spot.name === chosen;
                        return (
                            <g
                                key={spot.name}
                                role="button"
                                // Of a thousand sets only those that matter are stops of the Tab key; the lanes reach all.
                                tabIndex={isTroubled || isChosen || spots.length <= 40 ? 0 : -1}
                                aria-pressed={isChosen}
                                aria-label={`${spot.name}${isTroubled ? ', gets in another one’s rays or is met by one' : ''}`}
                                onClick={() => onPick(spot.name)}
                                onKeyDown={onKey(spot.name)}
                                style={{ cursor: 'pointer' }}
                            >
                                <title>{spot.name}</title>
                                <circle
                                    cx={spot.x}
                                    cy={spot.y}
                                    r={spot.r}
                                    fillOpacity={isChosen ? 1 : 0.55}
                                    fill={isChosen ? 'var(--wash)' : isTroubled ? 'var(--trouble-wash)' : 'var(--sheet)'}
                                    stroke={isTroubled ? 'var(--trouble)' : 'var(--rule-strong)'}
                                    strokeWidth={isChosen ? 3 : 1.5}
                                />
                            </g>
                        );
                    })}
                {joints.map(({ from, to, share }) => {
                    const [a, b] = [at.get(from), at.get(to)];
                    return (
                        a &&
                        b && (
                            <line
                                key={`${from} ${to}`}
                                x1={a.x}
                                y1={a.y}
                                x2={b.x}
                                y2={b.y}
                                stroke="var(--trouble)"
                                strokeWidth={1.5 + 4 * Math.sqrt(Math.min(1, share))}
                                strokeLinecap="round"
                                pointerEvents="none"
                            >
                                <title>{`${from} and ${to}: up to ${percent(share)} of the seen low area`}</title>
                            </line>
                        )
                    );
                })}
                {[...labels].map(([name, { x, y }]) => (
                    <text
                        key={name}
                        x={x}
                        y={y}
                        textAnchor="middle"
                        fontSize="10.5"
                        fontFamily="var(--mono)"
                        fill="var(--ink)"
                        stroke="var(--sheet)"
                        strokeWidth="3"
                        paintOrder="stroke"
                        pointerEvents="none"
                        aria-hidden="true"
                    >
                        {name.trim()}
                    </text>
                ))}
            </svg>
            <Box component="p" className="soft" sx={{ m: 0, px: 1, pb: 0.75 }}>
                A line joins two sets of which one meets the other first; the thicker, the larger the share.
            </Box>
        </Box>
    );
}
