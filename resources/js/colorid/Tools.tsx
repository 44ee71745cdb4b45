import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState } from 'react';
import type { IdSheet, SheetId } from '../api/client';
import { plural } from '../frame/format';
import { Field, Tick } from '../frame/sheet';
import { changed, draftOf, isHex, merged, split, type Draft } from './draft';

const BY = [
    ['part', 'part'],
    ['material', 'material'],
    ['shell', 'shell'],
    ['region', 'region'],
    ['set', 'set'],
    ['colors', 'as colored'],
] as const;

/** What wears one ID; regions by how far faces may turn. */
export function CutTools({ sheet, busy, onCut }: { sheet: IdSheet; busy: boolean; onCut: (by: string, angle: number) => void }) {
    const [angle, setAngle] = useState(sheet.angle);
    return (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mb: 1.25 }}>
            <span>One ID a</span>
            <ToggleButtonGroup exclusive value={sheet.by} disabled={busy} onChange={(_, by: string | null) => by && onCut(by, angle)} aria-label="what wears one ID">
                {BY.map(([key, words]) => (
                    <ToggleButton key={key} value={key}>
                        {words}
                    </ToggleButton>
                ))}
            </ToggleButtonGroup>
            {sheet.by === 'region' && (
                <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', width: 250 }}>
                    <Slider
                        size="small"
                        aria-label="faces that turn less than this stay together"
                        min={1}
                        max={120}
                        value={angle}
                        disabled={busy}
                        onChange={(_, value) => setAngle(value)}
                        onChangeCommitted={(_, value) => onCut('region', value)}
                    />
                    <span className="mono" style={{ whiteSpace: 'nowrap' }}>
                        under {angle.toFixed(0)}°
                    </span>
                </Box>
            )}
        </Box>
    );
}

/** What can be done with the pieces that are chosen. */
export function ChosenTools({
    sheet,
    chosen,
    ids,
    busy,
    onChange,
    onClear,
}: {
    sheet: IdSheet;
    chosen: ReadonlySet<string>;
    ids: SheetId[];
    busy: boolean;
    onChange: (draft: Draft) => void;
    onClear: () => void;
}) {
    const one = ids.length === 1 ? ids[0] : undefined;
    const draft = draftOf(sheet);
    const nameOf = (key: string): string => sheet.pieces.find((piece) => piece.key === key)?.name ?? key;
    return (
        <Box
            role="group"
            aria-label="chosen pieces"
            sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1.25, p: 1, bgcolor: 'background.paper', border: 1, borderColor: 'var(--rule-strong)' }}
        >
            <b>
                {plural(chosen.size, 'piece')}
                {ids.length > 1 ? ` of ${ids.length} IDs` : ''}
            </b>
            {one && <OneId key={`${one.name} ${one.hex}`} id={one} busy={busy} onChange={(to) => onChange(changed(draft, one.name, to))} />}
            <Button
                variant="outlined"
                disabled={busy || chosen.size < 2 || (one !== undefined && one.pieces.length === chosen.size)}
                onClick={() => onChange(merged(draft, chosen))}
            >
                One ID for {chosen.size > 1 ? `all ${chosen.size}` : 'several'}
            </Button>
            <Button
                variant="outlined"
                disabled={busy || ids.every((id) => id.pieces.length < 2)}
                onClick={() => onChange(split(draft, chosen, nameOf))}
                title="each of these pieces gets an ID of its own"
            >
                An ID each
            </Button>
            <Button onClick={onClear}>Clear selection</Button>
        </Box>
    );
}

function OneId({ id, busy, onChange }: { id: SheetId; busy: boolean; onChange: (to: { name?: string; hex?: string; pinned?: boolean }) => void }) {
    const [name, setName] = useState(id.name);
    const [hex, setHex] = useState(id.hex);
    const apply = (): void => {
        if ((name.trim() !== '' && name !== id.name) || (isHex(hex) && hex.toUpperCase() !== id.hex)) {
            onChange({ name: name.trim() || id.name, hex: isHex(hex) ? hex.toUpperCase() : id.hex });
        }
    };
    const onEnter = (event: React.KeyboardEvent): void => {
        if (event.key === 'Enter') {
            apply();
        }
    };
    return (
        <>
            <Field label="name of the ID" value={name} onText={setName} onBlur={apply} onKeyDown={onEnter} disabled={busy} sx={{ width: 150 }} />
            <Field label="color of the ID" mono value={hex} onText={setHex} onBlur={apply} onKeyDown={onEnter} error={!isHex(hex)} disabled={busy} sx={{ width: 100 }} />
            <Tick checked={id.pinned} disabled={busy} onTick={(pinned) => onChange({ pinned })}>
                fixed
            </Tick>
        </>
    );
}
