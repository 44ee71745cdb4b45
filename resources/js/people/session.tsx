import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useRef, type ReactNode } from 'react';
import { ask, put, SIGNED_OUT, type Leave, type Me, type Session, type Standing } from '../api/client';

export const standingWords: Record<Standing, string> = { artist: 'artist', 'technical-artist': 'technical artist', lead: 'lead' };

const ALL: Leave[] = ['view', 'mend', 'decide', 'waive', 'sendBack', 'seal', 'delete', 'people'];

interface Signed {
    me: Me;
    crew: Session['crew'];
}

/** Without a provider, as in tests of one screen, somebody who may everything. */
const Context = createContext<Signed>({
    me: { id: 0, name: 'Ines Falk', email: 'ines.falk@signal.example', role: 'lead', may: ALL, isDemo: false, sentBack: 0, letters: 0 },
    crew: [],
});

export const useMe = (): Me => useContext(Context).me;
export const useCrew = (): Session['crew'] => useContext(Context).crew;
/** Whether who is signed in has leave to something. */
export const useMay = (leave: Leave): boolean => useMe().may.includes(leave);

/** Signed out on purpose: then the demo signs nobody in by itself, for as long as this tab is open. */
const OUT = 'anvil.signed-out';
const wasSignedOut = (): boolean => {
    try {
        return sessionStorage.getItem(OUT) !== null;
    } catch {
        return false;
    }
};
const noteSignedOut = (isOut: boolean): void => {
    try {
        if (isOut) {
            sessionStorage.setItem(OUT, '1');
        } else {
            sessionStorage.removeItem(OUT);
        }
    } catch {
        // Then it is not kept.
    }
};

export function useSession() {
    const client = useQueryClient();
    const session = useQuery({ queryKey: ['session'], queryFn: () => ask<Session>('/api/session'), staleTime: 60_000, refetchInterval: 60_000, retry: 1 });
    useEffect(() => {
        const onOut = (): void => void client.invalidateQueries({ queryKey: ['session'] });
        window.addEventListener(SIGNED_OUT, onOut);
        return () => window.removeEventListener(SIGNED_OUT, onOut);
    }, [client]);
    return session;
}

/** Signs in, as one of the demo's crew or with what was typed; everything that is shown is fetched anew. */
export function useSignIn() {
    const client = useQueryClient();
    return useMutation({
        mutationFn: (who: { person: number } | { email: string; password: string }) => put<Session>('POST', 'person' in who ? '/api/session/demo' : '/api/session', who),
        onSuccess: async (session) => {
            noteSignedOut(false);
            client.setQueryData(['session'], session);
            await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'session' });
        },
    });
}

export function useSignOut() {
    const client = useQueryClient();
    return useMutation({
        mutationFn: () => put<void>('DELETE', '/api/session'),
        onSuccess: async () => {
            noteSignedOut(true);
            client.removeQueries({ predicate: (query) => query.queryKey[0] !== 'session' });
            await client.invalidateQueries({ queryKey: ['session'] });
        },
    });
}

/** Shows the application to who is signed in, and the way in to everybody else. With the demo, the first of its crew comes in by themselves. */
export function Signed({ session, out, children }: { session: Session; out: ReactNode; children: ReactNode }) {
    const signIn = useSignIn();
    const first = session.me === null && !wasSignedOut() ? (session.crew.find((one) => one.role === 'lead') ?? session.crew[0]) : undefined;
    const tried = useRef(false);
    const { mutate } = signIn;
    useEffect(() => {
        if (first && !tried.current) {
            tried.current = true;
            mutate({ person: first.id });
        }
    }, [first, mutate]);
    if (session.me === null) {
        return first && !signIn.isError ? null : out;
    }
    return <Context.Provider value={{ me: session.me, crew: session.crew }}>{children}</Context.Provider>;
}
