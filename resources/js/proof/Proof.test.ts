import { describe, expect, it } from 'vitest';
import type { Delivery, ProofStation, ReturnedMap, Trial } from '../api/client';
import { parseLit } from '../stand/lit';
import { causeOf } from './Areas';
import { verdictOf } from './Maps';
import { headOf, mapUrl, parseTexel, passOf, USUAL, valueWords, variantsOf, variantWords } from './trials';

const trial = (some: Partial<Trial>): Trial => ({
    id: 1,
    page: 'brass',
    pass: 'rays',
    size: 256,
    samples: 1,
    through: 'in-use',
    exploded: false,
    state: 'done',
    error: null,
    done: 1,
    inside: 9,
    missShare: 0,
    wrongShare: 0,
    notShot: [],
    hasRays: true,
    ...some,
});
const map = (some: Partial<ReturnedMap>): ReturnedMap => ({
    file: 1,
    number: 0,
    name: 'brass_normal.png',
    kind: 'normal',
    page: 'brass',
    width: 2048,
    height: 2048,
    bits: 16,
    tag: null,
    error: null,
    median: 0.4,
    turn: 'as-is',
    greenInverted: false,
    srgb: false,
    differsShare: 0,
    codes: [],
    size: 256,
    ...some,
});
const station = (some: Partial<ProofStation>): ProofStation => ({
    mapSize: 2048,
    green: '+Y',
    pages: [],
    trials: [],
    before: [],
    beforeDelivery: null,
    beforeNumber: null,
    maps: [],
    caged: [],
    ...some,
});

describe('trial bakes', () => {
    it('belong to a variant: rays whatever the layout, occlusion by it, the newest of several', () => {
        const trials = [trial({ id: 1 }), trial({ id: 2, pass: 'ao' }), trial({ id: 3, pass: 'ao', exploded: true }), trial({ id: 4 }), trial({ id: 5, through: 'fitted' })];
        expect(passOf(trials, 'brass', 'rays', USUAL)?.id).toBe(4);
        expect(passOf(trials, 'brass', 'rays', { ...USUAL, exploded: true })?.id).toBe(4);
        expect(passOf(trials, 'brass', 'ao', { ...USUAL, exploded: true })?.id).toBe(3);
        expect(passOf(trials, 'iron', 'rays', USUAL)).toBeUndefined();
        expect(variantsOf(trials).map(variantWords)).toEqual(['in use · 256 px', 'in use · 256 px · occlusion exploded', 'fitted cage · 256 px']);
        expect(mapUrl(7, trials, 'brass', 'ao', USUAL)).toBe('/api/deliveries/7/proof/2/ao');
        expect(mapUrl(7, [trial({ state: 'making' })], 'brass', 'normal', USUAL)).toBeUndefined();
    });

    it('say their values in words', () => {
        expect(valueWords('normal', [128, 128, 255, 255])).toBe('0.00 0.00 1.00 · 0°');
        expect(valueWords('normal', [255, 128, 128, 255])).toBe('1.00 0.00 0.00 · 90°');
        expect(valueWords('ao', [128, 128, 128, 255])).toBe('50 % of the sky');
        expect(valueWords('id', [232, 17, 45, 255])).toBe('#E8112D');
        expect(valueWords('id', [0, 0, 0, 0])).toBe('none');
        expect(valueWords('height', [255, 255, 255, 255])).toBe('+100 % of the reach');
        expect(valueWords('height', [64, 64, 64, 255])).toBe('−50 % of the reach');
        expect([0, 128, 255].map((value) => valueWords('miss', [value, 0, 0, 255]))).toEqual(['fine', 'wrong hit', 'nothing met']);
        expect(valueWords('retouch', [255, 0, 0, 255])).toBe('to paint');
    });

    it('are told of in a sentence', () => {
        const page = { name: 'brass', file: 'brass', inside: 10, texels: 1200, share: 0.1, sets: [], areas: [] };
        expect(headOf(station({ pages: [{ ...page, texels: 0 }] }))).toBe('Nothing is left to paint after the bake');
        expect(headOf(station({ pages: [page] }))).toBe('1,200 texels are left to paint by hand');
        expect(headOf(station({ pages: [page], maps: [map({ codes: ['map-green'] })] }))).toBe('brass_normal.png did not come back right');
        expect(headOf(station({ pages: [page], maps: [map({ codes: ['map-bits'] })] }))).toBe('1,200 texels are left to paint by hand');
    });
});

describe('a texel in the address', () => {
    it('names its page, whatever that is called', () => {
        expect(parseTexel('brass:12,34', ['brass'])).toEqual({ page: 0, x: 12, y: 34 });
        expect(parseTexel('a: b, 1:5,6', ['x', 'a: b, 1'])).toEqual({ page: 1, x: 5, y: 6 });
        expect(parseTexel('iron:12,34', ['brass'])).toBeNull();
        expect(parseTexel(null, ['brass'])).toBeNull();
    });
});

describe('maps that came back', () => {
    it('get a verdict in a few words', () => {
        expect(verdictOf(map({}))).toBe('fits: 0.4° off the trial');
        expect(verdictOf(map({ codes: ['map-green', 'map-size'] }))).toBe('green inverted, another size');
        expect(verdictOf(map({ error: 'it is cut short' }))).toBe('it is cut short');
        expect(verdictOf(map({ number: -1 }))).toBe('not judged yet');
        expect(verdictOf(map({ kind: 'ao', median: 0.0123 }))).toBe('fits: 0.012 off the trial');
        expect(verdictOf(map({ median: null }))).toBe('nothing to compare');
    });
});

describe('areas to paint', () => {
    it('are caused by what is told of their set', () => {
        const delivery = {
            findings: [
                { code: 'ray-miss', set: 'hood' },
                { code: 'sets-bleed', set: 'pane' },
                { code: 'span-closed', set: 'pane' },
            ],
        } as unknown as Delivery;
        const area = { kind: 'wrong' as const, set: 'pane', texels: 4, x: 1, y: 2, where: [] };
        expect(causeOf(delivery, area)?.code).toBe('span-closed');
        expect(causeOf(delivery, { ...area, kind: 'miss', set: 'hood' })?.code).toBe('ray-miss');
        expect(causeOf(delivery, { ...area, kind: 'miss' })).toBeUndefined();
    });
});

describe('the low poly as it is shaded', () => {
    it('is read part by part', () => {
        const json = JSON.stringify({
            parts: [
                { name: 'hood_low', page: 'brass', triangles: 1 },
                { name: 'base_low', page: 'iron', triangles: 2 },
            ],
        });
        const head = new TextEncoder().encode(json + ' '.repeat((4 - (json.length % 4)) % 4));
        const floats = new Float32Array(36 * 3).map((_, i) => i);
        const bytes = new Uint8Array(4 + head.length + floats.byteLength);
        new DataView(bytes.buffer).setUint32(0, head.length, true);
        bytes.set(head, 4);
        bytes.set(new Uint8Array(floats.buffer), 4 + head.length);
        const [hood, base] = parseLit(bytes.buffer);
        expect([hood?.positions.length, hood?.normals[0], hood?.tangents[0], hood?.uvs[0]]).toEqual([9, 9, 18, 30]);
        expect([base?.page, base?.positions[0], base?.uvs.length]).toEqual(['iron', 36, 12]);
    });
});
