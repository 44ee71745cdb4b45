import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { put, type CheckLimits, type Learned, type StandardPage, type StandardRow } from '../api/client';
import { plural, when } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { Choice, Failure, Tick } from '../frame/sheet';
import { differences, rulesOf, told, type Rules } from './rules';

/** Assets that are known to be good teach the limits that all of them pass. */
export function Learn({ page, isChanged, onTake }: { page: StandardPage; isChanged: boolean; onTake: (rules: Rules) => void }) {
    const [chosen, setChosen] = useState<number[]>([]);
    const learn = useMutation({ mutationFn: () => put<Learned>('POST', `/api/standards/${page.id}/learn`, { assets: chosen }) });
    const found = learn.data;
    if (page.assets.length === 0) {
        return <p className="soft">No asset is held to this standard yet: there is nothing to learn from.</p>;
    }
    return (
        <>
            <p className="soft" style={{ marginTop: 0 }}>
                Tick assets that are known to bake clean. Limits are proposed that all of them pass, each moved no further than the worst of them. What they keep stays as it is.
            </p>
            <div style={{ display: 'flex', flexDirection: 'column' }}>
                {page.assets.map((asset) => (
                    <Tick
                        key={asset.id}
                        checked={chosen.includes(asset.id)}
                        onTick={(on) => {
                            learn.reset();
                            setChosen((old) => (on ? [...old, asset.id] : old.filter((id) => id !== asset.id)));
                        }}
                    >
                        {asset.name} <span className="soft">{asset.verdict ?? 'not judged yet'}</span>
                    </Tick>
                ))}
            </div>
            <Button
                variant="outlined"
                disabled={chosen.length === 0 || learn.isPending || isChanged}
                title={isChanged ? 'save or drop your changes first: limits are learned on top of what is in force' : undefined}
                onClick={() => learn.mutate()}
                sx={{ mt: 1 }}
            >
                Propose limits from {plural(chosen.length, 'asset')}
            </Button>
            {isChanged && <p className="soft">Save or drop your changes first: limits are learned on top of what is in force.</p>}
            {learn.error && <Failure>{learn.error.message}</Failure>}
            {found && (
                <div role="status" aria-label="proposed limits">
                    <h2 style={{ marginTop: 14 }}>{found.limits.length === 0 ? 'No limit has to be moved' : `${plural(found.limits.length, 'limit')} to move`}</h2>
                    {found.limits.length > 0 && (
                        <Table>
                            <TableHead>
                                <TableRow>
                                    <TableCell>check</TableCell>
                                    <TableCell className="num" style={{ width: 78 }}>
                                        now
                                    </TableCell>
                                    <TableCell className="num" style={{ width: 86 }}>
                                        proposed
                                    </TableCell>
                                    <TableCell>set by</TableCell>
                                </TableRow>
                            </TableHead>
                            <TableBody>
                                {found.limits.map((one) => (
                                    <TableRow key={`${one.code} ${one.of}`}>
                                        <TableCell title={one.title}>
                                            <span className="mono">{one.code}</span>
                                            {one.of === 'caution' && <span className="soft"> caution</span>}
                                        </TableCell>
                                        <TableCell className="num">{told(one.was, one.unit)}</TableCell>
                                        <TableCell className="num">
                                            <b>{told(one.limit, one.unit)}</b>
                                        </TableCell>
                                        <TableCell>
                                            {one.asset}
                                            {one.others > 0 && <span className="soft"> and {one.others} more</span>}
                                        </TableCell>
                                    </TableRow>
                                ))}
                            </TableBody>
                        </Table>
                    )}
                    {found.unknown.length > 0 && <p className="caution">Not judged to the end yet: {found.unknown.join(', ')}.</p>}
                    {found.left.map((one) => (
                        <p key={one.asset} style={{ margin: '6px 0' }}>
                            <b>{one.asset}</b>: no limit mends {one.words.join('; ')}
                        </p>
                    ))}
                    {found.limits.length > 0 && (
                        <Button variant="contained" onClick={() => onTake(rulesOf(found.rules))} sx={{ mt: 1 }}>
                            Take these limits
                        </Button>
                    )}
                </div>
            )}
        </>
    );
}

/** What is different from another standard, or from an earlier version of this one. */
export function Compare({
    page,
    rules,
    others,
    checks,
    onTake,
}: {
    page: StandardPage;
    rules: Rules;
    others: StandardRow[];
    checks: CheckLimits[];
    onTake: (rules: Rules) => void;
}) {
    const [key, setKey] = useState('');
    const options: [string, string, string][] = [
        ...page.versions.map((one): [string, string, string] => [
            `v${one.version}`,
            `version ${one.version}${one.version === page.version ? ', in force' : `, ${when(one.changedAt)}`}`,
            one.rules,
        ]),
        ...others.filter((one) => one.id !== page.id).map((one): [string, string, string] => [`s${one.id}`, one.name, one.rules]),
    ];
    const other = options.find(([one]) => one === key);
    const rows = other ? differences(rules, rulesOf(other[2]), checks) : [];
    return (
        <>
            <Choice label="compare with" value={key} width="100%" empty="compare with…" options={options.map(([one, words]) => [one, words] as const)} onChoose={setKey} />
            {other && rows.length === 0 && <p>Nothing is different from {other[1]}.</p>}
            {rows.length > 0 && other && (
                <>
                    <Table sx={{ mt: 1 }}>
                        <TableHead>
                            <TableRow>
                                <TableCell>what</TableCell>
                                <TableCell className="num">here</TableCell>
                                <TableCell className="num">{other[1]}</TableCell>
                            </TableRow>
                        </TableHead>
                        <TableBody>
                            {rows.map((row) => (
                                <TableRow key={row.what}>
                                    <TableCell className="mono" title={row.what}>
                                        {row.what}
                                    </TableCell>
                                    <TableCell className="num">{row.a}</TableCell>
                                    <TableCell className="num">{row.b}</TableCell>
                                </TableRow>
                            ))}
                        </TableBody>
                    </Table>
                    <Button variant="outlined" sx={{ mt: 1 }} onClick={() => onTake({ ...rulesOf(other[2]), name: rules.name })}>
                        Take all from {other[1]}
                    </Button>
                </>
            )}
            <h2>Versions</h2>
            {page.versions.map((one) => (
                <div key={one.version} style={{ borderTop: '1px solid var(--rule)', padding: '5px 0' }}>
                    <b>{one.version}</b> {one.changedBy}, {when(one.changedAt)}
                    {one.reason && <div className="soft">{one.reason}</div>}
                </div>
            ))}
        </>
    );
}

/** Which assets are held to it; each can be held to another one. */
export function Held({ page, others, mayDecide }: { page: StandardPage; others: StandardRow[]; mayDecide: boolean }) {
    const client = useQueryClient();
    const notice = useNotice();
    const hold = useMutation({
        mutationFn: ({ asset, standard }: { asset: number; standard: number }) => put<void>('PUT', `/api/assets/${asset}/standard`, { standard }),
        onSuccess: async () => {
            notice.done('It is held to the other standard and checked again');
            await client.invalidateQueries();
        },
        onError: notice.failed,
    });
    if (page.assets.length === 0) {
        return <p className="soft">No asset is held to it. New assets are held to the first standard; on the page of that one, each can be held to another.</p>;
    }
    return (
        <Table>
            <TableBody>
                {page.assets.map((asset) => (
                    <TableRow key={asset.id}>
                        <TableCell>
                            <Link to={`/assets/${asset.id}/history`}>{asset.name}</Link>{' '}
                            <span className="soft">
                                {asset.verdict ?? 'not judged yet'}
                                {asset.outdated && ', by an earlier version'}
                            </span>
                        </TableCell>
                        <TableCell style={{ width: '46%' }}>
                            <Choice
                                label={`standard of ${asset.name}`}
                                value={String(page.id)}
                                width="100%"
                                disabled={!mayDecide || hold.isPending}
                                options={others.map((one) => [String(one.id), one.name] as const)}
                                onChoose={(standard) => hold.mutate({ asset: asset.id, standard: Number(standard) })}
                            />
                        </TableCell>
                    </TableRow>
                ))}
            </TableBody>
        </Table>
    );
}
