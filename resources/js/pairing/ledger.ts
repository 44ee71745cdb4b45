import type { At, Rename, Tie } from '../api/client';

export type Planned = Rename & { reason: string };

export const keyOf = (row: { fileId: number; from: string }): string => `${row.fileId} ${row.from}`;

/** How sure a suggestion must be to stand in the plan from the start; the others wait in the ledger. */
const SURE = 0.75;

export function firstPlan(delivery: At<'pairing'>): Planned[] {
    return delivery.suggestions.filter((one) => one.confidence >= SURE).map((one) => ({ fileId: one.fileId, from: one.part, to: one.rename, reason: one.reason }));
}

/** A row put into a plan in the place of what it held for that part; none where nothing would change. */
export function withRow(plan: Planned[], row: Planned): Planned[] {
    const others = plan.filter((one) => keyOf(one) !== keyOf(row));
    return row.to === row.from ? others : [...others, row];
}

/** How a tie is drawn: `exact` whole, `loose` whole with its trouble, `near` broken, `crossed` crossing lines. */
export function lineOf(tie: Tie): { form: 'exact' | 'loose' | 'near' | 'crossed'; label: string | null; words: string } {
    const has = (code: string): boolean => tie.troubles.includes(code);
    if (tie.kind === 'crossed') {
        return { form: 'crossed', label: 'crossed', words: `crossed: ${tie.candidate ?? 'another part'} stands where it stands` };
    }
    if (tie.gap !== null) {
        return { form: 'loose', label: 'apart', words: 'the bounds of the two do not meet' };
    }
    if (has('name-near')) {
        return { form: 'near', label: 'near name', words: 'would tie but for a small edit' };
    }
    if (has('name-case') || has('suffix-case')) {
        return { form: 'loose', label: 'Aa', words: 'would tie but for letter case' };
    }
    if (tie.kind === 'one-and-one') {
        return { form: 'exact', label: 'one and one', words: 'one part on either side ties whatever its name' };
    }
    if (has('suffix-missing')) {
        return { form: 'loose', label: 'no suffix', words: 'would tie with its suffix' };
    }
    return tie.kind === 'self' ? { form: 'exact', label: 'on itself', words: 'baked on itself by choice' } : { form: 'exact', label: null, words: 'ties exactly' };
}

export const isBroken = (tie: Tie): boolean => tie.kind === 'crossed' || tie.kind === 'near' || tie.gap !== null;

export const baseOf = (name: string, suffix: string): string => (name.toLowerCase().endsWith(suffix.toLowerCase()) ? name.slice(0, name.length - suffix.length) : name);

/** Which letters of a name are not those of another, by the longest row of letters that both share. */
export function differing(name: string, other: string): boolean[] {
    const a = Array.from(name);
    const b = Array.from(other);
    let start = 0;
    while (start < a.length && start < b.length && a[start] === b[start]) {
        start += 1;
    }
    let end = 0;
    while (end < a.length - start && end < b.length - start && a[a.length - 1 - end] === b[b.length - 1 - end]) {
        end += 1;
    }
    const out = a.map((_, i) => i >= start && i < a.length - end);
    const middle = a.length - end - start;
    // A short stretch is marked whole: two letters swapped are both in the wrong place.
    if (middle <= 3 || a.length * b.length > 40_000) {
        return out;
    }
    const w = b.length + 1;
    const lengths = new Uint16Array((a.length + 1) * w);
    for (let i = a.length - 1; i >= 0; i -= 1) {
        for (let j = b.length - 1; j >= 0; j -= 1) {
            lengths[i * w + j] = a[i] === b[j] ? (lengths[(i + 1) * w + j + 1] ?? 0) + 1 : Math.max(lengths[(i + 1) * w + j] ?? 0, lengths[i * w + j + 1] ?? 0);
        }
    }
    out.fill(true);
    for (let i = 0, j = 0; i < a.length && j < b.length;) {
        if (a[i] === b[j]) {
            out[i] = false;
            i += 1;
            j += 1;
        } else if ((lengths[(i + 1) * w + j] ?? 0) >= (lengths[i * w + j + 1] ?? 0)) {
            i += 1;
        } else {
            j += 1;
        }
    }
    return out;
}
