import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Dispatch, SetStateAction } from 'react';
import type { At } from '../api/client';
import type { components } from '../api/schema';
import { plural } from '../frame/format';
import { Rows } from '../frame/Rows';
import { Foot } from '../frame/sheet';
import { keyOf, type Planned } from './ledger';
import { Tools, type Tool } from './Tools';

interface Props {
    delivery: At<'pairing'>;
    plan: Planned[];
    changePlan: Dispatch<SetStateAction<Planned[]>>;
    tool: Tool | null;
    setTool: (tool: Tool | null) => void;
    /** The plan, with what the tool at hand would add to it. */
    shown: Planned[];
    preview: components['schemas']['RenamePlanData'] | null;
    clashes: string[];
    errors: string[];
    isPaired: boolean;
    isWriting: boolean;
    onWrite: () => void;
}

/** The rename plan: what would be written, its tools, and what stands in its way. */
export function PlanFoot({ delivery, plan, changePlan, tool, setTool, shown, preview, clashes, errors, isPaired, isWriting, onWrite }: Props) {
    const planned = new Map(plan.map((row) => [keyOf(row), row.to]));
    const added = tool === null ? 0 : shown.filter((row) => planned.get(keyOf(row)) !== row.to).length;
    const unsafe = shown.length > 0 ? (preview?.unsafe ?? []) : [];
    return (
        <Foot>
            <Box sx={{ width: '100%' }}>
                <div style={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 12 }}>
                    <b style={{ whiteSpace: 'nowrap' }}>{shown.length === 0 ? 'Rename plan is empty' : `Rename plan · ${plural(shown.length, 'name')}`}</b>
                    <span className="soft ellipsis" style={{ flex: '1 1 120px' }}>
                        {shown.length === 0
                            ? 'double-click a name, or F2, to mend it'
                            : preview
                              ? preview.pairedAfter === preview.pairedBefore
                                  ? `${preview.pairedAfter} of ${preview.basesAfter} pair, as before`
                                  : `${preview.pairedBefore} pair now, ${preview.pairedAfter} of ${preview.basesAfter} then`
                              : 'only these name bytes change'}
                    </span>
                    {plan.length > 0 && tool === null && (
                        <Button variant="text" onClick={() => changePlan([])}>
                            Empty
                        </Button>
                    )}
                    <Button variant="outlined" href={`/api/deliveries/${delivery.id}/download`} disabled={delivery.files.length === 0}>
                        Download files
                    </Button>
                    <Button
                        variant={plan.length > 0 && errors.length === 0 ? 'contained' : 'outlined'}
                        disabled={plan.length === 0 || clashes.length > 0 || tool !== null || !isPaired || isWriting}
                        onClick={onWrite}
                    >
                        {isWriting ? 'Writing…' : 'Write mended files'}
                    </Button>
                </div>
                <Tools
                    tool={tool}
                    onTool={setTool}
                    onTake={() => changePlan(shown.map(({ fileId, from, to, reason }) => ({ fileId, from, to, reason })))}
                    count={added}
                    disabled={!isPaired || delivery.parts.length === 0}
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
                                            <Button
                                                variant="text"
                                                sx={{ py: 0, minHeight: 24 }}
                                                aria-label={`leave ${row.from} as it is`}
                                                onClick={() => changePlan((old) => old.filter((one) => keyOf(one) !== keyOf(row)))}
                                            >
                                                leave
                                            </Button>
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
            </Box>
        </Foot>
    );
}
