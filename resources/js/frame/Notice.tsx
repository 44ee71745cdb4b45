import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import { ApiError } from '../api/client';

interface Said {
    words: string;
    failed: boolean;
    act?: { label: string; run: () => void };
    stays: boolean;
    time: number;
}

export interface Notices {
    /** Something is done; with `undo` it can be taken back while the line is seen. */
    done: (words: string, undo?: () => void) => void;
    /** Reports something with another choice; stays until it is closed. */
    offer: (words: string, label: string, run: () => void) => void;
    failed: (error: unknown) => void;
}

const Context = createContext<Notices>({ done: () => undefined, offer: () => undefined, failed: () => undefined });

export const useNotice = (): Notices => useContext(Context);

const MILLISECONDS = 8000;

/** Says at the foot of the page what was done or went wrong, one line at a time. */
export function NoticeProvider({ children }: { children: ReactNode }) {
    const [said, setSaid] = useState<Said | null>(null);
    const say = useCallback((what: Omit<Said, 'time'>) => setSaid((old) => ({ ...what, time: (old?.time ?? 0) + 1 })), []);
    const notices = useMemo<Notices>(
        () => ({
            done: (words, undo) => say({ words, failed: false, stays: false, act: undo && { label: 'Undo', run: undo } }),
            offer: (words, label, run) => say({ words, failed: false, stays: true, act: { label, run } }),
            failed: (error) => say({ words: error instanceof Error ? error.message : 'That did not work. Try it again.', failed: true, stays: true }),
        }),
        [say],
    );
    const close = (): void => setSaid(null);
    return (
        <Context.Provider value={notices}>
            {children}
            <Snackbar
                key={said?.time}
                open={said !== null}
                autoHideDuration={said?.stays ? null : MILLISECONDS}
                onClose={(_, reason) => reason !== 'clickaway' && close()}
                anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}
            >
                <Alert
                    severity={said?.failed ? 'error' : 'success'}
                    icon={false}
                    onClose={close}
                    role={said?.failed ? 'alert' : 'status'}
                    action={
                        said?.act && (
                            <>
                                <Button
                                    color="inherit"
                                    onClick={() => {
                                        close();
                                        said.act?.run();
                                    }}
                                >
                                    {said.act.label}
                                </Button>
                                {said.stays && (
                                    <Button color="inherit" onClick={close}>
                                        Close
                                    </Button>
                                )}
                            </>
                        )
                    }
                >
                    {said?.words}
                </Alert>
            </Snackbar>
        </Context.Provider>
    );
}

/** That the server does not answer, or the session is over; what is shown stays, and the page comes back by itself. */
export function Lost({ error }: { error: unknown }) {
    if (!error) {
        return null;
    }
    const status = error instanceof ApiError ? error.status : 0;
    return (
        <Alert severity="warning" role="status" icon={false} sx={{ borderWidth: '0 0 1px', flex: 'none' }}>
            {status === 401 || status === 419
                ? 'Your session is over. Sign in again in another tab; this page goes on by itself.'
                : status === 404
                  ? 'This delivery was deleted. What is shown is from before.'
                  : status >= 400
                    ? `The server answers with an error (${status}). What is shown is from before; this page goes on by itself.`
                    : 'The server does not answer. What is shown is from before; this page goes on by itself once it does.'}
        </Alert>
    );
}
