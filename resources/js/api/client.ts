import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { onTop, type Meanwhile } from './meanwhile';
import type { components } from './schema';

type Schemas = components['schemas'];
export type Rack = Schemas['RackData'];
export type Delivered = Schemas['DeliveredData'];
export type AssetRow = Schemas['AssetRowData'];
export type Asset = Schemas['AssetData'];
export type Delivery = Schemas['DeliveryData'];
/** What each station shows beside what bar, rail, stand and findings do. */
export interface StationData {
    intake: Schemas['IntakeData'];
    pairing: Schemas['PairingData'];
    sets: Schemas['SetsData'];
    'color-id': Schemas['ColorIdData'];
    clearance: Schemas['ClearanceData'];
    surface: Schemas['SurfaceData'];
    'hand-off': Schemas['HandOffData'];
}
export type StationKey = keyof StationData;
/** A delivery as a station shows it. */
export type At<S extends StationKey> = Delivery & StationData[S];
export type Progress = Schemas['DeliveryProgressData'];
export type UvSheet = Schemas['UvSheetData'];
export type UvIsland = Schemas['UvIslandData'];
export type ProofStation = Schemas['ProofData'];
export type Trial = Schemas['TrialData'];
export type ReturnedMap = Schemas['ReturnedMapData'];
export type Station = Schemas['StationData'];
export type Finding = Schemas['FindingData'];
export type Cause = Schemas['CauseData'];
export type Found = Schemas['FoundData'];
export type BakeSet = Schemas['SetData'];
export type Tie = Schemas['TieData'];
export type DeliveredFile = Schemas['FileData'];
export type IdColor = Schemas['IdColorData'];
export type FoundIds = Schemas['IdsData'];
export type IdSheet = Schemas['IdSheetData'];
export type SheetId = Schemas['SheetIdData'];
export type Session = Schemas['SessionData'];
export type Me = Schemas['MeData'];
export type Leave = Schemas['Leave'];
export type Standing = Schemas['Standing'];
export type Person = Schemas['PersonData'];
export type Token = Schemas['TokenData'];
export type Letter = Schemas['LetterData'];
export type FixList = Schemas['FixListData'];
export type FixCause = Schemas['FixCauseData'];
export type FixState = Schemas['FixStateData'];
export type SentFixList = Schemas['SentFixListData'];
export type Waiver = Schemas['WaiverData'];
export type Changes = Schemas['ChangesData'];
export type FindingChange = Schemas['FindingChangeData'];
export type PartChange = Schemas['PartChangeData'];
export type History = Schemas['HistoryData'];
export type StandardRow = Schemas['StandardRowData'];
export type StandardPage = Schemas['StandardPageData'];
export type CheckLimits = Schemas['CheckLimitsData'];
export type Effect = Schemas['EffectData'];
export type GuidePage = Schemas['GuidePageData'];
export type Learned = Schemas['LearnedData'];
export type Rename = { fileId: number; from: string; to: string };

/** What the server said, in its words. */
export class ApiError extends Error {
    constructor(
        message: string,
        readonly status: number,
        /** What somebody else decided, where that is what stands in the way. */
        readonly meanwhile?: Meanwhile,
    ) {
        super(message);
    }
}

/** Told to the window when the server knows nobody any more. */
export const SIGNED_OUT = 'anvil:signed-out';

/** What the server gave this browser's session to send back with each change. */
const csrf = (): string => decodeURIComponent(/(?:^|; )XSRF-TOKEN=([^;]*)/.exec(document.cookie)?.[1] ?? '');

const sent = (path: string, init?: RequestInit): Promise<Response> =>
    fetch(path, {
        ...init,
        headers: {
            Accept: 'application/json',
            'X-Anvil': '1',
            ...(init?.method === undefined ? {} : { 'X-XSRF-TOKEN': csrf() }),
            ...(init?.headers as Record<string, string> | undefined),
        },
    });

async function call<T>(path: string, init?: RequestInit): Promise<T> {
    let response: Response;
    try {
        response = await sent(path, init);
        if (response.status === 419) {
            // The token was of a session that is over: another one comes with any answer.
            await sent('/api/session');
            response = await sent(path, init);
        }
    } catch {
        throw new ApiError('The server does not answer. Is bin/start still running?', 0);
    }
    if (response.status === 401) {
        window.dispatchEvent(new Event(SIGNED_OUT));
    }
    if (!response.ok) {
        const body: unknown = await response.json().catch(() => null);
        const said = typeof body === 'object' && body !== null && 'message' in body ? String(body.message) : '';
        const meanwhile = response.status === 409 && typeof body === 'object' && body !== null && 'changes' in body ? (body as Meanwhile) : undefined;
        throw new ApiError(said || `The server answered ${response.status}.`, response.status, meanwhile);
    }
    return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
}

const send = <T>(method: string, path: string, body?: unknown, version?: number): Promise<T> =>
    call<T>(path, {
        method,
        headers: { 'Content-Type': 'application/json', ...(version === undefined ? {} : { 'X-Anvil-Version': String(version) }) },
        body: JSON.stringify(body ?? {}),
    });

/** Decides something that was loaded at a version. Where somebody else decided the same since, the person is asked whether it goes on top. */
export async function decide<T>(version: number | undefined, ask: (version: number | undefined) => Promise<T>): Promise<T> {
    try {
        return await ask(version);
    } catch (error) {
        if (!(error instanceof ApiError) || error.meanwhile === undefined) {
            throw error;
        }
        if (await onTop(error.meanwhile)) {
            return decide(error.meanwhile.version, ask);
        }
        throw new ApiError('Not saved: somebody else changed this. Save again to put yours over it.', 409);
    }
}

/** The version at which a draft began; without one, that of what is shown. */
export function useSince(version: number, isDraft: boolean): number {
    const [since, setSince] = useState(version);
    if (!isDraft && since !== version) {
        setSince(version);
    }
    return isDraft ? since : version;
}

const post = <T>(path: string, body?: unknown): Promise<T> => send<T>('POST', path, body);

/** The same for what is no delivery: people, sessions, tokens. */
export const ask = call;
export const put = send;

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

/** Milliseconds between two questions how far a delivery is: often while it goes on, seldom when nobody looks. */
export const patience = (isBusy: boolean, isHidden: boolean): number => (isHidden ? (isBusy ? 15_000 : 60_000) : isBusy ? 1000 : 10_000);

/** Milliseconds to wait before a delivery is fetched anew: a large one takes at most a quarter of the time. */
export const rest = (took: number, since: number): number => Math.max(0, 3 * took - since);

/**
 * A delivery; how far it is is asked for again and again (an answer without news is a 304), and the rest once that has another mark.
 * `lost` is what went wrong with the last question: it is asked on, and what is shown stays.
 */
export function useDelivery(id: number, wanted = true) {
    const client = useQueryClient();
    const fetched = useRef({ took: 0, at: 0 });
    const delivery = useQuery({
        queryKey: ['delivery', id],
        enabled: wanted,
        queryFn: async () => {
            const begun = performance.now();
            const data = await call<Delivery>(`/api/deliveries/${id}`);
            fetched.current = { took: performance.now() - begun, at: performance.now() };
            return data;
        },
    });
    const isBusy = delivery.data !== undefined && busy(delivery.data);
    const progress = useQuery({
        queryKey: ['progress', id],
        queryFn: () => call<Progress>(`/api/deliveries/${id}/progress`),
        enabled: delivery.data !== undefined,
        retry: false,
        refetchInterval: () => patience(isBusy, document.hidden),
        refetchIntervalInBackground: true,
        refetchOnWindowFocus: 'always',
    });
    const mark = progress.data?.mark;
    const shown = delivery.data?.mark;
    useEffect(() => {
        if (mark === undefined || shown === undefined || mark === shown) {
            return;
        }
        const { took, at } = fetched.current;
        const timer = setTimeout(() => void client.invalidateQueries({ queryKey: ['delivery', id] }), rest(took, performance.now() - at));
        return () => clearTimeout(timer);
    }, [client, id, mark, shown]);
    return { ...delivery, lost: progress.error };
}

/** What a station shows of a delivery, of the same mark as the delivery itself. */
export const useStation = <S extends StationKey>(delivery: Delivery, station: S) =>
    useQuery({
        queryKey: ['station', delivery.id, station, delivery.mark],
        queryFn: () => call<StationData[S]>(`/api/deliveries/${delivery.id}/${station}`),
        placeholderData: (before, query) => (query?.queryKey[1] === delivery.id && query.queryKey[2] === station ? before : undefined),
    });

/** The version of a delivery as it is shown now. */
export function useVersion(id: number): () => number | undefined {
    const client = useQueryClient();
    return () => client.getQueryData<Delivery>(['delivery', id])?.version;
}

/** An act on a delivery; what is shown of it is fetched anew afterwards. `since` is the version at which what is decided was loaded, if not that of what is shown. */
export function useAct<Body, Result = void>(id: number, path: (body: Body) => string, given: (body: Body) => unknown = (body) => body, since?: number) {
    const client = useQueryClient();
    const shown = useVersion(id);
    return useMutation({
        mutationFn: (body: Body) => decide(since ?? shown(), (version) => send<Result>('POST', `/api/deliveries/${id}/${path(body)}`, given(body), version)),
        onSuccess: () => client.invalidateQueries(),
        onError: (error) => (error instanceof ApiError && error.status === 409 ? client.invalidateQueries() : undefined),
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

/** So long an upload waits for a server or a network that is gone. */
const PATIENCE = 10 * 60 * 1000;

/** Uploads that were begun, by file, so that one that broke off goes on after the tab was closed. Without a store each begins anew. */
const begun = {
    key: (file: File): string => `anvil.upload:${file.name}:${file.size}:${file.lastModified}`,
    get(file: File): string | null {
        try {
            return localStorage.getItem(this.key(file));
        } catch {
            return null;
        }
    },
    set(file: File, id: string | null): void {
        try {
            if (id === null) {
                localStorage.removeItem(this.key(file));
            } else {
                localStorage.setItem(this.key(file), id);
            }
        } catch {
            // Then it is not kept.
        }
    },
};

/** Whether it makes sense to wait: the server is gone or busy, and did not say no. */
const passes = (error: unknown): boolean => error instanceof ApiError && [0, 429, 502, 503, 504].includes(error.status);

/** Asks until the server answers; says each time that it waits. */
async function patiently<T>(ask: () => Promise<T>, waits: () => void): Promise<T> {
    const since = Date.now();
    for (let time = 0; ; time++) {
        try {
            return await ask();
        } catch (error) {
            if (!passes(error) || Date.now() - since > PATIENCE) {
                throw error;
            }
            waits();
            await new Promise((resolve) => setTimeout(resolve, Math.min(8000, 500 * 2 ** time)));
        }
    }
}

/** Sends one file piece by piece, from where an earlier try of it came to; a piece that fails is sent again once the server answers. */
async function upload(file: File, progress: (bytes: number, waits: boolean) => void): Promise<string> {
    let offset = 0;
    const waits = (): void => progress(offset, true);
    const far = async (id: string): Promise<Schemas['UploadData'] | null> => {
        try {
            const one = await patiently(() => call<Schemas['UploadData']>(`/api/uploads/${id}`), waits);
            return one.name === file.name && one.bytes === file.size ? one : null;
        } catch {
            return null;
        }
    };
    const earlier = begun.get(file);
    const one =
        (earlier === null ? null : await far(earlier)) ?? (await patiently(() => post<Schemas['UploadData']>('/api/uploads', { name: file.name, bytes: file.size }), waits));
    begun.set(file, one.id);
    offset = one.received;
    progress(offset, false);
    for (let strayed = 0; offset < file.size;) {
        const from = offset;
        try {
            const taken = await patiently(
                () =>
                    call<Schemas['UploadData']>(`/api/uploads/${one.id}?offset=${from}`, {
                        method: 'PUT',
                        headers: { 'Content-Type': 'application/octet-stream' },
                        body: file.slice(from, from + PIECE),
                    }),
                waits,
            );
            offset = taken.received;
            strayed = 0;
        } catch (error) {
            // Another tab may have sent more of it: the server says how far it is.
            const now = error instanceof ApiError && error.status === 409 && strayed < 5 ? await far(one.id) : null;
            if (now === null) {
                begun.set(file, null);
                throw error;
            }
            strayed += 1;
            offset = now.received;
        }
        progress(offset, false);
    }
    return one.id;
}

/** Uploads files and hands them in as one delivery. */
export async function handIn(
    files: File[],
    assetId: number | null,
    progress: (share: number, name: string, waits: boolean) => void,
): Promise<{ delivered: Delivered; uploads: string[] }> {
    const total = files.reduce((sum, file) => sum + file.size, 0) || 1;
    const ids: string[] = [];
    let before = 0;
    for (const file of files) {
        progress(before / total, file.name, false);
        ids.push(await upload(file, (bytes, waits) => progress((before + bytes) / total, file.name, waits)));
        before += file.size;
    }
    try {
        return { delivered: await post<Delivered>('/api/deliveries', { uploads: ids, assetId }), uploads: ids };
    } finally {
        files.forEach((file) => begun.set(file, null));
    }
}

/** Makes a delivery of uploads even where another delivery has the same files. */
export const takeAsNew = (uploads: string[]): Promise<Delivered> => post<Delivered>('/api/deliveries', { uploads, asNew: true });

/** Uploads maps that came back from a baker, and adds them to a delivery. */
export async function handInMaps(files: File[], delivery: number, of: { kind?: string; page?: string }, progress: (share: number, name: string) => void): Promise<void> {
    const total = files.reduce((sum, file) => sum + file.size, 0) || 1;
    const ids: string[] = [];
    let before = 0;
    for (const file of files) {
        progress(before / total, file.name);
        ids.push(await upload(file, (bytes) => progress((before + bytes) / total, file.name)));
        before += file.size;
    }
    try {
        await post<void>(`/api/deliveries/${delivery}/maps`, { uploads: ids, ...of });
    } finally {
        files.forEach((file) => begun.set(file, null));
    }
}

/** The Proof station; asked for again every second while something of it is being made. */
export const useProof = (delivery: Delivery) =>
    useQuery({
        queryKey: ['proof', delivery.id, delivery.mark],
        queryFn: () => call<Schemas['ProofData']>(`/api/deliveries/${delivery.id}/proof`),
        placeholderData: (before, query) => (query?.queryKey[1] === delivery.id ? before : undefined),
        refetchInterval: (query) => (query.state.data?.trials.some((trial) => trial.state !== 'done' && trial.state !== 'failed') ? 1000 : false),
    });

/** Takes a map that came back out of a delivery. */
export const takeMapBack = (delivery: number, file: number): Promise<void> => post<void>(`/api/deliveries/${delivery}/maps/${file}/take-back`);

/** Light meshes: `files/12/mesh` of a file, `mesh/single` or `mesh/fitted` of a cage. Null while there are none. */
export async function fetchMesh(delivery: number, which: string): Promise<ArrayBuffer | null> {
    const response = await fetch(`/api/deliveries/${delivery}/${which}`);
    if (response.ok) {
        return response.arrayBuffer();
    }
    if (response.status === 404) {
        return null;
    }
    throw new ApiError(`The server answered ${response.status}.`, response.status);
}

/** What a station shows, fetched once for an act on it. */
export const fetchStation = <S extends StationKey>(delivery: number, station: S): Promise<StationData[S]> => call<StationData[S]>(`/api/deliveries/${delivery}/${station}`);

export const act = <Result>(delivery: number, path: string, body?: unknown, version?: number): Promise<Result> =>
    send<Result>('POST', `/api/deliveries/${delivery}/${path}`, body, version);

export const useFound = (find: string, delivery: number | null) =>
    useQuery({
        queryKey: ['search', find, delivery],
        enabled: find !== '',
        placeholderData: keepPreviousData,
        queryFn: () => call<Found>(`/api/search?${new URLSearchParams({ find, ...(delivery === null ? {} : { delivery: String(delivery) }) }).toString()}`),
    });
