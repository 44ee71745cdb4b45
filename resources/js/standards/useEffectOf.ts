import { useEffect, useState } from 'react';
import { put, type Effect } from '../api/client';
import { joined } from './rules';

/** Milliseconds that somebody may go on typing before the effect is asked for. */
const PAUSE = 350;

interface Told {
    rules: string;
    effect: Effect | null;
    error: string | null;
}

/** What other rules would change, slice by slice; null while they are those in force. */
export function useEffectOf(standard: number, rules: string | null): { effect: Effect | null; error: string | null; isWhole: boolean } {
    const [told, setTold] = useState<Told>({ rules: '', effect: null, error: null });
    useEffect(() => {
        if (rules === null) {
            return;
        }
        let isOver = false;
        const walk = async (): Promise<void> => {
            let effect: Effect | null = null;
            try {
                do {
                    const slice: Effect = await put<Effect>('POST', `/api/standards/${standard}/effect`, { rules, after: effect?.next ?? 0 });
                    if (isOver) {
                        return;
                    }
                    effect = effect === null ? slice : joined(effect, slice);
                    setTold({ rules, effect, error: null });
                } while (effect.next !== null);
            } catch (problem) {
                if (!isOver) {
                    setTold({ rules, effect, error: problem instanceof Error ? problem.message : 'The effect could not be told.' });
                }
            }
        };
        const timer = setTimeout(() => void walk(), PAUSE);
        return () => {
            isOver = true;
            clearTimeout(timer);
        };
    }, [standard, rules]);
    const isOwn = rules !== null && told.rules === rules;
    return {
        effect: isOwn ? told.effect : null,
        error: isOwn ? told.error : null,
        isWhole: isOwn && told.effect?.next === null,
    };
}
