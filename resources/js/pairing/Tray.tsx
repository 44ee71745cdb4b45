import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState, type ReactNode } from 'react';
import type { At, Tie } from '../api/client';
import { percent } from '../frame/format';
import { Rows } from '../frame/Rows';
import { Name } from './Name';

interface Props {
    ties: Tie[];
    delivery: At<'pairing'>;
    chosen: Set<string>;
    editing: string | null;
    field: (name: string) => ReactNode;
    onSelect: (name: string) => void;
    onEdit: (name: string) => void;
    onTake: (name: string, partner: string) => void;
    onChoose: (base: string, choice: string) => void;
    fill: boolean;
}

/** Parts without a partner, each with the part of the other side that place and size bring nearest. */
export function Tray({ ties, delivery, chosen, editing, field, onSelect, onEdit, onTake, onChoose, fill }: Props) {
    const [at, setAt] = useState(-1);
    const nameOf = (tie: Tie): string => tie.low[0] ?? tie.high[0] ?? '';
    return (
        <Box
            component="section"
            sx={{
                flex: fill ? '1 1 auto' : 'none',
                minHeight: fill ? 140 : undefined,
                display: 'flex',
                flexDirection: 'column',
                border: '1px dashed var(--rule-strong)',
                bgcolor: 'background.paper',
                px: 1.25,
                py: 1,
                mt: 1.75,
            }}
            aria-label="parts with no partner"
        >
            <div style={{ flex: 'none', paddingBottom: 4 }}>
                <b>{delivery.verdict === 'waiting' ? 'No partner yet' : 'No partner'}</b>{' '}
                <span className="soft">
                    –{' '}
                    {delivery.verdict === 'waiting'
                        ? 'their other side is still to be handed in, unless they are baked on themselves'
                        : 'with what lies nearest on the other side, by place and size'}
                </span>
            </div>
            <Rows
                count={ties.length}
                height={34}
                current={at}
                onMove={(index) => {
                    setAt(index);
                    const tie = ties[index];
                    if (tie) {
                        onSelect(nameOf(tie));
                    }
                }}
                label="lone parts"
                role="list"
                style={fill ? { flex: 1 } : { height: Math.min(4, ties.length) * 34 }}
                render={(index, place) => {
                    const tie = ties[index];
                    if (!tie) {
                        return null;
                    }
                    const isLow = tie.low.length > 0;
                    const name = nameOf(tie);
                    const fits = tie.candidate !== null && (tie.candidateCost ?? 1) < 0.25;
                    return (
                        <div
                            role="listitem"
                            key={`${isLow ? 'low' : 'high'} ${name}`}
                            className={`tray-row${chosen.has(name) ? ' chosen' : ''}`}
                            style={place}
                            onClick={() => onSelect(name)}
                        >
                            <span className="tie-name">
                                {editing === name ? (
                                    field(name)
                                ) : (
                                    <Name name={name} suffix={isLow ? delivery.standard.lowSuffix : delivery.standard.highSuffix} wanted={null} role={isLow ? 'low' : 'high'} />
                                )}
                            </span>
                            <span className="ellipsis soft">
                                {tie.candidate === null ? (
                                    `nothing on the ${isLow ? 'high' : 'low'} side`
                                ) : (
                                    <>
                                        <span className={`mono ${isLow ? 'high' : 'low'}`}>{tie.candidate}</span> {percent(tie.candidateCost ?? 0, 2)} off
                                    </>
                                )}
                            </span>
                            <span style={{ display: 'flex', justifyContent: 'flex-end' }}>
                                {fits && tie.candidate !== null && (
                                    <Button variant="text" onClick={() => onTake(name, tie.candidate ?? '')}>
                                        Take its name
                                    </Button>
                                )}
                                <Button variant="text" onClick={() => onEdit(name)}>
                                    Rename
                                </Button>
                                {isLow && (
                                    <Button variant="text" onClick={() => onChoose(tie.base, 'self')}>
                                        Bake on itself
                                    </Button>
                                )}
                                <Button variant="text" onClick={() => onChoose(tie.base, 'out')}>
                                    Leave out
                                </Button>
                            </span>
                        </div>
                    );
                }}
            />
        </Box>
    );
}
