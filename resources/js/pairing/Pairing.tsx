import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ApiError, previewRenames, useAct, useAsset, type At, type Rename, type Tie } from '../api/client';
import { length, percent, plural, scaleFor, whole } from '../frame/format';
import { Rows } from '../frame/Rows';
import { Field, Head, Scroll } from '../frame/sheet';
import { useNotice } from '../frame/Notice';
import { chosenParts, useSelection } from '../frame/selection';
import { SuffixOffer } from '../intake/SuffixOffer';
import { baseOf, firstPlan, isBroken, withRow, type Planned } from './ledger';
import { headOf } from './head';
import { Line } from './Line';
import { NameCell, NameField } from './Name';
import { PlanFoot } from './PlanFoot';
import type { Tool } from './Tools';
import { Tray } from './Tray';

/** The ledger of low and high parts, and the rename plan. */
export function Pairing({ delivery }: { delivery: At<'pairing'> }) {
    const selection = useSelection();
    const notice = useNotice();
    const navigate = useNavigate();
    const chosen = chosenParts(delivery, selection);
    const [only, setOnly] = useState<'all' | 'broken'>('all');
    const [find, setFind] = useState('');
    const [editing, setEditing] = useState<string | null>(null);
    const [plan, setPlan] = useState<Planned[]>(() => firstPlan(delivery));
    // What is suggested comes once all files are read; a plan that somebody changed stays as it is.
    const suggested = JSON.stringify(delivery.suggestions);
    const [plannedFor, setPlannedFor] = useState(suggested);
    const [edited, setEdited] = useState(false);
    const changePlan: typeof setPlan = (next) => {
        setEdited(true);
        setPlan(next);
    };
    const [tool, setTool] = useState<Tool | null>(null);
    const [at, setAt] = useState(-1);
    const mend = useAct<{ renames: Rename[] }, { assetId: number; deliveryId: number }>(delivery.id, () => 'mend');
    const choose = useAct<{ base: string; choice: string }>(delivery.id, () => 'choices');
    if (plannedFor !== suggested) {
        setPlannedFor(suggested);
        if (!edited) {
            setPlan(firstPlan(delivery));
        }
    }

    const { data: asset } = useAsset(delivery.assetId);
    const origin = asset?.deliveries.find((one) => one.number === delivery.derivedFrom);

    const { lowSuffix, highSuffix } = delivery.standard;
    // Names are known once all files are read; a mend then stops what is still measured.
    const unread = delivery.files.filter((file) => file.kind === 'mesh' && (file.state === 'waiting' || file.state === 'reading'));
    const isPaired = delivery.ties.length > 0 && unread.length === 0;
    const tied = delivery.ties.filter((tie) => tie.kind !== 'open');
    // Before all files are read nobody knows who has no partner.
    const alone = unread.length > 0 ? [] : delivery.ties.filter((tie) => tie.kind === 'open');
    const broken = tied.filter(isBroken);
    const wanted = useDeferredValue(find.toLowerCase());
    const fits = (tie: Tie): boolean => wanted === '' || [...tie.low, ...tie.high].some((name) => name.toLowerCase().includes(wanted));
    const rows = (only === 'broken' ? broken : tied).filter(fits);
    const lone = alone.filter(fits);

    const request = useDeferredValue({ renames: plan, tool });
    const { data: preview } = useQuery({
        queryKey: ['plan', delivery.id, delivery.checkedAt, request],
        enabled: isPaired && (request.renames.length > 0 || request.tool !== null),
        placeholderData: keepPreviousData,
        queryFn: () => previewRenames(delivery.id, request),
    });
    const shown = plan.length === 0 && tool === null ? [] : (preview?.plan ?? plan);
    const clashes = shown.length > 0 || tool !== null ? (preview?.clashes ?? []) : [];
    const target = new Map(shown.map((row) => [row.from, row.to]));

    const counts = (role: string): string => {
        const parts = delivery.parts.filter((part) => part.role === role);
        return `${plural(parts.length, 'part')} · ${whole(parts.reduce((sum, part) => sum + part.triangles, 0))}`;
    };
    const { headline, troubles } = headOf(delivery, unread, tied, alone);

    const own = (part: string) => delivery.parts.find((one) => one.name === part);
    const rename = (part: string, to: string, reason = 'by hand'): void => {
        const file = own(part)?.fileId;
        setEditing(null);
        if (file !== undefined && to !== '') {
            changePlan((old) => withRow(old, { fileId: file, from: part, to, reason }));
        }
    };
    const pick = (name: string): void => selection.select({ part: name, set: own(name)?.set ?? null });
    const field = (name: string) => <NameField name={name} value={target.get(name) ?? name} onRename={(to) => rename(name, to)} onLeave={() => setEditing(null)} />;
    const cell = (names: string[], role: 'low' | 'high', tie: Tie) => {
        const name = names[0];
        if (name === undefined) {
            return <span className="soft">{tie.kind === 'self' ? 'baked on itself' : '–'}</span>;
        }
        const own = role === 'low' ? lowSuffix : highSuffix;
        return editing === name ? (
            field(name)
        ) : (
            <NameCell
                names={names}
                role={role}
                tie={tie}
                suffix={own}
                others={role === 'low' ? highSuffix : lowSuffix}
                planned={target.get(name) ?? null}
                onEdit={() => setEditing(name)}
            />
        );
    };
    const wholeBake = delivery.wholeBake;
    const scale = scaleFor(delivery.unit, 1);
    const errors = [...clashes, mend.error instanceof ApiError ? mend.error.message : null, choose.error instanceof ApiError ? choose.error.message : null].filter(
        (one) => one !== null,
    );

    return (
        <>
            <Scroll still>
                <Head
                    title={headline}
                    acts={
                        <>
                            <Field type="search" label="find a part" placeholder="filter" value={find} onText={setFind} sx={{ width: 100 }} />
                            <ToggleButtonGroup value={only} onChange={(_, value: 'all' | 'broken' | null) => value && setOnly(value)} aria-label="which ties">
                                <ToggleButton value="all">all {tied.length}</ToggleButton>
                                <ToggleButton value="broken">broken {broken.length}</ToggleButton>
                            </ToggleButtonGroup>
                        </>
                    }
                >
                    {delivery.standard.whole ? (
                        'The standard bakes all parts as one set; no name matters.'
                    ) : (
                        <>
                            Suffixes <span className="mono">{lowSuffix}</span> and <span className="mono">{highSuffix}</span>, letter for letter.
                            {troubles.length > 0 && ` ${troubles.join('; ')}.`}
                            {wholeBake?.clean === true && (
                                <>
                                    {' '}
                                    <b>Names are not needed</b>: baked as one set, nothing goes wrong at {length(wholeBake.out, scale)} out and {length(wholeBake.in, scale)} in.
                                </>
                            )}
                            {delivery.derivedFrom !== null && (
                                <>
                                    {' '}
                                    {delivery.madeByWords}
                                    {origin && (
                                        <>
                                            {' '}
                                            (<Link to={`/assets/${delivery.assetId}/deliveries/${origin.id}/pairing`}>undo: back to it</Link>)
                                        </>
                                    )}
                                    .
                                </>
                            )}
                        </>
                    )}
                </Head>
                <SuffixOffer delivery={delivery} />
                {tied.length > 0 && (
                    <div className="tie-row soft" style={{ cursor: 'default', borderBottomColor: 'var(--rule-strong)', height: 28, fontSize: 12.5, flex: 'none' }}>
                        <span>low poly · {counts('low')}</span>
                        <span style={{ textAlign: 'center' }}>tie</span>
                        <span>high poly · {counts('high')}</span>
                        <span style={{ textAlign: 'right' }} title="distance of the bounds' centres and difference of their sizes, as a share of the low part's diagonal">
                            apart
                        </span>
                    </div>
                )}
                {rows.length > 0 && (
                    <Rows
                        count={rows.length}
                        current={at}
                        onMove={(index) => {
                            setAt(index);
                            const tie = rows[index];
                            pick(tie?.low[0] ?? tie?.high[0] ?? '');
                        }}
                        onKey={(event, index) => {
                            const tie = rows[index];
                            if (event.key === 'F2' && tie) {
                                setEditing((event.shiftKey ? tie.low[0] : tie.high[0]) ?? tie.low[0] ?? null);
                            }
                        }}
                        label="ties"
                        style={{ flex: '1 1 auto', minHeight: Math.min(5, rows.length) * 32 }}
                        render={(index, place) => {
                            const tie = rows[index];
                            if (!tie) {
                                return null;
                            }
                            const isChosen = [...tie.low, ...tie.high].some((one) => chosen.has(one));
                            return (
                                <div
                                    key={`${tie.base} ${index}`}
                                    role="option"
                                    aria-selected={isChosen}
                                    tabIndex={-1}
                                    className={`tie-row${isChosen ? ' chosen' : ''}`}
                                    style={place}
                                    onClick={() => {
                                        setAt(index);
                                        pick(tie.low[0] ?? tie.high[0] ?? '');
                                    }}
                                >
                                    {cell(tie.low, 'low', tie)}
                                    <Line tie={tie} />
                                    {cell(tie.high, 'high', tie)}
                                    <span className="num soft">{tie.cost === null ? '–' : tie.cost >= 10 ? `${whole(Math.round(tie.cost))} ×` : percent(tie.cost, 2)}</span>
                                </div>
                            );
                        }}
                    />
                )}
                {lone.length > 0 && (
                    <Tray
                        ties={lone}
                        delivery={delivery}
                        chosen={chosen}
                        editing={editing}
                        field={field}
                        onSelect={pick}
                        onEdit={setEditing}
                        onTake={(name, partner) => {
                            const isLow = own(name)?.role === 'low';
                            rename(name, baseOf(partner, isLow ? highSuffix : lowSuffix) + (isLow ? lowSuffix : highSuffix), `lies where ${partner} lies`);
                        }}
                        onChoose={(base, choice) =>
                            choose.mutate(
                                { base, choice },
                                {
                                    onSuccess: () =>
                                        notice.done(`${base} ${choice === 'self' ? 'is baked on itself' : 'is left out'}`, () => choose.mutate({ base, choice: 'none' })),
                                },
                            )
                        }
                        fill={rows.length === 0}
                    />
                )}
                {rows.length === 0 && lone.length === 0 && unread.length === 0 && delivery.ties.length > 0 && (
                    <p className="soft">{wanted ? `No part is called anything like "${find}".` : 'No tie is broken.'}</p>
                )}
            </Scroll>
            <PlanFoot
                delivery={delivery}
                plan={plan}
                changePlan={changePlan}
                tool={tool}
                setTool={setTool}
                shown={shown}
                preview={preview ?? null}
                clashes={clashes}
                errors={errors}
                isPaired={isPaired}
                isWriting={mend.isPending}
                onWrite={() => mend.mutate({ renames: plan }, { onSuccess: (made) => void navigate(`/assets/${made.assetId}/deliveries/${made.deliveryId}/pairing`) })}
            />
        </>
    );
}
