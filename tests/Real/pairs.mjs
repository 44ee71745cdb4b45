/*
 * The real pairs: recipes that make low and high from open models, and the faults that are put into some of them.
 *
 * A pair is {low: [parts], high: [parts], endings: [low, high], standard?, choices?}. Names carry the role. A high poly is a subdivision with
 * creases or the model as it is; a low poly the model as it is, decimated and unwrapped, or meshed coarsely by the CAD kernel.
 */
import * as M from './mesh.mjs';
import * as S from './models.mjs';
import { role, shadeAll, subdivided, lowOf, strand, scatter, leaf, cadPair, change, turned, about } from './shapes.mjs';

export const pairs = {
    /** An animal in five parts. */
    async spider() {
        const parts = S.fromObj(`${S.ASSIMP}/OBJ/spider.obj`).sort((a, b) => b.indices.length - a.indices.length).slice(0, 5);
        const low = parts.map((part) => M.weld(part));
        return { low: shadeAll(role(await M.unwrap(low), 'low'), 60), high: shadeAll(role(subdivided(parts, 2, 50), 'high'), 60), endings: ['obj', 'obj'] };
    },
    /** A mechanism: its four largest parts as they are; decimated to a quarter. */
    async engine() {
        const parts = (await S.fromGlb(`${S.ASSIMP}/glTF2/2CylinderEngine-glTF-Binary/2CylinderEngine.glb`)).map(M.weld).sort((a, b) => b.indices.length - a.indices.length).slice(0, 4);
        return { low: shadeAll(role(await lowOf(parts, 0.25, 0.01), 'low'), 60), high: shadeAll(role(parts, 'high'), 30), endings: ['glb', 'glb'] };
    },
    /** One organic part, one and one. */
    async trooper() {
        const parts = S.fromPly(`${S.ASSIMP}/PLY/Wuson.ply`, 'trooper').map(M.weld);
        return { low: shadeAll(role(await lowOf(parts, 0.7, 0.02), 'low'), 180), high: shadeAll(role(subdivided(parts, 2, 180), 'high'), 180), endings: ['glb', 'ply'] };
    },
    async bunny() {
        const high = subdivided([S.bunny()], 2, 180);
        return { low: shadeAll(role(await lowOf(high, 0.08, 0.03), 'low'), 180), high: shadeAll(role(high, 'high'), 180), endings: ['obj', 'obj'] };
    },
    /** Over a million triangles on the high side. */
    async statue() {
        const crest = M.moved(M.scaled(M.weld(S.fromPly(`${S.ASSIMP}/PLY/Wuson.ply`, 'crest')[0]), 2), [0, 30, 0]);
        let high = [...subdivided([{ ...S.bunny(), name: 'statue' }], 2, 180), ...subdivided([crest], 1, 180)];
        const low = await lowOf(high, 0.2, 0.01);
        high = [...subdivided([high[0]], 2, 180), ...subdivided([high[1]], 1, 180)];
        return { low: shadeAll(role(low, 'low'), 180), high: shadeAll(role(high, 'high'), 180), endings: ['glb', 'glb'] };
    },
    /** A hand-held device of six parts with its own UVs, subdivided with creases. */
    async controller() {
        const parts = await S.controller('generic-trigger-squeeze-thumbstick', 'none');
        return { low: shadeAll(role(parts, 'low'), 60), high: shadeAll(role(subdivided(parts, 2, 50), 'high'), 60), endings: ['glb', 'glb'] };
    },
    /** Three parts of the same kind, subdivided first; the low is decimated from that. */
    async device() {
        const parts = subdivided((await S.controller('generic-trigger-squeeze', 'left')).sort((a, b) => b.indices.length - a.indices.length).slice(0, 3), 1, 50);
        return { low: shadeAll(role(await lowOf(parts, 0.2, 0.01), 'low'), 60), high: shadeAll(role(subdivided(parts, 1, 50), 'high'), 60), endings: ['gltf', 'obj'] };
    },
    async hand() {
        const parts = await S.controller('generic-hand', 'left');
        return { low: shadeAll(role(parts, 'low'), 180), high: shadeAll(role(subdivided(parts, 2, 180), 'high'), 180), endings: ['dae', 'dae'] };
    },
    /** One solid with fillets, meshed sharp and round. */
    async bracket() {
        const [low, high] = await cadPair((cad) => {
            const make = () => cad.makeBaseBox(60, 40, 8).fuse(cad.makeBaseBox(8, 40, 30).translate([-26, 0, 4])).cut(cad.makeCylinder(6, 20, [14, 0, -4], [0, 0, 1]));
            return [['bracket', make(), make().fillet(1, (e) => e.ofCurveType('LINE'))]];
        });
        return { low: shadeAll(role(low, 'low'), 40), high: shadeAll(role(high, 'high'), 30), endings: ['usda', 'usda'] };
    },
    /** Thin covers: a shelled body and its lid, a pipe and three bolts. */
    async casing() {
        const [low, high] = await cadPair((cad) => {
            const rounded = (shape, r) => shape.fillet(r);
            const out = [];
            const body = () => cad.makeBaseBox(80, 60, 30).shell(2.5, (f) => f.inPlane('XY', 30));
            out.push(['body', body(), rounded(body(), 0.8)]);
            const lid = () => cad.makeBaseBox(80, 60, 3).translate([0, 0, 36]);
            out.push(['lid', lid(), rounded(lid(), 0.8)]);
            const pipe = () => cad.makeCylinder(6, 30, [60, 0, 15], [1, 0, 0]).cut(cad.makeCylinder(4.5, 30, [60, 0, 15], [1, 0, 0]));
            out.push(['pipe', pipe(), rounded(pipe(), 0.5)]);
            for (let i = 0; i < 3; i++) {
                const bolt = () => cad.makeCylinder(2.5, 3, [-22 + 22 * i, -22, 46], [0, 0, 1]);
                out.push([`bolt_${String.fromCharCode(97 + i)}`, bolt(), rounded(bolt(), 0.5)]);
            }
            return out;
        });
        return { low: shadeAll(role(low, 'low'), 40), high: shadeAll(role(high, 'high'), 30), endings: ['glb', 'obj'] };
    },
    /** Foliage: 48 leaves on their cards, wider than they are. */
    async foliage() {
        const leaves = scatter(S.bunny(), 48).map(([place, n]) => leaf(place, n, 1.5, 24));
        const cards = M.join('foliage', leaves.map(([, card]) => card));
        const low = (await M.unwrap([cards])).map((part) => ({ ...part, cut: true }));
        return { low: shadeAll(role(low, 'low'), 180), high: shadeAll(role([M.join('foliage', leaves.map(([one]) => one))], 'high'), 180), endings: ['glb', 'glb'] };
    },
    /** Hair: 120 strands in a tuft, tubes on tubes. */
    async hair() {
        const at = (k, sides, rows) => {
            const [place, n] = roots[k];
            const spine = Array.from({ length: rows + 1 }, (_, i) => {
                const t = i / rows;
                return [0, 1, 2].map((c) => place[c] + 2.2 * t * n[c] + (c === 1 ? -0.9 * t * t : 0) + (c === 0 ? 0.1 * Math.sin(7 * k + 3 * t) : 0));
            });
            return strand('hair', spine, 0.07, sides);
        };
        const roots = scatter(S.bunny(), 120);
        const low = M.join('hair', roots.map((_, k) => at(k, 6, 8)));
        const high = M.join('hair', roots.map((_, k) => at(k, 16, 32)));
        return { low: shadeAll(role(await M.unwrap([low]), 'low'), 180), high: shadeAll(role([high], 'high'), 180), endings: ['obj', 'stl'] };
    },
    /** The seven largest named parts of one scene, many of them plain. */
    async scene() {
        const parts = S.fromObj(`${S.ASSIMP}/OBJ/regr01.obj`).map(M.weld).filter((part) => part.indices.length >= 36).sort((a, b) => b.indices.length - a.indices.length).slice(0, 7);
        return { low: shadeAll(role(await M.unwrap(parts), 'low'), 60), high: shadeAll(role(subdivided(parts, 1, 40), 'high'), 40), endings: ['obj', 'glb'] };
    },
    /** A head of the trooper's kind with large features: decimated hard, baked as one part. */
    async relief() {
        const parts = subdivided(S.fromPly(`${S.ASSIMP}/PLY/Wuson.ply`, 'relief'), 1, 60);
        return { low: shadeAll(role(await lowOf(parts, 0.1, 0.02), 'low'), 60), high: shadeAll(role(parts, 'high'), 60), endings: ['dae', 'glb'] };
    },
};


/** The walls of this scene overlap one another, so that a part of one does lie hidden under another: no recipe can say it does not. */
pairs.scene.may = ['high-covers-detail'];

/** Faults: which pair, what is done, which finding must come, and on what; `standard` is that of both runs. */
export const faults = [
    { pair: 'controller', name: 'shift', code: 'off-alignment', severity: 'caution', part: 'trigger_low', make: (pair) => ({ ...pair, high: change(pair.high, 'trigger_high', (part) => M.moved(part, [0.003 * about([part]).diagonal, 0, 0])) }) },
    { pair: 'controller', name: 'hundred', code: 'unit-mismatch', severity: 'blocker', make: (pair) => ({ ...pair, high: pair.high.map((part) => M.scaled(part, 100)) }) },
    { pair: 'controller', name: 'inverted', code: 'normals-inverted', severity: 'blocker', part: 'body_low', make: (pair) => ({ ...pair, low: change(pair.low, 'body_low', (part) => ({ ...part, cornerNormals: part.cornerNormals.map((x) => -x) })) }) },
    { pair: 'casing', name: 'case', code: 'name-case', severity: 'blocker', part: 'lid_low', make: (pair) => ({ ...pair, high: pair.high.map((part) => (part.name === 'lid_high' ? { ...part, name: 'Lid_high' } : part)) }) },
    { pair: 'casing', name: 'gone', code: 'pair-no-high', severity: 'blocker', part: 'pipe_low', make: (pair) => ({ ...pair, high: pair.high.filter((part) => part.name !== 'pipe_high') }) },
    { pair: 'casing', name: 'flipped', code: 'mesh-flipped', severity: 'blocker', part: 'lid_low', make: (pair) => ({ ...pair, low: change(pair.low, 'lid_low', (part) => M.shade(M.flipped(part), 40)) }) },
    { pair: 'casing', name: 'neighbours', code: 'sets-bleed', severity: 'blocker', standard: { rays: { setsKeptApart: false }, reach: { '*': { out: 5, in: 2 } } }, make: (pair) => ({ ...pair, ...Object.fromEntries(['low', 'high'].map((side) => [side, change(pair[side], `lid_${side}`, (part) => M.moved(part, [0, 0, -5.9]))])) }) },
    { pair: 'bracket', name: 'axis', code: 'axis-mismatch', severity: 'blocker', make: (pair) => ({ ...pair, high: pair.high.map((part) => M.shade(turned(part), 30)) }) },
    { pair: 'bracket', name: 'unwrapped', code: 'uv-missing', severity: 'blocker', part: 'bracket_low', make: (pair) => ({ ...pair, low: pair.low.map((part) => ({ ...part, uvs: undefined })) }) },
    { pair: 'bunny', name: 'shift', code: 'off-alignment', severity: 'caution', part: 'bunny_low', make: (pair) => ({ ...pair, high: pair.high.map((part) => M.moved(part, [0.003 * about(pair.low).diagonal, 0, 0])) }) },
];
