import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { put, type Session } from '../api/client';
import { Failure, Tick } from '../frame/sheet';
import { Line } from './forms';
import { Outside } from './SignIn';

/** The first person's e-mail until they have given their own. */
const OWNER = 'owner@localhost';

/** What a link that was sent says; it stands after the `#`, where no server sees it. */
const read = (): { email: string; token: string; invite: boolean; name: string } => {
    const said = new URLSearchParams(window.location.hash.slice(1));
    return { email: said.get('email') ?? '', token: said.get('token') ?? '', invite: said.get('invite') === '1', name: said.get('name') ?? '' };
};

/** Sets a password by a link: of somebody who forgot theirs, was invited, or is the first. */
export function PasswordPage() {
    const [link] = useState(read);
    const isFirst = link.email === OWNER;
    const [name, setName] = useState(isFirst ? '' : link.name);
    const [email, setEmail] = useState('');
    const [password, setPassword] = useState('');
    const [endTokens, setEndTokens] = useState(true);
    const client = useQueryClient();
    const navigate = useNavigate();
    const set = useMutation({
        mutationFn: () =>
            put<Session>('POST', '/api/password', {
                email: link.email,
                token: link.token,
                invite: link.invite,
                password,
                ...(link.invite ? { name } : { endTokens }),
                ...(isFirst ? { newEmail: email } : {}),
            }),
        onSuccess: async (session) => {
            client.setQueryData(['session'], session);
            await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'session' });
            void navigate('/', { replace: true });
        },
    });
    useEffect(() => {
        document.title = 'Your password – Yellow Anvil';
        // The link works once, and need not stay in the history.
        window.history.replaceState(null, '', window.location.pathname);
    }, []);
    if (link.token === '') {
        return (
            <Outside title="This link is not whole">
                <p>Copy all of it from the mail, with what stands after the #, or ask for another.</p>
            </Outside>
        );
    }
    return (
        <Outside title={isFirst ? 'You are the first: the lead' : link.invite ? 'Welcome to Yellow Anvil' : 'Set a new password'}>
            <p className="soft">
                {isFirst ? 'A lead invites the others, gives them their roles, and may do everything.' : `This is for ${link.email}.`} A password has at least 12 characters;
                several words are good.
            </p>
            <form
                onSubmit={(event) => {
                    event.preventDefault();
                    set.mutate();
                }}
            >
                {link.invite && <Line label="Your name" autoComplete="name" value={name} onText={setName} autoFocus />}
                {isFirst ? (
                    <Line label="Your e-mail" type="email" autoComplete="username" value={email} onText={setEmail} />
                ) : (
                    <input type="email" autoComplete="username" value={link.email} readOnly hidden />
                )}
                <Line label="New password" type="password" autoComplete="new-password" value={password} onText={setPassword} autoFocus={!link.invite} />
                {!link.invite && (
                    <Tick checked={endTokens} onTick={setEndTokens}>
                        End my tokens too: scripts and watches that use them stop
                    </Tick>
                )}
                {set.error && <Failure>{set.error.message}</Failure>}
                <Button type="submit" variant="contained" disabled={set.isPending || password === '' || (link.invite && name.trim() === '') || (isFirst && email.trim() === '')}>
                    Set password and sign in
                </Button>
            </form>
        </Outside>
    );
}
