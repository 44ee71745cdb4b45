import { describe, expect, it } from 'vitest';
import { byMaterial, choicesOf, fitting, detached, grouped, leftOut, merged, moved, rebased, renamed, selfBaked, shaded, shadedBy, split, type Board } from './board';

const board: Board = { lanes: ['drum', 'pawl', 'axle'].map((name) => ({ name, bases: [name] })), leftOut: [], onItself: [], detachable: [], occlusion: 'own', shading: [] };
const lanes = (one: Board): string[] => one.lanes.map((lane) => `${lane.name}: ${lane.bases.join(' ')}`);

describe('the board', () => {
    it('moves a base into another set, and an empty set goes', () => expect(lanes(moved(board, ['pawl'], 'drum'))).toEqual(['drum: drum pawl', 'axle: axle']));
    it('makes a set that is not there', () => expect(lanes(moved(board, ['pawl', 'axle'], 'works'))).toEqual(['drum: drum', 'works: pawl axle']));
    it('merges and splits back', () => {
        const one = merged(board, 'axle', 'drum');
        expect(lanes(one)).toEqual(['drum: drum axle', 'pawl: pawl']);
        expect(lanes(split(one, 'drum')).sort()).toEqual(['axle: axle', 'drum: drum', 'pawl: pawl']);
    });
    it('leaves out and takes back', () => {
        const out = leftOut(board, ['pawl']);
        expect([lanes(out).length, out.leftOut]).toEqual([2, ['pawl']]);
        expect(moved(out, ['pawl'], 'pawl').leftOut).toEqual([]);
    });
    it('says set by set who shades whom, beginning with what held', () => {
        const stand = [
            { name: 'drum', others: ['pawl', 'axle'] },
            { name: 'axle', others: ['drum'] },
        ];
        const one = shaded(board, 'drum', 'pawl', stand);
        expect([one.occlusion, one.shading]).toEqual(['named', [{ name: 'drum', patterns: ['pawl'] }]]);
        expect(shaded(one, 'drum', 'pawl', stand).occlusion).toBe('own');
        expect(choicesOf(one).shading).toEqual([{ name: 'drum', patterns: ['pawl'] }]);
        expect(choicesOf(moved(one, ['drum'], 'axle')).shading).toEqual([]);
        const less = shaded({ ...board, occlusion: 'all' }, 'drum', 'pawl', stand);
        expect([shadedBy(less, 'drum', 'pawl'), shadedBy(less, 'drum', 'axle'), shadedBy(less, 'axle', 'drum')]).toEqual([false, true, true]);
        expect(merged(less, 'axle', 'pawl').shading).toEqual([{ name: 'drum', patterns: [] }]);
    });
    it('takes no name twice', () => expect(renamed(board, 'drum', 'axle')).toBe(board));
    it('forgets a detachable set that is gone', () => expect(merged(detached(board, 'pawl'), 'pawl', 'drum').detachable).toEqual([]));
    it('takes groups as sets', () => expect(lanes(grouped(board, [['drum', 'axle'], ['pawl']], board.lanes))).toEqual(['pawl: pawl', 'together_1: drum axle']));

    it('takes one group, then all, without putting two of them together', () => {
        const four = { ...board, lanes: ['a', 'b', 'c', 'd'].map((name) => ({ name, bases: [name] })) };
        const one = grouped(four, [['c', 'd']], four.lanes);
        expect(lanes(one)).toEqual(['a: a', 'b: b', 'together_1: c d']);
        expect(
            lanes(
                grouped(
                    one,
                    [
                        ['a', 'b'],
                        ['c', 'd'],
                    ],
                    four.lanes,
                ),
            ),
        ).toEqual(['together_1: c d', 'together_2: a b']);
    });
    it('keeps what was moved when parts come and go under it', () => {
        const draft = detached(leftOut(moved(board, ['pawl'], 'works'), ['axle']), 'works');
        const fresh = { ...board, lanes: ['drum', 'pawl', 'hook'].map((name) => ({ name, bases: [name] })), leftOut: ['rope'] };
        const now = rebased(draft, fresh);
        expect([lanes(now), now.leftOut, now.detachable]).toEqual([['drum: drum', 'works: pawl', 'hook: hook'], ['rope'], ['works']]);
        expect(rebased(draft, board)).toEqual(draft);
    });
    it('keeps only what is not as the names say', () => {
        expect(choicesOf(board).sets).toEqual([]);
        expect(choicesOf(selfBaked(renamed(board, 'drum', 'barrel'), ['axle']))).toEqual({
            sets: [{ name: 'barrel', patterns: ['drum'] }],
            leftOut: [],
            bakedOnItself: ['axle'],
            detachable: [],
            occlusion: 'own',
            shading: [],
        });
    });
    it('holds what a pattern fits, with dots as dots', () => {
        expect(fitting(board, '*l')).toEqual(['pawl']);
        expect(fitting(board, 'a.le')).toEqual([]);
        expect(fitting(board, '')).toEqual([]);
    });
    it('makes a set a material', () => {
        const parts = [
            { role: 'low', base: 'drum', materials: ['steel'] },
            { role: 'low', base: 'axle', materials: ['steel'] },
            { role: 'low', base: 'pawl', materials: ['brass', 'steel'] },
            { role: 'high', base: 'axle', materials: ['paint'] },
        ];
        expect(lanes(byMaterial(board, parts))).toEqual(['pawl: pawl', 'steel: drum axle']);
    });
});
