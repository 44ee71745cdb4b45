import { createContext, useCallback, useContext } from 'react';
import { useSearchParams } from 'react-router';
import type { Delivery, Finding } from '../api/client';

export interface Selection {
    set: string | null;
    part: string | null;
    finding: number | null;
    select: (what: { set?: string | null; part?: string | null; finding?: number | null }) => void;
}

/** What is chosen, everywhere: it lives in the address, so that a link shows a colleague the same spot. */
export function useSelection(): Selection {
    const [params, setParams] = useSearchParams();
    const select = useCallback<Selection['select']>(
        (what) =>
            setParams(
                (old) => {
                    const next = new URLSearchParams(old);
                    for (const key of ['set', 'part', 'finding'] as const) {
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
    const finding = params.get('finding');
    return { set: params.get('set'), part: params.get('part'), finding: finding === null ? null : Number(finding), select };
}

/** The names of all parts that the selection is about. */
export function chosenParts(delivery: Delivery, selection: Selection): Set<string> {
    const finding = delivery.findings.find((one) => one.id === selection.finding);
    const names = new Set<string>();
    const addSet = (name: string | null | undefined): void => {
        const set = delivery.sets.find((one) => one.name === name);
        [...(set?.low ?? []), ...(set?.high ?? [])].forEach((part) => names.add(part));
    };
    addSet(selection.set);
    addSet(finding?.set);
    [selection.part, finding?.part, finding?.set ? null : finding?.other].forEach((part) => part && names.add(part));
    return names;
}

export const isAbout = (finding: Finding, selection: Selection): boolean => finding.id === selection.finding;

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
}

export const StandContext = createContext<StandControl>({
    explode: 0,
    setExplode: () => undefined,
    fly: 0,
    flyTo: () => undefined,
    ids: false,
    asked: null,
    showCage: () => undefined,
});

export const useStand = (): StandControl => useContext(StandContext);
