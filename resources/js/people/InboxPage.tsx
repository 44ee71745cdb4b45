import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { ask, put, type Letter } from '../api/client';
import { plural, when } from '../frame/format';
import { Failure } from '../frame/sheet';
import { Plain, type Page } from './forms';
import { useMe } from './session';

/** The text of a mail, its links to follow. */
function Text({ text }: { text: string }) {
    // Only addresses of this application are links: what else stands in a mail was typed by somebody.
    const own = window.location.origin;
    return (
        <Box component="pre" sx={{ font: 'inherit', whiteSpace: 'pre-wrap', overflowWrap: 'anywhere', m: 0 }}>
            {text.split(/(https?:\/\/\S+)/).map((piece, i) =>
                piece.startsWith(`${own}/`) ? (
                    <a key={i} href={piece.slice(own.length)}>
                        {piece}
                    </a>
                ) : (
                    piece
                ),
            )}
        </Box>
    );
}

/** Mail that no server was there to take. */
export function InboxPage({ mode, setMode }: Page) {
    const me = useMe();
    const client = useQueryClient();
    const { data: letters, error } = useQuery({ queryKey: ['letters'], queryFn: () => ask<Letter[]>('/api/me/letters'), refetchInterval: 15_000 });
    const [open, setOpen] = useState<number | null>(null);
    const read = useMutation({ mutationFn: (id: number) => put<void>('POST', `/api/me/letters/${id}/read`), onSuccess: () => client.invalidateQueries() });
    useEffect(() => {
        document.title = 'Inbox – Yellow Anvil';
    }, []);
    return (
        <Plain title="inbox" where={<b>Inbox</b>} mode={mode} setMode={setMode}>
            <h1>{letters === undefined ? 'Fetching the mail…' : letters.length === 0 ? 'No mail' : plural(letters.length, 'mail')}</h1>
            <p className="soft" style={{ maxWidth: '76ch' }}>
                Where no mail server is set, mail lies here. {me.may.includes('people') ? 'A lead sees all of it, so that nobody is locked out.' : 'You see what was sent to you.'}
            </p>
            {error && <Failure>{error.message}</Failure>}
            <Box component="ul" aria-label="mail" sx={{ listStyle: 'none', m: 0, p: 0 }}>
                {(letters ?? []).map((one) => (
                    <Box component="li" key={one.id} sx={{ borderBottom: 1, borderColor: 'divider', py: 0.5 }}>
                        <ButtonBase
                            aria-expanded={open === one.id}
                            onClick={() => {
                                setOpen(open === one.id ? null : one.id);
                                if (!one.isRead) {
                                    read.mutate(one.id);
                                }
                            }}
                            sx={{ width: '100%', display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 260px) 170px', gap: 2, textAlign: 'left', py: 0.5 }}
                        >
                            <span style={{ fontWeight: one.isRead ? 400 : 700 }}>
                                {one.subject}
                                {!one.isRead && <span className="visually-hidden"> unread</span>}
                            </span>
                            <span className="mono soft ellipsis">{one.to}</span>
                            <span className="soft">{when(one.at)}</span>
                        </ButtonBase>
                        {open === one.id && (
                            <Box sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', p: 2, my: 1, maxWidth: '90ch' }}>
                                <Text text={one.text} />
                            </Box>
                        )}
                    </Box>
                ))}
            </Box>
        </Plain>
    );
}
