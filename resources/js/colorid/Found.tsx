import Box from '@mui/material/Box';
import type { At, FoundIds } from '../api/client';
import { chosenParts, useSelection } from '../frame/selection';
import { plural } from '../frame/format';
import { Swatches } from './looks';
import { Scale } from './Scale';
import { Swatch } from './Swatch';

const sources: Record<string, string> = {
    'id file': 'the ID file',
    'vertex colours': 'the vertex colors of the high poly',
    materials: 'the materials of the high poly',
};

/** What is said of the IDs that were handed in. */
export function headOf(ids: FoundIds, blocking: number): string {
    const close = ids.colors.filter((color) => color.nearest !== null && color.nearest < 20).length;
    if (ids.source === 'none') {
        return 'The asset has no ID colors yet';
    }
    if (blocking > 0) {
        return `${close === 2 ? 'Two' : close} of ${ids.colors.length} colors will be picked as one`;
    }
    if (ids.missing.length > 0) {
        return `${plural(ids.missing.length, 'part has', 'parts have')} no ID color`;
    }
    return close > 0 ? `${close} of ${ids.colors.length} colors are close to another` : `${plural(ids.colors.length, 'color')}, all far apart`;
}

export const sourceOf = (ids: FoundIds): string =>
    `IDs come from ${sources[ids.source] ?? ids.source}. Wanted between any two: ΔE00 20, and 30 where they touch; under 5, or RGB 32, a picker takes both.`;

/** The IDs that were handed in, the nearest first. */
export function Found({ delivery, ids }: { delivery: At<'color-id'>; ids: FoundIds }) {
    const selection = useSelection();
    const chosen = chosenParts(delivery, selection);
    return (
        <>
            <Scale dots={ids.colors} least={ids.least} onPick={(name) => selection.select({ part: ids.colors.find((color) => color.name === name)?.parts[0] ?? null })} />
            <Swatches>
                {[...ids.colors]
                    .sort((a, b) => (a.nearest ?? 999) - (b.nearest ?? 999))
                    .map((color) => (
                        <Swatch
                            key={color.hex}
                            card={{ ...color, worn: color.parts.join(', ') }}
                            chosen={color.parts.some((part) => chosen.has(part))}
                            onPick={() => selection.select({ part: color.parts[0] ?? null })}
                        />
                    ))}
            </Swatches>
            {ids.missing.length > 0 && (
                <Box sx={{ border: '1px dashed var(--rule-strong)', p: 1, mt: 1.75, bgcolor: 'background.paper' }}>
                    <b>No ID color</b> <span className="mono soft">{ids.missing.slice(0, 40).join(', ')}</span>
                </Box>
            )}
        </>
    );
}
