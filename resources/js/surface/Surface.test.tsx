// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import type { At, UvSheet } from '../api/client';
import { colors } from '../theme';
import { gauge, serve, show, winch } from '../testing/screen';
import { colorOf, offBy, scaleWords } from './colors';
import { growth, listed } from './Islands';
import { fitted, Finder, NO_ISLAND, pageAt, parseSurface, shapesOf, tileOf, zoomed } from './layout';
import { holds } from './Sizes';
import { headOf, islandWords, Surface } from './Surface';

const sheetOf = (delivery: { uv: UvSheet | null }): UvSheet => {
    if (!delivery.uv) {
        throw new Error('there is no sheet');
    }
    return delivery.uv;
};
const unit = (px: number): string => `${px.toFixed(0)} px/unit`;

/** Two triangles of one island on the second tile, one of none, as the server packs them. */
function packed(): ArrayBuffer {
    const head = new TextEncoder().encode(JSON.stringify({ parts: [{ name: 'a_low', triangles: 3 }] }).padEnd(48));
    const buffer = new ArrayBuffer(4 + head.length + 3 * 68);
    new DataView(buffer).setUint32(0, head.length, true);
    new Uint8Array(buffer, 4, head.length).set(head);
    const at = 4 + head.length;
    new Float32Array(buffer, at, 27).set([0, 0, 0, 1, 0, 0, 1, 1, 0]);
    new Float32Array(buffer, at + 108, 18).set([1.1, 0.1, 1.5, 0.1, 1.5, 0.5, 1.1, 0.1, 1.5, 0.5, 1.1, 0.5, 0, 0, 0, 0, 0, 0]);
    new Uint32Array(buffer, at + 180, 3).set([0, 0, NO_ISLAND]);
    new Uint32Array(buffer, at + 192, 3).set([0b000011, 0b100011, 0]);
    return buffer;
}

describe('the layout of a page', () => {
    const sheet = { ...sheetOf(gauge()), islands: [{ ...sheetOf(gauge()).islands[0], page: 0, box: [1.1, 0.1, 1.5, 0.5] }] } as UvSheet;
    const parts = parseSurface(packed());

    it('is read as it was packed, and moved into its tile', () => {
        expect(parts[0]?.name).toBe('a_low');
        expect([...(parts[0]?.islands ?? [])]).toEqual([0, 0, NO_ISLAND]);
        expect(tileOf([1.1, -0.9, 1.5, -0.5])).toEqual([1, -1]);
        const shapes = shapesOf(parts, sheet, 0);
        expect(shapes.fills.get(0)).toHaveLength(12);
        expect(shapes.fills.get(0)?.[0]).toBeCloseTo(0.1, 6);
        expect(shapes.seams).toHaveLength(4 * 4);
        expect(shapes.hard).toHaveLength(4);
        expect(shapesOf(parts, sheet, 1).fills.size).toBe(0);
    });

    it('tells which island lies at a place', () => {
        const finder = new Finder(shapesOf(parts, sheet, 0).fills);
        expect(finder.at(0.3, 0.2)).toBe(0);
        expect(finder.at(0.2, 0.4)).toBe(0);
        expect(finder.at(0.05, 0.2)).toBeNull();
        expect(finder.at(7, -3)).toBeNull();
    });

    it('fits the page, and zooms about the pointer', () => {
        const view = fitted(600, 400);
        expect(pageAt(view, view.x, view.y)).toEqual([0, 0]);
        expect(pageAt(view, view.x + view.zoom, view.y - view.zoom)).toEqual([1, 1]);
        const [u, v] = pageAt(view, 210, 170);
        const near = pageAt(zoomed(view, 3, 210, 170, 50), 210, 170);
        expect(near[0]).toBeCloseTo(u, 9);
        expect(near[1]).toBeCloseTo(v, 9);
        expect(zoomed(view, 1e-9, 0, 0, 50).zoom).toBe(50);
    });
});

describe('what is said of a page', () => {
    const bad = sheetOf(gauge());
    const good = sheetOf(winch());

    it('is its state in a sentence', () => {
        expect(headOf(bad, 2)).toBe('UV islands lie on each other on the page');
        expect(headOf(good, 0)).toBe('UV islands lie apart on the page');
        expect(headOf({ ...good, pages: [{ ...good.pages[0], gaps: [{ one: 0, two: 1, px: 3, ends: [0, 0, 0, 0] }] }] } as UvSheet, 0)).toBe(
            '1 gap between UV islands is under 8 px',
        );
        expect(headOf(good, 1)).toBe('The surface is not ready to bake');
        expect(headOf({ ...bad, pages: [...bad.pages, ...good.pages] }, 1)).toBe('UV islands lie on each other on 1 of 2 pages');
    });

    it('lists what wants something, the worst first, with how much', () => {
        const uneven = listed(bad, 0, 'uneven');
        expect(uneven).toHaveLength(6);
        expect(uneven.every((i) => bad.parts[bad.islands[i]?.part ?? -1] === 'bracket_low')).toBe(true);
        const [first] = uneven;
        const island = bad.islands[first ?? 0];
        expect(island && growth(island, bad)).toBeCloseTo(2.5, 2);
        expect(island && offBy(island, bad)).toBe(-1);
        expect(listed(good, 0, 'uneven')).toEqual([]);
        expect(listed(good, 0, 'unseen').length).toBeGreaterThan(0);
        expect(listed(good, 0, 'all')).toHaveLength(good.islands.length);
        const tight = listed(bad, 0, 'tight').map((i) => bad.islands[i]?.gap ?? 0);
        expect(tight).toEqual([...tight].sort((a, b) => a - b));
    });

    it('says all of an island in a line', () => {
        const island = { ...good.islands[0], density: 512, stretch: 1.23, gap: 6.24, seen: 0.5, mirrored: true, turned: -34, meant: true, overlaps: false };
        expect(islandWords({ ...good, islands: [island] } as UvSheet, 0, unit)).toBe(
            `${good.parts[good.islands[0]?.part ?? 0] ?? ''} · 512 px/unit · stretch 1.23 · nearest gap 6.2 px · 50 % seen · mirrored · turned -34° · declared to share texels`,
        );
        expect(
            islandWords({ ...good, islands: [{ ...island, gap: null, seen: 0, density: 0, stretch: 0, mirrored: false, turned: null, meant: false }] } as UvSheet, 0, unit),
        ).toContain('no area · stretch – · nearest gap over 1/16 of the page · never seen');
        expect(islandWords(good, 9999, unit)).toBe('');
    });

    it('says at which map sizes the layout holds', () => {
        const at = (...good: number[]) => ({ sizes: [512, 1024, 2048].map((size) => ({ size, gap: null, breaks: good.includes(size) ? [] : ['the least gap is 1 px of 2 px'] })) });
        expect(holds(at())).toBe('The layout holds at no map size as it is');
        expect(holds(at(512, 1024, 2048))).toBe('The layout holds at every map size from 512 to 2048 px');
        expect(holds(at(1024, 2048))).toBe('The layout holds from 1024 to 2048 px');
        expect(holds(at(2048))).toBe('The layout holds at 2048 px only');
    });

    it('colors islands by what is asked, and tells the ends of its scale', () => {
        const [island] = good.islands;
        if (!island) {
            throw new Error('no island');
        }
        expect(colorOf({ ...island, density: good.reference }, good, 'density', colors.light).toUpperCase()).toBe(colors.light.rule);
        expect(colorOf({ ...island, density: 8 * good.reference }, good, 'density', colors.light).toUpperCase()).toBe(colors.light.low);
        expect(colorOf({ ...island, stretch: 5 }, good, 'stretch', colors.light).toUpperCase()).toBe(colors.light.trouble);
        expect(colorOf({ ...island, seen: 0 }, good, 'hidden', colors.light).toUpperCase()).toBe(colors.light.ruleStrong);
        expect(scaleWords('density', { ...good, reference: 100 }, unit)).toEqual(['50 px/unit', '100 px/unit', '200 px/unit']);
    });
});

describe('the station', () => {
    const open = (delivery: At<'surface'>) => show(<Surface delivery={delivery} />, `/assets/3/deliveries/${delivery.id}/surface`);

    it('shows the page, lists uneven islands, and chooses one', async () => {
        serve({ '/api/deliveries/3/mesh/surface': () => new Response(packed()) });
        const { findByRole, findAllByRole, getByRole, findByText, user } = open(gauge());
        await findByRole('heading', { name: 'UV islands lie on each other on the page' });
        const rows = await findAllByRole('button', { name: /bracket_low grow × 2.50/ });
        expect(rows).toHaveLength(6);
        expect(getByRole('button', { name: 'May lie on others' })).toHaveProperty('disabled', true);
        await user.click(rows[0] ?? document.body);
        await findByText(/^bracket_low · 372 px\/unit · stretch 1.00/);
        expect(getByRole('button', { name: 'May lie on others' })).toHaveProperty('disabled', false);
    });

    it('declares that an island may lie on others, and takes it back', async () => {
        const sent = serve({ '/api/deliveries/3/mesh/surface': () => new Response(packed()), '/api/deliveries/3/mirrored': () => new Response(null, { status: 204 }) });
        const { findAllByRole, findByText, getByRole, user } = open(gauge());
        const [row] = await findAllByRole('button', { name: /bracket_low grow/ });
        await user.click(row ?? document.body);
        await user.click(getByRole('button', { name: 'May lie on others' }));
        await findByText('The island may lie on others; checking');
        const body = sent.find((one) => one.path === '/api/deliveries/3/mirrored')?.body as { part: string; island: string; mirrored: boolean };
        expect(body.part).toBe('bracket_low');
        expect(body.island).toMatch(/^[0-9a-f]{8}$/);
        expect(body.mirrored).toBe(true);
    });

    it('says why there is nothing to show', () => {
        serve();
        const computing = open(gauge({ uv: null, state: 'measuring' }));
        computing.getByRole('heading', { name: 'The UV page is shown once all is measured' });
        computing.unmount();
        const old = open(gauge({ uv: null }));
        old.getByRole('heading', { name: 'There are no UVs to show' });
        old.unmount();
        const bare = open(gauge({ uv: { ...sheetOf(gauge()), islands: [], pages: [] } }));
        bare.getByRole('heading', { name: 'The low poly has no UVs' });
    });
});
