// @vitest-environment jsdom
import { describe, expect, it, vi } from 'vitest';
import type { BakeSet } from '../api/client';
import { lantern, show } from '../testing/screen';
import { Drawing, jointsOf, labelsOf, spotsOf, widest } from './Drawing';

const set = (name: string, at: [number, number, number], bleeds: BakeSet['bleeds'] = [], half = 0.5): BakeSet => ({
    ...(lantern().sets[0] as BakeSet),
    name,
    bleeds,
    bounds: { min: at.map((v) => v - half), max: at.map((v) => v + half) },
});

describe('sets where they stand', () => {
    it('are drawn to one scale, up is up, and none is too small to be hit', () => {
        const spots = spotsOf([set('low', [0, 0, 0]), set('high', [0, 10, 0]), set('right', [10, 0, 0], [], 0.001)], 'front');
        const at = (name: string) => spots.find((spot) => spot.name === name) ?? { x: 0, y: 0, r: 0 };
        expect(at('high').y).toBeLessThan(at('low').y);
        expect(at('right').x - at('low').x).toBeCloseTo(at('low').y - at('high').y, 6);
        expect(at('right').r).toBe(7);
        expect(spotsOf([{ name: 'none', bounds: null }], 'front')).toEqual([]);
    });

    it('are seen from the side on which they stand the furthest apart', () => {
        expect(widest([set('a', [0, 0, 0]), set('b', [9, 0, 9])])).toBe('top');
        expect(widest([set('a', [0, 0, 0]), set('b', [9, 9, 0])])).toBe('front');
        expect(widest([set('a', [0, 0, 0]), set('b', [0, 9, 9])])).toBe('side');
    });

    it('are joined once where one meets another, by the greater share', () => {
        const joints = jointsOf(
            [
                set('a', [0, 0, 0], [{ other: 'b', share: 0.02, unseenShare: 0 }]),
                set(
                    'b',
                    [1, 0, 0],
                    [
                        { other: 'a', share: 0.05, unseenShare: 0 },
                        { other: 'c', share: 0.0001, unseenShare: 0 },
                    ],
                ),
            ],
            0.001,
        );
        expect(joints).toEqual([{ from: 'a', to: 'b', share: 0.05 }]);
    });

    it('have names that do not cover each other, those in trouble first', () => {
        const spots = Array.from({ length: 12 }, (_, i) => ({ name: `shutter_${i}`, x: 200 + i, y: 100, r: 8 }));
        const labels = labelsOf(spots, (name) => name === 'shutter_11');
        expect(labels.has('shutter_11')).toBe(true);
        expect(labels.size).toBeLessThan(12);
        const boxes = [...labels].map(([name, { x, y }]) => [x - 3.2 * name.length, y - 11, x + 3.2 * name.length, y] as const);
        for (const [i, a] of boxes.entries()) {
            for (const b of boxes.slice(i + 1)) {
                expect(a[2] < b[0] || b[2] < a[0] || a[3] < b[1] || b[3] < a[1]).toBe(true);
            }
        }
    });

    it('are chosen by a click and by the keyboard, and not drawn where none is in the way', async () => {
        const picked = vi.fn<(name: string) => void>();
        const sets = [set('pane', [0, 0, 0], [{ other: 'post', share: 0.1, unseenShare: 0 }]), set('post', [3, 0, 0])];
        const { getByRole, user, unmount } = show(<Drawing sets={sets} limit={0.001} chosen="post" onPick={picked} />);
        await user.click(getByRole('button', { name: /^pane/ }));
        getByRole('button', { name: /^post/ }).focus();
        await user.keyboard('{Enter}');
        expect(picked.mock.calls).toEqual([['pane'], ['post']]);
        expect(getByRole('button', { name: /^post/ }).getAttribute('aria-pressed')).toBe('true');
        unmount();
        expect(show(<Drawing sets={[set('a', [0, 0, 0]), set('b', [3, 0, 0])]} limit={0.001} chosen={null} onPick={picked} />).container.querySelector('svg')).toBeNull();
    });
});
