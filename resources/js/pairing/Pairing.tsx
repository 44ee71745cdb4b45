import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ApiError, previewRenames, useAct, useAsset, type At, type Rename, type Tie } from '../api/client';
import { length, percent, plural, scaleFor, whole } from '../frame/format';
import { Rows } from '../frame/Rows';
import { chosenParts, useSelection } from '../frame/selection';
import { SuffixOffer } from '../intake/SuffixOffer';
import { baseOf, firstPlan, isBroken, keyOf, lineOf, withRow, type Planned } from './ledger';
import { Name } from './Name';
import { Tools, type Tool } from './Tools';
import { Tray } from './Tray';

function Line({ tie }: { tie: Tie }) {
    const { form, label, words } = lineOf(tie);
    return (
        <span className={`line ${form}`} title={words}>
            {form === 'crossed' ? (
                <svg viewBox="0 0 100 32" preserveAspectRatio="none" aria-hidden="true">
                    <path d="M0 7L100 25M0 25L100 7" fill="none" stroke="currentColor" strokeWidth="2" vectorEffect="non-scaling-stroke" />
                </svg>
            ) : (
                <i />
            )}
            {label && form !== 'crossed' && <b>{label}</b>}
            <span className="visually-hidden">{words}</span>
        </span>
    );
}

/** The ledger of low and high parts, and the rename plan. */
export function Pairing({ delivery }: { delivery: At<'pairing'> }) {
    const selection = useSelection();
    const navigate = useNavigate();
    const chosen = chosenParts(delivery, selection);
    const [only, setOnly] = useState<'all' | 'broken'>('all');
    const [find, setFind] = useState('');
    const [editing, setEditing] = useState<string | null>(null);
    const [plan, setPlan] = useState<Planned[]>(() => firstPlan(delivery));
    const [plannedFor, setPlannedFor] = useState(delivery.checkedAt);
    const [tool, setTool] = useState<Tool | null>(null);
    const [at, setAt] = useState(-1);
    const search = useRef<HTMLInputElement>(null);
    const mend = useAct<{ renames: Rename[] }, { assetId: number; deliveryId: number }>(delivery.id, () => 'mend');
    const choose = useAct<{ base: string; choice: string }>(delivery.id, () => 'choices');
    if (plannedFor !== delivery.checkedAt) {
        setPlannedFor(delivery.checkedAt);
        setPlan(firstPlan(delivery));
    }

    const { data: asset } = useAsset(delivery.assetId);
    const origin = asset?.deliveries.find((one) => one.number === delivery.derivedFrom);

    const { lowSuffix, highSuffix } = delivery.standard;
    const settled = delivery.state === 'done';
    const tied = delivery.ties.filter((tie) => tie.kind !== 'open');
    const alone = delivery.ties.filter((tie) => tie.kind === 'open');
    const broken = tied.filter(isBroken);
    const wanted = useDeferredValue(find.toLowerCase());
    const fits = (tie: Tie): boolean => wanted === '' || [...tie.low, ...tie.high].some((name) => name.toLowerCase().includes(wanted));
    const rows = (only === 'broken' ? broken : tied).filter(fits);
    const lone = alone.filter(fits);

    // The page's "/" comes here while the ledger is open.
    useEffect(() => {
        const onKey = (event: KeyboardEvent): void => {
            if (event.key === '/' && event.target instanceof HTMLElement && !event.target.matches('input, select, textarea')) {
                event.preventDefault();
                search.current?.focus();
            }
        };
        window.addEventListener('keydown', onKey);
        return () => window.removeEventListener('keydown', onKey);
    }, []);

    const request = useDeferredValue({ renames: plan, tool });
    const { data: preview } = useQuery({
        queryKey: ['plan', delivery.id, delivery.checkedAt, request],
        enabled: settled && (request.renames.length > 0 || request.tool !== null),
        placeholderData: keepPreviousData,
        queryFn: () => previewRenames(delivery.id, request),
    });
    const shown = plan.length === 0 && tool === null ? [] : (preview?.plan ?? plan);
    const planned = new Map(plan.map((row) => [keyOf(row), row.to]));
    const added = tool === null ? 0 : shown.filter((row) => planned.get(keyOf(row)) !== row.to).length;
    const clashes = shown.length > 0 || tool !== null ? (preview?.clashes ?? []) : [];
    const unsafe = shown.length > 0 ? (preview?.unsafe ?? []) : [];
    const target = new Map(shown.map((row) => [row.from, row.to]));

    const counts = (role: string): string => {
        const parts = delivery.parts.filter((part) => part.role === role);
        return `${plural(parts.length, 'part')} · ${whole(parts.reduce((sum, part) => sum + part.triangles, 0))}`;
    };
    const exact = tied.filter((tie) => !isBroken(tie)).length;
    const crossed = broken.filter((tie) => tie.kind === 'crossed').length;
    const apart = broken.filter((tie) => tie.gap !== null).length;
    const named = broken.length - crossed - apart;
    const noRole = delivery.parts.filter((part) => part.role === null).length;
    const headline =
        delivery.ties.length === 0
            ? !settled
                ? 'Pairing parts'
                : noRole > 0
                  ? `No part says whether it is low or high poly`
                  : 'There are no parts to pair'
            : exact === delivery.ties.length
              ? `All ${exact === 1 ? 'parts tie' : `${exact} ties hold`} exactly`
              : `${exact} of ${delivery.ties.length} parts tie exactly`;
    const troubles = [
        named > 0 ? `${plural(named, 'tie breaks', 'ties break')} on a name` : null,
        crossed > 0 ? `${plural(crossed, 'name leads', 'names lead')} to a part that stands elsewhere` : null,
        apart > 0 ? `${plural(apart, 'pair lies', 'pairs lie')} apart` : null,
        alone.length > 0 ? `${plural(alone.length, 'part has', 'parts have')} no partner` : null,
    ].filter(Boolean);

    const own = (part: string) => delivery.parts.find((one) => one.name === part);
    const rename = (part: string, to: string, reason = 'by hand'): void => {
        const file = own(part)?.fileId;
        setEditing(null);
        if (file !== undefined && to !== '') {
            setPlan((old) => withRow(old, { fileId: file, from: part, to, reason }));
        }
    };
    const pick = (name: string): void => selection.select({ part: name, set: own(name)?.set ?? null });
    const field = (name: string) => (
        <input
            aria-label={`new name of ${name}`}
            defaultValue={target.get(name) ?? name}
            autoFocus
            onClick={(event) => event.stopPropagation()}
            onBlur={(event) => rename(name, event.target.value.trim())}
            onKeyDown={(event) => {
                if (event.key === 'Enter') {
                    rename(name, event.currentTarget.value.trim());
                } else if (event.key === 'Escape') {
                    setEditing(null);
                }
                event.stopPropagation();
            }}
        />
    );
    const cell = (names: string[], role: 'low' | 'high', tie: Tie) => {
        const name = names[0];
        if (name === undefined) {
            return <span className="soft">{tie.kind === 'self' ? 'baked on itself' : '–'}</span>;
        }
        if (editing === name) {
            return field(name);
        }
        const suffix = role === 'low' ? lowSuffix : highSuffix;
        const other = (role === 'low' ? tie.high[0] : tie.low[0]) ?? '';
        const partner = baseOf(other, role === 'low' ? highSuffix : lowSuffix) + suffix;
        const compared = tie.kind === 'near' && (target.has(name) || tie.troubles.some((code) => code.startsWith('name-'))) ? (target.get(name) ?? partner) : null;
        return (
            <span style={{ display: 'flex', minWidth: 0 }} onDoubleClick={() => setEditing(name)}>
                <Name name={name} suffix={suffix} wanted={compared} role={role} />
                {names.length > 1 && (
                    <span className="soft" title={names.join('\n')}>
                        &nbsp;+{names.length - 1}
                    </span>
                )}
                {role === 'high' && tie.kind === 'crossed' && tie.candidate && <span className="fit">&nbsp;{baseOf(tie.candidate, highSuffix)} fits</span>}
            </span>
        );
    };
    const wholeBake = delivery.wholeBake;
    const scale = scaleFor(delivery.files.find((file) => file.unit)?.unit ?? null, 1);
    const errors = [...clashes, mend.error instanceof ApiError ? mend.error.message : null, choose.error instanceof ApiError ? choose.error.message : null].filter(
        (one) => one !== null,
    );

    return (
        <>
            <div className="scroll" style={{ display: 'flex', flexDirection: 'column', overflow: 'hidden' }}>
                <div className="head">
                    <div>
                        <h1>{headline}</h1>
                        <p>
                            {delivery.standard.whole ? (
                                'The standard bakes all parts as one set; no name matters.'
                            ) : (
                                <>
                                    Suffixes <span className="mono">{lowSuffix}</span> and <span className="mono">{highSuffix}</span>, letter for letter.
                                    {troubles.length > 0 && ` ${troubles.join('; ')}.`}
                                    {wholeBake?.clean === true && (
                                        <>
                                            {' '}
                                            <b>Names are not needed</b>: baked as one set, nothing goes wrong at {length(wholeBake.out, scale)} out and{' '}
                                            {length(wholeBake.in, scale)} in.
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
                        </p>
                    </div>
                    <div style={{ display: 'flex', gap: 8, flex: 'none' }}>
                        <input
                            ref={search}
                            type="search"
                            value={find}
                            onChange={(event) => setFind(event.target.value)}
                            placeholder="find  /"
                            aria-label="find a part"
                            style={{ width: 90 }}
                        />
                        <ToggleButtonGroup value={only} onChange={(_, value: 'all' | 'broken' | null) => value && setOnly(value)} aria-label="which ties">
                            <ToggleButton value="all">all {tied.length}</ToggleButton>
                            <ToggleButton value="broken">broken {broken.length}</ToggleButton>
                        </ToggleButtonGroup>
                    </div>
                </div>
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
                        onChoose={(base, choice) => choose.mutate({ base, choice })}
                        fill={rows.length === 0}
                    />
                )}
                {rows.length === 0 && lone.length === 0 && delivery.ties.length > 0 && (
                    <p className="soft">{wanted ? `No part is called anything like "${find}".` : 'No tie is broken.'}</p>
                )}
            </div>
            <div className="foot" style={{ display: 'block' }}>
                <div style={{ display: 'flex', alignItems: 'center', gap: 12 }}>
                    <b style={{ whiteSpace: 'nowrap' }}>{shown.length === 0 ? 'Rename plan is empty' : `Rename plan · ${plural(shown.length, 'name')}`}</b>
                    <span className="soft ellipsis">
                        {shown.length === 0
                            ? 'double-click a name, or F2, to mend it'
                            : preview
                              ? preview.pairedAfter === preview.pairedBefore
                                  ? `${preview.pairedAfter} of ${preview.basesAfter} pair, as before`
                                  : `${preview.pairedBefore} pair now, ${preview.pairedAfter} of ${preview.basesAfter} then`
                              : 'only these name bytes change'}
                    </span>
                    <span className="grow" style={{ flex: 1 }} />
                    {plan.length > 0 && tool === null && (
                        <Button variant="text" onClick={() => setPlan([])}>
                            Empty
                        </Button>
                    )}
                    <Button variant="outlined" href={`/api/deliveries/${delivery.id}/download`} disabled={delivery.files.length === 0}>
                        Download files
                    </Button>
                    <Button
                        variant={plan.length > 0 && errors.length === 0 ? 'contained' : 'outlined'}
                        disabled={plan.length === 0 || clashes.length > 0 || tool !== null || !settled || mend.isPending}
                        onClick={() => mend.mutate({ renames: plan }, { onSuccess: (made) => void navigate(`/assets/${made.assetId}/deliveries/${made.deliveryId}/pairing`) })}
                    >
                        {mend.isPending ? 'Writing…' : 'Write mended files'}
                    </Button>
                </div>
                <Tools
                    tool={tool}
                    onTool={setTool}
                    onTake={() => setPlan(shown.map(({ fileId, from, to, reason }) => ({ fileId, from, to, reason })))}
                    count={added}
                    disabled={!settled || delivery.parts.length === 0}
                />
                {shown.length > 0 && (
                    <Rows
                        count={shown.length}
                        height={24}
                        current={-1}
                        onMove={() => undefined}
                        label="rename plan"
                        role="list"
                        style={{ height: Math.min(4.5, shown.length) * 24 }}
                        render={(index, place) => {
                            const row = shown[index];
                            if (!row) {
                                return null;
                            }
                            const isNew = tool !== null && planned.get(keyOf(row)) !== row.to;
                            return (
                                <div key={keyOf(row)} role="listitem" className={`plan-row${isNew ? ' chosen' : ''}`} style={place}>
                                    <span className="mono ellipsis" title={row.from}>
                                        {row.from}
                                    </span>
                                    <span className="mono ellipsis" title={row.to}>
                                        → {row.to}
                                    </span>
                                    <span className="soft ellipsis" title={row.reason}>
                                        {row.reason}
                                    </span>
                                    <span style={{ textAlign: 'right' }}>
                                        {tool === null && (
                                            <button
                                                type="button"
                                                className="plain soft leave"
                                                aria-label={`leave ${row.from} as it is`}
                                                onClick={() => setPlan((old) => old.filter((one) => keyOf(one) !== keyOf(row)))}
                                            >
                                                leave
                                            </button>
                                        )}
                                    </span>
                                </div>
                            );
                        }}
                    />
                )}
                {errors.length > 0 && (
                    <p className="blocker" role="alert" style={{ margin: '6px 0 0' }}>
                        {errors[0]}
                        {errors.length > 1 && ` – and ${errors.length - 1} more`}
                    </p>
                )}
                {errors.length === 0 && unsafe.length > 0 && (
                    <p className="caution" role="status" style={{ margin: '6px 0 0' }}>
                        {unsafe[0]}
                        {unsafe.length > 1 && ` – and ${unsafe.length - 1} more`}
                    </p>
                )}
            </div>
        </>
    );
}
