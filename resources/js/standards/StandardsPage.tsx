import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ask, put, type StandardRow } from '../api/client';
import { plural, when } from '../frame/format';
import { Failure } from '../frame/sheet';
import { Plain, type Page } from '../people/forms';
import { useMay } from '../people/session';
import { rulesOf, type Rules } from './rules';

/** What sets a standard apart at a glance. */
const short = (rules: Rules): string =>
    [
        [rules.suffixes.low, rules.suffixes.high].map((one) => (Array.isArray(one) ? one[0] : one)).join(' / '),
        `${rules.mapSize} px`,
        rules.rays.setsKeptApart ? 'sets kept apart' : 'sets baked together',
        Object.keys(rules.checks).length === 0 ? 'limits as built in' : `${plural(Object.keys(rules.checks).length, 'check')} set`,
    ].join(', ');

/** All standards of the studio; a new one from nothing or from a file. */
export function StandardsPage({ mode, setMode }: Page) {
    const { data, error } = useQuery({ queryKey: ['standards'], queryFn: () => ask<StandardRow[]>('/api/standards') });
    const mayDecide = useMay('decide');
    const navigate = useNavigate();
    const client = useQueryClient();
    const chooser = useRef<HTMLInputElement>(null);
    const [refused, setRefused] = useState<string | null>(null);
    useEffect(() => {
        document.title = 'Standards – Yellow Anvil';
    }, []);
    const make = useMutation({
        mutationFn: ([rules, reason]: [string, string | null]) => put<{ id: number }>('POST', '/api/standards', { rules, reason }),
        onSuccess: async ({ id }) => {
            await client.invalidateQueries({ queryKey: ['standards'] });
            void navigate(`/standards/${id}`);
        },
        onError: (problem) => setRefused(problem.message),
    });
    const free = (name: string): string => [name, ...[...Array(99).keys()].map((n) => `${name} ${n + 2}`)].find((one) => !data?.some((other) => other.name === one)) ?? name;
    const take = async (file: File | undefined): Promise<void> => {
        setRefused(null);
        if (!file) {
            return;
        }
        const text = await file.text();
        try {
            const rules = JSON.parse(text) as Record<string, unknown>;
            const given = typeof rules.name === 'string' && rules.name.trim() !== '' ? rules.name : file.name.replace(/\.json$/i, '');
            make.mutate([JSON.stringify({ ...rules, name: free(given) }), `imported from ${file.name}`]);
        } catch (problem) {
            setRefused(`${file.name} is no JSON: ${problem instanceof Error ? problem.message : 'it cannot be read'}`);
        }
    };
    const held = data?.reduce((sum, one) => sum + one.assets, 0) ?? 0;
    return (
        <Plain title="standards" where={<b>Standards</b>} mode={mode} setMode={setMode}>
            <h1>
                {data ? `${plural(data.length, 'standard')}; ${plural(held, 'asset is', 'assets are')} held to ${data.length === 1 ? 'it' : 'them'}` : 'Fetching the standards…'}
            </h1>
            <p className="soft" style={{ maxWidth: '76ch' }}>
                A standard is a studio&apos;s rules: suffixes, map size, rays, reach, and the limit and severity of each check. Before a change is saved, its page says what it
                would do to the assets at hand.
            </p>
            {error && <Failure>{error.message}</Failure>}
            {refused && <Failure>{refused}</Failure>}
            {data && (
                <Table>
                    <colgroup>
                        <col style={{ width: '30%' }} />
                        <col />
                        <col style={{ width: 80 }} />
                        <col style={{ width: 80 }} />
                        <col style={{ width: 220 }} />
                    </colgroup>
                    <TableHead>
                        <TableRow>
                            <TableCell>name</TableCell>
                            <TableCell>says</TableCell>
                            <TableCell className="num">version</TableCell>
                            <TableCell className="num">assets</TableCell>
                            <TableCell>changed</TableCell>
                        </TableRow>
                    </TableHead>
                    <TableBody>
                        {data.map((one) => (
                            <TableRow key={one.id}>
                                <TableCell>
                                    <Link to={`/standards/${one.id}`}>
                                        <b>{one.name}</b>
                                    </Link>
                                    {one.first && <span className="soft"> for new assets</span>}
                                </TableCell>
                                <TableCell className="soft" title={short(rulesOf(one.rules))}>
                                    {short(rulesOf(one.rules))}
                                </TableCell>
                                <TableCell className="num">{one.version}</TableCell>
                                <TableCell className="num">{one.assets}</TableCell>
                                <TableCell className="soft">
                                    {one.changedBy}, {when(one.changedAt)}
                                </TableCell>
                            </TableRow>
                        ))}
                    </TableBody>
                </Table>
            )}
            {mayDecide && (
                <div style={{ display: 'flex', gap: 10, marginTop: 16 }}>
                    <Button variant="outlined" disabled={!data || make.isPending} onClick={() => make.mutate([JSON.stringify({ name: free('new standard') }), null])}>
                        New standard
                    </Button>
                    <Button variant="outlined" disabled={!data || make.isPending} onClick={() => chooser.current?.click()}>
                        Import a file
                    </Button>
                    <input
                        ref={chooser}
                        type="file"
                        accept=".json,application/json"
                        hidden
                        aria-label="standard file"
                        onChange={(event) => void take(event.target.files?.[0]).finally(() => (event.target.value = ''))}
                    />
                </div>
            )}
        </Plain>
    );
}
