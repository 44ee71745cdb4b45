import { describe, expect, it } from 'vitest';
import { bytes, column, digits, length, percent, plural, scaleFor } from './format';

describe('numbers as they are shown', () => {
    it('have significant digits and no exponent', () => expect([digits(0), digits(1234.56), digits(0.00012346)]).toEqual(['0', '1235', '0.0001235']));
    it('are shares with a blank before the sign', () => expect([percent(0), percent(0.005), percent(1)]).toEqual(['0 %', '0.5 %', '100 %']));
    it('are lengths in the unit that suits the size', () => {
        expect(scaleFor('m', 0.01)).toEqual({ unit: 'mm', factor: 1000 });
        expect(length(0.0124, scaleFor('m', 1))).toBe('1.24 cm');
        expect(length(1.24, scaleFor(null, 1))).toBe('1.24');
    });
    it('stand in a column with as many decimals each', () => expect([0.5, 12.3456].map(column(12.3456, { unit: '', factor: 1 }))).toEqual(['0.5', '12.3']));
    it('count bytes and things', () => expect([bytes(999), bytes(3_410_000), plural(1, 'part'), plural(2000, 'part')]).toEqual(['999 bytes', '3.41 MB', '1 part', '2,000 parts']));
});
