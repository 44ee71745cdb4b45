import Button from '@mui/material/Button';
import { useState, type CSSProperties, type DragEvent } from 'react';
import { ApiError, useAct, type BakeSet, type At } from '../api/client';
import { digits, percent, plural } from '../frame/format';
import { useSelection } from '../frame/selection';
import {
    boardOf,
    byMaterial,
    choicesOf,
    detached,
    fitting,
    grouped,
    isSame,
    leftOut,
    merged,
    moved,
    renamed,
    selfBaked,
    shaded,
    shadedBy,
    split,
    type Board,
    type Lane,
} from './board';

/** Who gets in whose rays, as a share of seen area: rows meet columns. Only sets in conflict are shown. */
function Bleeds({ sets, limit, onPick }: { sets: BakeSet[]; limit: number; onPick: (set: string) => void }) {
    const busy = sets.filter(
        (set) => set.bleeds.some((bleed) => bleed.share > 0) || sets.some((other) => other.bleeds.some((bleed) => bleed.other === set.name && bleed.share > 0)),
    );
    if (busy.length === 0) {
        return <p className="soft">No set gets in another one&apos;s rays.</p>;
    }
    const shown = busy.slice(0, 24);
    return (
        <div style={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label="bleed matrix">
            <table className={matrixClass(shown.length)}>
                <thead>
                    <tr>
                        <th scope="col">meets first, % →</th>
                        {shown.map((set) => (
                            <th key={set.name} scope="col" className="mono">
                                {set.name}
                            </th>
                        ))}
                    </tr>
                </thead>
                <tbody>
                    {shown.map((row) => (
                        <tr key={row.name}>
                            <th scope="row" className="mono">
                                {row.name}
                            </th>
                            {shown.map((column) => {
                                const share = row.bleeds.find((bleed) => bleed.other === column.name)?.share ?? 0;
                                const style: CSSProperties = share > limit ? { background: 'var(--trouble-wash)', color: 'var(--trouble)', fontWeight: 700 } : {};
                                return (
                                    <td key={column.name} style={style}>
                                        {row.name === column.name ? (
                                            <span className="soft">–</span>
                                        ) : share > 0 ? (
                                            <button
                                                type="button"
                                                className="plain"
                                                onClick={() => onPick(row.name)}
                                                title={`${row.name} meets ${column.name} first on ${percent(share)} of its seen low area`}
                                            >
                                                {digits(100 * share, 2)}
                                            </button>
                                        ) : (
                                            ''
                                        )}
                                    </td>
                                );
                            })}
                        </tr>
                    ))}
                </tbody>
            </table>
            {busy.length > shown.length && <p className="soft">and {busy.length - shown.length} more sets in conflict</p>}
        </div>
    );
}

/** Many columns have their names standing on end, so that all of them are seen. */
const matrixClass = (columns: number): string => (columns > 7 ? 'matrix many' : 'matrix');

/** Who stands over whom, as a share of the directions over a set's faces, and who is to shade whom when occlusion is baked. */
function Shades({ sets, board, onChange, onPick }: { sets: BakeSet[]; board: Board; onChange: (board: Board) => void; onPick: (set: string) => void }) {
    const stand = sets.map((set) => ({ name: set.name, others: set.shades.map((shade) => shade.other) }));
    const rows = [...sets].filter((set) => set.shades.some((shade) => shade.share >= 0.005)).sort((a, b) => (b.shades[0]?.share ?? 0) - (a.shades[0]?.share ?? 0));
    const shown = rows.slice(0, 24);
    const columns = sets.filter((set) => shown.some((row) => row.shades.some((shade) => shade.other === set.name && shade.share >= 0.005))).slice(0, 24);
    return (
        <>
            <fieldset className="occlusion">
                <legend className="soft">Occlusion is baked with</legend>
                {(
                    [
                        ['own', 'each set alone'],
                        ['all', 'all sets around it'],
                        ['named', 'those marked below'],
                    ] as const
                ).map(([value, words]) => (
                    <label key={value}>
                        <input type="radio" name="occlusion" checked={board.occlusion === value} onChange={() => onChange({ ...board, occlusion: value })} /> {words}
                    </label>
                ))}
            </fieldset>
            {rows.length === 0 ? (
                <p className="soft">No set stands over another one.</p>
            ) : (
                <div style={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label="shading matrix">
                    <table className={matrixClass(columns.length)}>
                        <thead>
                            <tr>
                                <th scope="col">is shaded by, % →</th>
                                {columns.map((set) => (
                                    <th key={set.name} scope="col" className="mono">
                                        {set.name}
                                    </th>
                                ))}
                            </tr>
                        </thead>
                        <tbody>
                            {shown.map((row) => (
                                <tr key={row.name}>
                                    <th scope="row" className="mono">
                                        <button type="button" className="plain" onClick={() => onPick(row.name)}>
                                            {row.name}
                                        </button>
                                    </th>
                                    {columns.map((column) => {
                                        const share = row.shades.find((shade) => shade.other === column.name)?.share ?? 0;
                                        const marked = shadedBy(board, row.name, column.name);
                                        return (
                                            <td key={column.name} className={marked && share > 0 ? 'marked' : ''}>
                                                {row.name === column.name ? (
                                                    <span className="soft">–</span>
                                                ) : share > 0 ? (
                                                    <button
                                                        type="button"
                                                        className="plain"
                                                        aria-pressed={marked}
                                                        title={`${column.name} stands in ${percent(share)} of the directions over ${row.name}: ${marked ? 'it shades it' : 'it does not shade it in the bake'}`}
                                                        onClick={() => onChange(shaded(board, row.name, column.name, stand))}
                                                    >
                                                        {marked ? '✓ ' : ''}
                                                        {digits(100 * share, 2)}
                                                    </button>
                                                ) : (
                                                    ''
                                                )}
                                            </td>
                                        );
                                    })}
                                </tr>
                            ))}
                        </tbody>
                    </table>
                    {rows.length > shown.length && <p className="soft">and {rows.length - shown.length} more sets that stand less in the shade</p>}
                </div>
            )}
            <p className="soft">A share of the directions over the set&apos;s low poly, those straight up counting most. Click one to let it shade, or not.</p>
        </>
    );
}

interface LaneProps {
    lane: Lane;
    board: Board;
    set: BakeSet | undefined;
    limit: number;
    held: Set<string>;
    chosen: boolean;
    onHold: (base: string) => void;
    onChange: (board: Board) => void;
    onPick: () => void;
}

function LaneRow({ lane, board, set, limit, held, chosen, onHold, onChange, onPick }: LaneProps) {
    const [naming, setNaming] = useState(false);
    const drop = (event: DragEvent): void => {
        event.preventDefault();
        const bases = event.dataTransfer.getData('text/plain').split('\n').filter(Boolean);
        onChange(moved(board, bases, lane.name));
    };
    const conflicts = (set?.bleeds ?? []).filter((bleed) => bleed.share > limit);
    return (
        <li className={`lane${chosen ? ' chosen' : ''}`} onDragOver={(event) => event.preventDefault()} onDrop={drop}>
            <div className="lane-head">
                {naming ? (
                    <input
                        aria-label={`new name of the set ${lane.name}`}
                        defaultValue={lane.name}
                        autoFocus
                        onBlur={(event) => {
                            setNaming(false);
                            onChange(renamed(board, lane.name, event.target.value.trim()));
                        }}
                        onKeyDown={(event) => {
                            if (event.key === 'Enter' || event.key === 'Escape') {
                                if (event.key === 'Escape') {
                                    event.currentTarget.value = lane.name;
                                }
                                event.currentTarget.blur();
                            }
                            event.stopPropagation();
                        }}
                    />
                ) : (
                    <button type="button" className="plain mono" style={{ fontWeight: 600 }} onClick={onPick} onDoubleClick={() => setNaming(true)} title="double-click to rename">
                        {lane.name.trim()}
                    </button>
                )}
                {conflicts.length > 0 && <span className="trouble">meets {conflicts.map((bleed) => bleed.other).join(', ')}</span>}
            </div>
            <div className="chips">
                {lane.bases.map((base) => (
                    <button
                        type="button"
                        key={base}
                        className={`chip${held.has(base) ? ' held' : ''}`}
                        aria-pressed={held.has(base)}
                        draggable
                        onDragStart={(event) => event.dataTransfer.setData('text/plain', (held.has(base) ? [...held] : [base]).join('\n'))}
                        onClick={() => onHold(base)}
                    >
                        {base}
                        {board.onItself.includes(base) && <i> on itself</i>}
                    </button>
                ))}
            </div>
            <div className="lane-acts">
                <label>
                    <input type="checkbox" checked={board.detachable.includes(lane.name)} onChange={() => onChange(detached(board, lane.name))} /> comes off
                </label>
                {lane.bases.length > 1 && (
                    <button type="button" className="plain soft" onClick={() => onChange(split(board, lane.name))}>
                        split
                    </button>
                )}
                <select aria-label={`merge ${lane.name} into`} value="" onChange={(event) => onChange(merged(board, lane.name, event.target.value))}>
                    <option value="">merge into…</option>
                    {board.lanes
                        .filter((other) => other.name !== lane.name)
                        .slice(0, 300)
                        .map((other) => (
                            <option key={other.name}>{other.name}</option>
                        ))}
                </select>
            </div>
        </li>
    );
}

/** Which parts bake together, and who is in whose way. */
export function Sets({ delivery }: { delivery: At<'sets'> }) {
    const selection = useSelection();
    const [past, setPast] = useState<Board[]>([]);
    const [board, setBoard] = useState(() => boardOf(delivery));
    const [from, setFrom] = useState(delivery.checkedAt);
    const [held, setHeld] = useState<Set<string>>(new Set());
    const [into, setInto] = useState('');
    const [pattern, setPattern] = useState('');
    const [face, setFace] = useState<'rays' | 'shade'>('rays');
    const arrange = useAct<ReturnType<typeof choicesOf>>(delivery.id, () => 'board');
    if (from !== delivery.checkedAt) {
        setFrom(delivery.checkedAt);
        setBoard(boardOf(delivery));
        setPast([]);
        setHeld(new Set());
    }
    const change = (next: Board): void => {
        if (!isSame(next, board)) {
            setPast((old) => [...old, board]);
            setBoard(next);
        }
        setHeld(new Set());
    };
    const hold = (base: string): void =>
        setHeld((old) => {
            const next = new Set(old);
            if (!next.delete(base)) {
                next.add(base);
            }
            return next;
        });
    const settled = delivery.state === 'done';
    const changed = past.length > 0 && !isSame(board, boardOf(delivery));
    const bases = [...held];
    const limit = delivery.standard.bleedLimit;
    const conflicts = delivery.sets.flatMap((set) => set.bleeds.filter((bleed) => bleed.share > limit).map((bleed) => `${set.name} ${bleed.other}`)).length;
    const fewest = delivery.fewest;
    const saves = fewest ? delivery.sets.length - fewest.groups.length : 0;

    return (
        <>
            <div className="scroll">
                <div className="head">
                    <div>
                        <h1>
                            {!settled && delivery.sets.length === 0
                                ? 'Sets are made when the parts are paired'
                                : `${plural(delivery.sets.length, 'set')}${conflicts > 0 ? `, ${plural(conflicts, 'time')} one meets another first` : ', none in another one’s rays'}`}
                        </h1>
                        <p>
                            Each base is a set unless it is moved here.{' '}
                            {delivery.standard.setsKeptApart
                                ? 'The standard keeps sets apart in the bake, so meeting another matters only where they are baked together.'
                                : 'The standard bakes all sets in each other’s way.'}
                        </p>
                    </div>
                    <Button variant="outlined" sx={{ flexShrink: 0 }} title="one set a material of the low poly" onClick={() => change(byMaterial(board, delivery.parts))}>
                        Group by material
                    </Button>
                </div>
                {fewest && saves > 0 && (
                    <div className="offer">
                        <span style={{ flex: 1 }}>
                            <b>
                                {plural(fewest.groups.length, 'set')} would stay as clean as {delivery.sets.length}
                            </b>
                            {fewest.exact ? '' : ' (the best found; not proved to be the fewest)'}:{' '}
                            {fewest.groups
                                .filter((group) => group.length > 1)
                                .map((group) => `${group.slice(0, 4).join(', ')}${group.length > 4 ? ` and ${group.length - 4} more` : ''}`)
                                .join(' · ')}
                            {' together'}
                        </span>
                        {fewest.groups
                            .filter((group) => group.length > 1)
                            .slice(0, 3)
                            .map((group, i, all) => (
                                <Button key={group[0]} variant="outlined" disabled={!settled} onClick={() => change(grouped(board, [group], delivery.sets))}>
                                    {all.length === 1 ? 'Take' : `Take group ${i + 1}`}
                                </Button>
                            ))}
                        {fewest.groups.filter((group) => group.length > 1).length > 1 && (
                            <Button variant="outlined" disabled={!settled} onClick={() => change(grouped(board, fewest.groups, delivery.sets))}>
                                Take all
                            </Button>
                        )}
                    </div>
                )}
                <ul className="lanes" aria-label="bake sets">
                    {board.lanes.map((lane) => (
                        <LaneRow
                            key={lane.name}
                            lane={lane}
                            board={board}
                            set={delivery.sets.find((set) => set.name === lane.name)}
                            limit={limit}
                            held={held}
                            chosen={selection.set === lane.name}
                            onHold={hold}
                            onChange={change}
                            onPick={() => selection.select({ set: lane.name })}
                        />
                    ))}
                    <li
                        className="lane out"
                        onDragOver={(event) => event.preventDefault()}
                        onDrop={(event) => {
                            event.preventDefault();
                            change(leftOut(board, event.dataTransfer.getData('text/plain').split('\n').filter(Boolean)));
                        }}
                    >
                        <div className="lane-head">
                            <b>left out</b>
                        </div>
                        <div className="chips">
                            {board.leftOut.length === 0 && <span className="soft">nothing: every part is judged</span>}
                            {board.leftOut.map((base) => (
                                <button type="button" key={base} className={`chip${held.has(base) ? ' held' : ''}`} aria-pressed={held.has(base)} onClick={() => hold(base)}>
                                    {base}
                                </button>
                            ))}
                        </div>
                        <span />
                    </li>
                </ul>
                <div className="faces" role="group" aria-label="matrix">
                    {(['rays', 'shade'] as const).map((one) => (
                        <button type="button" key={one} aria-pressed={face === one} onClick={() => setFace(one)}>
                            {one === 'rays' ? 'Who gets in whose rays' : 'Who shades whom'}
                        </button>
                    ))}
                </div>
                {face === 'rays' ? (
                    <Bleeds sets={delivery.sets} limit={limit} onPick={(set) => selection.select({ set })} />
                ) : (
                    <Shades sets={delivery.sets} board={board} onChange={change} onPick={(set) => selection.select({ set })} />
                )}
            </div>
            <div className="foot" style={{ flexWrap: 'wrap' }}>
                {held.size > 0 ? (
                    <>
                        <b>{plural(held.size, 'base')}</b>
                        <input
                            list="lane-names"
                            aria-label="set to move to"
                            placeholder="to set…"
                            value={into}
                            onChange={(event) => setInto(event.target.value)}
                            style={{ width: 104 }}
                        />
                        <datalist id="lane-names">
                            {board.lanes.slice(0, 300).map((lane) => (
                                <option key={lane.name} value={lane.name} />
                            ))}
                        </datalist>
                        <Button
                            variant="outlined"
                            disabled={into.trim() === ''}
                            onClick={() => {
                                change(moved(board, bases, into.trim()));
                                setInto('');
                            }}
                        >
                            Move
                        </Button>
                        <Button onClick={() => change(selfBaked(board, bases))}>Bake on itself</Button>
                        <Button onClick={() => change(leftOut(board, bases))}>Leave out</Button>
                    </>
                ) : (
                    <>
                        <span className="soft">Drag parts, click them, or hold all</span>
                        <form
                            style={{ display: 'flex', gap: 6 }}
                            onSubmit={(event) => {
                                event.preventDefault();
                                setHeld(new Set(fitting(board, pattern.trim())));
                            }}
                        >
                            <input
                                className="mono"
                                aria-label="pattern of parts to hold"
                                placeholder="shutter*"
                                value={pattern}
                                onChange={(event) => setPattern(event.target.value)}
                                style={{ width: 92 }}
                            />
                            <Button type="submit" variant="outlined" disabled={fitting(board, pattern.trim()).length === 0}>
                                Hold {fitting(board, pattern.trim()).length || ''}
                            </Button>
                        </form>
                    </>
                )}
                <span className="grow" />
                {arrange.error instanceof ApiError && (
                    <span className="blocker" role="alert">
                        {arrange.error.message}
                    </span>
                )}
                <Button
                    variant="outlined"
                    disabled={past.length === 0}
                    onClick={() => {
                        setBoard(past[past.length - 1] ?? board);
                        setPast((old) => old.slice(0, -1));
                    }}
                >
                    Undo
                </Button>
                <Button variant={changed ? 'contained' : 'outlined'} disabled={!changed || !settled || arrange.isPending} onClick={() => arrange.mutate(choicesOf(board))}>
                    Apply, check again
                </Button>
            </div>
        </>
    );
}
