import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { put, type Session } from '../api/client';
import { App, BarBox } from '../frame/looks';
import { Anvil } from '../frame/marks';
import { Failure, Offer } from '../frame/sheet';
import { Line } from './forms';
import { standingWords, useSignIn } from './session';

/** A page for somebody who is not signed in. */
export function Outside({ title, children }: { title: string; children: ReactNode }) {
    return (
        <App>
            <BarBox>
                <span className="brand">
                    <Anvil /> <span>Yellow Anvil</span>
                </span>
            </BarBox>
            <Box component="main" sx={{ flex: 1, overflowY: 'auto', p: '6vh 28px' }}>
                <Box sx={{ maxWidth: 430, mx: 'auto' }}>
                    <h1>{title}</h1>
                    {children}
                </Box>
            </Box>
        </App>
    );
}

/** E-mail and password; with the demo, its crew; where a password was forgotten, a link by mail. */
export function SignIn({ session }: { session: Session }) {
    const signIn = useSignIn();
    const [email, setEmail] = useState('');
    const [password, setPassword] = useState('');
    const [forgets, setForgets] = useState(false);
    const forgot = useMutation({ mutationFn: () => put<void>('POST', '/api/password/forgot', { email }) });
    if (session.isFresh) {
        return (
            <Outside title="Nobody has signed up yet">
                <p>
                    <b>bin/start</b> printed a link that makes you the first person here, the lead. Open that link. If it is gone, start again: each start prints a new one.
                </p>
            </Outside>
        );
    }
    if (forgets) {
        return (
            <Outside title="Set a new password">
                {forgot.isSuccess ? (
                    <Offer quiet>
                        If there is an account with this e-mail, a link is on its way to it. It works for an hour. Where no mail server is set, a lead finds the mail in the inbox.
                    </Offer>
                ) : (
                    <form
                        onSubmit={(event) => {
                            event.preventDefault();
                            forgot.mutate();
                        }}
                    >
                        <Line label="E-mail" type="email" autoComplete="username" value={email} onText={setEmail} autoFocus />
                        {forgot.error && <Failure>{forgot.error.message}</Failure>}
                        <Button type="submit" variant="contained" disabled={forgot.isPending || email.trim() === ''}>
                            Send me a link
                        </Button>
                    </form>
                )}
                <Button variant="text" sx={{ mt: 1 }} onClick={() => (setForgets(false), forgot.reset())}>
                    Back to sign in
                </Button>
            </Outside>
        );
    }
    return (
        <Outside title="Sign in">
            {session.crew.length > 0 && (
                <Box sx={{ mb: 3 }}>
                    <p className="soft">This is the demo. Its crew is made up, and needs no passwords.</p>
                    {session.crew.map((one) => (
                        <Button key={one.id} fullWidth variant="outlined" sx={{ mb: 1, justifyContent: 'space-between' }} onClick={() => signIn.mutate({ person: one.id })}>
                            <b>{one.name}</b>
                            <span className="soft">{standingWords[one.role]}</span>
                        </Button>
                    ))}
                </Box>
            )}
            <form
                onSubmit={(event) => {
                    event.preventDefault();
                    signIn.mutate({ email, password });
                }}
            >
                <Line label="E-mail" type="email" autoComplete="username" value={email} onText={setEmail} autoFocus={session.crew.length === 0} />
                <Line label="Password" type="password" autoComplete="current-password" value={password} onText={setPassword} />
                {signIn.error && <Failure>{signIn.error.message}</Failure>}
                <Box sx={{ display: 'flex', gap: 1 }}>
                    <Button type="submit" variant="contained" disabled={signIn.isPending || email.trim() === '' || password === ''}>
                        Sign in
                    </Button>
                    <Button variant="text" onClick={() => setForgets(true)}>
                        Forgot your password?
                    </Button>
                </Box>
            </form>
        </Outside>
    );
}
