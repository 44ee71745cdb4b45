import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import { useTheme } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { act, fetchMesh, useAct, useProof, type Delivery, type ProofStation, type Trial } from '../api/client';
import { plural } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { useSelection, useStand } from '../frame/selection';
import { Choice, Download, Failure, Foot, Head, Scroll, Tick } from '../frame/sheet';
import { mapKey, parseLit, type LitPart, type LitSide, type Wear } from '../stand/lit';
import { colors, type Mode } from '../theme';
import { Areas } from './Areas';
import { Maps } from './Maps';
import { Tile } from './Tile';
import { headOf, isOpen, KIND_WORDS, KINDS, mapUrl, parseTexel, passOf, USUAL, valueWords, variantKey, variantsOf, variantWords, type Kind, type Variant } from './trials';

const asMode = (mode: string): Mode => (mode === 'dark' ? 'dark' : 'light');

const WEARS: [Wear, string][] = [
    ['lit', 'lit with the normal map'],
    ['normal', 'normal map alone'],
    ['ao', 'occlusion alone'],
    ['id', 'color ID alone'],
    ['height', 'height alone'],
    ['miss', 'misses alone'],
    ['squares', 'squares of 8 px'],
];

/** The low poly as it is shaded, of a delivery as it was judged. */
function useLit(delivery: number | null, mark: string): { parts: LitPart[] | undefined; isError: boolean } {
    const { data, isError } = useQuery({
        queryKey: ['lit', delivery, mark],
        enabled: delivery !== null,
        staleTime: Infinity,
        queryFn: async () => {
            const bytes = await fetchMesh(delivery ?? 0, 'mesh/lit');
            return bytes ? parseLit(bytes) : [];
        },
    });
    return { parts: data, isError };
}

/** Low and high points of a bake's rays; null where it kept none. */
function useRaysOf(delivery: number, trial: Trial | undefined): Float32Array | undefined {
    const { data } = useQuery({
        queryKey: ['trial rays', trial?.id],
        enabled: trial?.state === 'done' && trial.hasRays,
        staleTime: Infinity,
        queryFn: async () => {
            const bytes = await fetchMesh(delivery, `proof/${trial?.id ?? 0}/rays`);
            return bytes ? new Float32Array(bytes) : new Float32Array();
        },
    });
    return data;
}

/** The trial bake: what the maps will look like, what is left to paint, and the maps that came back. */
export function Proof({ delivery }: { delivery: Delivery }) {
    const { data: proof, error } = useProof(delivery);
    if (!proof) {
        return error ? (
            <Failure sx={{ mx: '18px', mt: 1.25 }}>{error.message}</Failure>
        ) : (
            <p className="soft" role="status" style={{ padding: '10px 18px' }}>
                Fetching the station…
            </p>
        );
    }
    if (proof.pages.length === 0) {
        return (
            <Scroll>
                <Head title={delivery.state === 'done' ? 'There is no page to bake' : 'The trial bake begins once all is measured'}>
                    {delivery.state === 'done' &&
                        (delivery.parts.some((part) => part.role === 'low' && part.hasUvs)
                            ? 'The delivery was checked by an earlier version: check it again.'
                            : 'The low poly has no UVs. Nothing can be baked onto it before it is unwrapped.')}
                </Head>
                {delivery.state === 'done' && proof.maps.length > 0 && <Maps delivery={delivery} proof={proof} shown={null} onShow={() => undefined} />}
            </Scroll>
        );
    }
    return <Sheet delivery={delivery} proof={proof} />;
}

function Sheet({ delivery, proof }: { delivery: Delivery; proof: ProofStation }) {
    const selection = useSelection();
    const { setLit, setProbe, setWalk } = useStand();
    const notice = useNotice();
    const palette = colors[asMode(useTheme().palette.mode)];
    const names = useMemo(() => proof.pages.map((page) => page.name), [proof.pages]);
    const [picked, setPicked] = useState(0);
    const [variant, setVariant] = useState<Variant>(USUAL);
    const [against, setAgainst] = useState('none');
    const [wear, setWear] = useState<Wear>('lit');
    const [glossy, setGlossy] = useState(false);
    const [light, setLight] = useState(-40);
    const [pointed, setPointed] = useState<{ x: number; y: number } | null>(null);
    const [shownMap, setShownMap] = useState<number | null>(null);
    const texel = parseTexel(selection.texel, names);
    // A finding on a page shows that page.
    const ofFinding = delivery.findings.find((one) => one.id === selection.finding);
    const told = ofFinding ? names.findIndex((name) => ofFinding.message.startsWith(`${name}:`)) : -1;
    const number = texel?.page ?? (told >= 0 ? told : Math.min(picked, proof.pages.length - 1));
    const page = proof.pages[number];
    const size = proof.mapSize;
    const { trials } = proof;
    const bake = useAct<Partial<Variant>>(delivery.id, () => 'proof');
    const { mutate } = bake;
    const begin = useCallback((of: Variant): void => mutate(of, { onError: notice.failed }), [mutate, notice]);
    // What nobody asked for yet is baked by itself.
    const begun = useRef(false);
    useEffect(() => {
        const usual = names.every((name) => passOf(trials, name, 'rays', USUAL) && passOf(trials, name, 'ao', USUAL));
        if (!usual && !begun.current && delivery.state === 'done') {
            begun.current = true;
            begin(USUAL);
        }
    }, [names, trials, delivery.state, begin]);

    const { parts, isError } = useLit(delivery.id, delivery.checkedAt ?? '');
    const other = useLit(against === 'before' ? proof.beforeDelivery : null, 'before');
    const rays = useRaysOf(delivery.id, page ? passOf(trials, page.name, 'rays', variant) : undefined);

    const select = selection.select;
    const choose = useCallback(
        (to: { page: string; x: number; y: number }): void => {
            const px = (share: number): number => Math.min(size - 1, Math.max(0, Math.floor(share * size)));
            select({ texel: `${to.page}:${px(to.x)},${px(to.y)}` });
        },
        [select, size],
    );
    const areas = useMemo(() => proof.pages.flatMap((one) => one.areas.map((area) => ({ ...area, page: one.name }))), [proof.pages]);
    const current = texel ? areas.findIndex((area) => area.page === names[texel.page] && area.x === texel.x && area.y === texel.y) : -1;
    const goTo = useCallback(
        (to: number): void => {
            const area = areas[to];
            if (area) {
                select({ texel: `${area.page}:${area.x},${area.y}` });
            }
        },
        [areas, select],
    );
    useEffect(() => {
        setWalk(areas.length === 0 ? null : (by) => goTo(current < 0 ? (by > 0 ? 0 : areas.length - 1) : (current + by + areas.length) % areas.length));
        return () => setWalk(null);
    }, [areas.length, current, goTo, setWalk]);

    const sideOf = useCallback((from: Trial[], id: number, of: Variant, pages: string[]): ReadonlyMap<string, string> => {
        const out = new Map<string, string>();
        for (const name of pages) {
            for (const kind of KINDS) {
                const url = mapUrl(id, from, name, kind, of);
                if (url !== undefined) {
                    out.set(mapKey(name, kind), url);
                }
            }
        }
        return out;
    }, []);
    const variants = useMemo(() => variantsOf(trials), [trials]);
    const comparedTo = useMemo(() => variants.find((one) => variantKey(one) === against) ?? null, [variants, against]);
    const map = useMemo(() => proof.maps.find((one) => one.file === shownMap) ?? null, [proof.maps, shownMap]);
    const comparison = useMemo<LitSide | null>(() => {
        if (!parts) {
            return null;
        }
        if (against === 'before') {
            return other.parts && other.parts.length > 0
                ? {
                      parts: other.parts,
                      maps: sideOf(proof.before, proof.beforeDelivery ?? 0, USUAL, [...new Set(other.parts.map((part) => part.page))]),
                      label: `delivery ${proof.beforeNumber ?? ''}`,
                  }
                : null;
        }
        if (against === 'map' && map && map.page !== null && map.kind !== null) {
            const maps = new Map(sideOf(trials, delivery.id, variant, names));
            maps.set(mapKey(map.page, map.kind), `/api/deliveries/${delivery.id}/maps/${map.number}/map?of=${map.file}`);
            return { parts: [...parts], maps, label: map.name };
        }
        return comparedTo ? { parts: [...parts], maps: sideOf(trials, delivery.id, comparedTo, names), label: variantWords(comparedTo) } : null;
    }, [parts, other.parts, against, map, trials, proof.before, proof.beforeDelivery, proof.beforeNumber, names, delivery.id, variant, comparedTo, sideOf]);
    useEffect(() => {
        setLit(
            parts && parts.length > 0
                ? {
                      own: {
                          parts,
                          maps: sideOf(trials, delivery.id, variant, names),
                          label: against === 'before' ? `delivery ${delivery.number}` : against === 'map' ? 'trial' : variantWords(variant),
                      },
                      other: comparison,
                      wear,
                      glossy,
                      greenDown: proof.green === '-Y',
                      mapSize: size,
                      light,
                      onPick: (name, u, v) => choose({ page: name, x: u, y: 1 - v }),
                  }
                : null,
        );
    }, [parts, trials, variant, names, comparison, wear, glossy, light, proof.green, size, choose, delivery.id, delivery.number, against, sideOf, setLit]);
    useEffect(
        () => () => {
            setLit(null);
            setProbe(null);
        },
        [setLit, setProbe],
    );
    const at = pointed ?? (texel ? { x: (texel.x + 0.5) / size, y: (texel.y + 0.5) / size } : null);
    const [atX, atY] = [at?.x ?? null, at?.y ?? null];
    const ray = useMemo(() => {
        if (atX === null || atY === null || !rays || rays.length === 0) {
            return null;
        }
        const side = variant.size;
        const i = 6 * (Math.min(side - 1, Math.floor(atY * side)) * side + Math.min(side - 1, Math.floor(atX * side)));
        const found = [...rays.subarray(i, i + 6)];
        return found.length < 6 || found.every((one) => one === 0) ? null : found;
    }, [atX, atY, rays, variant.size]);
    useEffect(() => {
        const place = texel ? proof.pages[texel.page]?.areas.find((area) => area.x === texel.x && area.y === texel.y)?.where : undefined;
        setProbe(ray ?? (place && !pointed ? [...place] : null));
    }, [ray, texel, pointed, proof.pages, setProbe]);

    if (!page) {
        return null;
    }
    const passes = (['rays', 'ao'] as const).map((pass) => passOf(trials, page.name, pass, variant));
    const waitsFor = (kind: Kind): { words: string; done: number | null } | null => {
        const trial = passes[kind === 'ao' ? 1 : 0];
        return trial === undefined
            ? { words: 'not baked yet', done: null }
            : trial.state === 'failed'
              ? { words: trial.error ?? 'the bake failed', done: null }
              : trial.state === 'done'
                ? { words: 'fetching…', done: null }
                : { words: trial.done > 0 ? 'baking' : 'waits for a worker', done: trial.done };
    };
    const open = trials.filter(isOpen);
    const notShot = passes[0]?.notShot ?? [];
    const choosePage = (to: { x: number; y: number }): void => choose({ page: page.name, ...to });
    const cameBack = proof.maps.filter((one) => one.page === page.name && one.size > 0);
    const oneMap = map && map.page === page.name ? map : (cameBack.find((one) => one.codes.length > 0) ?? cameBack[0] ?? null);
    return (
        <>
            <Scroll>
                <Head
                    title={headOf(proof)}
                    acts={
                        <>
                            {proof.pages.length > 1 && (
                                <Choice
                                    label="page"
                                    value={String(number)}
                                    options={proof.pages.map((one, i) => [String(i), `${one.name}: ${one.texels.toLocaleString('en-US')} texels to paint`] as const)}
                                    onChoose={(to) => {
                                        select({});
                                        setPicked(Number(to));
                                    }}
                                />
                            )}
                            <Download href={`/api/deliveries/${delivery.id}/retouch/${number}`}>Retouch mask</Download>
                        </>
                    }
                >
                    Page <span className="mono">{page.name}</span> at {size} px: {page.texels.toLocaleString('en-US')} of {page.inside.toLocaleString('en-US')} texels miss or go
                    wrong, grown by 2 px.
                    {notShot.length > 0 && ` No rays: ${notShot.slice(0, 3).join('; ')}${notShot.length > 3 ? ` and ${notShot.length - 3} more` : ''}.`}
                    {isError && ' The low poly could not be fetched.'}
                </Head>
                <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1 }}>
                    <Choice label="what the low poly wears" value={wear} options={WEARS} onChoose={(to) => setWear(to as Wear)} />
                    <Tick checked={glossy} onTick={setGlossy}>
                        glossy
                    </Tick>
                    <Box sx={{ width: 130, px: 1.5 }}>
                        <Slider
                            size="small"
                            min={-180}
                            max={180}
                            value={light}
                            onChange={(_, to) => setLight(to)}
                            aria-label="direction of the light"
                            valueLabelDisplay="auto"
                            valueLabelFormat={(to) => `light at ${to}°`}
                        />
                    </Box>
                    <Choice
                        label="which bake is shown"
                        value={variantKey(variant)}
                        options={variants.map((one) => [variantKey(one), variantWords(one)] as const)}
                        onChoose={(to) => setVariant(variants.find((one) => variantKey(one) === to) ?? USUAL)}
                    />
                    <Choice
                        label="compared with"
                        value={against}
                        options={[
                            ['none', 'compare with…'],
                            ...(proof.before.length > 0 ? [['before', `delivery ${proof.beforeNumber ?? ''}`] as const] : []),
                            ...variants.filter((one) => variantKey(one) !== variantKey(variant)).map((one) => [variantKey(one), variantWords(one)] as const),
                            ...(oneMap ? [['map', `${oneMap.name} that came back`] as const] : []),
                        ]}
                        onChoose={(to) => {
                            setAgainst(to);
                            if (to === 'map') {
                                setShownMap(oneMap?.file ?? null);
                            }
                        }}
                    />
                </Box>
                <Box sx={{ containerType: 'inline-size' }}>
                    <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, minmax(0, 1fr))', gap: 1.25 }}>
                        {KINDS.map((kind) => (
                            <Tile
                                key={kind}
                                label={KIND_WORDS[kind]}
                                url={mapUrl(delivery.id, trials, page.name, kind, variant)}
                                ink={kind === 'miss' ? 'trouble' : 'plain'}
                                palette={palette}
                                at={pointed}
                                chosen={at}
                                words={(bytes) => valueWords(kind, bytes)}
                                waits={waitsFor(kind)}
                                onPoint={setPointed}
                                onChoose={choosePage}
                            />
                        ))}
                        <Tile
                            label="retouch mask"
                            url={`/api/deliveries/${delivery.id}/retouch/${number}?of=${delivery.checkedAt ?? ''}`}
                            ink="trouble"
                            palette={palette}
                            at={pointed}
                            chosen={at}
                            words={(bytes) => valueWords('retouch', bytes)}
                            waits={null}
                            onPoint={setPointed}
                            onChoose={choosePage}
                        />
                        {oneMap?.kind != null &&
                            (['map', 'difference'] as const).map((what) => (
                                <Tile
                                    key={what}
                                    label={what === 'map' ? `came back: ${KIND_WORDS[oneMap.kind as Kind]}` : 'off the trial'}
                                    url={`/api/deliveries/${delivery.id}/maps/${oneMap.number}/${what}?of=${oneMap.file}`}
                                    ink={what === 'map' ? 'plain' : 'difference'}
                                    palette={palette}
                                    at={pointed}
                                    chosen={at}
                                    words={(bytes) =>
                                        what === 'map'
                                            ? valueWords(oneMap.kind as Kind, bytes)
                                            : (bytes[0] ?? 0) === 0
                                              ? 'not compared'
                                              : `${Math.round(((bytes[0] ?? 0) / 128) * 100)} % of the limit`
                                    }
                                    waits={null}
                                    onPoint={setPointed}
                                    onChoose={choosePage}
                                />
                            ))}
                    </Box>
                </Box>
                {page.areas.length > 0 && (
                    <Box sx={{ mt: 2 }}>
                        <h2>{plural(page.areas.length, 'area')} to paint</h2>
                        <Areas
                            delivery={delivery}
                            areas={page.areas}
                            current={texel ? page.areas.findIndex((area) => area.x === texel.x && area.y === texel.y) : -1}
                            onChoose={(area) => select({ texel: `${page.name}:${area.x},${area.y}` })}
                        />
                    </Box>
                )}
                <Maps
                    delivery={delivery}
                    proof={proof}
                    shown={oneMap?.file ?? null}
                    onShow={(one) => {
                        setShownMap(one.file);
                        setPicked(Math.max(0, names.indexOf(one.page ?? '')));
                        select({});
                    }}
                />
            </Scroll>
            <Foot>
                <span className="soft">Bake through</span>
                <Bake
                    mapSize={size}
                    caged={proof.caged.length > 0}
                    busy={bake.isPending || delivery.state !== 'done'}
                    onBake={(of) => {
                        begin(of);
                        setVariant(of);
                    }}
                />
                {open.length > 0 && (
                    <Button variant="outlined" onClick={() => void Promise.all(open.map((one) => act(delivery.id, `proof/${one.id}/cancel`))).catch(notice.failed)}>
                        Cancel {plural(open.length, 'bake')}
                    </Button>
                )}
            </Foot>
        </>
    );
}

/** Another bake: how large, how fine, through what. */
function Bake({ mapSize, caged, busy, onBake }: { mapSize: number; caged: boolean; busy: boolean; onBake: (of: Variant) => void }) {
    const [of, setOf] = useState<Variant>({ ...USUAL, through: 'fitted' });
    return (
        <>
            <Choice
                label="through what"
                value={of.through}
                options={[
                    ['in-use', caged ? 'handed-in cage' : 'reach in use'],
                    ['reach', 'single distance'],
                    ['fitted', 'fitted cage'],
                ]}
                onChoose={(to) => setOf({ ...of, through: to as Variant['through'] })}
            />
            <Choice
                label="size"
                value={String(of.size)}
                options={[64, 128, 256, 512, 1024, 2048].filter((one) => one <= mapSize).map((one) => [String(one), `${one} px`] as const)}
                onChoose={(to) => setOf({ ...of, size: Number(to) })}
            />
            <Choice
                label="samples"
                value={String(of.samples)}
                options={[
                    ['1', '1 sample'],
                    ['4', '4 samples'],
                ]}
                onChoose={(to) => setOf({ ...of, samples: Number(to) })}
            />
            <Tick checked={of.exploded} onTick={(exploded) => setOf({ ...of, exploded })}>
                exploded
            </Tick>
            <Button variant="contained" disabled={busy} onClick={() => onBake(of)}>
                Bake
            </Button>
        </>
    );
}
