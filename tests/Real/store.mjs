/* A pair's meshes as one file of numbers: a line of JSON that says what follows, then float32 and uint32 blocks. */
import { readFileSync, writeFileSync } from 'node:fs';

export function store(path, { low, high }) {
    const blocks = [];
    const head = {};
    for (const [side, parts] of Object.entries({ low, high })) {
        head[side] = parts.map(({ name, cut, positions, indices, uvs, cornerNormals }) => {
            const lists = [Float32Array.from(positions), Uint32Array.from(indices), Float32Array.from(uvs ?? []), Float32Array.from(cornerNormals ?? [])];
            blocks.push(...lists.map((list) => Buffer.from(list.buffer)));
            return { name, cut: cut === true, lengths: lists.map((list) => list.length) };
        });
    }
    const text = JSON.stringify(head);
    writeFileSync(path, Buffer.concat([Buffer.from(text.padEnd(text.length + 3 - (text.length % 4)) + '\n'), ...blocks]));
}

export function load(path) {
    const file = readFileSync(path);
    let at = file.indexOf(10) + 1;
    const head = JSON.parse(file.subarray(0, at).toString());
    const take = (Type, length) => {
        const list = new Type(file.buffer.slice(file.byteOffset + at, file.byteOffset + at + 4 * length));
        at += 4 * length;
        return list;
    };
    const out = {};
    for (const side of ['low', 'high']) {
        out[side] = head[side].map(({ name, cut, lengths: [p, i, u, n] }) => ({ name, cut, positions: take(Float32Array, p), indices: take(Uint32Array, i), uvs: take(Float32Array, u), cornerNormals: take(Float32Array, n) }));
    }
    return out;
}
