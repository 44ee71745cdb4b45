/*
 * Whether what is said of UVs and hard edges is true, by brute force that shares nothing with the product: every pair of border segments, points thrown at the page.
 * null: not judged here (outlines, details, which are held against closed forms in the core's own tests).
 */
const SIZE = 2048;
/** Points of a page, along each of its sides, at which it is asked what covers them. */
const POINTS = 200;

function welds(part) {
    const at = new Map();
    return Uint32Array.from({ length: part.positions.length / 3 }, (_, v) => {
        const key = `${part.positions[3 * v]} ${part.positions[3 * v + 1]} ${part.positions[3 * v + 2]}`;
        if (!at.has(key)) at.set(key, v);
        return at.get(key);
    });
}

const cache = new Map();

/** Islands, border edges and hard edges of a part. */
function laid(part) {
    if (cache.has(part)) return cache.get(part);
    const weld = welds(part);
    const { indices, uvs, cornerNormals: n } = part;
    const edges = new Map();
    for (let i = 0; i < indices.length; i++) {
        const j = i - (i % 3) + ((i + 1) % 3);
        const [a, b] = [weld[indices[i]], weld[indices[j]]];
        if (a === b) continue;
        const key = a < b ? `${a} ${b}` : `${b} ${a}`;
        if (!edges.has(key)) edges.set(key, []);
        edges.get(key).push(a < b ? [i, j] : [j, i]);
    }
    const uv = (c) => [uvs[2 * indices[c]], uvs[2 * indices[c] + 1]];
    const same = (c, d) => Math.abs(uv(c)[0] - uv(d)[0]) <= 1e-6 && Math.abs(uv(c)[1] - uv(d)[1]) <= 1e-6;
    const bent = (c, d) => {
        const dot = n[3 * c] * n[3 * d] + n[3 * c + 1] * n[3 * d + 1] + n[3 * c + 2] * n[3 * d + 2];
        return Math.acos(Math.min(1, dot / Math.hypot(n[3 * c], n[3 * c + 1], n[3 * c + 2]) / Math.hypot(n[3 * d], n[3 * d + 1], n[3 * d + 2]))) > Math.PI / 180;
    };
    const root = Array.from({ length: indices.length / 3 }, (_, t) => t);
    const find = (t) => {
        while (root[t] !== t) t = root[t] = root[root[t]];
        return t;
    };
    const border = [];
    let hard = 0;
    for (const halves of edges.values()) {
        const [first, ...others] = halves;
        const joined = new Set();
        for (const other of others) {
            if (same(first[0], other[0]) && same(first[1], other[1])) {
                root[find(Math.floor(first[0] / 3))] = find(Math.floor(other[0] / 3));
                joined.add(first).add(other);
                if (n.length && (bent(first[0], other[0]) || bent(first[1], other[1]))) hard++;
            }
        }
        for (const half of halves) if (!joined.has(half)) border.push(half);
    }
    const islands = new Map();
    for (let t = 0; t < root.length; t++) {
        const island = islands.get(find(t)) ?? { triangles: [], area: 0, uvArea: 0, box: [Infinity, Infinity, -Infinity, -Infinity] };
        island.triangles.push(t);
        const [a, b, c] = [0, 1, 2].map((k) => uv(3 * t + k));
        const [p, q, r] = [0, 1, 2].map((k) => [0, 1, 2].map((x) => part.positions[3 * indices[3 * t + k] + x]));
        const u = q.map((x, k) => x - p[k]);
        const v = r.map((x, k) => x - p[k]);
        island.area += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
        island.uvArea += Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2;
        for (const [x, y] of [a, b, c]) island.box = [Math.min(island.box[0], x), Math.min(island.box[1], y), Math.max(island.box[2], x), Math.max(island.box[3], y)];
        islands.set(find(t), island);
    }
    const out = { islands: [...islands.values()], border: border.map(([c, d]) => ({ island: find(Math.floor(c / 3)), ends: [...uv(c), ...uv(d)] })), hard, uv };
    cache.set(part, out);
    return out;
}

const toSegment = (px, py, [ax, ay, bx, by]) => {
    const [ex, ey] = [bx - ax, by - ay];
    const s = Math.max(0, Math.min(1, ((px - ax) * ex + (py - ay) * ey) / (ex * ex + ey * ey || 1)));
    return Math.hypot(ax + s * ex - px, ay + s * ey - py);
};
const apart = (a, b) => Math.min(toSegment(a[0], a[1], b), toSegment(a[2], a[3], b), toSegment(b[0], b[1], a), toSegment(b[2], b[3], a));

function near(one, two, within) {
    const [a, b] = [laid(one), laid(two)];
    for (const s of a.border) {
        for (const o of b.border) {
            // Edges that follow on each other along the border.
            if (s === o || (one === two && s.island === o.island && [0, 2].some((i) => [0, 2].some((j) => Math.abs(s.ends[i] - o.ends[j]) < 1e-6 && Math.abs(s.ends[i + 1] - o.ends[j + 1]) < 1e-6)))) continue;
            if (Math.min(s.ends[0], s.ends[2]) - within > Math.max(o.ends[0], o.ends[2]) || Math.min(o.ends[0], o.ends[2]) - within > Math.max(s.ends[0], s.ends[2])) continue;
            if (apart(s.ends, o.ends) < within) return true;
        }
    }
    return false;
}

const uvArea = ([a, b, c]) => ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2;
const areaOf = ({ positions: p, indices }, t) => {
    const [a, b, c] = [0, 1, 2].map((k) => 3 * indices[3 * t + k]);
    const [e, f] = [b, c].map((q) => [0, 1, 2].map((x) => p[q + x] - p[a + x]));
    return Math.hypot(e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]) / 2;
};

const inside = (x, y, [a, b, c]) => {
    const side = (p, q) => (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0]);
    const [s, t, u] = [side(a, b), side(b, c), side(c, a)];
    return (s > 0 && t > 0 && u > 0) || (s < 0 && t < 0 && u < 0);
};

/** How many triangles of a part cover each of 200 × 200 points of the page. */
function coverage(part) {
    const own = laid(part);
    if (own.coverage) return own.coverage;
    own.coverage = new Uint8Array(POINTS * POINTS);
    const first = (x) => Math.max(0, Math.ceil(x * POINTS - 0.5));
    const last = (x) => Math.min(POINTS - 1, Math.floor(x * POINTS - 0.5));
    for (let t = 0; t < part.indices.length / 3; t++) {
        const corners = [0, 1, 2].map((k) => own.uv(3 * t + k));
        const [us, vs] = [corners.map(([u]) => u), corners.map(([, v]) => v)];
        for (let i = first(Math.min(...us)); i <= last(Math.max(...us)); i++) {
            for (let j = first(Math.min(...vs)); j <= last(Math.max(...vs)); j++) if (inside((i + 0.5) / POINTS, (j + 0.5) / POINTS, corners)) own.coverage[i * POINTS + j]++;
        }
    }
    return own.coverage;
}

/** Share of a page that two parts cover both, or one twice. */
function covered(one, two) {
    const [a, b] = [coverage(one), coverage(two)];
    return a.reduce((sum, n, i) => sum + (one === two ? n > 1 : n > 0 && b[i] > 0), 0) / a.length;
}

/** Names of low parts that lie on each other, or one on itself, over more than five times what passes; not those that share their place on purpose. */
export function overlapping(pair, shared) {
    const parts = pair.low.filter((part) => part.uvs.length && !shared(part.name));
    return parts.flatMap((one, i) => parts.slice(i).filter((two) => one.cut === two.cut && covered(one, two) > 0.001).map((two) => [one.name, two.name]));
}

export const uvAreaOf = (part, t) => Math.abs(uvArea([0, 1, 2].map((k) => laid(part).uv(3 * t + k))));

/** Triangles with area on the model and less than this of the page. */
function flat(part, least) {
    return laid(part).islands.reduce((sum, { triangles }) => sum + triangles.filter((t) => areaOf(part, t) > 0 && uvAreaOf(part, t) < least).length, 0);
}

/** L2 stretch of a part (Sander, Snyder, Gortler, Hoppe, SIGGRAPH 2001) by the Jacobian of each triangle, 1 for what is evenly scaled; island by island, weighted by area. */
function stretchOf(part) {
    const { islands, uv } = laid(part);
    let [all, squares] = [0, 0];
    for (const { triangles } of islands) {
        let [area, uvArea, sum] = [0, 0, 0];
        for (const t of triangles) {
            const [a, b, c] = [0, 1, 2].map((k) => uv(3 * t + k));
            const [p, q, r] = [0, 1, 2].map((k) => [0, 1, 2].map((x) => part.positions[3 * part.indices[3 * t + k] + x]));
            const [e, f] = [q.map((x, k) => x - p[k]), r.map((x, k) => x - p[k])];
            const [m, n, o, w] = [b[0] - a[0], c[0] - a[0], b[1] - a[1], c[1] - a[1]];
            const det = m * w - n * o;
            const own = Math.hypot(e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]) / 2;
            if (!(own > 0) || Math.abs(det) < 1e-12) continue;
            const du = e.map((x, k) => (x * w - f[k] * o) / det);
            const dv = e.map((x, k) => (f[k] * m - x * n) / det);
            sum += (own * (du.reduce((s, x) => s + x * x, 0) + dv.reduce((s, x) => s + x * x, 0))) / 2;
            area += own;
            uvArea += Math.abs(det) / 2;
        }
        if (area === 0) continue;
        squares += (sum * uvArea) / area;
        all += area;
    }
    return Math.sqrt(squares / all);
}

/**
 * @param {{low: object[], high: object[]}} pair
 * @returns {boolean | null}
 */
export function surfaceTruth(pair, finding) {
    const part = pair.low.find((one) => one.name === finding.subject.part);
    const other = pair.low.find((one) => one.name === finding.subject.other) ?? part;
    if (!part || !part.uvs.length) return null;
    const { islands, hard } = laid(part);
    const over = ({ box: [a, b, c, d] }) => {
        const [u, v] = [Math.floor((a + c) / 2), Math.floor((b + d) / 2)];
        return Math.max(u - a, c - u - 1, v - b, d - v - 1);
    };
    switch (finding.code) {
        case 'hard-no-seam':
            return Math.abs(hard - finding.measure.value) <= 0.02 * hard;
        case 'uv-border':
            return islands.some((island) => over(island) <= 1e-6 && Math.abs(-over(island) * SIZE - finding.measure.value) < 0.05);
        case 'uv-outside':
            return islands.some((island) => over(island) > 1e-6);
        case 'uv-degenerate':
            return flat(part, 1e-12) <= finding.measure.value && finding.measure.value <= flat(part, 1e-9);
        case 'uv-padding':
            // Of parts that lie on each other the gap is between islands that do not.
            return near(part, other, finding.measure.value / SIZE + 1e-6) && (part === other || !near(part, other, Math.max(0, 0.9 * (finding.measure.value / SIZE) - 1e-5)) || covered(part, other) > 0);
        case 'uv-overlap':
            return finding.measure.value < 0.002 ? null : Math.abs(covered(part, other) - finding.measure.value) < Math.max(0.003, 0.3 * finding.measure.value) || finding.measure.value > 0.3;
        case 'uv-stretch':
            return Math.abs(stretchOf(part) - finding.measure.value) < 0.01 * finding.measure.value;
        case 'texel-density': {
            const all = pair.low.flatMap((one) => (one.uvs.length ? laid(one).islands : [])).filter((one) => one.uvArea > 0 && one.area > 0).map((one) => [SIZE * Math.sqrt(one.uvArea / one.area), one.area]).sort((a, b) => a[0] - b[0]);
            const half = all.reduce((sum, [, area]) => sum + area, 0) / 2;
            let below = 0;
            const median = all.find(([, area]) => (below += area) >= half)[0];
            return islands.some((one) => Math.abs((SIZE * Math.sqrt(one.uvArea / one.area)) / median - finding.measure.value) < 0.02 * finding.measure.value);
        }
        default:
            return null;
    }
}

export const SURFACE = ['uv-overlap', 'uv-outside', 'uv-degenerate', 'uv-padding', 'uv-border', 'uv-stretch', 'texel-density', 'texel-coarse', 'hard-no-seam', 'soft-over-sharp'];
