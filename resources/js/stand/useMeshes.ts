import { useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { fetchMesh, type Delivery } from '../api/client';
import { parseDisplay, placedBy, type DisplayPart, type Role, type ShownPart } from './display';

/** The parts of all files that are read by now, each with the role and set that it has by now. */
export function useMeshes(delivery: Delivery): { parts: ShownPart[]; isError: boolean; isComplete: boolean } {
    const files = delivery.files.filter((file) => file.kind === 'mesh' && file.state === 'read');
    const { meshes, isError, count } = useQueries({
        queries: files.map((file) => ({
            queryKey: ['mesh', file.id],
            staleTime: Infinity,
            gcTime: 60_000,
            queryFn: async (): Promise<DisplayPart[]> => {
                const mesh = await fetchMesh(delivery.id, `files/${file.id}/mesh`);
                return mesh ? parseDisplay(mesh) : [];
            },
        })),
        combine: (results) => ({
            meshes: results.map((one) => one.data),
            isError: results.some((one) => one.isError),
            count: results.filter((one) => one.data !== undefined).length,
        }),
    });
    const fetched = meshes.map((one) => (one === undefined ? '–' : '+')).join('');
    const frames = files.map((file) => `${file.id} ${file.frame?.join(' ') ?? ''}`).join('|');
    const placed = useMemo(
        () => files.map((file, i) => (meshes[i] ?? []).map((part): DisplayPart => ({ ...part, positions: placedBy(part.positions, file.frame) }))),
        // eslint-disable-next-line react-hooks/exhaustive-deps -- a file never changes: what is there of it, and its frame, tell all
        [fetched, frames],
    );
    const parts = useMemo(
        () =>
            files.flatMap((file, i): ShownPart[] => {
                const known = delivery.parts.filter((part) => part.fileId === file.id);
                return (placed[i] ?? []).map((part, n): ShownPart => ({
                    ...part,
                    key: `${file.id} ${n} ${file.frame?.join(' ') ?? ''}`,
                    role: (known[n]?.role ?? null) as Role | null,
                    set: known[n]?.set ?? null,
                }));
            }),
        // eslint-disable-next-line react-hooks/exhaustive-deps -- files are those of the delivery
        [placed, delivery.parts],
    );
    return { parts, isError, isComplete: count === delivery.files.filter((file) => file.kind === 'mesh').length };
}

/** The high poly in pieces, as it was cut for IDs. */
export function usePieces(delivery: number, cut: number | null): ShownPart[] | undefined {
    const { data } = useQuery({
        queryKey: ['pieces', delivery, cut],
        enabled: cut !== null,
        staleTime: Infinity,
        queryFn: async () => {
            const mesh = await fetchMesh(delivery, `pieces/${cut ?? 0}`);
            return mesh ? parseDisplay(mesh) : [];
        },
    });
    return useMemo(() => data?.map((part, n): ShownPart => ({ ...part, key: `cut ${cut ?? 0} ${n}`, role: 'high', set: null })), [data, cut]);
}

export type CageKind = 'single' | 'handed' | 'fitted';

/** One of our own cages, where it is wanted; those that were handed in are among the parts. */
export function useCage(delivery: Delivery, kind: CageKind, made: number | null, wanted: boolean): ShownPart[] | undefined {
    const { data } = useQuery({
        queryKey: ['cage', delivery.id, delivery.checkedAt, kind, kind === 'fitted' ? made : null],
        enabled: wanted && kind !== 'handed' && delivery.state === 'done',
        staleTime: Infinity,
        queryFn: async () => {
            const mesh = await fetchMesh(delivery.id, `mesh/${kind}`);
            return mesh ? parseDisplay(mesh) : [];
        },
    });
    return useMemo(() => {
        const sets = new Map(delivery.parts.filter((part) => part.role === 'low').map((part) => [part.name, part.set]));
        return data?.map((part, n): ShownPart => ({ ...part, key: `${kind} ${made ?? ''} ${delivery.checkedAt ?? ''} ${n}`, role: 'cage', set: sets.get(part.name) ?? null }));
    }, [data, delivery.parts, delivery.checkedAt, kind, made]);
}
