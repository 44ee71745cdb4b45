/*
 * The judged truth of real pairs, by an independent ray tracer (npm three-mesh-bvh) and code that shares nothing with the product: METHODS'
 * directions, 200,000 rays a set. It decides of every blocker and caution that the product gives whether it is true, and which are missing.
 *
 * node tests/Real/judge.mjs MESHES.bin REPORT.json [KEPT] prints {judged, false: [...], missed: [...]}. Of the report only the reaches are used (a finding
 * speaks of the reach in use), and the findings that are judged. What rays at a reach met is kept in the folder KEPT.
 */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import * as THREE from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { load } from './store.mjs';
import { swingsOf } from './rim.mjs';
import { overlapping, SURFACE, surfaceTruth, uvAreaOf } from './surface.mjs';

const RAYS = 200_000;
/** A set is looked at in so many passes over its whole surface, up to all rays; fewer where every answer is clear by four standard errors. */
const PASSES = 8;
const [meshes, reportPath, keptIn] = process.argv.slice(2);
const report = JSON.parse(readFileSync(reportPath, 'utf8'));
const pair = load(meshes);
const hashOf = (...texts) =>
    texts
        .reduce((sum, text) => sum.update(text).update('\0'), createHash('sha256'))
        .digest('hex')
        .slice(0, 20);
const ownText = hashOf(readFileSync(import.meta.filename), readFileSync(join(import.meta.dirname, '../../package-lock.json')));
const meshesText = hashOf(readFileSync(meshes));

let seed = 20261127;
const random = () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
};

/** Parts as one mesh with face normals and, for lows, METHODS' directions at each corner. */
function surface(parts) {
    const count = parts.reduce((sum, part) => sum + part.indices.length, 0);
    const vertices = parts.reduce((sum, part) => sum + part.positions.length, 0);
    const p = new Float32Array(vertices);
    const index = new Uint32Array(count);
    const uv = new Float32Array((vertices / 3) * 2);
    let [v, i] = [0, 0];
    let hasUv = true;
    for (const part of parts) {
        p.set(part.positions, v);
        if (part.uvs.length) uv.set(part.uvs, (v / 3) * 2);
        else hasUv = false;
        for (const k of part.indices) index[i++] = v / 3 + k;
        v += part.positions.length;
    }
    const normals = new Float32Array(count);
    const areas = new Float64Array(count / 3);
    for (let t = 0; t < count; t += 3) {
        const n = normalOf(p, index, t);
        const l = Math.hypot(...n);
        areas[t / 3] = l / 2;
        for (let c = 0; c < 3; c++) normals[t + c] = l > 0 ? n[c] / l : 0;
    }
    return { p, index, uv: hasUv ? uv : null, normals, areas };
}

function normalOf(p, index, t) {
    const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    const u = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const w = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    return [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
}

/** A tree over a surface; its faces keep their order unless it is told that nobody asks for them. */
function tree({ p, index }, inOrder = true) {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(p, 3));
    geometry.setIndex(new THREE.BufferAttribute(inOrder ? index : index.slice(), 1));
    return new MeshBVH(geometry, { indirect: inOrder });
}

/** Corner directions: unit means of face normals by corner angle over a place; where they vanish, the face's own. Per part, since parts do not share places. */
function directions(parts) {
    const out = [];
    for (const part of parts) {
        const s = surface([part]);
        const at = new Map();
        const keys = [];
        for (let i = 0; i < s.index.length; i++) {
            const v = 3 * s.index[i];
            const key = `${s.p[v]} ${s.p[v + 1]} ${s.p[v + 2]}`;
            keys.push(key);
            const t = i - (i % 3);
            const [a, b, c] = [i, t + ((i + 1) % 3), t + ((i + 2) % 3)].map((k) => 3 * s.index[k]);
            const u = [0, 1, 2].map((k) => s.p[b + k] - s.p[a + k]);
            const w = [0, 1, 2].map((k) => s.p[c + k] - s.p[a + k]);
            const angle = Math.atan2(2 * s.areas[t / 3], u[0] * w[0] + u[1] * w[1] + u[2] * w[2]);
            const sum = at.get(key) ?? [0, 0, 0, 0];
            for (let k = 0; k < 3; k++) sum[k] += angle * s.normals[t + k];
            sum[3] += angle;
            at.set(key, sum);
        }
        for (let i = 0; i < s.index.length; i++) {
            const sum = at.get(keys[i]);
            const l = Math.hypot(sum[0], sum[1], sum[2]);
            const t = i - (i % 3);
            for (let k = 0; k < 3; k++) out.push(l > 1e-3 * sum[3] ? sum[k] / l : s.normals[t + k]);
        }
    }
    return out;
}

function isOpen(parts) {
    return parts.some((part) => edges(part).some((n) => n === 1));
}

/** The number of each vertex's place. */
function welded(part) {
    const number = new Map();
    const weld = [];
    for (let v = 0; v < part.positions.length; v += 3) {
        const key = `${part.positions[v]} ${part.positions[v + 1]} ${part.positions[v + 2]}`;
        if (!number.has(key)) number.set(key, number.size);
        weld.push(number.get(key));
    }
    return weld;
}

/** Faces at each edge of a part, on welded places. */
function edges(part) {
    const weld = welded(part);
    const count = new Map();
    for (let i = 0; i < part.indices.length; i += 3) {
        for (let k = 0; k < 3; k++) {
            const [a, b] = [weld[part.indices[i + k]], weld[part.indices[i + ((k + 1) % 3)]]];
            const key = a < b ? a * 67108864 + b : b * 67108864 + a;
            count.set(key, (count.get(key) ?? 0) + 1);
        }
    }
    return [...count.values()];
}

const low = surface(pair.low);
const lowTree = tree(low, false);
const box = new THREE.Box3().setFromArray(low.p);
const far = 2 * box.getSize(new THREE.Vector3()).length();
const hemisphere = Array.from({ length: 64 }, (_, k) => {
    const z = (k + 0.5) / 64;
    const r = Math.sqrt(1 - z * z);
    const a = (k * 137.508 * Math.PI) / 180;
    return [r * Math.cos(a), r * Math.sin(a), z];
}).reverse();
const ray = new THREE.Ray();

function isSeen(x, y, z, f) {
    const normal = new THREE.Vector3(...f);
    const q = new THREE.Quaternion().setFromUnitVectors(new THREE.Vector3(0, 0, 1), normal);
    ray.origin.set(x, y, z).addScaledVector(normal, 5e-6 * far);
    return hemisphere.some((d) => {
        ray.direction.set(...d).applyQuaternion(q);
        return lowTree.raycastFirst(ray, THREE.DoubleSide, 0, far) === null;
    });
}

const spanClosed = (set) => report.findings.filter((one) => one.code === 'span-closed' && one.subject.set === set.name);

/** The same, kept: the same rays at the same reach meet the same. */
function met(set) {
    const key = hashOf(ownText, meshesText, JSON.stringify([set.name, set.low, set.high, set.recommended, set.needed, spanClosed(set).length]));
    const path = keptIn ? join(keptIn, key) : null;
    if (path !== null && existsSync(path)) return JSON.parse(readFileSync(path, 'utf8'));
    seed = parseInt(key.slice(0, 7), 16);
    const truth = shoot(set);
    if (truth !== null) truth.grazing = grazing(set);
    if (path !== null) {
        mkdirSync(keptIn, { recursive: true });
        writeFileSync(`${path}.${process.pid}`, JSON.stringify(truth));
        renameSync(`${path}.${process.pid}`, path);
    }
    return truth;
}

/** What each triangle covers of the page, or of space where there are no UVs. */
const sizesOf = (s) =>
    s.areas.map((area, t) => {
        if (!s.uv) return area;
        const [a, b, c] = [0, 1, 2].map((k) => 2 * s.index[3 * t + k]);
        return area > 0 ? Math.abs((s.uv[b] - s.uv[a]) * (s.uv[c + 1] - s.uv[a + 1]) - (s.uv[c] - s.uv[a]) * (s.uv[b + 1] - s.uv[a + 1])) : 0;
    });

/** The surfaces of a set, and how its low area is spread over the page. */
function sceneOf(set) {
    const lows = pair.low.filter((part) => set.low.includes(part.name));
    const highs = pair.high.filter((part) => set.high.includes(part.name));
    if (lows.length === 0 || highs.length === 0) return null;
    const s = surface(lows);
    const d = new THREE.Box3().setFromArray(s.p).getSize(new THREE.Vector3()).length();
    const high = surface(highs);
    const size = sizesOf(s);
    return { lows, s, d, dirs: directions(lows), high, highTree: tree(high), ownTree: tree(s), size, total: size.reduce((sum, one) => sum + one, 0) };
}

/** A place on a triangle of a set by chance: where it lies, its direction and length, its face normal. */
function placeOn({ s, dirs }, t) {
    let [v, w] = [random(), random()];
    if (v + w > 1) [v, w] = [1 - v, 1 - w];
    const u = 1 - v - w;
    const [x, y, z] = [0, 1, 2].map((c) => u * s.p[3 * s.index[3 * t] + c] + v * s.p[3 * s.index[3 * t + 1] + c] + w * s.p[3 * s.index[3 * t + 2] + c]);
    const n = [0, 1, 2].map((c) => u * dirs[9 * t + c] + v * dirs[9 * t + 3 + c] + w * dirs[9 * t + 6 + c]);
    const f = [s.normals[3 * t], s.normals[3 * t + 1], s.normals[3 * t + 2]];
    return { x, y, z, n, l: Math.hypot(...n), f };
}

/** Rays along the surface meet what chance has there: told by themselves, and no misses. */
const isAlong = ({ n, l, f }) => l === 0 || Math.abs(n[0] * f[0] + n[1] * f[1] + n[2] * f[2]) < 0.05 * l;

/** Whether what a ray meets is the surface of the place that it starts from. */
function belongs({ s, d, high, ownTree }, { x, y, z, n, f }, hit) {
    const h = new THREE.Vector3(x + hit.t * n[0], y + hit.t * n[1], z + hit.t * n[2]);
    const height = Math.abs(hit.t * (n[0] * f[0] + n[1] * f[1] + n[2] * f[2]));
    const r = (height - 1e-4 * d) / 2;
    if (r <= 0) return true;
    const m = [high.normals[3 * hit.face], high.normals[3 * hit.face + 1], high.normals[3 * hit.face + 2]];
    const near = new THREE.Vector3();
    const triangle = new THREE.Triangle();
    return !ownTree.shapecast({
        intersectsBounds: (b) => b.distanceToPoint(h) <= r,
        intersectsTriangle: (tri, j) => {
            if (s.normals[3 * j] * m[0] + s.normals[3 * j + 1] * m[1] + s.normals[3 * j + 2] * m[2] < 0.5) return false;
            triangle.set(tri.a, tri.b, tri.c).closestPointToPoint(h, near);
            return near.distanceTo(h) <= r;
        },
    });
}

/**
 * The least share of seen low area that is clipped, missed or wrong, over a sweep of both sides at once: 40 heights outward that occur, and 12 inward. A rounding
 * counts as wrong here, so what is told may be less, and never more.
 */
function bestBySweep(scene) {
    const rays = 4000;
    const lines = [];
    let [sum, t] = [scene.size[0], 0];
    for (let k = 0; k < rays; k++) {
        const at = ((k + random()) / rays) * scene.total;
        while (sum < at && t < scene.size.length - 1) sum += scene.size[++t];
        const place = placeOn(scene, t);
        if (isAlong(place) || !isSeen(place.x, place.y, place.z, place.f)) continue;
        const { x, y, z, n, l } = place;
        ray.origin.set(x + scene.d * n[0], y + scene.d * n[1], z + scene.d * n[2]);
        ray.direction.set(-n[0] / l, -n[1] / l, -n[2] / l);
        const hits = scene.highTree.raycast(ray, THREE.FrontSide, 0, 2 * scene.d * l).map((hit) => ({ t: scene.d - hit.distance / l, face: hit.faceIndex }));
        lines.push(hits.sort((a, b) => b.t - a.t).map((hit) => ({ t: hit.t, own: belongs(scene, place, hit) })));
    }
    const heights = lines.flatMap((line) => line.filter((hit) => hit.own).map((hit) => hit.t)).sort((a, b) => a - b);
    const some = (list, count) => [0, ...Array.from({ length: count }, (_, k) => list[Math.floor(((k + 1) / count) * (list.length - 1))] ?? 0)];
    let best = 1;
    for (const out of some(
        heights.filter((x) => x > 0),
        40,
    )) {
        for (const inward of some(
            heights
                .filter((x) => x < 0)
                .map((x) => -x)
                .reverse(),
            12,
        )) {
            let bad = 0;
            for (const line of lines) {
                const first = line.find((hit) => hit.t <= out + 1e-9 * scene.d);
                const isClipped = line.some((hit) => hit.own && hit.t > out + 1e-9 * scene.d);
                if (isClipped || first === undefined || first.t < -inward - 1e-9 * scene.d || !first.own) bad++;
            }
            best = Math.min(best, bad / Math.max(1, lines.length));
        }
    }
    return shareOf(best * lines.length, Math.max(1, lines.length), 4);
}

/** Rays of one set at a reach; shares of its seen low area with their 95 % half-widths. */
function shoot(set) {
    const scene = set.recommended.out === null ? null : sceneOf(set);
    if (scene === null) return null;
    const { lows, d, highTree, size, total } = scene;
    const { out, in: inward } = set.recommended;
    const need = set.needed;
    const tally = { seen: 0, asked: 0, miss: 0, missAll: 0, wrong: 0, gap: 0, high: 0 };
    const met = { miss: 0, wrong: 0, gap: 0, high: 0 };
    // What is not seen costs 64 rays: of the first 2,000 of a kind all are asked, then one in eight stands for the eight.
    const count = (kind, x, y, z, f) => {
        const n = ++met[kind];
        const stands = n <= 2000 ? 1 : n % 8 === 0 ? 8 : 0;
        if (stands > 0 && isSeen(x, y, z, f)) tally[kind] += stands;
    };
    const each = RAYS / PASSES;
    const pass = (number) => {
        let [sum, t] = [size[0], 0];
        for (let k = 0; k < each; k++) {
            const at = ((k + random()) / each) * total;
            while (sum < at && t < size.length - 1) sum += size[++t];
            const place = placeOn(scene, t);
            const { x, y, z, n, l, f } = place;
            if (number === 0 && k % 12 === 0) {
                tally.asked++;
                tally.seen += isSeen(x, y, z, f) ? 1 : 0;
            }
            if (isAlong(place)) continue;
            const first = (from, to) => {
                ray.origin.set(x + from * n[0], y + from * n[1], z + from * n[2]);
                ray.direction.set(-n[0] / l, -n[1] / l, -n[2] / l);
                const hit = highTree.raycastFirst(ray, THREE.FrontSide, 0, (from + to) * l);
                return hit === null ? null : { t: from - hit.distance / l, face: hit.faceIndex };
            };
            const taken = first(out, inward);
            if (taken === null) {
                tally.missAll++;
                count('miss', x, y, z, f);
                continue;
            }
            // What is met first from further out, within what is needed, is met first from there.
            const atNeed = taken.t <= need.out + 1e-9 * d ? (taken.t >= -need.in - 1e-9 * d ? taken : null) : first(need.out + 1e-9 * d, need.in + 1e-9 * d);
            if (atNeed !== null && !belongs(scene, place, atNeed)) count('wrong', x, y, z, f);
            // What would be clipped: own surface met only outside of what is said to be needed.
            const beyond = atNeed === null ? first(need.out + 0.1 * d, -need.out - 2e-3 * d) : null;
            if (beyond !== null && belongs(scene, place, beyond)) count('high', x, y, z, f);
            if (Math.abs(taken.t) > 0.02 * d && !belongs(scene, place, taken)) {
                const near = highTree.closestPointToPoint(new THREE.Vector3(x, y, z), {}, 0, 0.02 * d);
                if (near === null) count('gap', x, y, z, f);
            }
        }
    };
    let rays = 0;
    let truth;
    for (let number = 0; number < PASSES; number++) {
        pass(number);
        rays += each;
        truth = (errors) => {
            const seen = tally.seen / tally.asked;
            const effective = Math.max(1, rays * seen);
            return {
                ...Object.fromEntries(
                    Object.entries({ miss: tally.miss, wrong: tally.wrong, gap: tally.gap, clipped: tally.high }).map(([kind, n]) => [
                        kind,
                        shareOf(n, seen > 0 ? effective : Infinity, errors),
                    ]),
                ),
                missAll: tally.missAll / rays,
                seen,
            };
        };
        if (isClear(truth(4))) break;
    }
    return { ...truth(3), rays, isOpen: isOpen(lows), best: spanClosed(set).length > 0 ? bestBySweep(scene) : null };
}

/** A share of all with as many standard errors, and a tenth for the share that is seen. */
function shareOf(n, all, errors) {
    const p = Math.min(1, n / all);
    return { p, e: errors * Math.sqrt((p * (1 - p)) / all + 1 / all ** 2) + 0.1 * p };
}

/** Whether nothing that is asked of a set would be answered otherwise by more rays. */
function isClear({ miss, wrong, gap, clipped }) {
    const isOff = ({ p, e }, ...limits) => limits.every((limit) => Math.abs(p - limit) > e);
    return isOff(miss, 0.0005, 0.005, 0.02) && isOff(wrong, 0.0005, 0.005, 0.02) && isOff(gap, 0.01, 1) && isOff(clipped, 0.001);
}

/** Shares of each low part's seen area from which rays run within 3° of the surface. */
function grazing(set) {
    const out = {};
    for (const part of pair.low.filter((one) => set.low.includes(one.name))) {
        const s = surface([part]);
        const dirs = directions([part]);
        const size = sizesOf(s);
        const total = size.reduce((sum, one) => sum + one, 0);
        const rays = 40_000;
        let [seenAlong, asked, seen] = [0, 0, 0];
        // How much is seen matters where rays run along the surface at all.
        for (const every of [200, 20]) {
            let [sum, t, along] = [size[0], 0, 0];
            [seenAlong, asked, seen] = [0, 0, 0];
            for (let k = 0; k < rays; k++) {
                const at = ((k + random()) / rays) * total;
                while (sum < at && t < size.length - 1) sum += size[++t];
                const place = placeOn({ s, dirs }, t);
                const runsAlong = isAlong(place);
                const isAsked = k % every === 0;
                if (!runsAlong && !isAsked) continue;
                const { x, y, z, f } = place;
                const visible = isSeen(x, y, z, f);
                along += runsAlong ? 1 : 0;
                if (runsAlong) seenAlong += visible ? 1 : 0;
                if (isAsked) {
                    asked++;
                    seen += visible ? 1 : 0;
                }
            }
            if (along === 0) break;
        }
        const all = Math.max(1, (rays * seen) / Math.max(1, asked));
        out[part.name] = shareOf(seenAlong, all, 3);
    }
    return out;
}

/** Whether a finding must be there, may be, or must not, by a share against its limits. */
function verdict({ p, e }, blocker, caution) {
    if (p - e > blocker) return 'blocker';
    if (p + e <= caution) return 'none';
    if (p - e > caution && p + e < blocker) return 'caution';
    return 'any';
}

const wrongly = [];
const missed = [];
let judged = 0;
const given = report.findings.filter((finding) => finding.severity !== 'note');
const told = (code, set) => given.filter((finding) => finding.code === code && (set === undefined || finding.subject.set === set));
const shares = {};
for (const set of report.sets) {
    const truth = met(set);
    if (truth === null) continue;
    shares[set.name] = { miss: truth.miss.p, wrong: truth.wrong.p, gap: truth.gap.p, clipped: truth.clipped.p };
    const hold = (code, want, alternatives = []) => {
        judged++;
        const own = told(code, set.name);
        const other = alternatives.flatMap((one) => told(one, set.name));
        if ((want === 'blocker' || want === 'caution') && own.length + other.length === 0) missed.push({ code, set: set.name, want, truth });
        if (want === 'none' && own.length > 0) wrongly.push({ code, set: set.name, truth, message: own[0].message });
        if (want === 'caution' && own.some((finding) => finding.severity === 'blocker')) wrongly.push({ code, set: set.name, truth, message: own[0].message });
    };
    // An open low tells its misses as a margin where they join its border.
    hold('ray-miss', truth.isOpen && verdict(truth.miss, 0.005, 0.0005) !== 'none' ? 'any' : verdict(truth.miss, 0.005, 0.0005), ['low-margin', 'floater-unbacked']);
    if (
        truth.isOpen &&
        truth.miss.p - truth.miss.e > 0.02 &&
        told('ray-miss', set.name).length + told('low-margin', set.name).length + report.findings.filter((f) => f.code === 'low-margin' && f.subject.set === set.name).length === 0
    )
        missed.push({ code: 'ray-miss or low-margin', set: set.name, truth });
    // A rounding may belong where the nearest low face alone says it does not: such sets are not blamed on the judge's own stricter rule.
    const wrong = verdict(truth.wrong, 0.005, 0.0005);
    hold('span-closed', wrong === 'none' ? 'none' : 'any');
    if (truth.wrong.p - truth.wrong.e > 0.02 && told('span-closed', set.name).length === 0) missed.push({ code: 'span-closed', set: set.name, truth });
    for (const finding of truth.best === null ? [] : spanClosed(set)) {
        judged++;
        if (finding.measure.value > truth.best.p + truth.best.e + 0.0005) wrongly.push({ code: 'span-closed', set: set.name, truth: truth.best, message: finding.message });
    }
    for (const [part, share] of Object.entries(truth.grazing)) {
        judged++;
        const want = verdict(share, 0.01, 0.001);
        const own = told('ray-grazing', set.name).filter((finding) => finding.subject.part === part);
        if ((want === 'blocker' || want === 'caution') && own.length === 0) missed.push({ code: 'ray-grazing', part, truth: share });
        if ((want === 'none' && own.length > 0) || (want === 'caution' && own.some((finding) => finding.severity === 'blocker')))
            wrongly.push({ code: 'ray-grazing', part, truth: share, message: own[0].message });
    }
    hold('surface-gap', verdict(truth.gap, 1, 0.01) === 'caution' ? 'any' : verdict(truth.gap, 1, 0.01));
    judged++;
    if (truth.clipped.p - truth.clipped.e > 0.001) missed.push({ code: 'needed reach', set: set.name, truth });
}
// What a mesh is by itself.
const byName = new Map([...pair.low, ...pair.high].map((part) => [part.name, part]));
for (const finding of given) {
    const part = byName.get(finding.subject.part);
    if (finding.code === 'mesh-nonmanifold') {
        judged++;
        if (!edges(part).some((n) => n > 2) && !fans(part)) wrongly.push({ code: finding.code, part: part.name, message: finding.message });
    } else if (finding.code === 'mesh-flipped') {
        judged++;
        if (!disagrees(part)) wrongly.push({ code: finding.code, part: part.name, message: finding.message });
    } else if (finding.code === 'low-margin') {
        judged++;
        if (!isOpen([part])) wrongly.push({ code: finding.code, part: part.name, message: finding.message });
    } else if (finding.code === 'rim-wave') {
        judged++;
        const set = report.sets.find((one) => one.low.includes(part.name));
        const { d, highTree } = sceneOf(set);
        const swings = swingsOf(part, welded(part), highTree, d, (t, size) => (size * Math.sqrt(uvAreaOf(part, t) / (Math.hypot(...normalOf(part.positions, part.indices, 3 * t)) / 2))));
        if (!swings.some((swing) => Math.abs(swing - finding.measure.value) < 0.15 * finding.measure.value))
            wrongly.push({ code: finding.code, part: part.name, message: finding.message, truth: { most: Math.max(0, ...swings) } });
    } else if (SURFACE.includes(finding.code)) {
        const truth = surfaceTruth(pair, finding);
        judged += truth === null ? 0 : 1;
        if (truth === false) wrongly.push({ code: finding.code, subject: finding.subject, message: finding.message });
    } else if (!['ray-miss', 'span-closed', 'surface-gap', 'ray-grazing'].includes(finding.code)) {
        // Low and high come from one model, in one place, by one name: nothing else is true of them, unless the recipe says so.
        judged++;
        if (!(process.env.ANVIL_MAY ?? '').split(',').includes(finding.code)) wrongly.push({ code: finding.code, subject: finding.subject, message: finding.message });
    }
}
// Which parts lie on each other, all of them, and how many the cause says they are.
const choices = join(dirname(meshes), 'choices.json');
const shared = existsSync(choices) ? (JSON.parse(readFileSync(choices, 'utf8')).mirrored ?? []).map((pattern) => new RegExp(`^${pattern.replaceAll('*', '.*')}$`)) : [];
const pairsOf = overlapping(pair, (name) => shared.some((pattern) => pattern.test(name.replace(/_low$/, ''))));
for (const [one, two] of pairsOf) {
    judged++;
    const names = [one, two].sort().join();
    if (!told('uv-overlap').some(({ subject }) => [subject.part, subject.other ?? subject.part].sort().join() === names)) missed.push({ code: 'uv-overlap', part: one, truth: { other: two } });
}
const many = told('uv-overlap').filter((finding) => finding.measure.value < 0.001).length === 0 && new Set(pairsOf.flat()).size;
const counts = report.causes.filter((cause) => cause.code === 'uv-overlap').map((cause) => /^([\d,]+) parts/.exec(cause.message));
if (many && counts.length === 1 && counts[0] !== null) {
    judged++;
    if (Number(counts[0][1].replaceAll(',', '')) !== many) wrongly.push({ code: 'uv-overlap', truth: { parts: many }, message: counts[0].input });
}
for (const part of pair.low) {
    judged++;
    if (edges(part).some((n) => n > 2) && !given.some((finding) => finding.code === 'mesh-nonmanifold' && finding.subject.part === part.name))
        missed.push({ code: 'mesh-nonmanifold', part: part.name });
}

/** Whether two faces run along one edge the same way. */
function disagrees(part) {
    const weld = welded(part);
    const seen = new Set();
    for (let i = 0; i < part.indices.length; i++) {
        const key = `${weld[part.indices[i]]} ${weld[part.indices[i - (i % 3) + ((i + 1) % 3)]]}`;
        if (seen.has(key)) return true;
        seen.add(key);
    }
    return false;
}

/** Whether faces meet in a vertex without sharing an edge there. */
function fans(part) {
    const weld = welded(part);
    const faces = Array.from(weld, () => []);
    for (let i = 0; i < part.indices.length; i++) faces[weld[part.indices[i]]].push(i - (i % 3));
    return faces.some((list, v) => {
        if (list.length < 2) return false;
        const reached = new Set([list[0]]);
        const queue = [list[0]];
        const rim = (t) => [0, 1, 2].map((k) => weld[part.indices[t + k]]).filter((u) => u !== v);
        for (const t of queue) {
            for (const u of list) {
                if (!reached.has(u) && rim(t).some((one) => rim(u).includes(one))) {
                    reached.add(u);
                    queue.push(u);
                }
            }
        }
        return reached.size < list.length;
    });
}

console.log(JSON.stringify({ judged, false: wrongly, missed, shares }));
