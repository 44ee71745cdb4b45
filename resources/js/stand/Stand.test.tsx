// @vitest-environment jsdom
import { act } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { choose, gauge, lantern, serve, show, winch } from '../testing/screen';
import { colors } from '../theme';
import { distinct, paintOf, worstOf } from './colors';
import { placedBy, type ShownPart } from './display';
import type { Look } from './pieces';
import type { Point } from './scene';
import { Stand } from './Stand';

/** What the stand asks its scene for. */
interface Asked {
    load: unknown[];
    dress: unknown[];
    cut: unknown[];
    mark: unknown[];
    picks: unknown[];
    point: ((at: Point) => void) | null;
    full: number;
}

const asked = vi.hoisted((): Asked => ({ load: [], dress: [], cut: [], mark: [], picks: [], point: null, full: 0 }));

vi.mock('./scene', () => ({
    StandScene: class {
        constructor(_host: unknown, _palette: unknown, told: { onPoint: (at: Point) => void; onScale: (units: number) => void }) {
            asked.point = told.onPoint;
            queueMicrotask(() => told.onScale(0.001));
        }
        load(parts: unknown): void {
            asked.load.push(parts);
        }
        dress(look: unknown): void {
            asked.dress.push(look);
        }
        setSurface(): void {}
        setLit(): void {}
        setDivider(): void {}
        setCut(share: unknown): void {
            asked.cut.push(share);
        }
        mark(_marks: unknown, measured: unknown): void {
            asked.mark.push(measured);
        }
        setPicksPoints(picks: unknown): void {
            asked.picks.push(picks);
        }
        setVectors(): void {}
        explode(): void {}
        flyTo(): void {}
        lookFrom(): void {}
        resize(): void {}
        dispose(): void {}
    },
}));

/** A file of light meshes: one triangle a part. */
function meshes(names: string[]): ArrayBuffer {
    let head = JSON.stringify({ parts: names.map((name) => ({ name, colors: [], vertices: 3, triangles: 1, all: 1 })) });
    head += ' '.repeat((4 - (head.length % 4)) % 4);
    const out = new ArrayBuffer(4 + head.length + 48 * names.length);
    new DataView(out).setUint32(0, head.length, true);
    new Uint8Array(out, 4, head.length).set(new TextEncoder().encode(head));
    names.forEach((_, i) => {
        new Float32Array(out, 4 + head.length + 48 * i, 9).set([i, 0, 0, i + 1, 0, 0, i, 1, 0]);
        new Uint32Array(out, 4 + head.length + 48 * i + 36, 3).set([0, 1, 2]);
    });
    return out;
}

const stand = (delivery: ReturnType<typeof winch>, at = '/assets/1/deliveries/1/intake') =>
    show(<Stand delivery={delivery} mode="light" initial="both" full={false} onFull={() => (asked.full += 1)} />, at);

/** Serves the meshes of all files of a delivery. */
const served = (delivery: ReturnType<typeof winch>) =>
    serve(
        Object.fromEntries(
            delivery.files.map((file) => [
                `/api/deliveries/${delivery.id}/files/${file.id}/mesh`,
                () => new Response(meshes(delivery.parts.filter((part) => part.fileId === file.id).map((part) => part.name))),
            ]),
        ),
    );

beforeEach(() => {
    for (const list of [asked.load, asked.dress, asked.cut, asked.mark, asked.picks]) {
        list.length = 0;
    }
});

describe('the stand', () => {
    it('shows a file as soon as it is read, with the roles and sets that its parts have', async () => {
        const whole = winch();
        const [first] = whole.files.filter((file) => file.kind === 'mesh');
        const reading = { ...whole, state: 'reading' as const, files: whole.files.map((file) => (file.id === first?.id ? file : { ...file, state: 'reading' as const })) };
        const sent = served(whole);
        stand(reading);
        await expect.poll(() => (asked.load.at(-1) as ShownPart[] | undefined)?.length ?? 0).toBeGreaterThan(0);
        const parts = asked.load.at(-1) as ShownPart[];
        expect(sent.filter((one) => one.path.endsWith('/mesh')).map((one) => one.path)).toEqual([`/api/deliveries/1/files/${first?.id ?? 0}/mesh`]);
        expect(parts.map((part) => [part.name, part.role, part.set])).toEqual(
            whole.parts.filter((part) => part.fileId === first?.id).map((part) => [part.name, part.role, part.set]),
        );
    });

    it('says what it waits for, and what it cannot show', async () => {
        serve();
        const waiting = stand(winch({ state: 'reading', files: winch().files.map((file) => ({ ...file, state: 'waiting' as const })) }));
        expect(waiting.getByText('Each file is shown as soon as it is read.')).toBeDefined();
        waiting.unmount();
        const failed = stand(winch({ state: 'failed', files: [] }));
        expect(failed.getByText(/was not read to the end/)).toBeDefined();
        failed.unmount();
        serve(Object.fromEntries(winch().files.map((file) => [`/api/deliveries/1/files/${file.id}/mesh`, () => Response.json({}, { status: 500 })])));
        const gone = stand(winch());
        await gone.findByText('The meshes could not be fetched.', {}, { timeout: 4000 });
    });

    it('lets what is chosen stand out, colors by set, and cuts', async () => {
        const delivery = winch();
        served(delivery);
        const { getByRole, user } = stand(delivery, '/assets/1/deliveries/1/intake?set=drum');
        await expect.poll(() => (asked.load.at(-1) as ShownPart[] | undefined)?.length).toBe(delivery.parts.length);
        await expect.poll(() => (asked.dress.at(-1) as Look).chosen.size).toBe(2);
        expect((asked.dress.at(-1) as Look).paint).toBeNull();
        await choose(user, 'colors of the stand', 'color: sets');
        await expect.poll(() => new Set((asked.dress.at(-1) as Look).paint?.values()).size).toBe(delivery.sets.length);
        await user.click(getByRole('button', { name: 'cut' }));
        expect(asked.cut.at(-1)).toBe(0.5);
        await user.click(getByRole('button', { name: 'cut' }));
        expect(asked.cut.at(-1)).toBeNull();
        await user.click(getByRole('button', { name: 'Full' }));
        expect(asked.full).toBeGreaterThan(0);
    });

    it('measures between two points, in the unit of the files', async () => {
        const delivery = lantern();
        served(delivery);
        const { getByRole, findByText, user } = stand(delivery);
        await expect.poll(() => (asked.load.at(-1) as ShownPart[] | undefined)?.length).toBe(delivery.parts.length);
        await user.click(getByRole('button', { name: 'measure' }));
        await findByText('pick two points on the model');
        expect(asked.picks.at(-1)).toBe(true);
        act(() => asked.point?.([0, 0, 0]));
        await findByText('pick the second point');
        act(() => asked.point?.([0.3, 0.4, 0]));
        await findByText('distance 50.0 cm');
        expect(asked.mark.at(-1)).toHaveLength(2);
    });
});

describe('colors of parts', () => {
    const parts = gauge().parts.map((part, i) => ({ ...part, key: String(i), colors: [], all: 0 }) as unknown as ShownPart);

    it('tell sets, parts and severities apart, and leave roles to the scene', () => {
        expect(paintOf('role', parts, gauge(), colors.light, false)).toBeNull();
        const bySet = paintOf('set', parts, gauge(), colors.light, false);
        const of = (name: string): string | undefined => bySet?.get(parts.find((part) => part.name === name)?.key ?? '');
        expect(of('bezel_low')).toBe(of('bezel_high'));
        expect(of('bezel_low')).not.toBe(of('gasket_low'));
        expect(new Set(paintOf('part', parts, gauge(), colors.light, false)?.values()).size).toBe(parts.length);
        const worst = worstOf(gauge());
        expect(worst.get('bracket_low')).toBe('blocker');
        const bySeverity = paintOf('severity', parts, gauge(), colors.light, false);
        expect(bySeverity?.get(parts.find((part) => part.name === 'bracket_low')?.key ?? '')).toBe(colors.light.blocker);
        expect(new Set(Array.from({ length: 40 }, (_, i) => distinct(i, true))).size).toBe(40);
    });

    it('count no waived finding, and the worst of several', () => {
        const one = gauge().findings[0];
        const finding = (severity: string, waived: boolean) =>
            ({ ...one, severity, waived, part: 'a', other: null, set: null }) as (typeof gauge extends () => infer D ? D : never)['findings'][number];
        expect(worstOf({ sets: [], findings: [finding('note', false), finding('caution', false), finding('blocker', true)] }).get('a')).toBe('caution');
    });
});

describe('points in another frame', () => {
    it('are turned, scaled and moved, and stay themselves where there is none', () => {
        const points = new Float32Array([1, 2, 3]);
        expect(placedBy(points, null)).toBe(points);
        expect([...placedBy(points, [0, 2, 0, 0, 2, 0, 0, 0, 0, 0, 2, 0, 10, 20, 30, 1])]).toEqual([14, 22, 36]);
    });
});
