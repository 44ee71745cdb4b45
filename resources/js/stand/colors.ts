import type { Delivery } from '../api/client';
import { severityOf, type Severity } from '../frame/causes';
import type { Palette } from '../theme';
import type { ShownPart } from './display';

export type ColorBy = 'role' | 'set' | 'part' | 'severity';

/** The nth of as many colors as are wanted, each far from those before it. */
export function distinct(n: number, dark: boolean): string {
    const hue = (n * 137.508 + 200) % 360;
    const lightness = (dark ? 64 : 46) + (n % 3) * 7;
    return `hsl(${hue.toFixed(1)}, 52%, ${lightness}%)`;
}

/** The worst open finding of each part, by its name. */
export function worstOf(delivery: Pick<Delivery, 'findings' | 'sets'>): Map<string, Severity> {
    const rank: Record<Severity, number> = { note: 1, caution: 2, blocker: 3 };
    const worst = new Map<string, Severity>();
    const sets = new Map(delivery.sets.map((set) => [set.name, [...set.low, ...set.high]]));
    for (const finding of delivery.findings) {
        if (finding.waived) {
            continue;
        }
        const severity = severityOf(finding);
        const own = [finding.part, finding.other].filter((name) => name !== null);
        for (const name of own.length > 0 ? own : finding.set === null ? [] : (sets.get(finding.set) ?? [])) {
            const before = worst.get(name);
            if (before === undefined || rank[before] < rank[severity]) {
                worst.set(name, severity);
            }
        }
    }
    return worst;
}

/** The color of each part that is shown, by its key; null where its role tells. */
export function paintOf(by: ColorBy, parts: ShownPart[], delivery: Pick<Delivery, 'findings' | 'sets'>, palette: Palette, dark: boolean): Map<string, string> | null {
    if (by === 'role') {
        return null;
    }
    const numbers = new Map<string, number>();
    const number = (key: string): number => {
        const known = numbers.get(key) ?? numbers.size;
        numbers.set(key, known);
        return known;
    };
    const worst = by === 'severity' ? worstOf(delivery) : null;
    return new Map(
        parts.map((part): [string, string] => {
            if (worst) {
                const severity = worst.get(part.name);
                return [part.key, severity ? palette[severity] : palette.ruleStrong];
            }
            return [part.key, by === 'set' ? (part.set === null ? palette.ruleStrong : distinct(number(part.set), dark)) : distinct(number(part.name), dark)];
        }),
    );
}
