import type { UvIsland, UvSheet } from '../api/client';
import type { Palette } from '../theme';

export type Layer = 'density' | 'stretch' | 'hidden';

export const LAYERS: readonly (readonly [Layer, string])[] = [
    ['density', 'fill: texel density'],
    ['stretch', 'fill: stretch'],
    ['hidden', 'fill: seen or hidden'],
];

function mixed(from: string, to: string, share: number): string {
    const channel = (hex: string, k: number): number => Number.parseInt(hex.slice(1 + 2 * k, 3 + 2 * k), 16);
    const part = Math.max(0, Math.min(1, share));
    return `#${[0, 1, 2]
        .map((k) =>
            Math.round(channel(from, k) + part * (channel(to, k) - channel(from, k)))
                .toString(16)
                .padStart(2, '0'),
        )
        .join('')}`;
}

/** How far a density is from the one that it is held against: −1 for half, 0 for the same, 1 for twice. */
export const offBy = (island: UvIsland, sheet: UvSheet): number =>
    island.density > 0 && sheet.reference > 0 ? Math.max(-1, Math.min(1, Math.log2(island.density / sheet.reference))) : 0;

export function colorOf(island: UvIsland, sheet: UvSheet, layer: Layer, palette: Palette): string {
    switch (layer) {
        case 'density': {
            const off = offBy(island, sheet);
            return mixed(palette.rule, off < 0 ? palette.cage : palette.low, Math.abs(off));
        }
        case 'stretch':
            return mixed(palette.rule, palette.trouble, island.stretch - 1);
        case 'hidden':
            return mixed(palette.ruleStrong, palette.safe, island.seen);
    }
}

/** What the ends and the middle of the scale of a layer mean. */
export function scaleWords(layer: Layer, sheet: UvSheet, density: (px: number) => string): [string, string, string] {
    switch (layer) {
        case 'density':
            return [density(sheet.reference / 2), density(sheet.reference), density(sheet.reference * 2)];
        case 'stretch':
            return ['1, none', '1.5', '2 and over'];
        case 'hidden':
            return ['never seen', 'half', 'all seen'];
    }
}

export function scaleColors(layer: Layer, palette: Palette): string[] {
    switch (layer) {
        case 'density':
            return [palette.cage, palette.rule, palette.low];
        case 'stretch':
            return [palette.rule, mixed(palette.rule, palette.trouble, 0.5), palette.trouble];
        case 'hidden':
            return [palette.ruleStrong, mixed(palette.ruleStrong, palette.safe, 0.5), palette.safe];
    }
}
