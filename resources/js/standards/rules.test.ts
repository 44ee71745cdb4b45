import { describe, expect, it } from 'vitest';
import type { CheckLimits, Effect } from '../api/client';
import { differences, inWords, joined, limitOf, rulesOf, shown, told, withCheck } from './rules';

const text =
    '{"name":"harbor","suffixes":{"low":["_low"]},"pairing":"names","mapSize":2048,"pages":null,"triangleBudget":null,"texelDensity":null,"greenChannel":"+Y","rays":{"direction":"smooth","length":"cage","backFaces":false,"count":65536,"setsKeptApart":true},"reach":{},"checks":{"uv-use":{"limit":0.6}}}';
const checks = [
    { code: 'uv-use', title: 'Little of the page used', station: 'surface', severity: 'note', limit: 0.55, caution: null, unit: 'share', limitWords: '' },
] as CheckLimits[];
const effect = (over: Partial<Effect>): Effect => ({
    assets: 0,
    foretold: 0,
    judged: 0,
    unknown: 0,
    changed: 0,
    nowBlocked: 0,
    nowReady: 0,
    waiversIdle: 0,
    waiversDied: 0,
    codes: [],
    rows: [],
    unknownChecks: [],
    next: null,
    ...over,
});

describe('rules', () => {
    it('come out of an empty list as an empty object, and keep what no field shows', () => {
        const rules = rulesOf(text.replace('"reach":{}', '"reach":[],"idColors":{"brass*":"#E8112D"}'));
        expect(rules.reach).toEqual({});
        expect(rules.idColors).toEqual({ 'brass*': '#E8112D' });
    });

    it('take a limit, and leave out what is as built in', () => {
        const rules = rulesOf(text);
        expect(withCheck(rules, 'uv-use', { severity: 'blocker' }).checks).toEqual({ 'uv-use': { limit: 0.6, severity: 'blocker' } });
        expect(withCheck(rules, 'uv-use', { limit: null }).checks).toEqual({});
        expect(withCheck(rules, 'uv-border', { limit: 0 }).checks['uv-border']).toEqual({ limit: 0 });
    });

    it('are typed as percent where they are shares, and refused where they are no number', () => {
        expect([limitOf('0.5', 'share'), limitOf('0,5 ', 'share'), limitOf('12%', 'share'), limitOf('4', 'px'), limitOf('', 'px'), limitOf('wide', 'px')]).toEqual([
            0.005,
            0.005,
            0.12,
            4,
            null,
            undefined,
        ]);
        expect([shown(0.007, 'share'), shown(null, 'px'), told(0.00505, 'share'), told(15, 'deg')]).toEqual(['0.7', '', '0.505\u00a0%', '15°']);
    });

    it('are compared by what each says, the built-in value where one says nothing', () => {
        const other = { ...rulesOf(text), mapSize: 1024, checks: {} };
        expect(differences(rulesOf(text), other, checks)).toEqual([
            { what: 'uv-use limit', a: '0.6', b: '0.55 (built in)' },
            { what: 'mapSize', a: '2048', b: '1024' },
        ]);
        expect(differences(other, other, checks)).toEqual([]);
    });
});

describe('an effect', () => {
    it('is told in a sentence', () => {
        expect(inWords(effect({}))).toBe('No finding changes');
        expect(inWords(effect({ changed: 2, waiversDied: 1, codes: [{ code: 'uv-use', blockers: 3, cautions: 0, notes: -1 }] }))).toBe(
            '3 more blockers, 1 fewer note on 2 assets, 1 waiver dies',
        );
        expect(inWords(effect({ waiversIdle: 2 }))).toBe('2 waivers die');
    });

    it('comes in slices that are put together', () => {
        const one = effect({ assets: 3, judged: 1, changed: 1, codes: [{ code: 'uv-use', blockers: 1, cautions: 0, notes: 0 }], unknownChecks: ['a'], next: 7 });
        const two = effect({
            judged: 2,
            changed: 1,
            codes: [
                { code: 'uv-use', blockers: -1, cautions: 0, notes: 0 },
                { code: 'mesh-ngon', blockers: 0, cautions: 2, notes: 0 },
            ],
            unknownChecks: ['a', 'b'],
        });
        const both = joined(one, two);
        expect([both.assets, both.judged, both.changed, both.next, both.unknownChecks]).toEqual([3, 3, 2, null, ['a', 'b']]);
        expect(both.codes).toEqual([{ code: 'mesh-ngon', blockers: 0, cautions: 2, notes: 0 }]);
    });
});
