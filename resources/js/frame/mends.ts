import { act, fetchStation, type BakeSet, type Delivery, type Finding } from '../api/client';
import type { Told } from './causes';

/** What can be done about a cause at once: the words of its button, and the act. A path to go to comes out where the act made something new. */
export interface Mend {
    words: string;
    done: string;
    /** It changes what was decided, and is not for everybody. */
    decides?: true;
    run: (delivery: Delivery) => Promise<string | null>;
}

interface Made {
    assetId: number;
    deliveryId: number;
}

const NAMES = new Set(['suffix-case', 'name-case', 'suffix-missing', 'name-near', 'pair-crossed']);
const PLACES = new Set(['unit-mismatch', 'axis-mismatch']);
const COLORS = new Set(['id-missing', 'id-close', 'id-mix', 'id-dull', 'id-gradient', 'id-drift']);
const REACHES = new Set(['reach-short', 'reach-long', 'ray-miss']);

const to = (made: Made, station: string): string => `/assets/${made.assetId}/deliveries/${made.deliveryId}/${station}`;

/** Names that are mended: those that are suggested for the parts of these findings. */
export async function renamesFor(delivery: Delivery, findings: Finding[]) {
    const { suggestions } = await fetchStation(delivery.id, 'pairing');
    const parts = new Set(findings.flatMap((one) => [one.part, one.other]));
    return suggestions.filter((one) => parts.has(one.part)).map((one) => ({ fileId: one.fileId, from: one.part, to: one.rename, reason: one.reason }));
}

/** The recommended reach of a set, where another one is in use and this one meets all that is needed. */
function recommended(set: BakeSet | undefined): { out: number; in: number } | null {
    if (!set || set.recommended.out === null || set.recommended.in === null || set.needed.out === null) {
        return null;
    }
    const isInUse = set.inUse.out === set.recommended.out && set.inUse.in === set.recommended.in;
    return isInUse ? null : { out: set.recommended.out, in: set.recommended.in };
}

/** The mend of a cause; null where only the modelling program mends it. */
export function mendOf(delivery: Delivery, told: Told): Mend | null {
    const { code } = told.cause;
    if (NAMES.has(code)) {
        return {
            words: told.members.length > 1 ? 'Write mended names' : 'Write the mended name',
            done: 'The mended names are being written into a new delivery',
            run: async () => {
                const renames = await renamesFor(delivery, told.members);
                if (renames.length === 0) {
                    throw new Error('No new name is suggested for these parts. Give them one in Pairing.');
                }
                return to(await act<Made>(delivery.id, 'mend', { renames }), 'pairing');
            },
        };
    }
    if (PLACES.has(code) && delivery.state === 'done') {
        return {
            words: 'Write the high poly to fit',
            done: 'The high poly is being written into a new delivery',
            run: async () => to(await act<Made>(delivery.id, 'place'), 'intake'),
        };
    }
    if (COLORS.has(code) && delivery.state === 'done') {
        return {
            words: 'Write new ID colors',
            done: 'New ID colors are being written into a new delivery',
            run: async () => to(await act<Made>(delivery.id, 'id-files', { kind: 'ids' }), 'color-id'),
        };
    }
    if ((code === 'span-closed' || code === 'cage-pierced' || code === 'cage-inverted') && delivery.state === 'done') {
        return { words: 'Fit cages', done: 'Cages are being fitted: see Clearance', run: () => act(delivery.id, 'outputs', { kind: 'cage' }).then(() => null) };
    }
    if (code === 'sets-bleed' && delivery.state === 'done' && (delivery.explode?.moves ?? []).some((move) => move.vector.some((v) => v !== 0))) {
        return {
            words: 'Write exploded files',
            done: 'Exploded files are being written: see Clearance',
            run: () => act(delivery.id, 'outputs', { kind: 'exploded' }).then(() => null),
        };
    }
    if (code === 'explode-drift' && delivery.exploded && delivery.state === 'done') {
        return { words: 'Put back together', done: 'The parts are being put back in a new delivery', run: async () => to(await act<Made>(delivery.id, 'assemble'), 'clearance') };
    }
    if (REACHES.has(code) && told.members.length === 1) {
        const set = delivery.sets.find((one) => one.name === told.members[0]?.set);
        const reach = recommended(set);
        return set === undefined || reach === null
            ? null
            : {
                  words: 'Use the recommended reach',
                  decides: true,
                  done: `${set.name} is checked again at the recommended reach`,
                  run: () => act(delivery.id, 'reach', { set: set.name, ...reach }).then(() => null),
              };
    }
    return null;
}
