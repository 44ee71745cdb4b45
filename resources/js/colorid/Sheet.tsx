import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { At, IdSheet } from '../api/client';
import { Field, Offer, Tick } from '../frame/sheet';
import { chosenParts, useSelection, useStand } from '../frame/selection';
import { usePieces } from '../stand/useMeshes';
import { draftOf, idsOf } from './draft';
import { Fixed } from './Fixed';
import { Swatches } from './looks';
import { Scale } from './Scale';
import { Swatch } from './Swatch';
import { ChosenTools, CutTools } from './Tools';
import { useSheet } from './useSheet';

const EYES = ['usual', 'protan', 'deutan', 'tritan'];

/** How far apart the colors are, in a line. */
export function apartOf(sheet: Pick<IdSheet, 'least' | 'leastTouching' | 'leastBefore'>): string {
    const [usual, ...others] = sheet.least;
    if (usual === null || usual === undefined) {
        return '';
    }
    const eyes = others.map((far, i) => `${EYES[i + 1] ?? ''} ${far?.toFixed(1) ?? '–'}`).join(', ');
    const touching =
        sheet.leastTouching === null
            ? ''
            : ` The closest two that touch are ${sheet.leastTouching.toFixed(1)} apart${sheet.leastBefore !== null && sheet.leastBefore < sheet.leastTouching - 0.05 ? ` (${sheet.leastBefore.toFixed(1)} before colors were exchanged)` : ''}.`;
    return `The closest two are ΔE00 ${usual.toFixed(1)} apart (${eyes}).${touching}`;
}

/** The IDs that are to be given: cut, chosen here or in the stand, merged, split, named, colored, spread. */
export function Sheet({ delivery, fetched, onCut }: { delivery: At<'color-id'>; fetched: IdSheet; onCut: (by: string, angle: number) => void }) {
    const { sheet, change, undo, canUndo, busy } = useSheet(delivery.id, fetched);
    const selection = useSelection();
    const { setSheet } = useStand();
    const [held, setHeld] = useState<ReadonlySet<string>>(new Set());
    const [find, setFind] = useState('');
    const [fixes, setFixes] = useState(false);
    const pieces = usePieces(delivery.id, sheet.cut);
    const keys = useMemo(() => sheet.pieces.map((piece) => piece.key), [sheet.pieces]);
    // What is chosen elsewhere, a part or a finding, is chosen here as long as nothing is picked here.
    const named = chosenParts(delivery, selection);
    const chosen = useMemo(() => new Set(held.size > 0 ? keys.filter((key) => held.has(key)) : []), [held, keys]);
    const hold = useCallback((some: string[], adds: boolean): void => {
        setHeld((old) => {
            if (!adds) {
                return new Set(some);
            }
            const next = new Set(old);
            const all = some.every((key) => next.has(key));
            some.forEach((key) => (all ? next.delete(key) : next.add(key)));
            return next;
        });
    }, []);

    useEffect(() => {
        if (!pieces) {
            setSheet(null);
            return;
        }
        const hexOf = new Map(sheet.ids.flatMap((id) => id.pieces.map((piece): [string, string] => [piece, id.hex])));
        const keyOf = (part: { piece?: number }): string => keys[part.piece ?? -1] ?? '';
        setSheet({
            parts: pieces,
            paint: new Map(pieces.map((part) => [part.key, hexOf.get(keyOf(part)) ?? '#888888'])),
            chosen: new Set(pieces.filter((part) => chosen.has(keyOf(part))).map((part) => part.key)),
            onPick: (shown, adds) => hold([...new Set(pieces.filter((part) => shown.includes(part.key)).map(keyOf))], adds),
        });
        return () => setSheet(null);
    }, [pieces, sheet.ids, keys, chosen, hold, setSheet]);

    const ids = idsOf(sheet.ids, chosen);
    const wanted = find.trim().toLowerCase();
    const shown = wanted === '' ? sheet.ids : sheet.ids.filter((id) => [id.name, id.hex, ...id.parts].some((word) => word.toLowerCase().includes(wanted)));
    return (
        <>
            <CutTools key={`${sheet.by} ${sheet.angle}`} sheet={sheet} busy={busy} onCut={onCut} />
            <Scale dots={sheet.ids} least={sheet.least[0] ?? null} onPick={(name) => hold(sheet.ids.find((id) => id.name === name)?.pieces ?? [], false)} />
            <Box sx={{ mt: -0.75, mb: 1.25 }}>{apartOf(sheet)}</Box>
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1.25 }}>
                <Button variant="outlined" disabled={busy} onClick={() => change(draftOf(sheet), 'spread')} title="the most distinct colors for that many IDs">
                    Spread
                </Button>
                <Tick checked={sheet.allEyes} disabled={busy} onTick={(allEyes) => change({ ...draftOf(sheet), allEyes }, 'spread')}>
                    spread for all eyes
                </Tick>
                <Button variant="outlined" onClick={() => setFixes(true)}>
                    Fixed colors{Object.keys(sheet.pins).length > 0 ? ` (${Object.keys(sheet.pins).length})` : ''}
                </Button>
                <Button variant="outlined" disabled={!canUndo || busy} onClick={undo}>
                    Undo
                </Button>
                {sheet.ids.length > 12 && <Field label="find an ID" placeholder="find an ID" value={find} onText={setFind} sx={{ width: 150 }} />}
            </Box>
            {sheet.remarks.map((remark) => (
                <Offer key={remark} quiet>
                    {remark}
                </Offer>
            ))}
            {chosen.size > 0 && (
                <ChosenTools
                    sheet={sheet}
                    chosen={chosen}
                    ids={ids}
                    busy={busy}
                    onChange={(draft) => {
                        change(draft);
                    }}
                    onClear={() => setHeld(new Set())}
                />
            )}
            <Swatches>
                {shown.map((id) => (
                    <Swatch
                        key={id.name}
                        card={{ ...id, worn: id.pieces.length === 1 ? id.parts.join(', ') : `${id.pieces.length} pieces: ${id.parts.join(', ')}` }}
                        chosen={held.size > 0 ? id.pieces.some((piece) => chosen.has(piece)) : id.parts.some((part) => named.has(part))}
                        onPick={(adds) => hold(id.pieces, adds)}
                    />
                ))}
            </Swatches>
            {fixes && (
                <Fixed
                    pins={sheet.pins}
                    onClose={() => setFixes(false)}
                    onKeep={(pins) => {
                        setFixes(false);
                        change({ ...draftOf(sheet), pins }, 'spread');
                    }}
                />
            )}
        </>
    );
}
