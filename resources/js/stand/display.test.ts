import { describe, expect, it } from 'vitest';
import { parseDisplay } from './display';

const buffer = (): ArrayBuffer => {
    const part = (name: string, vertices: number, triangles: number) => ({ name, file: 'x_low.obj', set: null, colors: [], vertices, triangles, all: triangles });
    let head = JSON.stringify({ parts: [part('a_low', 3, 1), part('b_low', 4, 2)] });
    // What follows stands at a multiple of four bytes.
    head += ' '.repeat((4 - (head.length % 4)) % 4);
    const out = new ArrayBuffer(4 + head.length + 12 * (3 + 1 + 4 + 2));
    new DataView(out).setUint32(0, head.length, true);
    new Uint8Array(out, 4, head.length).set(new TextEncoder().encode(head));
    const at = 4 + head.length;
    new Float32Array(out, at, 9).set([0, 0, 0, 1, 0, 0, 0, 1, 0]);
    new Uint32Array(out, at + 36, 3).set([0, 1, 2]);
    new Float32Array(out, at + 48, 12).set([5, 0, 0, 6, 0, 0, 6, 1, 0, 5, 1, 0]);
    new Uint32Array(out, at + 96, 6).set([0, 1, 2, 0, 2, 3]);
    return out;
};

describe('light meshes from the server', () => {
    it('are read part by part, in place', () => {
        const parts = parseDisplay(buffer());
        expect(parts.map((part) => [part.name, [...part.positions].slice(0, 3), [...part.indices]])).toEqual([
            ['a_low', [0, 0, 0], [0, 1, 2]],
            ['b_low', [5, 0, 0], [0, 1, 2, 0, 2, 3]],
        ]);
    });
    it('that are cut short are refused, not drawn in part', () => expect(() => parseDisplay(buffer().slice(0, -8))).toThrow());
});
