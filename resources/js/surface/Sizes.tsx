import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState } from 'react';
import type { UvSheet } from '../api/client';
import { plural } from '../frame/format';

/** At which map sizes the layout holds, in a sentence. */
export function holds(sheet: Pick<UvSheet, 'sizes'>): string {
    const good = sheet.sizes.filter((one) => one.breaks.length === 0).map((one) => one.size);
    const all = sheet.sizes.length;
    if (good.length === 0) {
        return 'The layout holds at no map size as it is';
    }
    const [least, most] = [Math.min(...good), Math.max(...good)];
    if (good.length === all) {
        return `The layout holds at every map size from ${least} to ${most} px`;
    }
    return least === most ? `The layout holds at ${least} px only` : `The layout holds from ${least} to ${most} px`;
}

/** How often the map can be halved until the least gap is gone. */
const halvings = (gap: number): string =>
    gap < 1 ? 'is lost on the map itself' : gap < 2 ? 'is lost when the map is halved' : `lasts ${plural(Math.floor(Math.log2(gap)), 'halving')} of the map`;

/** One row: map sizes, and what of today's layout breaks at each. */
export function Sizes({ sheet }: { sheet: UvSheet }) {
    const [looked, setLooked] = useState<number | null>(null);
    const size = looked ?? sheet.mapSize;
    const one = sheet.sizes.find((each) => each.size === size);
    return (
        <Box sx={{ flex: 'none', mt: 1 }}>
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
                <span>{holds(sheet)}</span>
                <ToggleButtonGroup value={size} onChange={(_, to: number | null) => setLooked(to)} aria-label="map size">
                    {sheet.sizes.map((each) => (
                        <ToggleButton key={each.size} value={each.size} title={each.breaks.length === 0 ? 'holds' : each.breaks.join('; ')}>
                            {each.size} {each.breaks.length === 0 ? '✓' : '✗'}
                        </ToggleButton>
                    ))}
                </ToggleButtonGroup>
            </Box>
            <Box className="soft" role="status" sx={{ mt: 0.25 }}>
                {one ? `${one.size} px${one.size === sheet.mapSize ? ' (the map size)' : ''}: ` : ''}
                {one === undefined ? '' : one.breaks.length === 0 ? 'holds' : one.breaks.join('; ')}
                {one?.gap !== undefined && one.gap !== null ? `. The least gap is ${one.gap.toFixed(1)} px and ${halvings(one.gap)}` : ''}.
            </Box>
        </Box>
    );
}
