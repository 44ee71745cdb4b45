import { createContext, useCallback, useContext } from 'react';
import { useSearchParams } from 'react-router';
import type { Delivery } from '../api/client';
import type { ShownPart } from '../stand/display';
import type { StandLit } from '../stand/lit';
import type { StandSurface } from '../stand/surface';
import { chosenFindings } from './causes';

export interface Selection {
    set: string | null;
    part: string | null;
    finding: number | null;
    /** A cause of several findings, by the number of its first one. */
    cause: number | null;
    /** A UV island, by its place in the sheet. */
    island: number | null;
    /** A texel of a map: page, and px from the left and the top. */
    texel: string | null;
    select: (what: { set?: string | null; part?: string | null; finding?: number | null; cause?: number | null; island?: number | null; texel?: string | null }) => void;
}

const KEYS = ['set', 'part', 'finding', 'cause', 'island', 'texel'] as const;

/** What is chosen, everywhere: it lives in the address, so that a link shows a colleague the same spot. */
export function useSelection(): Selection {
    const [params, setParams] = useSearchParams();
    const select = useCallback<Selection['select']>(
        (what) =>
            setParams(
                (old) => {
                    const next = new URLSearchParams(old);
                    for (const key of KEYS) {
                        const value = what[key];
                        if (value === undefined || value === null) {
                            next.delete(key);
                        } else {
                            next.set(key, String(value));
                        }
                    }
                    return next;
                },
                { replace: true },
            ),
        [setParams],
    );
    const number = (key: string): number | null => {
        const value = params.get(key);
        return value === null || !/^\d+$/.test(value) ? null : Number(value);
    };
    return { set: params.get('set'), part: params.get('part'), finding: number('finding'), cause: number('cause'), island: number('island'), texel: params.get('texel'), select };
}

/** The names of all parts that the selection is about. */
export function chosenParts(delivery: Delivery, selection: Selection): Set<string> {
    const findings = chosenFindings(delivery, selection);
    const names = new Set<string>();
    const sets = new Set<string>();
    if (findings.length === 0) {
        if (selection.set !== null) {
            sets.add(selection.set);
        }
        if (selection.part !== null) {
            names.add(selection.part);
        }
    }
    for (const finding of findings) {
        const own = [finding.part, finding.other].filter((part) => part !== null);
        own.forEach((part) => names.add(part));
        if (own.length === 0 && finding.set !== null) {
            sets.add(finding.set);
        }
    }
    for (const set of sets.size > 0 ? delivery.sets : []) {
        if (sets.has(set.name)) {
            [...set.low, ...set.high].forEach((part) => names.add(part));
        }
    }
    return names;
}

/** What the stand shows of IDs that are to be given. */
export interface StandSheet {
    parts: ShownPart[];
    /** Colors by key of piece. */
    paint: Map<string, string>;
    chosen: ReadonlySet<string>;
    /** Keys of pieces that were picked; `adds`: to those that are chosen. */
    onPick: (keys: string[], adds: boolean) => void;
}

/** How the stand is asked to show something. */
export interface StandControl {
    explode: number;
    setExplode: (amount: number) => void;
    fly: number;
    flyTo: () => void;
    ids: boolean;
    /** What a station asked to be shown, and the how manieth time. */
    asked: { show: 'cage'; time: number } | null;
    showCage: () => void;
    /** The high poly in pieces with the IDs that are to be given, in the place of the one that was handed in. */
    sheet: StandSheet | null;
    setSheet: (sheet: StandSheet | null) => void;
    /** The low poly by its UV islands, in the place of the model. */
    surface: StandSurface | null;
    setSurface: (surface: StandSurface | null) => void;
    /** The low poly with its maps, in the place of the model. */
    lit: StandLit | null;
    setLit: (lit: StandLit | null) => void;
    /** A ray that is looked at: from the low point to the high point. */
    probe: number[] | null;
    setProbe: (probe: number[] | null) => void;
    /** Parts as they were in the delivery before, beside those of now. */
    ghost: ShownPart[] | null;
    setGhost: (ghost: ShownPart[] | null) => void;
    /** What J and K walk in place of the findings, where a station has something of its own. */
    walk: ((by: 1 | -1) => void) | null;
    setWalk: (walk: ((by: 1 | -1) => void) | null) => void;
}

export const StandContext = createContext<StandControl>({
    explode: 0,
    setExplode: () => undefined,
    fly: 0,
    flyTo: () => undefined,
    ids: false,
    asked: null,
    showCage: () => undefined,
    sheet: null,
    setSheet: () => undefined,
    surface: null,
    setSurface: () => undefined,
    lit: null,
    setLit: () => undefined,
    probe: null,
    setProbe: () => undefined,
    ghost: null,
    setGhost: () => undefined,
    walk: null,
    setWalk: () => undefined,
});

export const useStand = (): StandControl => useContext(StandContext);
