import { describe, expect, it } from 'vitest';
import { placed } from './Boxes';

describe('a box under a matrix', () => {
    const box = { min: [0, 0, 0], max: [100, 200, 300] };
    it('is scaled', () => expect(placed(box, [0.01, 0, 0, 0, 0, 0.01, 0, 0, 0, 0, 0.01, 0, 0, 0, 0, 1])).toEqual({ min: [0, 0, 0], max: [1, 2, 3] }));
    it('is turned a quarter about X: y goes to z, z to minus y', () => {
        const turned = placed(box, [1, 0, 0, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1]);
        expect(turned.min.map((v) => v + 0)).toEqual([0, -300, 0]);
        expect(turned.max.map((v) => v + 0)).toEqual([100, 0, 200]);
    });
    it('is shifted', () => expect(placed(box, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 5, 6, 7, 1])).toEqual({ min: [5, 6, 7], max: [105, 206, 307] }));
});
