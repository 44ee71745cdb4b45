import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, useAct, type Delivery, type Rename, type Tie } from '../api/client';
import { percent, plural, whole } from '../frame/format';
import { chosenParts, useSelection } from '../frame/selection';
import { Name } from './Name';

type Planned = Rename & { reason: string };

const label = (tie: Tie): string | null =>
    tie.troubles.includes('name-case') || tie.troubles.includes('suffix-case')
        ? 'Aa'
        : tie.troubles.includes('suffix-missing')
          ? tie.kind === 'one-and-one'
              ? 'one and one'
              : 'no suffix'
          : tie.kind === 'self'
            ? 'on itself'
            : tie.kind === 'one-and-one'
              ? 'one and one'
              : null;

/** The ledger of low and high parts, and the rename plan. */
export function Pairing({ delivery }: { delivery: Delivery }) {
    const selection = useSelection();
    const navigate = useNavigate();
    const chosen = chosenParts(delivery, selection);
    const [only, setOnly] = useState<'all' | 'broken'>('all');
    const [find, setFind] = useState('');
    const [editing, setEditing] = useState<string | null>(null);
    const [byHand, setByHand] = useState<Planned[]>([]);
    const [dropped, setDropped] = useState<Set<string>>(new Set());
    const scroll = useRef<HTMLDivElement>(null);
    const mend = useAct<{ renames: Rename[] }, { assetId: number; deliveryId: number }>(delivery.id, () => 'mend');
    const choose = useAct<{ base: string; choice: string }>(delivery.id, () => 'choices');

    const { lowSuffix, highSuffix } = delivery.standard;
    const tied = delivery.ties.filter((tie) => tie.kind !== 'open');
    const alone = delivery.ties.filter((tie) => tie.kind === 'open');
    const broken = tied.filter((tie) => tie.troubles.length > 0 && tie.kind === 'near');
    const wanted = find.toLowerCase();
    const rows = (only === 'broken' ? broken : tied).filter((tie) => wanted === '' || [...tie.low, ...tie.high].some((name) => name.toLowerCase().includes(wanted)));
    // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer's own way; nothing here is memoised
    const list = useVirtualizer({ count: rows.length, getScrollElement: () => scroll.current, estimateSize: () => 32, overscan: 14 });

    const key = (row: Rename): string => `${row.fileId} ${row.from}`;
    const plan: Planned[] = [
        ...byHand,
        ...delivery.suggestions
            .map((one) => ({ fileId: one.fileId, from: one.part, to: one.rename, reason: one.reason }))
            .filter((row) => !byHand.some((own) => key(own) === key(row))),
    ].filter((row) => !dropped.has(key(row)));
    const { data: preview } = useQuery({
        queryKey: ['plan', delivery.id, plan],
        enabled: plan.length > 0 && delivery.state === 'done',
        queryFn: async () => {
            const response = await fetch(`/api/deliveries/${delivery.id}/renames`, {
                method: 'POST',
                headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
                body: JSON.stringify({ renames: plan }),
            });
            return (await response.json()) as { clashes?: string[] };
        },
    });
    const clashes = preview?.clashes ?? [];
    const counts = (role: string): string => {
        const parts = delivery.parts.filter((part) => part.role === role);
        return `${plural(parts.length, 'part')} · ${whole(parts.reduce((sum, part) => sum + part.triangles, 0))}`;
    };
    const exact = tied.filter((tie) => tie.troubles.length === 0 || tie.kind === 'one-and-one').length;
    const headline =
        delivery.ties.length === 0
            ? delivery.state === 'done'
                ? 'There are no parts to pair'
                : 'Pairing parts'
            : exact === delivery.ties.length
              ? `All ${exact === 1 ? 'parts tie' : `${exact} ties hold`} exactly`
              : `${exact} of ${delivery.ties.length} parts tie exactly`;

    const rename = (part: string, to: string): void => {
        const own = delivery.parts.find((one) => one.name === part);
        setEditing(null);
        if (own && to !== '') {
            const row = { fileId: own.fileId, from: part, to, reason: 'by hand' };
            setByHand((old) => [...old.filter((one) => key(one) !== key(row)), ...(to === part ? [] : [row])]);
            setDropped((old) => new Set([...old].filter((one) => one !== key(row))));
        }
    };

    const cell = (names: string[], role: 'low' | 'high', tie: Tie) => {
        const name = names[0];
        if (name === undefined) {
            return <span className="soft">{tie.kind === 'self' ? 'baked on itself' : '–'}</span>;
        }
        if (editing === name) {
            return (
                <input
                    aria-label={`new name of ${name}`}
                    defaultValue={plan.find((row) => row.from === name)?.to ?? name}
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
        }
        const suffix = role === 'low' ? lowSuffix : highSuffix;
        const target = plan.find((row) => row.from === name)?.to ?? null;
        return (
            <span style={{ display: 'flex', minWidth: 0 }} onDoubleClick={() => setEditing(name)}>
                <Name name={name} suffix={suffix} other={tie.kind === 'near' ? (target ?? name) : null} role={role} />
                {names.length > 1 && <span className="soft">&nbsp;+{names.length - 1}</span>}
            </span>
        );
    };

    return (
        <>
            <div className="scroll" style={{ display: 'flex', flexDirection: 'column' }}>
                <div className="head">
                    <div>
                        <h1>{headline}</h1>
                        <p>
                            {delivery.standard.whole ? (
                                'The standard bakes all parts as one set; no name matters.'
                            ) : (
                                <>
                                    Suffixes <span className="mono">{lowSuffix}</span> and <span className="mono">{highSuffix}</span>, letter for letter.
                                    {broken.length > 0 && ` ${plural(broken.length, 'tie breaks', 'ties break')} on a name.`}
                                    {alone.length > 0 && ` ${plural(alone.length, 'part has', 'parts have')} no partner.`}
                                </>
                            )}
                        </p>
                    </div>
                    <div style={{ display: 'flex', gap: 8, flex: 'none' }}>
                        <input type="search" value={find} onChange={(event) => setFind(event.target.value)} placeholder="find  /" aria-label="find a part" style={{ width: 90 }} />
                        <ToggleButtonGroup value={only} onChange={(_, value: 'all' | 'broken' | null) => value && setOnly(value)} aria-label="which ties">
                            <ToggleButton value="all">all {tied.length}</ToggleButton>
                            <ToggleButton value="broken">broken {broken.length}</ToggleButton>
                        </ToggleButtonGroup>
                    </div>
                </div>
                <div className="tie-row soft" style={{ cursor: 'default', borderBottomColor: 'var(--rule-strong)', height: 28, fontSize: 12.5 }}>
                    <span>low poly · {counts('low')}</span>
                    <span style={{ textAlign: 'center' }}>tie</span>
                    <span>high poly · {counts('high')}</span>
                    <span style={{ textAlign: 'right' }} title="distance of the bounds' centres and difference of their sizes, as a share of the low part's diagonal">
                        apart
                    </span>
                </div>
                <div ref={scroll} style={{ flex: '1 1 auto', overflowY: 'auto', minHeight: Math.min(5, rows.length) * 32 }} role="listbox" aria-label="ties" tabIndex={0}>
                    <div role="presentation" style={{ height: list.getTotalSize(), position: 'relative' }}>
                        {list.getVirtualItems().map((row) => {
                            const tie = rows[row.index];
                            if (!tie) {
                                return null;
                            }
                            const name = tie.low[0] ?? tie.high[0] ?? '';
                            const isChosen = [...tie.low, ...tie.high].some((one) => chosen.has(one));
                            const text = label(tie);
                            return (
                                <div
                                    key={row.key}
                                    role="option"
                                    aria-selected={isChosen}
                                    tabIndex={-1}
                                    className={`tie-row${isChosen ? ' chosen' : ''}`}
                                    style={{ position: 'absolute', top: row.start, left: 0, right: 0 }}
                                    onClick={() => selection.select({ part: name, set: delivery.parts.find((part) => part.name === name)?.set ?? null })}
                                >
                                    {cell(tie.low, 'low', tie)}
                                    <span className={`line${tie.kind === 'near' ? ' loose' : ''}`}>
                                        <i />
                                        {text && <b>{text}</b>}
                                    </span>
                                    {cell(tie.high, 'high', tie)}
                                    <span className="num soft">{tie.cost === null ? '–' : percent(tie.cost, 2)}</span>
                                </div>
                            );
                        })}
                    </div>
                </div>
                {alone.length > 0 && (
                    <div className="tray" style={{ flex: 'none', maxHeight: 190, overflowY: 'auto' }} tabIndex={0} role="region" aria-label="parts with no partner">
                        <b>No partner</b> <span className="soft">– nearest by place and size</span>
                        {alone.slice(0, 60).map((tie) => {
                            const low = tie.low.length > 0;
                            const name = (low ? tie.low[0] : tie.high[0]) ?? '';
                            return (
                                <div
                                    className="row tie-row"
                                    style={{
                                        display: 'grid',
                                        height: 'auto',
                                        minHeight: 32,
                                        gridTemplateColumns: 'minmax(0, 0.8fr) minmax(0, 1.3fr) auto',
                                        borderBottom: 0,
                                        cursor: 'pointer',
                                    }}
                                    key={`${low}${name}`}
                                    onClick={() => selection.select({ part: name })}
                                >
                                    {editing === name ? (
                                        cell([name], low ? 'low' : 'high', tie)
                                    ) : (
                                        <Name name={name} suffix={low ? lowSuffix : highSuffix} other={null} role={low ? 'low' : 'high'} />
                                    )}
                                    <span className="soft">
                                        {tie.candidate === null ? (
                                            `nothing on the ${low ? 'high' : 'low'} side`
                                        ) : (
                                            <>
                                                nearest on the {low ? 'high' : 'low'} side is <span className="mono">{tie.candidate}</span>, {percent(tie.candidateCost ?? 0, 2)} of
                                                its size apart
                                            </>
                                        )}
                                    </span>
                                    <span style={{ display: 'flex', gap: 4 }}>
                                        <Button variant="text" onClick={() => setEditing(name)}>
                                            Rename
                                        </Button>
                                        {low && (
                                            <Button variant="text" onClick={() => choose.mutate({ base: tie.base, choice: 'self' })}>
                                                Bake on itself
                                            </Button>
                                        )}
                                        <Button variant="text" onClick={() => choose.mutate({ base: tie.base, choice: 'out' })}>
                                            Leave out
                                        </Button>
                                    </span>
                                </div>
                            );
                        })}
                        {alone.length > 60 && <p className="soft">and {alone.length - 60} more</p>}
                    </div>
                )}
                {rows.length === 0 && tied.length > 0 && <p className="soft">{wanted ? `No tie holds a part like "${find}".` : 'No tie is broken.'}</p>}
            </div>
            <div className="foot" style={{ display: 'block' }}>
                <div style={{ display: 'flex', alignItems: 'center', gap: 12 }}>
                    <b>{plan.length === 0 ? 'Rename plan is empty' : `Rename plan · ${plural(plan.length, 'name')}`}</b>
                    <span className="soft">{plan.length === 0 ? 'double-click a name to mend it by hand' : 'only these name bytes change'}</span>
                    <span className="grow" style={{ flex: 1 }} />
                    <Button variant="outlined" href={`/api/deliveries/${delivery.id}/download`} disabled={delivery.files.length === 0}>
                        Download files
                    </Button>
                    <Button
                        variant={plan.length > 0 && clashes.length === 0 ? 'contained' : 'outlined'}
                        disabled={plan.length === 0 || clashes.length > 0 || delivery.state !== 'done' || mend.isPending}
                        onClick={() => mend.mutate({ renames: plan }, { onSuccess: (made) => void navigate(`/assets/${made.assetId}/deliveries/${made.deliveryId}/pairing`) })}
                    >
                        {mend.isPending ? 'Writing…' : 'Write mended files'}
                    </Button>
                </div>
                {plan.length > 0 && (
                    <div style={{ maxHeight: 110, overflowY: 'auto', marginTop: 6 }} tabIndex={0} role="region" aria-label="rename plan">
                        <table className="sheet">
                            <tbody>
                                {plan.slice(0, 300).map((row) => (
                                    <tr key={key(row)}>
                                        <td className="mono" style={{ borderBottom: 0, padding: '2px 6px 2px 0' }}>
                                            {row.from}
                                        </td>
                                        <td className="mono" style={{ borderBottom: 0, padding: '2px 6px' }}>
                                            → {row.to}
                                        </td>
                                        <td className="soft" style={{ borderBottom: 0, padding: '2px 6px' }}>
                                            {row.reason}
                                        </td>
                                        <td style={{ borderBottom: 0, padding: '2px 0', width: 70, textAlign: 'right' }}>
                                            <button
                                                type="button"
                                                className="plain soft leave"
                                                aria-label={`leave ${row.from} as it is`}
                                                onClick={() => setDropped((old) => new Set([...old, key(row)]))}
                                            >
                                                leave
                                            </button>
                                        </td>
                                    </tr>
                                ))}
                            </tbody>
                        </table>
                    </div>
                )}
                {[...clashes, mend.error instanceof ApiError ? mend.error.message : null, choose.error instanceof ApiError ? choose.error.message : null]
                    .filter(Boolean)
                    .map((clash) => (
                        <p key={clash} className="blocker" role="alert" style={{ margin: '6px 0 0' }}>
                            {clash}
                        </p>
                    ))}
            </div>
        </>
    );
}
