/* What the recipes of the real pairs are put together from: roles, shading, subdivision, strands, leaves, solids. */
import * as M from './mesh.mjs';
import * as S from './models.mjs';

export const role = (parts, suffix) => parts.map((part) => ({ ...part, name: `${part.name}_${suffix}` }));
export const shadeAll = (parts, hard) => parts.map((part) => M.shade(part, hard));

/** High by subdivision of what is welded, so many times; the low keeps the model's own faces. */
export function subdivided(parts, times, crease) {
    return parts.map((part) => {
        let mesh = M.weld(part);
        for (let i = 0; i < times; i++) mesh = M.subdivide(mesh, i === 0 ? crease : Math.min(crease, 45));
        return mesh;
    });
}

export async function lowOf(parts, share, error) {
    return M.unwrap(parts.map((part) => M.decimate(part, share, error)));
}

/** A strand along a list of places: a tube of so many sides, closed at its tip by a point, open at its root. */
export function strand(name, spine, radius, sides) {
    const positions = [];
    const indices = [];
    const n = spine.length;
    for (let i = 0; i < n - 1; i++) {
        const dir = [0, 1, 2].map((c) => spine[i + 1][c] - spine[i][c]);
        const helper = Math.abs(dir[1]) < 0.9 * Math.hypot(...dir) ? [0, 1, 0] : [1, 0, 0];
        const u = norm(crossOf(dir, helper));
        const v = norm(crossOf(dir, u));
        const r = radius * (1 - i / (n - 1));
        for (let s = 0; s < sides; s++) {
            const a = (-2 * Math.PI * s) / sides;
            for (let c = 0; c < 3; c++) positions.push(spine[i][c] + r * (Math.cos(a) * u[c] + Math.sin(a) * v[c]));
        }
    }
    positions.push(...spine[n - 1]);
    const tip = positions.length / 3 - 1;
    for (let i = 0; i < n - 1; i++) {
        for (let s = 0; s < sides; s++) {
            const [a, b] = [i * sides + s, i * sides + ((s + 1) % sides)];
            if (i === n - 2) indices.push(a, tip, b);
            else indices.push(a, a + sides, b, b, a + sides, b + sides);
        }
    }
    return { name, positions, indices };
}

export const crossOf = (a, b) => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
export const norm = (a) => {
    const l = Math.hypot(...a) || 1;
    return a.map((x) => x / l);
};

/** Places spread over a mesh with their normals, always the same. */
export function scatter(mesh, count) {
    const out = [];
    const step = mesh.indices.length / 3 / count;
    for (let k = 0; k < count; k++) {
        const t = 3 * Math.floor(k * step);
        const [a, b, c] = [0, 1, 2].map((i) => [0, 1, 2].map((x) => mesh.positions[3 * mesh.indices[t + i] + x]));
        const n = norm(crossOf([0, 1, 2].map((x) => b[x] - a[x]), [0, 1, 2].map((x) => c[x] - a[x])));
        out.push([[0, 1, 2].map((x) => (a[x] + b[x] + c[x]) / 3), n]);
    }
    return out;
}

/** A leaf over a frame: an outline of so many points to a side, bent a little; the card is the rectangle around it. */
export function leaf(place, n, size, rows) {
    const helper = Math.abs(n[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0];
    const u = norm(crossOf(helper, n));
    const v = crossOf(n, u);
    const at = (x, y) => [0, 1, 2].map((c) => place[c] + size * (x * u[c] + y * v[c] + 0.02 * Math.cos(Math.PI * (y - 0.5)) * n[c]));
    const positions = [];
    const indices = [];
    for (let i = 0; i <= rows; i++) {
        const y = i / rows;
        const w = 0.24 * Math.sin(Math.PI * Math.min(0.999, Math.max(0.001, y))) ** 0.7;
        for (let s = -4; s <= 4; s++) positions.push(...at((w * s) / 4, y));
    }
    for (let i = 0; i < rows; i++) {
        for (let s = 0; s < 8; s++) {
            const [a, b] = [i * 9 + s, i * 9 + s + 1];
            indices.push(a, b, a + 9, b, b + 9, a + 9);
        }
    }
    const card = { positions: [...at(-0.25, 0), ...at(0.25, 0), ...at(-0.25, 0.5), ...at(0.25, 0.5), ...at(-0.25, 1), ...at(0.25, 1)], indices: [0, 1, 2, 1, 3, 2, 2, 3, 4, 3, 5, 4] };
    return [{ positions, indices }, card];
}

/** A solid of the CAD kernel, sharp and coarse for the low, with its fillets and fine for the high. */
export async function cadPair(make) {
    const cad = await S.cad();
    const solids = make(cad);
    const low = [];
    const high = [];
    for (const [name, sharp, round] of solids) {
        low.push(S.solid(name, sharp, 0.4, 0.6));
        high.push(S.solid(name, round, 0.04, 0.2));
    }
    return [await M.unwrap(low), high];
}

export const change = (parts, name, how) => parts.map((part) => (part.name === name ? how(part) : part));
export const turned = (part) => ({ ...part, positions: part.positions.map((_, i) => [part.positions[i], -part.positions[i + 1], part.positions[i - 1]][i % 3]), cornerNormals: undefined });
export const about = (parts) => M.bounds(parts);
