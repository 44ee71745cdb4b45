import type { At } from '../api/client';

export interface Lane {
    name: string;
    bases: string[];
}

export interface Board {
    lanes: Lane[];
    leftOut: string[];
    onItself: string[];
    detachable: string[];
    /** Who shades whom in the bake of occlusion; `shading` says it set by set where it is named. */
    occlusion: 'own' | 'all' | 'named';
    shading: { name: string; patterns: string[] }[];
}

export const boardOf = (delivery: At<'sets'>): Board => ({
    lanes: delivery.sets.map((set) => ({ name: set.name, bases: set.bases })),
    leftOut: delivery.board.leftOut,
    onItself: delivery.board.bakedOnItself,
    detachable: delivery.board.detachable,
    occlusion: delivery.board.occlusion,
    shading: delivery.board.shading,
});

const isThere = (board: Board, set: string): boolean => board.lanes.some((lane) => lane.name === set && lane.bases.length > 0);

const tidy = (board: Board): Board => ({
    ...board,
    lanes: board.lanes.filter((lane) => lane.bases.length > 0),
    detachable: board.detachable.filter((name) => isThere(board, name)),
    shading: board.shading.filter(({ name }) => isThere(board, name)).map(({ name, patterns }) => ({ name, patterns: patterns.filter((other) => isThere(board, other)) })),
});

/** Bases into a set, which is made where there is none of that name; out of every other, and no longer left out. */
export function moved(board: Board, bases: string[], to: string): Board {
    const taken = new Set(bases);
    const lanes = board.lanes.map((lane) => ({ ...lane, bases: lane.bases.filter((base) => !taken.has(base)) }));
    const target = lanes.find((lane) => lane.name === to);
    if (target) {
        target.bases.push(...bases);
    } else {
        lanes.push({ name: to, bases: [...bases] });
    }
    return tidy({ ...board, lanes, leftOut: board.leftOut.filter((base) => !taken.has(base)) });
}

export function leftOut(board: Board, bases: string[]): Board {
    const taken = new Set(bases);
    return tidy({
        ...board,
        lanes: board.lanes.map((lane) => ({ ...lane, bases: lane.bases.filter((base) => !taken.has(base)) })),
        leftOut: [...board.leftOut.filter((base) => !taken.has(base)), ...bases],
    });
}

/** A board that somebody changed, on the parts that there are now: those that went are on it no more, those that came have the set that they have. */
export function rebased(board: Board, fresh: Board): Board {
    const there = new Set([...fresh.lanes.flatMap((lane) => lane.bases), ...fresh.leftOut]);
    const kept = (list: string[]): string[] => list.filter((base) => there.has(base));
    const lanes = board.lanes.map((lane) => ({ ...lane, bases: kept(lane.bases) }));
    const own = new Set([...lanes.flatMap((lane) => lane.bases), ...board.leftOut]);
    const base: Board = { ...board, lanes, leftOut: [...kept(board.leftOut), ...fresh.leftOut.filter((one) => !own.has(one))] };
    return tidy(
        fresh.lanes.reduce((all, lane) => {
            const came = lane.bases.filter((one) => !own.has(one));
            return came.length > 0 ? moved(all, came, lane.name) : all;
        }, base),
    );
}

export const merged = (board: Board, from: string, to: string): Board => moved(board, board.lanes.find((lane) => lane.name === from)?.bases ?? [], to);

/** Each base of a set a set of its own again. */
export const split = (board: Board, name: string): Board =>
    (board.lanes.find((lane) => lane.name === name)?.bases ?? []).reduce((all, base) => moved(all, [base], base), {
        ...board,
        lanes: board.lanes.map((lane) => (lane.name === name ? { ...lane, name: `${name} ` } : lane)),
    });

export const renamed = (board: Board, from: string, to: string): Board =>
    to === '' || board.lanes.some((lane) => lane.name === to)
        ? board
        : {
              ...board,
              lanes: board.lanes.map((lane) => (lane.name === from ? { ...lane, name: to } : lane)),
              detachable: board.detachable.map((name) => (name === from ? to : name)),
              shading: board.shading.map(({ name, patterns }) => ({ name: name === from ? to : name, patterns: patterns.map((other) => (other === from ? to : other)) })),
          };

const toggled = (list: string[], one: string): string[] => (list.includes(one) ? list.filter((other) => other !== one) : [...list, one]);
export const detached = (board: Board, name: string): Board => ({ ...board, detachable: toggled(board.detachable, name) });
export const selfBaked = (board: Board, bases: string[]): Board => bases.reduce((all, base) => ({ ...all, onItself: toggled(all.onItself, base) }), board);

/** Sets that may bake together, as one set each, whatever has been moved about since they were measured; a name that is taken goes to nobody else. */
export const grouped = (board: Board, groups: string[][], sets: { name: string; bases: string[] }[]): Board =>
    groups.reduce((all, group) => {
        const bases = group.flatMap((name) => sets.find((set) => set.name === name)?.bases ?? []).filter((base) => !all.leftOut.includes(base));
        let number = 1;
        while (all.lanes.some((lane) => lane.name === `together_${number}` && !lane.bases.every((base) => bases.includes(base)))) {
            number++;
        }
        return group.length < 2 ? all : moved(all, bases, `together_${number}`);
    }, board);

export const shadedBy = (board: Board, set: string, by: string): boolean =>
    board.occlusion === 'all' || (board.occlusion === 'named' && board.shading.some(({ name, patterns }) => name === set && patterns.includes(by)));

/** One set shades another, or no longer; from then on it is said set by set, beginning with what held until now for those that `stand` over it. */
export function shaded(board: Board, set: string, by: string, stand: { name: string; others: string[] }[]): Board {
    const named = board.occlusion === 'named' ? board.shading : board.occlusion === 'all' ? stand.map(({ name, others }) => ({ name, patterns: others })) : [];
    const own = named.find(({ name }) => name === set)?.patterns ?? [];
    const shading = [...named.filter(({ name }) => name !== set), { name: set, patterns: toggled(own, by) }].filter(({ patterns }) => patterns.length > 0);
    return { ...board, occlusion: shading.length > 0 ? 'named' : 'own', shading: shading.sort((a, b) => (a.name < b.name ? -1 : 1)) };
}

/** What the server keeps: sets that are more than a base under its own name. */
export const choicesOf = (
    board: Board,
): {
    sets: { name: string; patterns: string[] }[];
    leftOut: string[];
    bakedOnItself: string[];
    detachable: string[];
    occlusion: Board['occlusion'];
    shading: Board['shading'];
} => ({
    sets: board.lanes.filter((lane) => lane.bases.length !== 1 || lane.bases[0] !== lane.name).map((lane) => ({ name: lane.name.trim(), patterns: lane.bases })),
    leftOut: board.leftOut,
    bakedOnItself: board.onItself,
    detachable: board.detachable,
    occlusion: board.occlusion,
    // Sets that were merged or moved away since shade no more.
    shading:
        board.occlusion === 'named'
            ? board.shading
                  .map(({ name, patterns }) => ({ name, patterns: patterns.filter((other) => board.lanes.some((lane) => lane.name === other)) }))
                  .filter(({ name, patterns }) => patterns.length > 0 && board.lanes.some((lane) => lane.name === name))
            : [],
});

export const isSame = (a: Board, b: Board): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The bases that a pattern with `*` fits, letter for letter. */
export function fitting(board: Board, pattern: string): string[] {
    if (pattern === '') {
        return [];
    }
    const test = new RegExp(`^${pattern.replace(/[.+?^${}()|[\]\\]/g, '\\$&').replace(/\*/g, '.*')}$`);
    return board.lanes.flatMap((lane) => lane.bases).filter((base) => test.test(base));
}

/** One set a material of the low poly, of bases that wear just one; the rest stays as it is. */
export function byMaterial(board: Board, parts: { role: string | null; base: string; materials: string[] }[]): Board {
    const worn = new Map<string, Set<string>>();
    for (const part of parts) {
        if (part.role === 'low') {
            const own = worn.get(part.base) ?? new Set<string>();
            part.materials.forEach((material) => own.add(material));
            worn.set(part.base, own);
        }
    }
    const groups = new Map<string, string[]>();
    for (const lane of board.lanes) {
        // What bakes into the same surface stays together: a lane goes as its low parts go.
        const materials = new Set(lane.bases.flatMap((base) => [...(worn.get(base) ?? [])]));
        if (materials.size === 1) {
            const [material = ''] = materials;
            groups.set(material, [...(groups.get(material) ?? []), ...lane.bases]);
        }
    }
    return [...groups].reduce((all, [material, bases]) => moved(all, bases, material), board);
}
