import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { ask, put, type Token } from '../api/client';
import { when } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { Choice, Failure, Offer, Tick } from '../frame/sheet';
import { Line, Plain, type Page } from './forms';
import { standingWords, useMe } from './session';

const SCOPES = [
    ['read', 'see assets and findings'],
    ['hand-in', 'hand files in and write mended ones'],
    ['decide', 'choose, waive, send back and seal'],
] as const;

const DAYS = [
    ['30', 'for 30 days'],
    ['365', 'for a year'],
    ['', 'until revoked'],
] as const;

/** Tokens for pipelines: each named, said once, good for what it was made for. */
function Tokens() {
    const client = useQueryClient();
    const notice = useNotice();
    const { data: tokens } = useQuery({ queryKey: ['tokens'], queryFn: () => ask<Token[]>('/api/me/tokens') });
    const [name, setName] = useState('');
    const [scopes, setScopes] = useState<string[]>(['read']);
    const [days, setDays] = useState('365');
    const make = useMutation({
        mutationFn: () => put<{ token: string }>('POST', '/api/me/tokens', { name, scopes, days: days === '' ? null : Number(days) }),
        onSuccess: async () => {
            setName('');
            await client.invalidateQueries({ queryKey: ['tokens'] });
        },
    });
    const revoke = useMutation({
        mutationFn: (id: number) => put<void>('DELETE', `/api/me/tokens/${id}`),
        onSuccess: () => client.invalidateQueries({ queryKey: ['tokens'] }),
        onError: notice.failed,
    });
    return (
        <section aria-label="tokens">
            <h2>Tokens for pipelines</h2>
            <p className="soft">
                A program sends its token as <span className="mono">Authorization: Bearer …</span> with <span className="mono">X-Anvil: 1</span>, and acts in your name, with your
                role.
            </p>
            {make.data && (
                <Offer>
                    Copy it now, it is not shown again:
                    <Box component="code" className="mono" sx={{ display: 'block', userSelect: 'all', overflowWrap: 'anywhere', mt: 0.5 }}>
                        {make.data.token}
                    </Box>
                </Offer>
            )}
            {(tokens ?? []).length > 0 && (
                <Table sx={{ mb: 2 }}>
                    <TableHead>
                        <TableRow>
                            <TableCell>name</TableCell>
                            <TableCell>may</TableCell>
                            <TableCell>made</TableCell>
                            <TableCell>last used</TableCell>
                            <TableCell>ends</TableCell>
                            <TableCell />
                        </TableRow>
                    </TableHead>
                    <TableBody>
                        {(tokens ?? []).map((one) => (
                            <TableRow key={one.id}>
                                <TableCell>
                                    <b>{one.name}</b>
                                </TableCell>
                                <TableCell className="mono">{one.scopes.join(', ')}</TableCell>
                                <TableCell>{when(one.madeAt)}</TableCell>
                                <TableCell>{one.usedAt ? when(one.usedAt) : 'never'}</TableCell>
                                <TableCell>{one.until ? when(one.until) : 'when revoked'}</TableCell>
                                <TableCell align="right">
                                    <Button variant="outlined" disabled={revoke.isPending} onClick={() => revoke.mutate(one.id)} aria-label={`Revoke ${one.name}`}>
                                        Revoke
                                    </Button>
                                </TableCell>
                            </TableRow>
                        ))}
                    </TableBody>
                </Table>
            )}
            <form
                onSubmit={(event) => {
                    event.preventDefault();
                    make.mutate();
                }}
            >
                <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap' }}>
                    <Box sx={{ width: 220 }}>
                        <Line label="Name of the new token" placeholder="build farm" value={name} onText={setName} sx={{ mb: 0 }} />
                    </Box>
                    <Box sx={{ mb: 1.5 }}>
                        <Choice label="how long it is good" value={days} options={DAYS} onChoose={setDays} width={130} />
                    </Box>
                    <Box sx={{ mb: 1.5, display: 'flex', flexDirection: 'column' }}>
                        {SCOPES.map(([scope, words]) => (
                            <FormControlLabel
                                key={scope}
                                control={
                                    <Checkbox
                                        size="small"
                                        checked={scopes.includes(scope)}
                                        onChange={(event) => setScopes((old) => (event.target.checked ? [...old, scope] : old.filter((one) => one !== scope)))}
                                    />
                                }
                                label={words}
                            />
                        ))}
                    </Box>
                    <Button type="submit" variant="contained" sx={{ mb: 1.5 }} disabled={name.trim() === '' || scopes.length === 0 || make.isPending}>
                        Make token
                    </Button>
                </Box>
                {make.error && <Failure>{make.error.message}</Failure>}
            </form>
        </section>
    );
}

/** Name, password, sessions and tokens of who is signed in. */
export function AccountPage({ mode, setMode }: Page) {
    const me = useMe();
    const client = useQueryClient();
    const notice = useNotice();
    const [name, setName] = useState(me.name);
    const [current, setCurrent] = useState('');
    const [password, setPassword] = useState('');
    const [withPassword, setWithPassword] = useState(false);
    const [withSessions, setWithSessions] = useState(true);
    useEffect(() => {
        document.title = 'Account – Yellow Anvil';
    }, []);
    const rename = useMutation({
        mutationFn: () => put<void>('PUT', '/api/me', { name }),
        onSuccess: async () => {
            await client.invalidateQueries({ queryKey: ['session'] });
            notice.done('Your name is changed');
        },
        onError: notice.failed,
    });
    const change = useMutation({
        mutationFn: () => put<void>('POST', '/api/me/password', { current, password, endTokens: withPassword }),
        onSuccess: async () => {
            await client.invalidateQueries({ queryKey: ['tokens'] });
            setCurrent('');
            setPassword('');
            notice.done(`Your password is changed, and all other sessions${withPassword ? ' and your tokens' : ''} are ended`);
        },
    });
    const end = useMutation({
        mutationFn: () => put<void>('DELETE', '/api/me/sessions', { endTokens: withSessions }),
        onSuccess: async () => {
            await client.invalidateQueries({ queryKey: ['tokens'] });
            notice.done(`All other sessions${withSessions ? ' and your tokens' : ''} are ended`);
        },
        onError: notice.failed,
    });
    return (
        <Plain title="account" where={<b>Account</b>} mode={mode} setMode={setMode}>
            <h1>
                {me.name}, {standingWords[me.role]}
            </h1>
            <p className="soft">{me.email}</p>
            <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(300px, 430px))', gap: 4, mb: 3 }}>
                <form
                    onSubmit={(event) => {
                        event.preventDefault();
                        rename.mutate();
                    }}
                >
                    <h2>Name</h2>
                    <p className="soft">Changes are signed with it.</p>
                    <Line label="Your name" autoComplete="name" value={name} onText={setName} />
                    <Button type="submit" variant="outlined" disabled={rename.isPending || name.trim() === '' || name.trim() === me.name}>
                        Change name
                    </Button>
                    <h2 style={{ marginTop: 24 }}>Sessions</h2>
                    <p className="soft">Where you are signed in on other machines and browsers.</p>
                    <div>
                        <Tick checked={withSessions} onTick={setWithSessions}>
                            End my tokens too
                        </Tick>
                    </div>
                    <Button variant="outlined" disabled={end.isPending} onClick={() => end.mutate()}>
                        Sign out everywhere else
                    </Button>
                </form>
                {!me.isDemo && (
                    <form
                        onSubmit={(event) => {
                            event.preventDefault();
                            change.mutate();
                        }}
                    >
                        <h2>Password</h2>
                        <p className="soft">At least 12 characters; several words are good.</p>
                        <input type="email" autoComplete="username" value={me.email} readOnly hidden />
                        <Line label="Present password" type="password" autoComplete="current-password" value={current} onText={setCurrent} />
                        <Line label="New password" type="password" autoComplete="new-password" value={password} onText={setPassword} />
                        <Tick checked={withPassword} onTick={setWithPassword}>
                            End my tokens too
                        </Tick>
                        {change.error && <Failure>{change.error.message}</Failure>}
                        <Button type="submit" variant="outlined" disabled={change.isPending || current === '' || password === ''}>
                            Change password
                        </Button>
                    </form>
                )}
            </Box>
            <Tokens />
        </Plain>
    );
}
