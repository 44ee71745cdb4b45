import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { ask, put, type Person, type Standing } from '../api/client';
import { when } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { Choice, Failure } from '../frame/sheet';
import { Line, Plain, type Page } from './forms';
import { standingWords } from './session';

const ROLES = Object.entries(standingWords) as [Standing, string][];

export const usePeople = () => useQuery({ queryKey: ['people'], queryFn: () => ask<Person[]>('/api/people') });

/** The people of the studio: who they are, and somebody new. For leads. */
export function PeoplePage({ mode, setMode }: Page) {
    const { data: people, error } = usePeople();
    const client = useQueryClient();
    const notice = useNotice();
    const [name, setName] = useState('');
    const [email, setEmail] = useState('');
    const [role, setRole] = useState<Standing>('artist');
    useEffect(() => {
        document.title = 'People – Yellow Anvil';
    }, []);
    const again = (): Promise<void> => client.invalidateQueries({ queryKey: ['people'] });
    const invite = useMutation({
        mutationFn: () => put<{ sent: boolean }>('POST', '/api/people', { name, email, role }),
        onSuccess: async ({ sent }) => {
            notice.done(sent ? `A link is on its way to ${email}; where no mail server is set, it lies in the inbox` : 'The account is made, but the mail could not be sent');
            setName('');
            setEmail('');
            await again();
        },
    });
    const change = useMutation({
        mutationFn: ({ id, ...to }: { id: number; role: Standing; lockedOut: boolean }) => put<void>('PUT', `/api/people/${id}`, to),
        onSuccess: again,
        onError: notice.failed,
    });
    const send = useMutation({
        mutationFn: (id: number) => put<void>('POST', `/api/people/${id}/invite`),
        onSuccess: () => notice.done('The link is sent again'),
        onError: notice.failed,
    });
    return (
        <Plain title="people" where={<b>People</b>} mode={mode} setMode={setMode}>
            <h1>{people ? `${people.filter((one) => one.state === 'active').length} people work here` : 'Fetching the people…'}</h1>
            <p className="soft" style={{ maxWidth: '76ch' }}>
                An artist hands files in, sees what is found and mends it. A technical artist also decides: sets, reach, IDs, waivers, what goes back, and seals packages. A lead
                may do everything, looks after people, and deletes.
            </p>
            {error && <Failure>{error.message}</Failure>}
            {people && (
                <Table sx={{ mb: 3 }}>
                    <colgroup>
                        <col />
                        <col style={{ width: '28%' }} />
                        <col style={{ width: 180 }} />
                        <col style={{ width: 190 }} />
                        <col style={{ width: 190 }} />
                    </colgroup>
                    <TableHead>
                        <TableRow>
                            <TableCell>name</TableCell>
                            <TableCell>e-mail</TableCell>
                            <TableCell>role</TableCell>
                            <TableCell>signed in last</TableCell>
                            <TableCell />
                        </TableRow>
                    </TableHead>
                    <TableBody>
                        {people.map((one) => (
                            <TableRow key={one.id}>
                                <TableCell>
                                    <b>{one.name}</b>
                                    {one.state !== 'active' && <span className={one.state === 'invited' ? 'soft' : 'caution'}> {one.state}</span>}
                                </TableCell>
                                <TableCell className="mono">{one.email}</TableCell>
                                <TableCell>
                                    <Choice
                                        label={`role of ${one.name}`}
                                        value={one.role}
                                        options={ROLES}
                                        width={160}
                                        disabled={one.state === 'locked out'}
                                        onChoose={(to) => change.mutate({ id: one.id, role: to as Standing, lockedOut: false })}
                                    />
                                </TableCell>
                                <TableCell>{one.signedInAt ? when(one.signedInAt) : 'never'}</TableCell>
                                <TableCell align="right">
                                    {one.state === 'invited' ? (
                                        <Button variant="outlined" aria-label={`Send the link to ${one.name} again`} onClick={() => send.mutate(one.id)}>
                                            Send link again
                                        </Button>
                                    ) : (
                                        <Button
                                            variant="outlined"
                                            aria-label={`${one.state === 'locked out' ? 'Let in' : 'Lock out'} ${one.name}`}
                                            onClick={() => change.mutate({ id: one.id, role: one.role, lockedOut: one.state !== 'locked out' })}
                                        >
                                            {one.state === 'locked out' ? 'Let in' : 'Lock out'}
                                        </Button>
                                    )}
                                </TableCell>
                            </TableRow>
                        ))}
                    </TableBody>
                </Table>
            )}
            <h2>Invite somebody</h2>
            <form
                onSubmit={(event) => {
                    event.preventDefault();
                    invite.mutate();
                }}
            >
                <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mt: 1 }}>
                    <Box sx={{ width: 220 }}>
                        <Line label="Name" value={name} onText={setName} />
                    </Box>
                    <Box sx={{ width: 280 }}>
                        <Line label="E-mail" type="email" value={email} onText={setEmail} />
                    </Box>
                    <Box sx={{ mb: 1.5 }}>
                        <Choice label="role" value={role} options={ROLES} onChoose={(to) => setRole(to as Standing)} width={160} />
                    </Box>
                    <Button type="submit" variant="contained" sx={{ mb: 1.5 }} disabled={invite.isPending || name.trim() === '' || email.trim() === ''}>
                        Invite
                    </Button>
                </Box>
                {invite.error && <Failure>{invite.error.message}</Failure>}
            </form>
        </Plain>
    );
}
