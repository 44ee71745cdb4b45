/*
 * The real pairs: recipes that make low and high from open models, and the faults that are put into some of them.
 *
 * A pair is {low: [parts], high: [parts], endings: [low, high], standard?, choices?}. Names carry the role. A high poly is a subdivision with
 * creases or the model as it is; a low poly the model as it is, decimated and unwrapped, or meshed coarsely by the CAD kernel.
 */
import * as M from './mesh.mjs';
import * as S from './models.mjs';
import { role, shadeAll, subdivided, lowOf, strand, scatter, leaf, cadPair, change, turned, about, tube, box, sheet, mirrored, painted } from './shapes.mjs';

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
    /** Foliage in eight parts, a masked card each. */
    async fern() {
        const leaves = scatter(S.bunny(), 8).map(([place, n]) => leaf(place, n, 2, 20));
        const named = (side) => leaves.map((one, i) => ({ ...one[side], name: `frond_${String.fromCharCode(97 + i)}` }));
        const low = (await M.unwrap(named(1))).map((part) => ({ ...part, cut: true }));
        return { low: shadeAll(role(low, 'low'), 180), high: shadeAll(role(named(0), 'high'), 180), endings: ['glb', 'glb'] };
    },
    /** The same kind in one part, and nothing says that it is masked. */
    async hedge() {
        const leaves = scatter(S.bunny(), 10).map(([place, n]) => leaf(place, n, 2, 20));
        const low = await M.unwrap([M.join('hedge', leaves.map(([, card]) => card))]);
        return { low: shadeAll(role(low, 'low'), 180), high: shadeAll(role([M.join('hedge', leaves.map(([one]) => one))], 'high'), 180), endings: ['obj', 'obj'] };
    },
    /** Hair: 70 strands over seven masked lock cards. */
    async locks() {
        const at = (k, t, across) => {
            const a = 0.35 * (k - 3);
            return [4 * Math.sin(a) + 0.9 * across * Math.cos(a), 3 * (1 - t) - 1.2 * t * t, 4 * Math.cos(a) - 0.9 * across * Math.sin(a) + 0.8 * Math.sin(1.5 * t)];
        };
        const cards = Array.from({ length: 7 }, (_, k) => sheet('locks', 6, (x, y) => at(k, y, x - 0.5)));
        const strands = Array.from({ length: 70 }, (_, i) => {
            const [k, n] = [Math.floor(i / 10), i % 10];
            const spine = Array.from({ length: 25 }, (_, j) => at(k, j / 24, (n - 4.5) / 11 + 0.01 * Math.sin(5 * n + (7 * j) / 24)));
            return tube('locks', spine, (t) => 0.035 * (1 - 0.8 * t), 8);
        });
        const low = (await M.unwrap([M.join('locks', cards)])).map((part) => ({ ...part, cut: true }));
        return { low: shadeAll(role(low, 'low'), 180), high: shadeAll(role([M.join('locks', strands)], 'high'), 180), endings: ['glb', 'glb'] };
    },
    /** A scan with its photographed colors, in three formats. */
    async scan() {
        const high = subdivided([{ ...S.bunny(), name: 'scan' }], 1, 180);
        return { low: shadeAll(role(await lowOf(high, 0.2, 0.02), 'low'), 180), high: shadeAll(role(high.map(painted), 'high'), 180), endings: ['glb', 'ply'] };
    },
    async scanned() {
        const high = subdivided([M.scaled({ ...S.bunny(), name: 'stone' }, 0.4)], 1, 180);
        return { low: shadeAll(role(await lowOf(high, 0.2, 0.02), 'low'), 180), high: shadeAll(role(high.map(painted), 'high'), 180), endings: ['obj', 'obj'] };
    },
    async shaded() {
        const high = subdivided([M.scaled({ ...S.bunny(), name: 'cliff' }, 25)], 1, 180);
        return { low: shadeAll(role(await lowOf(high, 0.2, 0.02), 'low'), 180), high: shadeAll(role(high.map(painted), 'high'), 180), endings: ['glb', 'glb'] };
    },
    /** Four wheels, two of them the mirror of the others, on one place of the page, as the choices say. */
    async cart() {
        const [[bodyLow, wheelLow], [bodyHigh, wheelHigh]] = await cadPair((cad) => {
            const body = () => cad.makeBaseBox(60, 120, 20);
            const wheel = () => cad.makeCylinder(14, 8, [38, 0, 0], [1, 0, 0]);
            return [['body', body(), body().fillet(2)], ['wheel', wheel(), wheel().fillet(1)]];
        });
        const four = (wheel) => ['fr', 'rr', 'fl', 'rl'].map((place, i) => ({ ...M.moved(i < 2 ? wheel : mirrored(wheel), [0, i % 2 ? -40 : 40, 0]), name: `wheel_${place}` }));
        return { low: shadeAll(role([bodyLow, ...four(wheelLow)], 'low'), 40), high: shadeAll(role([bodyHigh, ...four(wheelHigh)], 'high'), 30), endings: ['obj', 'obj'], choices: { mirrored: ['wheel_*'] } };
    },
    /** The same cart, of which nobody said that its wheels share their place. */
    async rover() {
        return { ...(await pairs.cart()), choices: undefined };
    },
    /** Six panels on three strips of one page, two on each. */
    async trim() {
        const [one] = await M.unwrap([box('panel', [0, 0, 0], [2, 3, 0.4])]);
        const at = (panel) => Array.from({ length: 6 }, (_, i) => ({ ...M.moved(panel, [2.4 * i, 0, 0]), name: `panel_${String.fromCharCode(97 + i)}` }));
        const low = at(one).map((panel, i) => ({ ...panel, uvs: panel.uvs.map((x, k) => (k % 2 === 1 ? (x + (i % 3)) / 3 : x)) }));
        return { low: shadeAll(role(low, 'low'), 40), high: shadeAll(role(at(subdivided([box('panel', [0, 0, 0], [2, 3, 0.4])], 2, 60)[0]), 'high'), 40), endings: ['glb', 'glb'] };
    },
    /** 120 screws of one shape in a plate, in one part. */
    async screws() {
        const cad = await S.cad();
        const plate = () => cad.makeBaseBox(130, 110, 4);
        const head = () => cad.makeCylinder(3, 3, [0, 0, 3.5], [0, 0, 1]);
        const low = [S.solid('plate', plate(), 0.4, 0.6), S.solid('head', head(), 0.4, 0.6)];
        const high = [S.solid('plate', plate().fillet(0.6), 0.1, 0.4), S.solid('head', head().fillet(0.6), 0.06, 0.4)];
        const all = ([plate, head]) => M.join('screws', [plate, ...Array.from({ length: 120 }, (_, i) => M.moved(head, [10 * (i % 12) - 55, 10 * Math.floor(i / 12) - 45, 0]))]);
        return { low: shadeAll(role(await M.unwrap([M.weld(all(low))]), 'low'), 40), high: shadeAll(role([all(high)], 'high'), 30), endings: ['glb', 'glb'] };
    },
    /** Six parts, each on a tile of its own. */
    async tiled() {
        const parts = await S.controller('generic-trigger-squeeze-thumbstick', 'none');
        const low = [];
        for (const [i, part] of parts.entries()) {
            const [one] = await M.unwrap([M.weld(part)]);
            low.push({ ...one, uvs: one.uvs.map((x, k) => (k % 2 === 0 ? x + i : x)) });
        }
        return { low: shadeAll(role(low, 'low'), 60), high: shadeAll(role(subdivided(parts, 2, 50), 'high'), 60), endings: ['glb', 'glb'], standard: { pages: 'udim' } };
    },
    /** Four beams welded at their corners, where faces look against each other. */
    async frame() {
        const beams = [box('frame', [0, 0, 0], [10, 1, 1]), box('frame', [0, 9, 0], [10, 10, 1]), box('frame', [0, 1, 0], [1, 9, 1]), box('frame', [9, 1, 0], [10, 9, 1])];
        const low = await M.unwrap([M.weld(M.join('frame', beams))]);
        return { low: shadeAll(role(low, 'low'), 40), high: shadeAll(role([M.join('frame', subdivided(beams, 2, 60))], 'high'), 40), endings: ['glb', 'glb'] };
    },
    /** A wrinkled sheet over one of a few hundred squares. */
    async cape() {
        const drape = (x, y) => 0.9 * Math.sin(2.6 * x + 0.7 * y) + 0.4 * Math.cos(3.1 * y - x);
        const wrinkles = (x, y) => 0.03 * Math.sin(31 * x + 9 * Math.sin(4 * y)) + 0.015 * Math.sin(47 * y + 13 * x);
        const low = await M.unwrap([sheet('cape', 28, (x, y) => [4 * x, drape(x, y), 4 * y])]);
        return { low: shadeAll(role(low, 'low'), 180), high: shadeAll(role([sheet('cape', 224, (x, y) => [4 * x, drape(x, y) + wrinkles(x, y), 4 * y])], 'high'), 180), endings: ['glb', 'obj'] };
    },
    /** A braided rope in three turns round a post. */
    async rope() {
        const [[postLow], [postHigh]] = await cadPair((cad) => [['post', cad.makeCylinder(10, 40, [0, 0, 0], [0, 0, 1]), cad.makeCylinder(10, 40, [0, 0, 0], [0, 0, 1]).fillet(1)]]);
        const spine = (steps) => Array.from({ length: steps + 1 }, (_, i) => [12.6 * Math.cos((6 * Math.PI * i) / steps), 12.6 * Math.sin((6 * Math.PI * i) / steps), 6 + (28 * i) / steps]);
        const [ropeLow] = await M.unwrap([tube('rope', spine(96), () => 2, 10)]);
        const ropeHigh = tube('rope', spine(480), (t, a) => 2 + 0.12 * Math.cos(3 * a + 180 * t), 36);
        return { low: shadeAll(role([postLow, ropeLow], 'low'), 40), high: shadeAll(role([postHigh, ropeHigh], 'high'), 50), endings: ['obj', 'glb'] };
    },
    /** A walker of thin plates. */
    async walker() {
        const [low, high] = await cadPair((cad) => {
            const plate = (name, x, y, z, at) => {
                const make = () => cad.makeBaseBox(x, y, z).translate(at);
                return [name, make(), make().fillet(0.25)];
            };
            return [
                plate('hull', 50, 30, 1.2, [0, 0, 40]), plate('deck', 46, 26, 1.0, [0, 0, 44]),
                ...[[-22, -13], [22, -13], [-22, 13], [22, 13]].map(([x, y], i) => plate(`leg_${String.fromCharCode(97 + i)}`, 1.2, 6, 36, [x, y, 2])),
            ];
        });
        return { low: shadeAll(role(low, 'low'), 40), high: shadeAll(role(high, 'high'), 30), endings: ['usda', 'usda'] };
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
    { pair: 'cape', name: 'shift', code: 'off-alignment', severity: 'caution', part: 'cape_low', make: (pair) => ({ ...pair, high: pair.high.map((part) => M.moved(part, [0.003 * about(pair.low).diagonal, 0, 0])) }) },
    { pair: 'cape', name: 'further', code: 'off-alignment', severity: 'blocker', part: 'cape_low', make: (pair) => ({ ...pair, high: pair.high.map((part) => M.moved(part, [0.006 * about(pair.low).diagonal, 0, 0])) }) },
];
