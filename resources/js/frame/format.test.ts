import { describe, expect, it } from 'vitest';
import { bytes, column, digits, length, percent, plural, scaleFor, when, whole } from './format';

describe('numbers as they are shown', () => {
    it('have significant digits and no exponent', () => expect([digits(0), digits(1234.56), digits(0.00012346)]).toEqual(['0', '1235', '0.0001235']));
    it('are shares with a blank before the sign', () => expect([percent(0), percent(0.005), percent(1)]).toEqual(['0 %', '0.5 %', '100 %']));
    it('are lengths in the unit that suits the size', () => {
        expect(scaleFor('m', 0.01)).toEqual({ unit: 'mm', factor: 1000 });
        expect(length(0.0124, scaleFor('m', 1))).toBe('1.24 cm');
        expect(length(1.24, scaleFor(null, 1))).toBe('1.24 units');
    });
    it('stand in a column with as many decimals each', () => expect([0.5, 12.3456].map(column(12.3456, { unit: '', factor: 1 }))).toEqual(['0.5', '12.3']));
    it('count bytes and things', () => expect([bytes(999), bytes(3_410_000), plural(1, 'part'), plural(2000, 'part')]).toEqual(['999 bytes', '3.41 MB', '1 part', '2,000 parts']));
});

describe('times and sizes at their borders', () => {
    it('tell today, yesterday and a date', () => {
        const now = new Date();
        const back = (days: number): string => new Date(now.getFullYear(), now.getMonth(), now.getDate() - days, 9, 40).toISOString();
        expect([when(back(0)), when(back(1))]).toEqual(['today 09:40', 'yesterday 09:40']);
        expect(when('2026-03-05T10:00:00')).toBe('5 Mar 2026');
    });
    it('go up a unit at a thousand', () => expect([bytes(0), bytes(1000), bytes(999_999_999_999)]).toEqual(['0 bytes', '1.00 KB', '1000 GB']));
    it('keep small shares and full ones apart', () => expect([percent(0.00049), percent(0.99951), percent(0.0604)]).toEqual(['0.049 %', '99.95 %', '6.04 %']));
    it('suit metres, centimetres and millimetres', () =>
        expect([scaleFor('m', 30).unit, scaleFor('m', 1).unit, scaleFor('m', 0.02).unit, scaleFor('cm', 1).unit]).toEqual(['m', 'cm', 'mm', 'cm']));
    it('write negative numbers like others', () => expect([digits(-0.01234, 3), whole(-1234567)]).toEqual(['-0.0123', '-1,234,567']));
});
