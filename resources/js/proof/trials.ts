import type { ProofStation, Trial } from '../api/client';

/** What one bake goes through, and how fine it is. */
export interface Variant {
    through: Trial['through'];
    size: number;
    samples: number;
    exploded: boolean;
}

export const KINDS = ['normal', 'ao', 'id', 'height', 'miss'] as const;
export type Kind = (typeof KINDS)[number];
export const KIND_WORDS: Record<Kind, string> = { normal: 'normal', ao: 'occlusion', id: 'color ID', height: 'height', miss: 'misses' };

export const USUAL: Variant = { through: 'in-use', size: 256, samples: 1, exploded: false };

const THROUGH: Record<Trial['through'], string> = { 'in-use': 'in use', reach: 'single distance', fitted: 'fitted cage' };

/** `in use · 256 px`, with what is out of the usual. */
export const variantWords = (one: Variant): string =>
    [THROUGH[one.through], `${one.size} px`, ...(one.samples > 1 ? [`${one.samples} samples`] : []), ...(one.exploded ? ['occlusion exploded'] : [])].join(' · ');

export const variantKey = (one: Variant): string => `${one.through} ${one.size} ${one.samples} ${one.exploded ? 1 : 0}`;

/** The pass of a page that belongs to a variant: rays do not ask how sets stand. */
export const passOf = (trials: Trial[], page: string, pass: Trial['pass'], of: Variant): Trial | undefined =>
    trials
        .filter(
            (one) =>
                one.page === page &&
                one.pass === pass &&
                one.through === of.through &&
                one.size === of.size &&
                one.samples === of.samples &&
                (pass === 'rays' || one.exploded === of.exploded),
        )
        .at(-1);

/** All variants that there are bakes of, the usual one first. */
export function variantsOf(trials: Trial[]): Variant[] {
    const out = new Map<string, Variant>([[variantKey(USUAL), USUAL]]);
    for (const { through, size, samples, exploded } of trials) {
        out.set(variantKey({ through, size, samples, exploded }), { through, size, samples, exploded });
    }
    return [...out.values()];
}

export const isOpen = (trial: Trial | undefined): boolean => trial !== undefined && trial.state !== 'done' && trial.state !== 'failed';

/** The address of a map of a bake; undefined while there is none. */
export function mapUrl(delivery: number, trials: Trial[], page: string, kind: Kind, of: Variant): string | undefined {
    const trial = passOf(trials, page, kind === 'ao' ? 'ao' : 'rays', of);
    return trial?.state === 'done' ? `/api/deliveries/${delivery}/proof/${trial.id}/${kind}` : undefined;
}

/** `page:x,y` in px of the map size. */
export function parseTexel(text: string | null, pages: string[]): { page: number; x: number; y: number } | null {
    const found = /^(.*):(\d+),(\d+)$/s.exec(text ?? '');
    const page = found ? pages.indexOf(found[1] ?? '') : -1;
    return found && page >= 0 ? { page, x: Number(found[2]), y: Number(found[3]) } : null;
}

/** The state of the trial, in a sentence. */
export function headOf(proof: ProofStation): string {
    const blockers = proof.maps.filter((map) => map.codes.some((code) => ['map-green', 'map-turned', 'map-space', 'map-other', 'map-hole', 'map-unreadable'].includes(code)));
    if (blockers.length > 0) {
        return blockers.length === 1 ? `${blockers[0]?.name ?? 'A map'} did not come back right` : `${blockers.length} maps did not come back right`;
    }
    const texels = proof.pages.reduce((sum, page) => sum + page.texels, 0);
    return texels === 0 ? 'Nothing is left to paint after the bake' : `${texels.toLocaleString('en-US')} texels are left to paint by hand`;
}

/** Two digits, and no minus before a zero. */
const plain = (value: number): string => (Math.abs(value) < 0.005 ? 0 : value).toFixed(2);

/** What a value of a map says, from its four bytes. */
export function valueWords(kind: Kind | 'retouch', [r = 0, g = 0, b = 0, a = 255]: ArrayLike<number> & Iterable<number>): string {
    switch (kind) {
        case 'normal': {
            const [x, y, z] = [r / 127.5 - 1, g / 127.5 - 1, b / 127.5 - 1];
            return `${plain(x)} ${plain(y)} ${plain(z)} · ${Math.round((Math.atan2(Math.hypot(x, y), z) * 180) / Math.PI)}°`;
        }
        case 'ao':
            return `${Math.round(r / 2.55)} % of the sky`;
        case 'id':
            return a < 128 ? 'none' : `#${[r, g, b].map((one) => one.toString(16).padStart(2, '0').toUpperCase()).join('')}`;
        case 'height':
            return `${r >= 128 ? '+' : '−'}${Math.abs(Math.round((r / 127.5 - 1) * 100))} % of the reach`;
        case 'miss':
            return r === 0 ? 'fine' : r < 200 ? 'wrong hit' : 'nothing met';
        default:
            return r > 127 ? 'to paint' : 'fine';
    }
}
