import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Chip from '@mui/material/Chip';
import InputBase from '@mui/material/InputBase';
import { useState, type DragEvent } from 'react';
import type { BakeSet } from '../api/client';
import { Choice, Tick } from '../frame/sheet';
import { LaneBox } from './looks';
import { detached, merged, moved, renamed, split, type Board, type Lane } from './board';

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

export function LaneRow({ lane, board, set, limit, held, chosen, onHold, onChange, onPick }: LaneProps) {
    const [naming, setNaming] = useState(false);
    const drop = (event: DragEvent): void => {
        event.preventDefault();
        const bases = event.dataTransfer.getData('text/plain').split('\n').filter(Boolean);
        onChange(moved(board, bases, lane.name));
    };
    const conflicts = (set?.bleeds ?? []).filter((bleed) => bleed.share > limit);
    return (
        <LaneBox role="listitem" className={chosen ? 'lane chosen' : 'lane'} onDragOver={(event) => event.preventDefault()} onDrop={drop}>
            <div className="lane-head">
                {naming ? (
                    <InputBase
                        className="mono"
                        slotProps={{ input: { 'aria-label': `new name of the set ${lane.name}` } }}
                        sx={{ border: 1, px: 0.5, bgcolor: 'background.paper', '& input': { p: '2px' } }}
                        defaultValue={lane.name}
                        autoFocus
                        onBlur={(event) => {
                            setNaming(false);
                            onChange(renamed(board, lane.name, event.target.value.trim()));
                        }}
                        onKeyDown={(event) => {
                            if (event.key === 'Enter' || event.key === 'Escape') {
                                const field = event.target as HTMLInputElement;
                                if (event.key === 'Escape') {
                                    field.value = lane.name;
                                }
                                field.blur();
                            }
                            event.stopPropagation();
                        }}
                    />
                ) : (
                    <ButtonBase
                        className="mono"
                        sx={{ fontSize: 13 }}
                        onClick={onPick}
                        onDoubleClick={() => setNaming(true)}
                        onKeyDown={(event) => event.key === 'F2' && setNaming(true)}
                        title="double-click or F2 to rename"
                    >
                        <b>{lane.name.trim()}</b>
                    </ButtonBase>
                )}
                {conflicts.length > 0 && <span className="trouble">meets {conflicts.map((bleed) => bleed.other).join(', ')}</span>}
            </div>
            <div className="chips">
                {lane.bases.map((base) => (
                    <Chip
                        key={base}
                        color={held.has(base) ? 'primary' : 'default'}
                        label={board.onItself.includes(base) ? `${base} on itself` : base}
                        aria-pressed={held.has(base)}
                        draggable
                        onDragStart={(event) => event.dataTransfer.setData('text/plain', (held.has(base) ? [...held] : [base]).join('\n'))}
                        onClick={() => onHold(base)}
                    />
                ))}
            </div>
            <div className="lane-acts">
                <Tick checked={board.detachable.includes(lane.name)} onTick={() => onChange(detached(board, lane.name))} label={`${lane.name} comes off`}>
                    comes off
                </Tick>
                {lane.bases.length > 1 && (
                    <Button variant="text" onClick={() => onChange(split(board, lane.name))}>
                        Split
                    </Button>
                )}
                <Choice
                    label={`merge ${lane.name} into`}
                    value=""
                    empty="merge into…"
                    width={128}
                    options={board.lanes
                        .filter((other) => other.name !== lane.name)
                        .slice(0, 300)
                        .map((other) => [other.name, other.name] as const)}
                    onChoose={(other) => onChange(merged(board, lane.name, other))}
                />
            </div>
        </LaneBox>
    );
}
