import { describe, expect, it } from 'vitest';
import { consequences, reachAt } from './SpanGauge';

describe('the span gauge', () => {
    const scale = { from: -1, to: 3 };
    it('turns a place into a reach', () => expect(reachAt(300, 100, 400, scale)).toBe(1));
    it('keeps the reach outside the low surface and on the scale', () => expect([reachAt(100, 100, 400, scale), reachAt(900, 100, 400, scale)]).toEqual([0, 3]));
    const set = { curveTop: 2, curveMiss: [0.5, 0.2, 0], curveWrong: [0, 0, 0.1] };
    it('reads what a reach would do', () =>
        expect([consequences(set, 0), consequences(set, 1.1), consequences(set, 2)]).toEqual([
            { miss: 0.5, wrong: 0 },
            { miss: 0.2, wrong: 0 },
            { miss: 0, wrong: 0.1 },
        ]));
    it('says nothing past the rays that were shot', () => expect(consequences(set, 3).miss).toBeNull());
});
