import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { components } from './schema';

type Schemas = components['schemas'];
export type Rack = Schemas['RackData'];
export type AssetRow = Schemas['AssetRowData'];
export type Asset = Schemas['AssetData'];
export type Delivery = Schemas['DeliveryData'];
export type Station = Schemas['StationData'];
export type Finding = Schemas['FindingData'];
export type BakeSet = Schemas['SetData'];
export type Tie = Schemas['TieData'];
export type DeliveredFile = Schemas['FileData'];
export type IdColor = Schemas['IdColorData'];
export type Rename = { fileId: number; from: string; to: string };

/** What the server said, in its words. */
export class ApiError extends Error {
    constructor(
        message: string,
        readonly status: number,
    ) {
        super(message);
    }
}

async function call<T>(path: string, init?: RequestInit): Promise<T> {
    let response: Response;
    try {
        response = await fetch(path, { ...init, headers: { Accept: 'application/json', 'X-Anvil': '1', ...(init?.headers as Record<string, string> | undefined) } });
    } catch {
        throw new ApiError('The server does not answer. Is bin/start still running?', 0);
    }
    if (!response.ok) {
        const body: unknown = await response.json().catch(() => null);
        const said = typeof body === 'object' && body !== null && 'message' in body ? String(body.message) : '';
        throw new ApiError(said || `The server answered ${response.status}.`, response.status);
    }
    return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
}

const post = <T>(path: string, body?: unknown): Promise<T> => call<T>(path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body ?? {}) });

const over = (state: string): boolean => ['done', 'failed', 'cancelled'].includes(state);

export type RackQuery = { find: string; verdict: 'all' | 'blocked' | 'ready'; page: number };

export const useRack = ({ find, verdict, page }: RackQuery) =>
    useQuery({
        queryKey: ['rack', find, verdict, page],
        queryFn: () => call<Rack>(`/api/rack?${new URLSearchParams({ find, verdict, page: String(page) }).toString()}`),
        placeholderData: keepPreviousData,
        refetchInterval: (query) => ((query.state.data?.computing ?? 0) > 0 ? 1500 : 15000),
    });

export const useAsset = (id: number) => useQuery({ queryKey: ['asset', id], queryFn: () => call<Asset>(`/api/assets/${id}`) });

const busy = (delivery: Delivery): boolean => !over(delivery.state) || [...delivery.outputs, ...delivery.packages].some((one) => !['done', 'failed'].includes(one.state));

export const useDelivery = (id: number) =>
    useQuery({
        queryKey: ['delivery', id],
        queryFn: () => call<Delivery>(`/api/deliveries/${id}`),
        refetchInterval: (query) => (query.state.data && busy(query.state.data) ? 1000 : false),
    });

/** An act on a delivery; what is shown of it is fetched anew afterwards. */
export function useAct<Body, Result = void>(id: number, path: (body: Body) => string, send: (body: Body) => unknown = (body) => body) {
    const client = useQueryClient();
    return useMutation({
        mutationFn: (body: Body) => post<Result>(`/api/deliveries/${id}/${path(body)}`, send(body)),
        onSuccess: () => client.invalidateQueries(),
    });
}

/** Deletes a delivery or an asset, with its number or name given once more. */
export function useDelete() {
    const client = useQueryClient();
    return useMutation({
        mutationFn: ([path, body]: [string, unknown]) =>
            call<void>(`/api/${path}`, { method: 'DELETE', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
        onSuccess: () => client.invalidateQueries({ queryKey: ['rack'] }),
    });
}

/** What a rename plan, and a tool on top of it, would do; nothing is written. */
export const previewRenames = (id: number, request: { renames: Rename[]; tool: Schemas['RenameTool'] | null }): Promise<Schemas['RenamePlanData']> =>
    post<Schemas['RenamePlanData']>(`/api/deliveries/${id}/renames`, request);

export const useFormats = () => useQuery({ queryKey: ['formats'], queryFn: () => call<Schemas['FormatsData']>('/api/formats'), staleTime: Infinity });

/** What another role of a file would do. */
export const useRolePreview = (delivery: number, file: number, role: string | null) =>
    useQuery({
        queryKey: ['role', delivery, file, role],
        enabled: role !== null,
        queryFn: () => call<Schemas['RolePreviewData']>(`/api/deliveries/${delivery}/files/${file}/role?role=${role ?? ''}`),
    });

/** Rays of a set that go astray, for the stand. */
export const useRays = (delivery: Delivery, set: string | null) =>
    useQuery({
        queryKey: ['rays', delivery.id, delivery.checkedAt, set],
        enabled: set !== null && delivery.state === 'done',
        staleTime: Infinity,
        queryFn: () => call<Schemas['RaysData']>(`/api/deliveries/${delivery.id}/rays?set=${encodeURIComponent(set ?? '')}`),
    });

const PIECE = 8 * 1024 * 1024;

/** Sends one file piece by piece; a piece that fails is tried again from where the server is. */
async function upload(file: File, progress: (bytes: number) => void): Promise<string> {
    const begun = await post<Schemas['UploadData']>('/api/uploads', { name: file.name, bytes: file.size });
    let offset = 0;
    let failures = 0;
    while (offset < file.size) {
        try {
            const taken = await call<Schemas['UploadData']>(`/api/uploads/${begun.id}?offset=${offset}`, {
                method: 'PUT',
                headers: { 'Content-Type': 'application/octet-stream' },
                body: file.slice(offset, offset + PIECE),
            });
            offset = taken.received;
            failures = 0;
        } catch (error) {
            if (error instanceof ApiError && (error.status === 422 || error.status === 409 || error.status === 410)) {
                throw error;
            }
            failures += 1;
            if (failures > 5) {
                throw error;
            }
            await new Promise((resolve) => setTimeout(resolve, 500 * failures));
        }
        progress(offset);
    }
    return begun.id;
}

/** Uploads files and hands them in as one delivery. */
export async function handIn(files: File[], assetId: number | null, progress: (share: number, name: string) => void): Promise<Schemas['DeliveredData']> {
    const total = files.reduce((sum, file) => sum + file.size, 0) || 1;
    const ids: string[] = [];
    let before = 0;
    for (const file of files) {
        progress(before / total, file.name);
        ids.push(await upload(file, (bytes) => progress((before + bytes) / total, file.name)));
        before += file.size;
    }
    return post<Schemas['DeliveredData']>('/api/deliveries', { uploads: ids, assetId });
}

export async function fetchMesh(delivery: number, role: string): Promise<ArrayBuffer | null> {
    const response = await fetch(`/api/deliveries/${delivery}/mesh/${role}`);
    return response.ok ? response.arrayBuffer() : null;
}
