import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { ask, decide, put, useSince, type CheckLimits, type StandardPage as PageData, type StandardRow } from '../api/client';
import { Bar } from '../frame/Bar';
import { plural } from '../frame/format';
import { App } from '../frame/looks';
import { useNotice } from '../frame/Notice';
import { CannotShow, Failure, Field, Foot, Grow, Head, Scroll, Tick } from '../frame/sheet';
import type { Page } from '../people/forms';
import { useMay } from '../people/session';
import { CheckRows } from './CheckRows';
import { EffectPanel } from './EffectPanel';
import { RuleFields } from './RuleFields';
import { Compare, Held, Learn } from './Side';
import { rulesOf, textOf, withCheck, type Rules } from './rules';
import { useEffectOf } from './useEffectOf';

const SIDES = { effect: 'Effect', learn: 'Learn', compare: 'Compare', assets: 'Assets' };

/** One standard: its rules, and beside them what a change would do, what good assets teach, versions, and who is held to it. */
export function StandardPage({ mode, setMode }: Page) {
    const { standardId } = useParams();
    const id = Number(standardId);
    const page = useQuery({ queryKey: ['standard', id], queryFn: () => ask<PageData>(`/api/standards/${id}`) });
    const all = useQuery({ queryKey: ['standards'], queryFn: () => ask<StandardRow[]>('/api/standards') });
    const checks = useQuery({ queryKey: ['checks'], queryFn: () => ask<CheckLimits[]>('/api/checks'), staleTime: Infinity });
    const problem = page.error ?? all.error ?? checks.error;
    const isThere = page.data && all.data && checks.data;
    return (
        <App>
            <Bar mode={mode} setMode={setMode}>
                <Link to="/standards" className="crumb">
                    Standards
                </Link>
                <span className="crumb">/</span>
                <b className="ellipsis">{page.data?.name ?? '…'}</b>
                <span className="grow" />
            </Bar>
            {problem && isThere && <Failure>{problem.message}</Failure>}
            {problem && !isThere && (
                <main style={{ padding: 28 }}>
                    <CannotShow what="This standard" why={problem.message} to="/standards" where="All standards" />
                </main>
            )}
            {page.data && all.data && checks.data && <Editor key={page.data.id} page={page.data} all={all.data} checks={checks.data} />}
        </App>
    );
}

function Editor({ page, all, checks }: { page: PageData; all: StandardRow[]; checks: CheckLimits[] }) {
    // What is changed here stays when somebody else saves meanwhile; it is of the version at which it began.
    const [changed, setDraft] = useState<Rules | null>(null);
    const shown = useMemo(() => rulesOf(page.rules), [page.rules]);
    const draft = changed ?? shown;
    const [side, setSide] = useState<keyof typeof SIDES>('effect');
    const [reason, setReason] = useState('');
    const [again, setAgain] = useState(true);
    const client = useQueryClient();
    const notice = useNotice();
    const navigate = useNavigate();
    const mayDecide = useMay('decide');
    const mayDelete = useMay('delete');
    const text = textOf(draft);
    const isChanged = text !== textOf(shown);
    const since = useSince(page.version, isChanged);
    if (changed !== null && !isChanged) {
        setDraft(null);
    }
    const isNew = all.some((one) => one.name === draft.name && one.id !== page.id);
    const { effect, error, isWhole } = useEffectOf(page.id, isChanged ? text : null);
    useEffect(() => {
        document.title = `${page.name} – Standards – Yellow Anvil`;
    }, [page.name]);
    useEffect(() => {
        const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
        if (isChanged) {
            window.addEventListener('beforeunload', ask);
        }
        return () => window.removeEventListener('beforeunload', ask);
    }, [isChanged]);
    const save = useMutation({
        mutationFn: () =>
            decide(since, (version) => put<{ version: number; rechecked: number }>('PUT', `/api/standards/${page.id}`, { rules: text, version, reason, recheck: again })),
        onSuccess: async ({ version, rechecked }) => {
            setReason('');
            notice.done(`Saved as version ${version}${rechecked > 0 ? `; ${plural(rechecked, 'asset is', 'assets are')} checked again` : ''}`);
            await client.invalidateQueries();
        },
        onError: async (error) => {
            notice.failed(error);
            await client.invalidateQueries();
        },
    });
    const copy = useMutation({
        mutationFn: () => {
            const name = [...Array(99).keys()].map((n) => `${draft.name}, copy${n === 0 ? '' : ` ${n + 1}`}`).find((one) => !all.some((other) => other.name === one));
            return put<{ id: number }>('POST', '/api/standards', { rules: textOf({ ...draft, name: name ?? `${draft.name}, copy` }), reason: `copied from ${page.name}` });
        },
        onSuccess: async ({ id }) => {
            await client.invalidateQueries();
            void navigate(`/standards/${id}`);
        },
        onError: notice.failed,
    });
    const drop = useMutation({
        mutationFn: () => put<void>('DELETE', `/api/standards/${page.id}`),
        onSuccess: async () => {
            void navigate('/standards');
            await client.invalidateQueries();
        },
        onError: notice.failed,
    });
    const take = (rules: Rules): void => {
        setDraft({ ...rules, name: draft.name });
        setSide('effect');
    };
    return (
        <>
            <Box sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
                <Box component="main" aria-label="rules" sx={{ flex: '7 1 0', minWidth: 0, display: 'flex', flexDirection: 'column', '& h2': { mt: '18px', mb: '4px' } }}>
                    <Scroll>
                        <Head
                            title={isChanged ? 'Changed, not saved' : `Version ${page.version}, in force for ${plural(page.assetCount, 'asset')}`}
                            acts={
                                <>
                                    <Button
                                        variant="outlined"
                                        href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(draft, null, 2))}`}
                                        download={`${draft.name}.json`}
                                    >
                                        Export
                                    </Button>
                                    {mayDecide && (
                                        <Button variant="outlined" disabled={copy.isPending} onClick={() => copy.mutate()}>
                                            Copy
                                        </Button>
                                    )}
                                    {mayDelete && page.assetCount === 0 && (
                                        <Button variant="outlined" color="inherit" disabled={drop.isPending} onClick={() => drop.mutate()}>
                                            Delete
                                        </Button>
                                    )}
                                </>
                            }
                        >
                            What is left empty is as built in. The exported file is what the command line takes as <span className="mono">--standard=</span>.
                        </Head>
                        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
                            <span style={{ width: 150 }}>name</span>
                            <Field
                                label="name of the standard"
                                value={draft.name}
                                disabled={!mayDecide}
                                error={draft.name.trim() === '' || isNew}
                                helperText={isNew ? 'another standard has this name' : undefined}
                                onText={(name) => setDraft((old) => ({ ...(old ?? shown), name }))}
                                sx={{ width: 320 }}
                            />
                        </Box>
                        <RuleFields rules={draft} disabled={!mayDecide} onRules={setDraft} />
                        <h2>Checks</h2>
                        <CheckRows checks={checks} rules={draft} disabled={!mayDecide} onChange={(code, change) => setDraft((old) => withCheck(old ?? shown, code, change))} />
                    </Scroll>
                </Box>
                <Box
                    component="aside"
                    aria-label="beside the rules"
                    sx={{ flex: '5 1 0', minWidth: 0, borderLeft: '1px solid var(--rule)', display: 'flex', flexDirection: 'column', bgcolor: 'var(--sheet)' }}
                >
                    <Tabs value={side} onChange={(_, to: keyof typeof SIDES) => setSide(to)} sx={{ flex: 'none', borderBottom: '1px solid var(--rule)' }}>
                        {Object.entries(SIDES).map(([key, words]) => (
                            <Tab key={key} value={key} label={words} />
                        ))}
                    </Tabs>
                    <Box sx={{ p: 2, overflowY: 'auto', flex: 1, '& h2': { mt: '16px', mb: '4px' } }} tabIndex={0} role="region" aria-label={SIDES[side]}>
                        {side === 'effect' && <EffectPanel effect={effect} error={error} isWhole={isWhole} isChanged={isChanged} assets={page.assetCount} />}
                        {side === 'learn' && <Learn page={page} isChanged={isChanged} onTake={take} />}
                        {side === 'compare' && <Compare page={page} rules={draft} others={all} checks={checks} onTake={take} />}
                        {side === 'assets' && <Held page={page} others={all} mayDecide={mayDecide} />}
                    </Box>
                </Box>
            </Box>
            <Foot>
                {mayDecide ? (
                    <>
                        <Field label="what it is changed for" placeholder="what it is changed for" value={reason} onText={setReason} disabled={!isChanged} sx={{ width: 320 }} />
                        <Tick checked={again} onTick={setAgain} disabled={!isChanged || page.assetCount === 0}>
                            check {plural(page.assetCount, 'asset')} again
                        </Tick>
                        <Grow />
                        <Button variant="outlined" disabled={!isChanged} onClick={() => setDraft(null)}>
                            Drop changes
                        </Button>
                        <Button
                            variant={isChanged ? 'contained' : 'outlined'}
                            disabled={!isChanged || isNew || draft.name.trim() === '' || save.isPending}
                            onClick={() => save.mutate()}
                        >
                            Save as version {page.version + 1}
                        </Button>
                    </>
                ) : (
                    <span className="soft">A technical artist changes standards. You can look, compare and export.</span>
                )}
            </Foot>
        </>
    );
}
