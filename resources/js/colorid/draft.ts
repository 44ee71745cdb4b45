import type { IdSheet, SheetId } from '../api/client';

/** An ID as it is sent: its color is found anew where it has none. */
export interface DraftId {
    name: string;
    hex: string | null;
    pinned: boolean;
    pieces: string[];
}

export interface Draft {
    ids: DraftId[];
    allEyes: boolean;
    pins: Record<string, string>;
}

export const draftOf = (sheet: Pick<IdSheet, 'ids' | 'allEyes' | 'pins'>): Draft => ({
    ids: sheet.ids.map(({ name, hex, pinned, pieces }) => ({ name, hex, pinned, pieces })),
    allEyes: sheet.allEyes,
    pins: sheet.pins,
});

/** A name that no other ID has. */
export function free(wanted: string, taken: ReadonlySet<string>): string {
    let name = wanted;
    for (let k = 2; taken.has(name); k += 1) {
        name = `${wanted}-${k}`;
    }
    return name;
}

/** The IDs less some pieces; those that have none left are gone. */
function without(ids: DraftId[], pieces: ReadonlySet<string>): DraftId[] {
    return ids.map((id) => ({ ...id, pieces: id.pieces.filter((piece) => !pieces.has(piece)) })).filter((id) => id.pieces.length > 0);
}

/** These pieces under one ID: that of the first, with its name and color. */
export function merged(draft: Draft, pieces: ReadonlySet<string>): Draft {
    const first = draft.ids.find((id) => id.pieces.some((piece) => pieces.has(piece)));
    if (!first) {
        return draft;
    }
    const rest = without(draft.ids, pieces);
    // Where some of its pieces stay behind, they keep the ID, and these get a new one.
    const stays = rest.some((id) => id.name === first.name);
    const taken = new Set(rest.map((id) => id.name));
    const one: DraftId = { name: free(first.name, taken), hex: stays ? null : first.hex, pinned: !stays && first.pinned, pieces: [...pieces] };
    const at = draft.ids.indexOf(first);
    return { ...draft, ids: [...rest.slice(0, at), one, ...rest.slice(at)] };
}

/** An ID for each of these pieces; a piece that is alone already keeps its own. */
export function split(draft: Draft, pieces: ReadonlySet<string>, nameOf: (piece: string) => string): Draft {
    const alone = new Set(draft.ids.filter((id) => id.pieces.length === 1).flatMap((id) => id.pieces));
    const moved = [...pieces].filter((piece) => !alone.has(piece));
    if (moved.length === 0) {
        return draft;
    }
    const ids = without(draft.ids, new Set(moved));
    const taken = new Set(ids.map((id) => id.name));
    for (const piece of moved) {
        const name = free(nameOf(piece), taken);
        taken.add(name);
        ids.push({ name, hex: null, pinned: false, pieces: [piece] });
    }
    return { ...draft, ids };
}

/** One ID with something changed. */
export const changed = (draft: Draft, name: string, to: Partial<DraftId>): Draft => ({ ...draft, ids: draft.ids.map((id) => (id.name === name ? { ...id, ...to } : id)) });

export const isHex = (text: string): boolean => /^#[0-9a-f]{6}$/i.test(text);

/** Lines of `name #RRGGBB`, as they are typed. */
export const textOf = (pins: Record<string, string>): string =>
    Object.entries(pins)
        .map(([name, hex]) => `${name} ${hex}`)
        .join('\n');

/** What was typed, or the first line that says nothing. */
export function pinsOf(text: string): Record<string, string> | string {
    const out: Record<string, string> = {};
    for (const line of text.split('\n')) {
        const found = /^\s*(\S.*?)\s+(#[0-9a-f]{6})\s*$/i.exec(line);
        if (found?.[1] && found[2]) {
            out[found[1]] = found[2].toUpperCase();
        } else if (line.trim() !== '') {
            return line.trim();
        }
    }
    return out;
}

/** The IDs that have any of these pieces. */
export const idsOf = (ids: SheetId[], pieces: ReadonlySet<string>): SheetId[] => (pieces.size === 0 ? [] : ids.filter((id) => id.pieces.some((piece) => pieces.has(piece))));
