import type { Cause, Delivery, Finding } from '../api/client';
import type { Selection } from './selection';

export type Severity = 'blocker' | 'caution' | 'note';

const order: Record<Severity, number> = { blocker: 0, caution: 1, note: 2 };

export const severityOf = (one: { severity: string }): Severity => (one.severity === 'blocker' ? 'blocker' : one.severity === 'caution' ? 'caution' : 'note');

/** A cause with its findings; it is known by the number of its first one, which stays while a delivery is judged again. */
export interface Told {
    id: number;
    cause: Cause;
    members: Finding[];
}

/** The causes of a station, the worst first; at Hand-off all that there are. */
export function causesOf(delivery: Pick<Delivery, 'causes' | 'findings'>, station: string): Told[] {
    const members = new Map<number, Finding[]>();
    for (const finding of delivery.findings) {
        if (finding.cause !== null) {
            const own = members.get(finding.cause);
            if (own) {
                own.push(finding);
            } else {
                members.set(finding.cause, [finding]);
            }
        }
    }
    return delivery.causes
        .flatMap((cause, number): Told[] => {
            const own = members.get(number) ?? [];
            return own[0] !== undefined && (station === 'hand-off' || cause.station === station) ? [{ id: own[0].id, cause, members: own }] : [];
        })
        .sort((a, b) => Number(a.cause.waived) - Number(b.cause.waived) || order[severityOf(a.cause)] - order[severityOf(b.cause)]);
}

/** `13 parts`, or `1 set`. */
export const extent = (told: Told): string => {
    const isOfSets = told.members.every((one) => one.part === null && one.set !== null);
    const [one, many] = !isOfSets ? ['part', 'parts'] : told.members[0]?.other ? ['pair of sets', 'pairs of sets'] : ['set', 'sets'];
    return `${told.cause.subjects} ${told.cause.subjects === 1 ? one : many}`;
};

/** A line of the list: a cause, or a member of one that is open. */
export type Line = { told: Told; member: Finding | null };

/** Stands for the notes among what is open: they are folded until somebody wants them. */
export const NOTES = -1;

export const isNote = (told: Told): boolean => severityOf(told.cause) === 'note';

/** Whether the notes are seen: unfolded, or one of them is chosen. */
export const showsNotes = (all: Told[], open: ReadonlySet<number>, selection: Pick<Selection, 'finding' | 'cause'>): boolean =>
    open.has(NOTES) || all.some((told) => isNote(told) && (told.id === selection.cause || told.members.some((one) => one.id === selection.finding)));

/** The lines that are seen: every cause, notes last where they are shown, and under those that are open their members. */
export const linesOf = (all: Told[], open: ReadonlySet<number>, notes: boolean): Line[] =>
    [...all.filter((told) => !isNote(told)), ...(notes ? all.filter(isNote) : [])].flatMap((told): Line[] => [
        { told, member: null },
        ...(told.members.length > 1 && open.has(told.id) ? told.members.map((member): Line => ({ told, member })) : []),
    ]);

/** Whether a line is the one that is chosen. */
export const isChosen = (line: Line, selection: Pick<Selection, 'finding' | 'cause'>): boolean =>
    line.member
        ? selection.finding === line.member.id
        : line.told.members.length === 1
          ? selection.finding === line.told.id
          : selection.cause === line.told.id && selection.finding === null;

/** What choosing a line chooses everywhere. */
export function choiceOf(line: Line): Parameters<Selection['select']>[0] {
    const one = line.member ?? (line.told.members.length === 1 ? line.told.members[0] : undefined);
    return one ? { finding: one.id, set: one.set, part: one.part, cause: line.member ? line.told.id : null } : { cause: line.told.id };
}

/** The line after or before the chosen one; the first where none is. */
export function step(lines: Line[], selection: Pick<Selection, 'finding' | 'cause'>, by: 1 | -1): Line | undefined {
    const at = lines.findIndex((line) => isChosen(line, selection));
    return lines[Math.max(0, Math.min(lines.length - 1, at === -1 ? 0 : at + by))];
}

/** The findings that the selection is about: one, or all of a cause. */
export function chosenFindings(delivery: Pick<Delivery, 'causes' | 'findings'>, selection: Pick<Selection, 'finding' | 'cause'>): Finding[] {
    const one = delivery.findings.find((finding) => finding.id === selection.finding);
    if (one) {
        return [one];
    }
    const first = selection.cause === null ? undefined : delivery.findings.find((finding) => finding.id === selection.cause);
    return first && first.cause !== null ? delivery.findings.filter((finding) => finding.cause === first.cause) : [];
}
