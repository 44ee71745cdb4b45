import type { CheckLimits, Effect } from '../api/client';

/** A standard as its file has it; what is not named here is kept as it is. */
export interface Rules {
    name: string;
    suffixes: Record<string, string[] | string>;
    pairing: string;
    mapSize: number;
    pages: number | string | null;
    triangleBudget: number | null;
    texelDensity: number | null;
    greenChannel: string;
    unit?: string | null;
    rays: { direction: string; length: string; backFaces: boolean; count: number; setsKeptApart: boolean };
    reach: Record<string, { out?: number | string | null; in?: number | string | null }>;
    checks: Record<string, CheckRule>;
    [key: string]: unknown;
}

export interface CheckRule {
    severity?: string | null;
    limit?: number | null;
    caution?: number | null;
}

/** An empty object comes out of PHP as a list. */
const named = <T>(value: unknown): Record<string, T> => (Array.isArray(value) || value === null || value === undefined ? {} : (value as Record<string, T>));

export function rulesOf(text: string): Rules {
    const rules = JSON.parse(text) as Rules;
    return { ...rules, reach: named(rules.reach), checks: named(rules.checks), suffixes: named(rules.suffixes) };
}

export const textOf = (rules: Rules): string => JSON.stringify(rules);

export const without = <T extends object>(of: T, key: string): T => Object.fromEntries(Object.entries(of).filter(([one]) => one !== key)) as T;

/** A rule of a check put into the rules; what is as built in is left out. */
export function withCheck(rules: Rules, code: string, change: CheckRule): Rules {
    const rule = Object.fromEntries(Object.entries({ ...rules.checks[code], ...change }).filter(([, value]) => value !== null));
    const others = without(rules.checks, code);
    return { ...rules, checks: Object.keys(rule).length === 0 ? others : { ...others, [code]: rule } };
}

/** Shares are typed as percent. */
export const factorOf = (unit: string | null): number => (unit === 'share' ? 100 : 1);
export const unitWords = (unit: string | null): string => ({ share: '%', deg: '°', px: 'px', dE00: 'ΔE00', bits: 'bits', count: '', ratio: '×' })[unit ?? ''] ?? '';

/** A number as it is typed, without the last digits of a product. */
export const typed = (value: number): string => String(Number(value.toPrecision(12)));

/** What somebody typed as a limit; null where there is nothing, undefined where it is no number. */
export function limitOf(text: string, unit: string | null): number | null | undefined {
    const trimmed = text.trim().replace(',', '.').replace(/%$/, '');
    const value = Number(trimmed);
    return trimmed === '' ? null : Number.isFinite(value) ? Number((value / factorOf(unit)).toPrecision(12)) : undefined;
}

export const shown = (value: number | null | undefined, unit: string | null): string => (value === null || value === undefined ? '' : typed(value * factorOf(unit)));

/** A value with its unit, for reading. */
export const told = (value: number, unit: string | null): string => `${Number((value * factorOf(unit)).toPrecision(4))}${unit === 'deg' ? '' : '\u00a0'}${unitWords(unit)}`.trim();

/** What two standards say differently: path, and what each says. */
export function differences(a: Rules, b: Rules, checks: CheckLimits[]): { what: string; a: string; b: string }[] {
    const flat = (value: unknown, path: string, out: Map<string, string>): Map<string, string> => {
        if (Array.isArray(value)) {
            out.set(path, value.join(' '));
        } else if (typeof value === 'object' && value !== null) {
            Object.entries(value).forEach(([key, one]) => flat(one, path === '' ? key : `${path} ${key}`, out));
        } else {
            out.set(path, typeof value === 'number' ? typed(value) : typeof value === 'string' || typeof value === 'boolean' ? String(value) : '–');
        }
        return out;
    };
    const [one, two] = [flat({ ...a, name: null }, '', new Map()), flat({ ...b, name: null }, '', new Map())];
    const builtIn = (path: string): string => {
        const [, code, key] = /^checks (\S+) (\S+)$/.exec(path) ?? [];
        const check = checks.find((each) => each.code === code);
        const own = key === 'severity' ? check?.severity : key === 'limit' ? check?.limit : check?.caution;
        return own === null || own === undefined ? 'built in' : `${typeof own === 'number' ? typed(own) : own} (built in)`;
    };
    return [...new Set([...one.keys(), ...two.keys()])]
        .filter((path) => one.get(path) !== two.get(path))
        .sort()
        .map((path) => ({ what: path.replace(/^checks /, ''), a: one.get(path) ?? builtIn(path), b: two.get(path) ?? builtIn(path) }));
}

/** Two slices of one effect as one. */
export function joined(a: Effect, b: Effect): Effect {
    const codes = new Map(a.codes.map((one) => [one.code, one]));
    for (const one of b.codes) {
        const old = codes.get(one.code);
        codes.set(one.code, old ? { code: one.code, blockers: old.blockers + one.blockers, cautions: old.cautions + one.cautions, notes: old.notes + one.notes } : one);
    }
    const sum = (key: 'assets' | 'foretold' | 'judged' | 'unknown' | 'changed' | 'nowBlocked' | 'nowReady' | 'waiversIdle' | 'waiversDied'): number => a[key] + b[key];
    return {
        assets: sum('assets'),
        foretold: sum('foretold'),
        judged: sum('judged'),
        unknown: sum('unknown'),
        changed: sum('changed'),
        nowBlocked: sum('nowBlocked'),
        nowReady: sum('nowReady'),
        waiversIdle: sum('waiversIdle'),
        waiversDied: sum('waiversDied'),
        codes: [...codes.values()].filter((one) => one.blockers !== 0 || one.cautions !== 0 || one.notes !== 0).sort((x, y) => x.code.localeCompare(y.code)),
        rows: [...a.rows, ...b.rows],
        unknownChecks: [...new Set([...a.unknownChecks, ...b.unknownChecks])],
        next: b.next,
    };
}

const count = (value: number, one: string): string => `${Math.abs(value).toLocaleString('en-GB')} ${value > 0 ? 'more' : 'fewer'} ${one}${Math.abs(value) === 1 ? '' : 's'}`;

/** An effect in a sentence: "3 more blockers on 2 assets, 1 waiver dies". */
export function inWords(effect: Effect): string {
    const of = (key: 'blockers' | 'cautions' | 'notes'): number => effect.codes.reduce((total, one) => total + one[key], 0);
    const changes = (['blockers', 'cautions', 'notes'] as const).filter((key) => of(key) !== 0).map((key) => count(of(key), key.slice(0, -1)));
    const dies = effect.waiversDied + effect.waiversIdle;
    const where = effect.changed > 0 ? ` on ${effect.changed.toLocaleString('en-GB')} ${effect.changed === 1 ? 'asset' : 'assets'}` : '';
    const parts = [
        ...(changes.length > 0 ? [changes.join(', ') + where] : effect.changed > 0 ? [`Other findings${where}`] : []),
        ...(dies > 0 ? [`${dies} ${dies === 1 ? 'waiver dies' : 'waivers die'}`] : []),
    ];
    return parts.length === 0 ? 'No finding changes' : parts.join(', ');
}
