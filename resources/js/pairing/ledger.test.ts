import { describe, expect, it } from 'vitest';
import type { Tie } from '../api/client';
import { baseOf, differing, isBroken, lineOf, withRow } from './ledger';

const tie = (change: Partial<Tie>): Tie => ({
    base: 'a',
    kind: 'exact',
    troubles: [],
    low: ['a_low'],
    high: ['a_high'],
    cost: 0,
    candidate: null,
    candidateCost: null,
    gap: null,
    ...change,
});
const marked = (name: string, other: string): string =>
    differing(name, other)
        .map((is, i) => (is ? name[i] : ' '))
        .join('');

describe('the letters that differ', () => {
    it('marks a swap whole, in both names', () => {
        expect(marked('flaot_rod', 'float_rod')).toBe('  ao     ');
        expect(marked('float_rod', 'flaot_rod')).toBe('  oa     ');
    });
    it('marks one letter of another case', () => expect(marked('Dial', 'dial')).toBe('D   '));
    it('marks nothing where names are one', () => expect(marked('dial', 'dial').trim()).toBe(''));
    it('marks what one has more', () => expect(marked('valve_2', 'valve')).toBe('     _2'));
    it('marks two slips far apart and nothing between', () => expect(marked('xilge_pump_housinx', 'bilge_pump_housing')).toBe('x                x'));
    it('bears an empty name', () => expect(differing('', 'a')).toEqual([]));
});

describe('the line of a tie', () => {
    it('is whole for an exact one', () => expect(lineOf(tie({})).form).toBe('exact'));
    it('is broken for a near name', () => expect(lineOf(tie({ kind: 'near', troubles: ['name-near'] })).form).toBe('near'));
    it('crosses where another fits better', () => expect(lineOf(tie({ kind: 'crossed', candidate: 'b_high' })).words).toContain('b_high'));
    it('says that a pair lies apart', () => {
        expect(lineOf(tie({ gap: 0.4 })).label).toBe('apart');
        expect(isBroken(tie({ gap: 0.4 }))).toBe(true);
    });
    it('is whole where one and one tie without a suffix', () => {
        const one = tie({ kind: 'one-and-one', troubles: ['suffix-missing'] });
        expect([lineOf(one).form, isBroken(one)]).toEqual(['exact', false]);
    });
});

describe('the plan', () => {
    const row = { fileId: 1, from: 'a', to: 'b', reason: 'by hand' };
    it('holds one row a part, the last', () => expect(withRow([row], { ...row, to: 'c' })).toEqual([{ ...row, to: 'c' }]));
    it('drops a row that changes nothing', () => expect(withRow([row], { ...row, to: 'a' })).toEqual([]));
    it('keeps files apart', () => expect(withRow([row], { ...row, fileId: 2 })).toHaveLength(2));
    it('takes a suffix off whatever its case', () => expect(baseOf('Dial_HIGH', '_high')).toBe('Dial'));
});
