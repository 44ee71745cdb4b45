// @vitest-environment jsdom
import { fireEvent } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { themeFor } from '../theme';
import { gauge, lantern, serve, show, winch } from '../testing/screen';
import { Clearance } from './Clearance';
import { Handle, Span, Ticks, gaugeScale, reachAt } from './SpanGauge';

const at = '/assets/2/deliveries/2/clearance';

describe('the handle of a gauge', () => {
    const scale = { from: -1, to: 3 };

    it('is a slider that arrows and pages move, never inward of the low surface', () => {
        const tried = vi.fn<(reach: number) => void>();
        const { getByRole, rerender } = show(<Handle at={1} scale={scale} name="drum" words="1 cm" onTry={tried} />);
        const handle = getByRole('slider', { name: 'reach of drum' });
        expect([handle.getAttribute('aria-valuenow'), handle.getAttribute('aria-valuetext'), handle.style.left]).toEqual(['1', '1 cm', '50%']);
        for (const [key, to] of [
            ['ArrowRight', 1.02],
            ['ArrowLeft', 0.98],
            ['PageUp', 1.2],
            ['PageDown', 0.8],
        ] as const) {
            fireEvent.keyDown(handle, { key });
            expect(tried.mock.lastCall?.[0]).toBeCloseTo(to, 9);
        }
        tried.mockClear();
        fireEvent.keyDown(handle, { key: 'a' });
        expect(tried).not.toHaveBeenCalled();
        rerender(<Handle at={0.01} scale={scale} name="drum" words="" onTry={tried} />);
        fireEvent.keyDown(getByRole('slider', { name: 'reach of drum' }), { key: 'PageDown' });
        expect(tried.mock.lastCall?.[0]).toBe(0);
    });

    it('stands for a place on the scale', () => {
        expect(reachAt(50, 0, 100, scale)).toBe(1);
        expect(reachAt(-30, 0, 100, scale)).toBe(0);
        expect(reachAt(500, 0, 100, scale)).toBe(3);
        expect(reachAt(10, 0, 0, scale)).toBe(3);
    });
});

describe('the span', () => {
    it('is drawn closed where rays go wrong before all is met', () => {
        const open = show(<Span neededOut={1} neededIn={0.5} wrong={2} scale={{ from: -1, to: 3 }} />);
        expect(open.container.querySelectorAll('rect')).toHaveLength(2);
        expect(open.container.querySelectorAll('line')).toHaveLength(3);
        open.unmount();
        const closed = show(<Span neededOut={1} neededIn={0.5} wrong={0.4} scale={{ from: -1, to: 3 }} />);
        expect([...closed.container.querySelectorAll('rect')].map((one) => one.getAttribute('fill'))).toEqual(['var(--trouble-wash)']);
        closed.unmount();
        const free = show(<Span neededOut={1} neededIn={0} wrong={null} scale={{ from: -1, to: 3 }} />);
        expect(free.container.querySelectorAll('line')).toHaveLength(2);
    });

    it('has a scale that all sets share, and round marks', () => {
        const scale = gaugeScale(winch().sets);
        expect(scale.from).toBeLessThan(0);
        for (const set of winch().sets) {
            expect(scale.to).toBeGreaterThan(set.needed.out ?? 0);
            expect(-scale.from).toBeGreaterThanOrEqual(set.needed.in ?? 0);
        }
        expect(gaugeScale([]).to).toBeGreaterThan(0);
        const { container } = show(<Ticks scale={{ from: -0.03, to: 0.11 }} lengths={{ unit: 'cm', factor: 100 }} />);
        expect([...container.querySelectorAll('span span')].map((one) => one.textContent)).toEqual(['low', '5.0', '10']);
    });
});

describe('the screen', () => {
    it('tries a reach and tells what it would clip before it is kept', async () => {
        const sent = serve();
        const { getByRole, getByLabelText, getByText, user } = show(<Clearance delivery={winch()} />, '/assets/1/deliveries/1/clearance?set=drum');
        const drum = winch().sets.find((set) => set.name === 'drum');
        const field = getByLabelText('reach outward of drum');
        fireEvent.change(field, { target: { value: String((drum?.needed.out ?? 0) / 2) } });
        expect(getByText('clips what is higher;')).toBeDefined();
        await user.click(getByRole('button', { name: 'As it was' }));
        expect(getByRole('slider', { name: 'reach of drum' }).getAttribute('aria-valuenow')).toBe(String(drum?.inUse.out));
        fireEvent.change(getByLabelText('reach outward of drum'), { target: { value: '0.02' } });
        await user.click(getByRole('button', { name: 'Keep' }));
        await expect.poll(() => sent.find((one) => one.path === '/api/deliveries/1/reach')?.body).toEqual({ set: 'drum', out: 0.02, in: null });
    });

    it('gives a reach back that was set by hand', async () => {
        const sent = serve();
        const sets = winch().sets.map((set) => (set.name === 'drum' ? { ...set, byHand: true, reach: { out: 0.01, in: 0.01 } } : set));
        const { getByRole, getByText, findByText, user } = show(<Clearance delivery={winch({ sets })} />, '/assets/1/deliveries/1/clearance?set=drum');
        expect(getByText(/reach set here/)).toBeDefined();
        await user.click(getByRole('button', { name: 'As recommended' }));
        await findByText('drum is baked at the recommended reach; it is checked again');
        // And what it was is one click away.
        await user.click(getByRole('button', { name: 'Undo' }));
        await expect
            .poll(() => sent.filter((one) => one.path === '/api/deliveries/1/reach').map((one) => one.body))
            .toEqual([
                { set: 'drum', out: null, in: null },
                { set: 'drum', out: 0.01, in: 0.01 },
            ]);
    });

    it('puts what has no distance first, and says why what was not measured was not', () => {
        serve();
        const [first, second, ...rest] = winch().sets;
        const nothing = { out: null, in: null };
        const sets = [
            ...rest,
            { ...first, needed: { out: 0.02, in: 0 }, firstWrong: { out: 0.01, in: null } },
            { ...second, needed: nothing, firstWrong: nothing, inUse: nothing, state: 'failed', error: 'two of its parts bear one name' },
        ] as typeof rest;
        const { getByRole, getByText, container } = show(<Clearance delivery={winch({ sets })} />, '/assets/1/deliveries/1/clearance');
        expect(getByRole('heading', { level: 1 }).textContent).toBe(`${sets.length - 2} of ${sets.length - 1} sets have a distance that works`);
        expect(getByText(/^closed by/)).toBeDefined();
        expect(getByText('two of its parts bear one name')).toBeDefined();
        expect(container.querySelectorAll('.gauge-row b.mono')[1]?.textContent).toBe(second?.name);
    });

    it('tells what cages did, the troubled ones first', () => {
        serve();
        const cages = [
            { set: 'hood', vertices: 300, more: 12, less: 3, wrongShare: 0, outsideBy: 0, clean: true },
            { set: 'pane', vertices: 24, more: 0, less: 8, wrongShare: 0.02, outsideBy: 0.01, clean: false },
        ];
        const output = {
            id: 4,
            kind: 'cage',
            state: 'done',
            error: null,
            name: 'lantern_cage.zip',
            bytes: 10,
            createdAt: '2026-11-28T00:00:00+00:00',
            cages,
        } as unknown as ReturnType<typeof lantern>['outputs'][number];
        const { getByText, getByRole } = show(<Clearance delivery={lantern({ outputs: [output] })} />, at);
        expect(getByText('Cages fit 1 of 2 sets clean')).toBeDefined();
        const rows = [...(getByText('need more').closest('table')?.querySelectorAll('tbody tr') ?? [])].map((row) => row.firstElementChild?.textContent);
        expect(rows).toEqual(['pane', 'hood']);
        expect(getByRole('link', { name: 'Download cages' }).getAttribute('href')).toBe('/api/outputs/4');
    });

    it('knows an exploded layout and puts it back together', async () => {
        const sent = serve({ '/api/deliveries/2/assemble': { assetId: 2, deliveryId: 11 } });
        const exploded = { of: 1, moves: [{ set: 'shutter_left', vector: [-0.4, 0, 0] }] } as unknown as ReturnType<typeof lantern>['exploded'];
        const { getByText, getByRole, user, where } = show(<Clearance delivery={lantern({ exploded })} />, at);
        expect(getByText(/1 set stands apart from where it was in delivery 1/)).toBeDefined();
        await user.click(getByRole('button', { name: 'Reassemble' }));
        await expect.poll(where).toBe('/assets/2/deliveries/11/clearance');
        expect(sent.some((one) => one.path === '/api/deliveries/2/assemble')).toBe(true);
    });

    it('says that rays are being shot while nothing is measured yet', () => {
        serve();
        const nothing = { out: null, in: null };
        const sets = gauge().sets.map((set) => ({ ...set, needed: nothing, firstWrong: nothing, inUse: nothing, state: 'waiting' as const, error: null }));
        const { getByRole, getAllByText } = show(<Clearance delivery={gauge({ sets, state: 'measuring', explode: null })} />, '/assets/3/deliveries/3/clearance');
        expect(getByRole('heading', { level: 1 }).textContent).toBe('Shooting rays');
        expect(getAllByText('shooting rays…')).toHaveLength(sets.length);
        expect(getByRole('button', { name: 'Fit cages' })).toHaveProperty('disabled', true);
    });
});

describe('the theme', () => {
    it('is of its own in the light and in the dark', () => expect([themeFor('light').palette.mode, themeFor('dark').palette.mode]).toEqual(['light', 'dark']));
});
