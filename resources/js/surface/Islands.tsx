import Box from '@mui/material/Box';
import { useMemo } from 'react';
import type { UvIsland, UvSheet } from '../api/client';
import { Choice } from '../frame/sheet';
import { LongList } from '../frame/LongList';
import { percent, plural } from '../frame/format';

export const SORTS = [
    ['uneven', 'islands off in density'],
    ['tight', 'islands too near to others'],
    ['unseen', 'islands never seen'],
    ['stretched', 'stretched islands'],
    ['all', 'all islands'],
] as const;
export type Sort = (typeof SORTS)[number][0];

/** How much an island has to grow (or shrink) in UV to be as dense as the rest. */
export const growth = (island: UvIsland, sheet: UvSheet): number => (island.density > 0 ? sheet.reference / island.density : 1);

/** Islands of a page that a list is about, the worst first. */
export function listed(sheet: UvSheet, page: number, sort: Sort): number[] {
    const all = sheet.islands.map((_, i) => i).filter((i) => sheet.islands[i]?.page === page);
    const by = (keep: (island: UvIsland) => boolean, worst: (island: UvIsland) => number): number[] =>
        all
            .filter((i) => {
                const island = sheet.islands[i];
                return island !== undefined && keep(island);
            })
            .sort((a, b) => worst(sheet.islands[b] as UvIsland) - worst(sheet.islands[a] as UvIsland) || a - b);
    switch (sort) {
        case 'uneven':
            return by(
                (island) => island.density > 0 && Math.abs(island.density / sheet.reference - 1) > sheet.limits.density,
                (island) => Math.abs(Math.log(growth(island, sheet))),
            );
        case 'tight':
            return by(
                (island) => island.gap !== null && island.gap < sheet.padding && !island.overlaps,
                (island) => -(island.gap ?? 0),
            );
        case 'unseen':
            return by(
                (island) => island.seen <= 0,
                (island) => island.triangles,
            );
        case 'stretched':
            return by(
                (island) => island.stretch > sheet.limits.stretch,
                (island) => island.stretch,
            );
        case 'all':
            return all;
    }
}

function told(island: UvIsland, sheet: UvSheet, sort: Sort): string {
    switch (sort) {
        case 'uneven': {
            const by = growth(island, sheet);
            return `${by > 1 ? 'grow' : 'shrink'} × ${by.toFixed(2)}`;
        }
        case 'tight':
            return `${(island.gap ?? 0).toFixed(1)} px`;
        case 'unseen':
            return 'could shrink';
        case 'stretched':
            return island.stretch.toFixed(2);
        case 'all':
            return `${island.density.toFixed(0)} px`;
    }
}

const none = (sheet: UvSheet): Record<Sort, string> => ({
    uneven: `All are within ${percent(sheet.limits.density)} of the usual density.`,
    tight: 'None is nearer to another than the padding.',
    unseen: 'All are seen, at least in part.',
    stretched: `None is stretched by over ${sheet.limits.stretch}.`,
    all: 'There is none on this page.',
});

/** The islands of a page that want something, with what. */
export function Islands({
    sheet,
    page,
    sort,
    onSort,
    chosen,
    onChoose,
}: {
    sheet: UvSheet;
    page: number;
    sort: Sort;
    onSort: (sort: Sort) => void;
    chosen: number | null;
    onChoose: (island: number) => void;
}) {
    const rows = useMemo(() => listed(sheet, page, sort), [sheet, page, sort]);
    return (
        <Box sx={{ width: 232, flex: '0 1 232px', minWidth: 120, display: 'flex', flexDirection: 'column', minHeight: 0 }}>
            <Choice label="which islands are listed" value={sort} options={SORTS} onChoose={(to) => onSort(to as Sort)} width="100%" />
            <Box className="soft" sx={{ my: 0.75 }}>
                {rows.length === 0 ? none(sheet)[sort] : plural(rows.length, 'island')}
            </Box>
            <Box
                data-scroll
                tabIndex={0}
                role="region"
                aria-label="islands"
                sx={{ flex: 1, minHeight: 0, overflowY: 'auto', borderTop: rows.length > 0 ? 1 : 0, borderColor: 'var(--rule)' }}
            >
                <LongList
                    count={rows.length}
                    height={30}
                    keyOf={(i) => String(rows[i])}
                    render={(i) => {
                        const number = rows[i] ?? 0;
                        const island = sheet.islands[number] as UvIsland;
                        return (
                            <Box
                                component="button"
                                type="button"
                                aria-pressed={number === chosen}
                                onClick={() => onChoose(number)}
                                sx={{
                                    display: 'flex',
                                    width: '100%',
                                    gap: 1,
                                    border: 0,
                                    borderBottom: '1px solid var(--rule)',
                                    bgcolor: number === chosen ? 'var(--wash)' : 'transparent',
                                    color: 'text.primary',
                                    font: 'inherit',
                                    px: 0.5,
                                    py: '5px',
                                    cursor: 'pointer',
                                    textAlign: 'left',
                                }}
                            >
                                <Box component="span" className="mono" sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                                    {sheet.parts[island.part]}
                                </Box>{' '}
                                <span style={{ flex: 'none', fontVariantNumeric: 'tabular-nums' }}>{told(island, sheet, sort)}</span>
                            </Box>
                        );
                    }}
                />
            </Box>
        </Box>
    );
}
