import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { act, decide, useVersion, type IdSheet } from '../api/client';
import { useNotice } from '../frame/Notice';
import { draftOf, type Draft } from './draft';

/** The sheet of a delivery: every change is kept at once, and can be taken back. */
export function useSheet(delivery: number, fetched: IdSheet) {
    const client = useQueryClient();
    const notice = useNotice();
    const shown = useVersion(delivery);
    const [own, setOwn] = useState<IdSheet | null>(null);
    const [past, setPast] = useState<Draft[]>([]);
    const sheet = own !== null && own.version >= fetched.version ? own : fetched;
    const send = useMutation({
        mutationFn: ({ draft, how }: { draft: Draft; how: 'spread' | 'keep' }) =>
            decide(shown(), (version) => act<IdSheet>(delivery, 'id-sheet', { ...draft, cut: fetched.cut, act: how }, version)),
        onSuccess: (next) => {
            setOwn(next);
            void client.invalidateQueries({ queryKey: ['progress', delivery] });
            void client.invalidateQueries({ queryKey: ['station', delivery, 'color-id'] });
        },
        onError: notice.failed,
    });
    const { mutate } = send;
    const change = useCallback(
        (draft: Draft, how: 'spread' | 'keep' = 'keep'): void => {
            const before = draftOf(sheet);
            mutate({ draft, how }, { onSuccess: () => setPast((old) => [...old, before]) });
        },
        [mutate, sheet],
    );
    const undo = (): void => {
        const last = past.at(-1);
        if (last) {
            mutate({ draft: last, how: 'keep' }, { onSuccess: () => setPast((old) => old.slice(0, -1)) });
        }
    };
    return { sheet, change, undo, canUndo: past.length > 0, busy: send.isPending };
}
