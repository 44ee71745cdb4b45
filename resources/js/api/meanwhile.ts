import { useSyncExternalStore } from 'react';
import type { components } from './schema';

/** Somebody else decided the same since it was loaded. */
export type Meanwhile = components['schemas']['ChangedMeanwhileData'];

/** Whether what is asked for is put on top of it; answered once by the person. */
export interface Question {
    meanwhile: Meanwhile;
    answer: (onTop: boolean) => void;
}

let open: readonly Question[] = [];
const watchers = new Set<() => void>();
const becomes = (next: readonly Question[]): void => {
    open = next;
    watchers.forEach((watch) => watch());
};

/** The question that waits longest for the person. */
export const useQuestion = (): Question | undefined =>
    useSyncExternalStore(
        (watch) => {
            watchers.add(watch);
            return () => watchers.delete(watch);
        },
        () => open[0],
    );

/** Asks the person; true: put it on top. */
export const onTop = (meanwhile: Meanwhile): Promise<boolean> =>
    new Promise((resolve) => {
        const question: Question = {
            meanwhile,
            answer: (yes) => {
                becomes(open.filter((one) => one !== question));
                resolve(yes);
            },
        };
        becomes([...open, question]);
    });
