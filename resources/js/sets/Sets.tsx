import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useState } from 'react';
import { ApiError, useAct, useSince, type At } from '../api/client';
import { plural } from '../frame/format';
import { LongList } from '../frame/LongList';
import { useNotice } from '../frame/Notice';
import { useSelection } from '../frame/selection';
import { Field, Foot, Grow, Head, Offer, Scroll } from '../frame/sheet';
import { boardOf, byMaterial, choicesOf, fitting, grouped, isSame, leftOut, moved, rebased, selfBaked, type Board } from './board';
import { Drawing } from './Drawing';
import { LaneRow } from './LaneRow';
import { LaneBox } from './looks';
import { Bleeds, Shades } from './Matrices';
import { useMay } from '../people/session';

/** Which parts bake together, and who is in whose way. */
export function Sets({ delivery }: { delivery: At<'sets'> }) {
    const selection = useSelection();
    const notice = useNotice();
    const [past, setPast] = useState<Board[]>([]);
    const [board, setBoard] = useState(() => boardOf(delivery));
    // Sets come once the parts are paired; a board that somebody changed stays until what it was applied to is there.
    const given = JSON.stringify(boardOf(delivery));
    const [from, setFrom] = useState(given);
    const [checked, setChecked] = useState(delivery.checkedAt);
    // Saved, and being checked: what comes of it takes its place.
    const [applied, setApplied] = useState(false);
    const [held, setHeld] = useState<Set<string>>(new Set());
    const [into, setInto] = useState('');
    const [pattern, setPattern] = useState('');
    const [face, setFace] = useState<'rays' | 'shade'>('rays');
    const mayDecide = useMay('decide');
    const arrange = useAct<ReturnType<typeof choicesOf>>(delivery.id, () => 'board', undefined, useSince(delivery.version, past.length > 0 && !applied));
    // While it is being checked there may be no sets at all: what was moved waits until there are.
    if ((from !== given || checked !== delivery.checkedAt) && (past.length === 0 || delivery.checkedAt !== null)) {
        setFrom(given);
        setChecked(delivery.checkedAt);
        const fresh = boardOf(delivery);
        if (past.length === 0 || applied || isSame(board, fresh)) {
            setBoard(fresh);
            setPast([]);
            setApplied(false);
            setHeld(new Set());
        } else {
            // Somebody else changed the sets, or parts came and went: what was moved here stays moved.
            setBoard(rebased(board, fresh));
            setPast((old) => old.map((one) => rebased(one, fresh)));
        }
    }
    const change = (next: Board): void => {
        if (!isSame(next, board)) {
            setPast((old) => [...old, board]);
            setBoard(next);
            setApplied(false);
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
    const apply = (): void => {
        const before = choicesOf(boardOf(delivery));
        arrange.mutate(choicesOf(board), {
            onSuccess: () => {
                setApplied(true);
                notice.done('The sets are put together; they are checked again', () => arrange.mutate(before));
            },
        });
    };
    const bases = [...held];
    const limit = delivery.standard.bleedLimit;
    const conflicts = delivery.sets.flatMap((set) => set.bleeds.filter((bleed) => bleed.share > limit).map((bleed) => `${set.name} ${bleed.other}`)).length;
    const fewest = delivery.fewest;
    const saves = fewest ? delivery.sets.length - fewest.groups.length : 0;

    return (
        <>
            <Scroll>
                <Head
                    title={
                        !settled && delivery.sets.length === 0
                            ? 'Sets are made when the parts are paired'
                            : `${plural(delivery.sets.length, 'set')}${conflicts > 0 ? `, ${plural(conflicts, 'time')} one meets another first` : ', none in another one’s rays'}`
                    }
                    acts={
                        <Button variant="outlined" title="one set a material of the low poly" onClick={() => change(byMaterial(board, delivery.parts))}>
                            Group by material
                        </Button>
                    }
                >
                    Each base is a set unless it is moved here.{' '}
                    {delivery.standard.setsKeptApart
                        ? 'The standard keeps sets apart in the bake, so meeting another matters only where they are baked together.'
                        : 'The standard bakes all sets in each other’s way.'}
                </Head>
                {fewest && saves > 0 && (
                    <Offer
                        acts={
                            <>
                                {fewest.groups
                                    .filter((group) => group.length > 1)
                                    .slice(0, 3)
                                    .map((group, i, all) => (
                                        <Button key={group[0]} variant="outlined" onClick={() => change(grouped(board, [group], delivery.sets))}>
                                            {all.length === 1 ? 'Take' : `Take group ${i + 1}`}
                                        </Button>
                                    ))}
                                {fewest.groups.filter((group) => group.length > 1).length > 1 && (
                                    <Button variant="outlined" onClick={() => change(grouped(board, fewest.groups, delivery.sets))}>
                                        Take all
                                    </Button>
                                )}
                            </>
                        }
                    >
                        <b>
                            {plural(fewest.groups.length, 'set')} would stay as clean as {delivery.sets.length}
                        </b>
                        {fewest.exact ? '' : ' (the best found; not proved to be the fewest)'}:{' '}
                        {fewest.groups
                            .filter((group) => group.length > 1)
                            .map((group) => `${group.slice(0, 4).join(', ')}${group.length > 4 ? ` and ${group.length - 4} more` : ''}`)
                            .join(' · ')}
                        {' together'}
                    </Offer>
                )}
                <Drawing sets={delivery.sets} limit={limit} chosen={selection.set} onPick={(set) => selection.select({ set })} />
                <div role="list" aria-label="bake sets">
                    <LongList
                        count={board.lanes.length}
                        height={42}
                        keyOf={(index) => board.lanes[index]?.name ?? String(index)}
                        render={(index) => {
                            const lane = board.lanes[index];
                            return (
                                lane && (
                                    <LaneRow
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
                                )
                            );
                        }}
                    />
                    <LaneBox
                        role="listitem"
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
                                <Chip key={base} label={base} color={held.has(base) ? 'primary' : 'default'} aria-pressed={held.has(base)} onClick={() => hold(base)} />
                            ))}
                        </div>
                        <span />
                    </LaneBox>
                </div>
                <Tabs value={face} onChange={(_, value: 'rays' | 'shade') => setFace(value)} aria-label="matrix" sx={{ mt: 1.5, mb: 0.75 }}>
                    <Tab value="rays" label="Who gets in whose rays" />
                    <Tab value="shade" label="Who shades whom" />
                </Tabs>
                {face === 'rays' ? (
                    <Bleeds sets={delivery.sets} limit={limit} onPick={(set) => selection.select({ set })} />
                ) : (
                    <Shades sets={delivery.sets} board={board} onChange={change} onPick={(set) => selection.select({ set })} />
                )}
            </Scroll>
            <Foot>
                {held.size > 0 ? (
                    <>
                        <b>{plural(held.size, 'base')}</b>
                        <Field list="lane-names" label="set to move to" placeholder="to set…" value={into} onText={setInto} sx={{ width: 116 }} />
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
                        <span className="soft">Drag parts, click them, or select by pattern</span>
                        <form
                            style={{ display: 'flex', gap: 6 }}
                            onSubmit={(event) => {
                                event.preventDefault();
                                setHeld(new Set(fitting(board, pattern.trim())));
                            }}
                        >
                            <Field mono label="pattern of parts to select" placeholder="shutter*" value={pattern} onText={setPattern} sx={{ width: 104 }} />
                            <Button type="submit" variant="outlined" disabled={fitting(board, pattern.trim()).length === 0}>
                                Select {fitting(board, pattern.trim()).length || ''}
                            </Button>
                        </form>
                    </>
                )}
                <Grow />
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
                <Button
                    variant={changed ? 'contained' : 'outlined'}
                    disabled={!changed || arrange.isPending || !mayDecide}
                    title={mayDecide ? undefined : 'a technical artist decides this'}
                    onClick={apply}
                >
                    Apply, check again
                </Button>
            </Foot>
        </>
    );
}
