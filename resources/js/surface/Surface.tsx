import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useTheme } from '@mui/material/styles';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useAct, type At, type UvSheet } from '../api/client';
import { digits, plural, scaleOf } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { chosenParts, useSelection, useStand } from '../frame/selection';
import { Choice, Foot, Grow, Head, Scroll } from '../frame/sheet';
import { colors, type Mode } from '../theme';
import { colorOf, LAYERS, scaleColors, scaleWords, type Layer } from './colors';
import { Islands, listed, SORTS, type Sort } from './Islands';
import { shapesOf } from './layout';
import { Page, type Drawn } from './Page';
import { Sizes } from './Sizes';
import { useSurface } from './useSurface';
import { useMay } from '../people/session';

/** The state of the pages, in a sentence. */
export function headOf(sheet: UvSheet, blockers: number): string {
    const overlapping = sheet.pages.filter((page) => page.overlap > sheet.limits.overlap).length;
    const tight = sheet.pages.reduce((sum, page) => sum + page.gaps.length, 0);
    const pages = plural(sheet.pages.length, 'page');
    if (overlapping > 0) {
        return `UV islands lie on each other on ${overlapping === sheet.pages.length ? (overlapping === 1 ? 'the page' : `all ${pages}`) : `${overlapping} of ${pages}`}`;
    }
    if (blockers > 0) {
        return 'The surface is not ready to bake';
    }
    return tight > 0
        ? `${plural(tight, 'gap')} between UV islands ${tight === 1 ? 'is' : 'are'} under ${Math.round(10 * sheet.padding) / 10} px`
        : `UV islands lie apart on ${sheet.pages.length === 1 ? 'the page' : `all ${pages}`}`;
}

/** What is said of an island where the pointer is, or where none is, of the chosen one. */
export function islandWords(sheet: UvSheet, number: number, unit: (px: number) => string): string {
    const island = sheet.islands[number];
    if (!island) {
        return '';
    }
    return [
        sheet.parts[island.part] ?? '',
        island.density > 0 ? unit(island.density) : 'no area',
        `stretch ${island.stretch > 0 ? island.stretch.toFixed(2) : '–'}`,
        island.overlaps ? 'lies on others' : island.gap === null ? 'nearest gap over 1/16 of the page' : `nearest gap ${island.gap.toFixed(1)} px`,
        island.seen >= 1 ? 'all seen' : island.seen <= 0 ? 'never seen' : `${Math.round(100 * island.seen)} % seen`,
        ...(island.mirrored ? ['mirrored'] : []),
        ...(island.turned !== null && Math.abs(island.turned) > 10 ? [`turned ${Math.round(island.turned)}°`] : []),
        ...(island.meant ? ['declared to share texels'] : []),
    ].join(' · ');
}

const asMode = (mode: string): Mode => (mode === 'dark' ? 'dark' : 'light');

/** The UV pages: how islands lie, how dense and how stretched they are, and at which map sizes that holds. */
export function Surface({ delivery }: { delivery: At<'surface'> }) {
    const { uv: sheet } = delivery;
    if (!sheet) {
        return (
            <Scroll>
                <Head title={delivery.state === 'done' ? 'There are no UVs to show' : 'The UV page is shown once all is measured'}>
                    {delivery.state === 'done' && 'The delivery has no low poly, or it was checked by an earlier version: check it again.'}
                </Head>
            </Scroll>
        );
    }
    if (sheet.islands.length === 0) {
        return (
            <Scroll>
                <Head title={sheet.parts.length === 0 ? 'There is no low poly, so there are no UVs' : 'The low poly has no UVs'}>
                    {sheet.parts.length > 0 && 'Nothing can be baked onto it before it is unwrapped.'}
                </Head>
            </Scroll>
        );
    }
    return <Pages key={delivery.id} delivery={delivery} sheet={sheet} />;
}

function Pages({ delivery, sheet }: { delivery: At<'surface'>; sheet: UvSheet }) {
    const selection = useSelection();
    const { setSurface } = useStand();
    const notice = useNotice();
    const palette = colors[asMode(useTheme().palette.mode)];
    const { parts, isError } = useSurface(delivery);
    const [layer, setLayer] = useState<Layer>('density');
    const [drawn, setDrawn] = useState<Drawn>({ overlaps: true, gaps: true, edges: true });
    const [texels, setTexels] = useState(false);
    const [hovered, setHovered] = useState<number | null>(null);
    const [picked, setPicked] = useState<number | null>(null);
    const [sort, setSort] = useState<Sort>(() => SORTS.map(([key]) => key).find((key) => listed(sheet, 0, key).length > 0) ?? 'all');
    const chosen = selection.island !== null && sheet.islands[selection.island] ? selection.island : null;
    // What is chosen elsewhere, a part or a finding, is marked on the page: all islands of its parts.
    const names = chosen === null ? [...chosenParts(delivery, selection)].join('\n') : '';
    const marked = useMemo(() => {
        const wanted = new Set(names === '' ? [] : names.split('\n'));
        return wanted.size === 0 ? [] : sheet.islands.flatMap((island, i) => (wanted.has(sheet.parts[island.part] ?? '') ? [i] : []));
    }, [names, sheet]);
    const page = chosen !== null ? (sheet.islands[chosen]?.page ?? 0) : Math.min(picked ?? sheet.islands[marked[0] ?? -1]?.page ?? firstPage(sheet), sheet.pages.length - 1);
    const { select } = selection;
    const choose = useCallback(
        (island: number | null): void => {
            const one = island === null ? undefined : sheet.islands[island];
            setPicked(one?.page ?? null);
            select(one ? { island, part: sheet.parts[one.part] ?? null } : {});
        },
        [select, sheet],
    );
    const shapes = useMemo(() => (parts ? shapesOf(parts, sheet, page) : null), [parts, sheet, page]);
    const fills = useMemo(() => sheet.islands.map((island) => colorOf(island, sheet, layer, palette)), [sheet, layer, palette]);
    const fill = useCallback((island: number): string => fills[island] ?? palette.rule, [fills, palette]);
    useEffect(() => {
        setSurface(parts ? { parts, fills, texels, mapSize: sheet.mapSize, edges: drawn.edges, chosen, onPick: choose } : null);
    }, [parts, fills, texels, sheet.mapSize, drawn.edges, chosen, choose, setSurface]);
    useEffect(() => () => setSurface(null), [setSurface]);

    const scale = scaleOf(delivery);
    const unit = (px: number): string => `${digits(px / scale.factor, 3)} px/${scale.unit === 'units' ? 'unit' : scale.unit}`;
    const mayDecide = useMay('decide');
    const mirror = useAct<{ part: string; island: string; mirrored: boolean }>(delivery.id, () => 'mirrored');
    const one = chosen === null ? undefined : sheet.islands[chosen];
    const told = hovered ?? chosen;
    const info = sheet.pages[page];
    const blockers = delivery.findings.filter((finding) => finding.station === 'surface' && finding.severity === 'blocker' && !finding.waived).length;
    const hard = shapes ? shapes.hard.length / 8 : 0;
    return (
        <>
            <Scroll>
                <Box sx={{ minHeight: '100%', display: 'flex', flexDirection: 'column' }}>
                    <Head
                        title={headOf(sheet, blockers)}
                        acts={
                            sheet.pages.length > 1 && (
                                <Choice
                                    label="page"
                                    value={String(page)}
                                    options={sheet.pages.map((each, i) => [String(i), `${each.name}: ${plural(each.islands, 'island')}`] as const)}
                                    onChoose={(to) => {
                                        select({});
                                        setPicked(Number(to));
                                    }}
                                />
                            )
                        }
                    >
                        {info && (
                            <>
                                Page <span className="mono">{info.name}</span>: {plural(info.islands, 'island')} on {digits(100 * info.use, 3)} % of it at {sheet.mapSize} px
                                {hard > 0 && `, ${plural(Math.round(hard), 'hard edge')} inside islands`}.
                                {sheet.secondSets.length > 0 && ` A second UV set of ${plural(sheet.secondSets.length, 'part')} is left alone.`}
                                {sheet.pose.length > 0 && ' Solid outlines: UVs that ship and are not baked; dashed: baked and not shipped.'}
                            </>
                        )}
                    </Head>
                    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1, flex: 'none' }}>
                        <Choice label="what fills the islands" value={layer} options={LAYERS} onChoose={(to) => setLayer(to as Layer)} />
                        <ToggleButtonGroup
                            exclusive={false}
                            value={Object.entries(drawn).flatMap(([key, on]) => (on ? [key] : []))}
                            onChange={(_, on: string[]) => setDrawn({ overlaps: on.includes('overlaps'), gaps: on.includes('gaps'), edges: on.includes('edges') })}
                            aria-label="what is drawn on the page"
                        >
                            <ToggleButton value="overlaps">overlaps</ToggleButton>
                            <ToggleButton value="gaps" title="gaps under the padding">
                                gaps
                            </ToggleButton>
                            <ToggleButton value="edges" title="seams, and hard edges inside islands">
                                edges
                            </ToggleButton>
                        </ToggleButtonGroup>
                        <ToggleButton value="texels" selected={texels} onChange={() => setTexels(!texels)} title="squares of 8 and 64 px on the model">
                            texels in the stand
                        </ToggleButton>
                        <Grow />
                        <Scale layer={layer} sheet={sheet} unit={unit} ramp={scaleColors(layer, palette)} />
                    </Box>
                    <Box sx={{ flex: '1 1 0', minHeight: 280, display: 'flex', gap: 1.5 }}>
                        {shapes ? (
                            <Page
                                sheet={sheet}
                                page={page}
                                shapes={shapes}
                                fill={fill}
                                drawn={drawn}
                                palette={palette}
                                chosen={chosen}
                                marked={marked}
                                onChoose={choose}
                                onHover={setHovered}
                                label={`UV page ${info?.name ?? ''}, ${plural(info?.islands ?? 0, 'island')}`}
                            />
                        ) : (
                            <Box role="status" sx={{ flex: 1 }}>
                                {isError ? 'The UVs could not be fetched.' : 'Fetching the UVs…'}
                                {!isError && <LinearProgress aria-label="fetching the UVs" />}
                            </Box>
                        )}
                        <Islands sheet={sheet} page={page} sort={sort} onSort={setSort} chosen={chosen} onChoose={choose} />
                    </Box>
                    <Sizes sheet={sheet} />
                </Box>
            </Scroll>
            <Foot>
                <Box sx={{ flex: 1, minWidth: 0 }} role="status">
                    {told === null ? <span className="soft">Point at an island, or choose one.</span> : islandWords(sheet, told, unit)}
                </Box>
                <Button
                    variant="outlined"
                    disabled={!one || mirror.isPending || delivery.state !== 'done' || !mayDecide}
                    title="its overlaps are meant: it shares texels with what it lies on"
                    onClick={() => {
                        if (one) {
                            mirror.mutate(
                                { part: sheet.parts[one.part] ?? '', island: one.key, mirrored: !one.meant },
                                {
                                    onSuccess: () => notice.done(one.meant ? 'The island has to lie apart again; checking' : 'The island may lie on others; checking'),
                                    onError: notice.failed,
                                },
                            );
                        }
                    }}
                >
                    {one?.meant ? 'Must lie apart' : 'May lie on others'}
                </Button>
            </Foot>
        </>
    );
}

/** The page that is shown at first: one with overlaps, else with gaps, else the first. */
function firstPage(sheet: UvSheet): number {
    const overlapping = sheet.pages.findIndex((page) => page.overlap > sheet.limits.overlap);
    const tight = sheet.pages.findIndex((page) => page.gaps.length > 0);
    return Math.max(0, overlapping >= 0 ? overlapping : tight);
}

function Scale({ layer, sheet, unit, ramp }: { layer: Layer; sheet: UvSheet; unit: (px: number) => string; ramp: string[] }) {
    const words = scaleWords(layer, sheet, unit);
    return (
        <Box sx={{ width: 250, flex: 'none' }} aria-label={`scale: ${words.join(', ')}`} role="img">
            <Box sx={{ height: 8, border: '1px solid var(--rule-strong)', background: `linear-gradient(90deg, ${ramp.join(', ')})` }} />
            <Box sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 12 }} aria-hidden>
                {words.map((word) => (
                    <span key={word}>{word}</span>
                ))}
            </Box>
        </Box>
    );
}
