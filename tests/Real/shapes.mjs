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

/** A tube along a line, closed by a point at each end; its frame is carried along, so that it does not twist. `radius` is asked with the share of the way and the angle. */
export function tube(name, spine, radius, sides) {
    const positions = [...spine[0]];
    const indices = [];
    const n = spine.length;
    let u = null;
    spine.forEach((at, i) => {
        const dir = norm([0, 1, 2].map((c) => spine[Math.min(n - 1, i + 1)][c] - spine[Math.max(0, i - 1)][c]));
        if (u === null) u = crossOf(dir, Math.abs(dir[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]);
        const along = u[0] * dir[0] + u[1] * dir[1] + u[2] * dir[2];
        u = norm(u.map((x, c) => x - along * dir[c]));
        const v = crossOf(dir, u);
        for (let s = 0; s < sides; s++) {
            const a = (-2 * Math.PI * s) / sides;
            const r = radius(i / (n - 1), a);
            for (let c = 0; c < 3; c++) positions.push(at[c] + r * (Math.cos(a) * u[c] + Math.sin(a) * v[c]));
        }
    });
    positions.push(...spine[n - 1]);
    const tip = positions.length / 3 - 1;
    for (let i = 0; i < n; i++) {
        for (let s = 0; s < sides; s++) {
            const [a, b] = [1 + i * sides + s, 1 + i * sides + ((s + 1) % sides)];
            if (i === 0) indices.push(b, 0, a);
            if (i === n - 1) indices.push(a, tip, b);
            else indices.push(a, a + sides, b, b, a + sides, b + sides);
        }
    }
    return { name, positions, indices };
}

/** A closed box of eight corners. */
export function box(name, [x0, y0, z0], [x1, y1, z1]) {
    const positions = [x0, y0, z0, x1, y0, z0, x1, y1, z0, x0, y1, z0, x0, y0, z1, x1, y0, z1, x1, y1, z1, x0, y1, z1];
    const indices = [0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7];
    return { name, positions, indices };
}

/** A sheet over 0–1 by 0–1 of so many squares a side, as a function lays it. */
export function sheet(name, cuts, at) {
    const positions = [];
    const indices = [];
    for (let j = 0; j <= cuts; j++) for (let i = 0; i <= cuts; i++) positions.push(...at(i / cuts, j / cuts));
    for (let j = 0; j < cuts; j++) {
        for (let i = 0; i < cuts; i++) {
            const [a, b] = [j * (cuts + 1) + i, j * (cuts + 1) + i + 1];
            indices.push(a, a + cuts + 1, b, b, a + cuts + 1, b + cuts + 1);
        }
    }
    return { name, positions, indices };
}

/** The part seen in a mirror, faces turned round so that they look outward again. */
export const mirrored = (part) => M.flipped({ ...part, positions: part.positions.map((x, i) => (i % 3 === 0 ? -x : x)) });

/** Colors of a scan: light, dirt and moss, another at almost every vertex. */
export const painted = (part) => ({
    ...part,
    colors: Array.from({ length: part.positions.length }, (_, i) => {
        const [x, y, z] = part.positions.slice(i - (i % 3), i - (i % 3) + 3);
        return Math.min(1, Math.max(0, 0.45 + 0.1 * (i % 3) + 0.2 * Math.sin(3.1 * x + 1.7 * y) * Math.cos(2.3 * z - y) + 0.15 * Math.sin(41 * x + 29 * y + 37 * z)));
    }),
});
