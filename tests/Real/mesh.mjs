/*
 * Meshes of the real pairs: {name, positions, indices, uvs?, normals?, cut?}, flat lists, three indices a triangle. What is done to them:
 * welding, shells, Loop subdivision with creases, shading, decimation, unwrapping.
 */
import { MeshoptSimplifier } from 'meshoptimizer';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);
const f32 = Math.fround;

/** One vertex a place; triangles without area left out. */
export function weld({ name, positions, indices }) {
    const number = new Map();
    const at = [];
    const map = new Int32Array(positions.length / 3);
    for (let v = 0; v < map.length; v++) {
        const key = `${f32(positions[3 * v])} ${f32(positions[3 * v + 1])} ${f32(positions[3 * v + 2])}`;
        let n = number.get(key);
        if (n === undefined) {
            n = number.size;
            number.set(key, n);
            at.push(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
        }
        map[v] = n;
    }
    const tri = [];
    const seen = new Set();
    for (let i = 0; i < indices.length; i += 3) {
        const [a, b, c] = [map[indices[i]], map[indices[i + 1]], map[indices[i + 2]]];
        const key = [a, b, c].sort((x, y) => x - y).join(' ');
        if (a !== b && b !== c && c !== a && !seen.has(key) && doubleArea(at, a, b, c) > 1e-14) {
            seen.add(key);
            tri.push(a, b, c);
        }
    }
    return { name, positions: at, indices: tri };
}

function cross(p, a, b, c) {
    const [ux, uy, uz] = [p[3 * b] - p[3 * a], p[3 * b + 1] - p[3 * a + 1], p[3 * b + 2] - p[3 * a + 2]];
    const [vx, vy, vz] = [p[3 * c] - p[3 * a], p[3 * c + 1] - p[3 * a + 1], p[3 * c + 2] - p[3 * a + 2]];
    return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}

function doubleArea(p, a, b, c) {
    return Math.hypot(...cross(p, a, b, c));
}

const edgeKey = (a, b) => (a < b ? a * 67108864 + b : b * 67108864 + a);

/** Shells of a welded mesh, each a mesh of its own. */
export function shells(mesh) {
    const parent = Int32Array.from({ length: mesh.positions.length / 3 }, (_, v) => v);
    const root = (v) => {
        while (parent[v] !== v) v = parent[v] = parent[parent[v]];
        return v;
    };
    for (let i = 0; i < mesh.indices.length; i += 3) {
        const a = root(mesh.indices[i]);
        parent[root(mesh.indices[i + 1])] = a;
        parent[root(mesh.indices[i + 2])] = root(a);
    }
    const groups = new Map();
    for (let i = 0; i < mesh.indices.length; i += 3) {
        const r = root(mesh.indices[i]);
        if (!groups.has(r)) groups.set(r, []);
        groups.get(r).push(mesh.indices[i], mesh.indices[i + 1], mesh.indices[i + 2]);
    }
    return [...groups.values()].map((indices) => compact({ name: mesh.name, positions: mesh.positions, indices }));
}

export function compact({ name, positions, indices }) {
    const map = new Map();
    const at = [];
    const out = indices.map((v) => {
        if (!map.has(v)) {
            map.set(v, map.size);
            at.push(positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]);
        }
        return map.get(v);
    });
    return { name, positions: at, indices: out };
}

export function join(name, meshes) {
    const positions = [];
    const indices = [];
    for (const mesh of meshes) {
        const base = positions.length / 3;
        for (const x of mesh.positions) positions.push(x);
        for (const v of mesh.indices) indices.push(base + v);
    }
    return { name, positions, indices };
}

/**
 * Loop's subdivision (C. Loop, 1987) with the crease rules of H. Hoppe et al., 1994: edges that turn by over `crease` degrees, borders and
 * edges of over two faces stay sharp.
 */
export function subdivide(mesh, crease = 180) {
    const { positions: p, indices: tri } = mesh;
    const n = p.length / 3;
    const edges = new Map();
    for (let i = 0; i < tri.length; i += 3) {
        for (let k = 0; k < 3; k++) {
            const key = edgeKey(tri[i + k], tri[i + ((k + 1) % 3)]);
            const edge = edges.get(key);
            if (edge) edge.push(i, k);
            else edges.set(key, [i, k]);
        }
    }
    const cos = Math.cos((crease * Math.PI) / 180);
    const unit = (i) => {
        const m = cross(p, tri[i], tri[i + 1], tri[i + 2]);
        const l = Math.hypot(...m) || 1;
        return m.map((x) => x / l);
    };
    const around = Array.from({ length: n }, () => []);
    const sharp = Array.from({ length: n }, () => []);
    const middle = new Map();
    const out = Array.from(p);
    for (const [key, faces] of edges) {
        const [i, k] = faces;
        const [a, b] = [tri[i + k], tri[i + ((k + 1) % 3)]];
        around[a].push(b);
        around[b].push(a);
        let isSharp = faces.length !== 4;
        if (!isSharp && crease < 180) {
            const [m, o] = [unit(i), unit(faces[2])];
            isSharp = m[0] * o[0] + m[1] * o[1] + m[2] * o[2] < cos;
        }
        middle.set(key, out.length / 3);
        if (isSharp) {
            sharp[a].push(b);
            sharp[b].push(a);
            for (let c = 0; c < 3; c++) out.push((p[3 * a + c] + p[3 * b + c]) / 2);
        } else {
            const [l, r] = [tri[i + ((k + 2) % 3)], tri[faces[2] + ((faces[3] + 2) % 3)]];
            for (let c = 0; c < 3; c++) out.push((3 * (p[3 * a + c] + p[3 * b + c]) + p[3 * l + c] + p[3 * r + c]) / 8);
        }
    }
    for (let v = 0; v < n; v++) {
        const k = around[v].length;
        if (sharp[v].length > 2 || k === 0 || sharp[v].length === 1) continue;
        for (let c = 0; c < 3; c++) {
            if (sharp[v].length === 2) {
                out[3 * v + c] = (6 * p[3 * v + c] + p[3 * sharp[v][0] + c] + p[3 * sharp[v][1] + c]) / 8;
            } else {
                const w = 3 / 8 + Math.cos((2 * Math.PI) / k) / 4;
                const beta = (5 / 8 - w * w) / k;
                let sum = 0;
                for (const u of around[v]) sum += p[3 * u + c];
                out[3 * v + c] = (1 - k * beta) * p[3 * v + c] + beta * sum;
            }
        }
    }
    const indices = [];
    for (let i = 0; i < tri.length; i += 3) {
        const [a, b, c] = [tri[i], tri[i + 1], tri[i + 2]];
        const [d, e, f] = [middle.get(edgeKey(a, b)), middle.get(edgeKey(b, c)), middle.get(edgeKey(c, a))];
        indices.push(a, d, f, d, b, e, f, e, c, d, e, f);
    }
    return { name: mesh.name, positions: out, indices };
}

/** Corner normals by angle-weighted means over faces that turn by no more than `hard` degrees: `cornerNormals`, xyz a corner. */
export function shade(mesh, hard = 180) {
    const { positions: p, indices: tri } = mesh;
    const cos = Math.cos((hard * Math.PI) / 180);
    const faces = [];
    const at = new Map();
    // Shading looks at places, not at vertices, so that split vertices shade alike.
    const place = (v) => `${f32(p[3 * v])} ${f32(p[3 * v + 1])} ${f32(p[3 * v + 2])}`;
    const keys = Array.from({ length: p.length / 3 }, (_, v) => place(v));
    for (let i = 0; i < tri.length; i += 3) {
        const m = cross(p, tri[i], tri[i + 1], tri[i + 2]);
        const l = Math.hypot(...m) || 1;
        const n = m.map((x) => x / l);
        const angle = [0, 1, 2].map((k) => {
            const [a, b, c] = [tri[i + k], tri[i + ((k + 1) % 3)], tri[i + ((k + 2) % 3)]];
            const u = [0, 1, 2].map((x) => p[3 * b + x] - p[3 * a + x]);
            const v = [0, 1, 2].map((x) => p[3 * c + x] - p[3 * a + x]);
            return Math.atan2(doubleArea(p, a, b, c), u[0] * v[0] + u[1] * v[1] + u[2] * v[2]);
        });
        faces.push(n);
        for (let k = 0; k < 3; k++) {
            const key = keys[tri[i + k]];
            if (!at.has(key)) at.set(key, []);
            at.get(key).push(i / 3, angle[k]);
        }
    }
    const normals = new Float32Array(tri.length * 3);
    for (let i = 0; i < tri.length; i++) {
        const own = faces[Math.floor(i / 3)];
        const list = at.get(keys[tri[i]]);
        let [x, y, z] = [0, 0, 0];
        for (let k = 0; k < list.length; k += 2) {
            const n = faces[list[k]];
            if (hard >= 180 || n[0] * own[0] + n[1] * own[1] + n[2] * own[2] >= cos) {
                x += n[0] * list[k + 1];
                y += n[1] * list[k + 1];
                z += n[2] * list[k + 1];
            }
        }
        const l = Math.hypot(x, y, z);
        const n = l > 1e-9 ? [x / l, y / l, z / l] : own;
        normals.set(n, 3 * i);
    }
    return { ...mesh, cornerNormals: normals };
}

await MeshoptSimplifier.ready;

/** Decimated shell by shell, so that none vanishes; borders stay where they are. */
export function decimate(mesh, share, error = 0.02) {
    return join(mesh.name, shells(weld(mesh)).map((shell) => {
        const want = Math.max(24, Math.floor((shell.indices.length / 3) * share) * 3);
        if (shell.indices.length <= want) return shell;
        const [indices] = MeshoptSimplifier.simplify(Uint32Array.from(shell.indices), Float32Array.from(shell.positions), 3, want, error, ['LockBorder', 'ErrorAbsolute'].slice(0, 1));
        return indices.length >= 12 ? weld(compact({ name: mesh.name, positions: shell.positions, indices: Array.from(indices) })) : shell;
    }));
}

let atlasLib;

/** All parts unwrapped onto one page; vertices are split at seams. */
export async function unwrap(parts, resolution = 1024) {
    if (!atlasLib) {
        const file = require.resolve('watlas');
        const wasm = readFileSync(file.replace(/watlas\.js$/, 'watlas.wasm'));
        const fetched = globalThis.fetch;
        // The package fetches its own file; here it is read from disk.
        globalThis.fetch = async () => new Response(wasm, { headers: { 'Content-Type': 'application/wasm' } });
        atlasLib = await import('watlas');
        await atlasLib.Initialize();
        globalThis.fetch = fetched;
    }
    const atlas = new atlasLib.Atlas();
    for (const part of parts) {
        atlas.addMesh({
            vertexPositionData: Float32Array.from(part.positions), vertexCount: part.positions.length / 3, vertexPositionStride: 12,
            indexData: Uint32Array.from(part.indices), indexCount: part.indices.length,
        });
    }
    atlas.generate({}, { padding: 4, resolution, rotateCharts: true });
    const out = parts.map((part, i) => {
        const mesh = atlas.getMesh(i);
        const positions = [];
        const uvs = [];
        for (let v = 0; v < mesh.vertexCount; v++) {
            const { uv, xref } = mesh.getVertex(v);
            positions.push(part.positions[3 * xref], part.positions[3 * xref + 1], part.positions[3 * xref + 2]);
            uvs.push(uv[0] / atlas.width, uv[1] / atlas.height);
        }
        const indices = new Uint32Array(mesh.indexCount);
        mesh.getIndexArray(indices);
        return { ...part, positions, uvs, indices: Array.from(indices) };
    });
    atlas.delete();
    return out;
}

export const triangles = (parts) => parts.reduce((sum, part) => sum + part.indices.length / 3, 0);

export function moved(mesh, by) {
    return { ...mesh, positions: mesh.positions.map((x, i) => x + by[i % 3]) };
}

export function scaled(mesh, by) {
    return { ...mesh, positions: mesh.positions.map((x) => x * by) };
}

export function flipped(mesh) {
    const indices = mesh.indices.slice();
    for (let i = 0; i < indices.length; i += 3) [indices[i + 1], indices[i + 2]] = [indices[i + 2], indices[i + 1]];
    return { ...mesh, indices, cornerNormals: undefined };
}

export function bounds(parts) {
    const min = [Infinity, Infinity, Infinity];
    const max = [-Infinity, -Infinity, -Infinity];
    for (const part of parts) {
        part.positions.forEach((x, i) => {
            min[i % 3] = Math.min(min[i % 3], x);
            max[i % 3] = Math.max(max[i % 3], x);
        });
    }
    return { min, max, diagonal: Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) };
}
