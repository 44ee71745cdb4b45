// @vitest-environment jsdom
import { act as settle } from '@testing-library/react';
import { useCallback, useMemo, useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { IdSheet } from '../api/client';
import { StandContext, type StandControl, type StandSheet } from '../frame/selection';
import { gauge, serve, show, type Sent, type Whole } from '../testing/screen';
import { ColorId } from './ColorId';
import { changed, draftOf, free, isHex, merged, pinsOf, split, textOf, type Draft } from './draft';
import { apartOf } from './Sheet';

const sheet = (): IdSheet => gauge().sheet as IdSheet;

const draft = (...ids: [string, string[], string?][]): Draft => ({
    ids: ids.map(([name, pieces, hex]) => ({ name, hex: hex ?? '#FF0000', pinned: false, pieces })),
    allEyes: false,
    pins: {},
});
const told = (some: Draft): string => some.ids.map((id) => `${id.name}${id.hex === null ? '?' : ''}:${id.pieces.join('+')}`).join(' ');

describe('what is decided about IDs', () => {
    it('puts pieces of several IDs under that of the first', () => {
        const before = draft(['a', ['1']], ['b', ['2', '3']], ['c', ['4']]);
        expect(told(merged(before, new Set(['1', '2', '3'])))).toBe('a:1+2+3 c:4');
        // The rest of an ID that is parted keeps it.
        expect(told(merged(before, new Set(['2', '4'])))).toBe('a:1 b-2?:2+4 b:3');
        expect(merged(before, new Set(['9']))).toBe(before);
    });

    it('gives each piece an ID of its own, new colors where they are needed', () => {
        const before = draft(['a', ['1']], ['b', ['2', '3', '4']]);
        expect(told(split(before, new Set(['2', '3']), (key) => `p${key}`))).toBe('a:1 b:4 p2?:2 p3?:3');
        expect(told(split(before, new Set(['2', '3', '4']), () => 'a'))).toBe('a:1 a-2?:2 a-3?:3 a-4?:4');
        expect(split(before, new Set(['1']), String)).toBe(before);
    });

    it('changes one ID, and names apart', () => {
        expect(told(changed(draft(['a', ['1']], ['b', ['2']]), 'b', { name: 'hull' }))).toBe('a:1 hull:2');
        expect(free('a', new Set(['a', 'a-2']))).toBe('a-3');
        expect(draftOf(sheet()).ids[0]).toEqual({ name: 'backplate', hex: sheet().ids[0]?.hex, pinned: false, pieces: ['backplate'] });
    });

    it('reads colors that are fixed, line by line', () => {
        expect(pinsOf('brass* #e8112d\n\n old oak  #102030 ')).toEqual({ 'brass*': '#E8112D', 'old oak': '#102030' });
        expect(pinsOf('brass* #e8112d\nsteel red')).toBe('steel red');
        expect(pinsOf(textOf({ 'brass*': '#E8112D', oak: '#102030' }))).toEqual({ 'brass*': '#E8112D', oak: '#102030' });
        expect([isHex('#12aBcD'), isHex('#12aBc'), isHex('12aBcD')]).toEqual([true, false, false]);
    });

    it('says how far colors are apart, and what exchanging them did', () => {
        expect(apartOf({ least: [20.12, 3, null, 9], leastTouching: 41, leastBefore: 30 })).toBe(
            'The closest two are ΔE00 20.1 apart (protan 3.0, deutan –, tritan 9.0). The closest two that touch are 41.0 apart (30.0 before colors were exchanged).',
        );
        expect(apartOf({ least: [20, 3, 4, 9], leastTouching: null, leastBefore: null })).toBe('The closest two are ΔE00 20.0 apart (protan 3.0, deutan 4.0, tritan 9.0).');
        expect(apartOf({ least: [null], leastTouching: null, leastBefore: null })).toBe('');
    });
});

/** The pieces of the cut as the server sends them: a triangle each. */
function meshes(count: number): Response {
    const head = JSON.stringify({ parts: Array.from({ length: count }, (_, piece) => ({ name: `p${piece}`, piece, all: 1, colors: [], vertices: 3, triangles: 1 })) });
    const json = new TextEncoder().encode(head.padEnd(head.length + ((4 - (head.length % 4)) % 4)));
    const bytes = new Uint8Array(4 + json.length + 48 * count);
    new DataView(bytes.buffer).setUint32(0, json.length, true);
    bytes.set(json, 4);
    return new Response(bytes);
}

/** What the stand was given, to look at and to pick in. */
const seen: { stand: StandSheet | null } = { stand: null };

function Framed({ delivery }: { delivery: Whole }) {
    const [given, setGiven] = useState<StandSheet | null>(null);
    // The same function each time, as the frame's is.
    const setSheet = useCallback((to: StandSheet | null): void => {
        seen.stand = to;
        setGiven(to);
    }, []);
    const control = useMemo<StandControl>(
        () => ({
            explode: 0,
            setExplode: () => undefined,
            fly: 0,
            flyTo: () => undefined,
            ids: true,
            asked: null,
            showCage: () => undefined,
            sheet: given,
            setSheet,
            surface: null,
            setSurface: () => undefined,
            lit: null,
            setLit: () => undefined,
            probe: null,
            setProbe: () => undefined,
            walk: null,
            setWalk: () => undefined,
            ghost: null,
            setGhost: () => undefined,
        }),
        [given, setSheet],
    );
    return (
        <StandContext.Provider value={control}>
            <ColorId delivery={delivery} />
        </StandContext.Provider>
    );
}

/** A server that keeps what it is sent, as the real one does with colors that are there. */
function keeping(): Sent[] {
    let version = sheet().version;
    return serve({
        '/api/deliveries/3/pieces/*': () => meshes(sheet().pieces.length),
        '/api/deliveries/3/id-sheet': (one) => {
            const { ids } = one.body as Draft;
            version += 1;
            return {
                ...sheet(),
                version,
                ids: ids.map((id) => ({ ...id, hex: id.hex ?? '#00AA00', parts: id.pieces.map((piece) => `${piece}_high`), nearest: 30, nearestName: null, touches: [] })),
            };
        },
        '/api/deliveries/3/id-files': { assetId: 3, deliveryId: 9, number: 2 },
        '/api/deliveries/3/id-cut': { id: 8 },
        '/api/deliveries/3/outputs': { id: 8 },
    });
}

describe('the sheet of IDs to give', () => {
    it('is asked for once where no high poly was cut yet', async () => {
        const sent = keeping();
        const { user, getByRole, getByText } = show(<Framed delivery={gauge({ sheet: null })} />);
        expect(sent.some((one) => one.path.endsWith('/id-cut'))).toBe(false);
        await user.click(getByRole('button', { name: 'to give' }));
        await expect.poll(() => sent.filter((one) => one.path.endsWith('/id-cut')).map((one) => one.body)).toEqual([{ by: 'part', angle: 30 }]);
        expect(getByText('IDs to give')).toBeDefined();
    });

    it('merges by swatches, splits and takes back', async () => {
        const sent = keeping();
        const { user, getByRole, getAllByRole } = show(<Framed delivery={gauge()} />);
        await user.click(getByRole('button', { name: 'to give' }));
        const swatch = (name: string): HTMLElement => getAllByRole('button').find((one) => one.className.includes('swatch-card') && one.textContent.includes(name)) as HTMLElement;
        await user.click(swatch('bezel'));
        await user.keyboard('{Control>}');
        await user.click(swatch('float_rod'));
        await user.keyboard('{/Control}');
        await user.click(getByRole('button', { name: 'One ID for all 2' }));
        await expect.poll(() => getAllByRole('button').filter((one) => one.className.includes('swatch-card')).length).toBe(10);
        const last = (): Draft => sent.filter((one) => one.path.endsWith('/id-sheet')).at(-1)?.body as Draft;
        expect([...(last().ids.find((id) => id.name === 'bezel')?.pieces ?? [])].sort()).toEqual(['bezel', 'float_rod']);
        await user.click(getByRole('button', { name: 'An ID each' }));
        await expect.poll(() => getAllByRole('button').filter((one) => one.className.includes('swatch-card')).length).toBe(11);
        await user.click(getByRole('button', { name: 'Undo' }));
        await expect.poll(() => getAllByRole('button').filter((one) => one.className.includes('swatch-card')).length).toBe(10);
    });

    it('is picked in the stand, and shows the stand its colors', async () => {
        const sent = keeping();
        const { user, getByRole, getByLabelText } = show(<Framed delivery={gauge()} />);
        await user.click(getByRole('button', { name: 'to give' }));
        await expect.poll(() => seen.stand?.parts.length).toBe(11);
        const key = seen.stand?.parts[0]?.key ?? '';
        expect(seen.stand?.paint.get(key)).toBe(sheet().ids.find((id) => id.pieces.includes(sheet().pieces[0]?.key ?? ''))?.hex);
        settle(() => seen.stand?.onPick([key], false));
        await expect.poll(() => getByRole('group', { name: 'chosen pieces' }).textContent).toMatch(/^1 piece/);
        expect(seen.stand?.chosen.has(key)).toBe(true);
        const name = getByLabelText('name of the ID');
        await user.clear(name);
        await user.type(name, 'back{Enter}');
        await expect.poll(() => (sent.filter((one) => one.path.endsWith('/id-sheet')).at(-1)?.body as Draft | undefined)?.ids[0]?.name).toBe('back');
        // A band with Shift adds what is not chosen, and takes away what all is.
        settle(() => seen.stand?.onPick([key, seen.stand.parts[1]?.key ?? ''], true));
        await expect.poll(() => getByRole('group', { name: 'chosen pieces' }).textContent).toMatch(/^2 pieces/);
        settle(() => seen.stand?.onPick([key], true));
        await expect.poll(() => getByRole('group', { name: 'chosen pieces' }).textContent).toMatch(/^1 piece/);
        await user.click(getByRole('button', { name: 'Clear selection' }));
        await expect.poll(() => seen.stand?.chosen.size).toBe(0);
    });

    it('cuts anew, spreads for all eyes, fixes colors and writes', async () => {
        const sent = keeping();
        const { user, getByRole, getByLabelText } = show(<Framed delivery={gauge()} />);
        await user.click(getByRole('button', { name: 'to give' }));
        const body = (end: string): unknown => sent.filter((one) => one.path.endsWith(end)).at(-1)?.body;
        await user.click(getByLabelText('spread for all eyes'));
        await expect.poll(() => body('/id-sheet')).toMatchObject({ act: 'spread', allEyes: true });
        await user.click(getByRole('button', { name: 'Fixed colors' }));
        await user.type(getByLabelText('fixed colors'), 'bezel red');
        expect(getByRole('button', { name: 'Keep' })).toHaveProperty('disabled', true);
        await user.clear(getByLabelText('fixed colors'));
        await user.type(getByLabelText('fixed colors'), 'bez* #102030');
        await user.click(getByRole('button', { name: 'Keep' }));
        await expect.poll(() => body('/id-sheet')).toMatchObject({ act: 'spread', pins: { 'bez*': '#102030' } });
        await user.click(getByRole('button', { name: 'Write ID files' }));
        await expect.poll(() => body('/outputs')).toEqual({ kind: 'ids', onto: 'copy', as: 'materials' });
        await user.click(getByRole('button', { name: 'region' }));
        await expect.poll(() => body('/id-cut')).toEqual({ by: 'region', angle: 30 });
        await user.click(getByRole('button', { name: 'Hand in with IDs' }));
        await expect.poll(() => body('/id-files')).toEqual({ kind: 'ids', onto: 'copy', as: 'materials' });
    });

    it('says why the high poly could not be cut, and cuts it otherwise', () => {
        keeping();
        const failed = {
            ...sheet(),
            state: 'failed',
            error: 'by shell there are 501 IDs, and no more than 500 can be told apart; give IDs by part or by set',
            ids: [],
            pieces: [],
        } as IdSheet;
        const output = {
            id: failed.cut,
            kind: 'id-cut',
            state: 'failed',
            error: failed.error,
            name: null,
            bytes: null,
            madeAt: '',
            madeBy: '',
            cages: [],
        } as unknown as Whole['outputs'][number];
        const none = { ...gauge().ids, source: 'none', colors: [], missing: [] } as Whole['ids'];
        const { getByRole } = show(<Framed delivery={gauge({ sheet: failed, ids: none, outputs: [output] })} />);
        expect(getByRole('alert').textContent).toMatch(/501 IDs/);
        expect(getByRole('group', { name: 'what wears one ID' })).toBeDefined();
        expect(getByRole('button', { name: 'Write ID files' })).toHaveProperty('disabled', true);
    });
});
