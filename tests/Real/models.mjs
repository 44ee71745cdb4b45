/* The open models that the pairs are made from, out of packages that the tests install; no copy of them is kept. */
import { NodeIO } from '@gltf-transform/core';
import { KHRONOS_EXTENSIONS } from '@gltf-transform/extensions';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import { weld } from './mesh.mjs';

const require = createRequire(import.meta.url);
export const ASSIMP = '/usr/share/assimp/models';

const clean = (name, i) => (name || `piece_${i}`).toLowerCase().replace(/[^a-z0-9]+/g, '_').replace(/^_+|_+$/g, '') || `piece_${i}`;

/** Names made single: a second `grab` is `grab_2`. */
function single(parts) {
    const taken = new Set();
    return parts.filter((part) => part.indices.length > 0).map((part) => {
        let name = part.name;
        for (let n = 2; taken.has(name); n++) name = `${part.name}_no${n}`;
        taken.add(name);
        return { ...part, name };
    });
}

function ofGeometry(name, geometry) {
    const positions = Array.from(geometry.attributes.position.array);
    const indices = geometry.index ? Array.from(geometry.index.array) : Array.from({ length: positions.length / 3 }, (_, i) => i);
    const uvs = geometry.attributes.uv ? Array.from(geometry.attributes.uv.array) : undefined;
    return { name, positions, indices, uvs };
}

export function fromObj(path) {
    const root = new OBJLoader().parse(readFileSync(path, 'utf8'));
    return single(root.children.filter((child) => child.isMesh).map((child, i) => ofGeometry(clean(child.name, i), child.geometry)));
}

export function fromPly(path, name) {
    const file = readFileSync(path);
    return [ofGeometry(name, new PLYLoader().parse(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength)))];
}

export async function fromGlb(path) {
    const document = await new NodeIO().registerExtensions(KHRONOS_EXTENSIONS).read(path);
    const parts = [];
    let i = 0;
    for (const node of document.getRoot().listNodes()) {
        const mesh = node.getMesh();
        if (!mesh) continue;
        const m = node.getWorldMatrix();
        const mirrored = m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]) < 0;
        const out = { name: clean(node.getName() || mesh.getName(), i++), positions: [], indices: [], uvs: [] };
        for (const primitive of mesh.listPrimitives()) {
            const at = primitive.getAttribute('POSITION').getArray();
            const uv = primitive.getAttribute('TEXCOORD_0')?.getArray();
            const index = primitive.getIndices()?.getArray() ?? Uint32Array.from({ length: at.length / 3 }, (_, k) => k);
            const base = out.positions.length / 3;
            for (let v = 0; v < at.length; v += 3) {
                for (let c = 0; c < 3; c++) out.positions.push(m[c] * at[v] + m[4 + c] * at[v + 1] + m[8 + c] * at[v + 2] + m[12 + c]);
            }
            for (let k = 0; k < index.length; k += 3) out.indices.push(base + index[k], base + index[k + (mirrored ? 2 : 1)], base + index[k + (mirrored ? 1 : 2)]);
            if (uv) for (let v = 0; v < uv.length; v += 2) out.uvs.push(uv[v], 1 - uv[v + 1]);
        }
        if (out.uvs.length !== (out.positions.length / 3) * 2) delete out.uvs;
        parts.push(out);
    }
    return single(parts);
}

export function bunny() {
    const { positions, cells } = require('bunny');
    return weld({ name: 'bunny', positions: positions.flat(), indices: cells.flat() });
}

export const controller = (kind, hand) => fromGlb(require.resolve('@webxr-input-profiles/assets/package.json').replace('package.json', `dist/profiles/${kind}/${hand}.glb`));

let cadReady;

/** The CAD kernel's modelling functions; solids are meshed by `solid`. */
export async function cad() {
    if (!cadReady) {
        const file = require.resolve('replicad-opencascadejs/wasm').replace(/wasm$/, 'js');
        globalThis.__dirname ??= file.replace(/\/[^/]+$/, '');
        globalThis.require ??= require;
        const { default: init } = await import('replicad-opencascadejs');
        const kernel = await init({ wasmBinary: readFileSync(file.replace(/js$/, 'wasm')), locateFile: () => file.replace(/js$/, 'wasm') });
        const replicad = await import('replicad');
        replicad.setOC(kernel);
        cadReady = replicad;
    }
    return cadReady;
}

export function solid(name, shape, tolerance, angle) {
    const { vertices, triangles } = shape.mesh({ tolerance, angularTolerance: angle });
    return weld({ name, positions: Array.from(vertices), indices: Array.from(triangles) });
}
