// @vitest-environment jsdom
import { describe, expect, it, vi } from 'vitest';
import type { At } from '../api/client';
import { gauge, lantern, serve, show, winch } from '../testing/screen';
import { AssetFrame } from './AssetFrame';
import { Findings } from './Findings';
import { Rail } from './Rail';
import { chosenParts } from './selection';

vi.mock('../stand/Stand', () => ({ Stand: () => <div data-testid="stand" /> }));

const frame = <AssetFrame mode="light" setMode={() => undefined} />;

describe('the rail', () => {
    it('counts what was found at each station, in order', () => {
        const { getAllByRole, getByRole } = show(<Rail delivery={gauge()} current="pairing" base="/assets/3/deliveries/3" search="?set=dial" />);
        const shown = getAllByRole('link').map((link) => link.textContent);
        expect(shown.map((text, i) => text.startsWith(`${i + 1}${gauge().stations[i]?.title ?? ''}`))).toEqual(Array(8).fill(true));
        expect(shown[5]).toContain('not built');
        expect(getByRole('link', { current: 'page' }).getAttribute('href')).toBe('/assets/3/deliveries/3/pairing?set=dial');
        expect(getByRole('link', { current: 'page' }).textContent).toContain('3blockers');
    });
});

describe('findings', () => {
    it('shows those of the station, the worst first, with what mends them', () => {
        const { getAllByRole, getByText } = show(<Findings delivery={gauge()} station="pairing" />);
        expect(getAllByRole('button').map((one) => one.querySelector('.code')?.textContent)).toEqual(['pair-no-high', 'suffix-case', 'name-case']);
        expect(getByText('3 findings here')).toBeDefined();
        expect(getByText('rename Dial_high to dial_high')).toBeDefined();
    });

    it('chooses what a finding is about', async () => {
        const { getByText, user, where } = show(<Findings delivery={gauge()} station="pairing" />);
        const finding = gauge().findings.find((one) => one.code === 'name-case');
        await user.click(getByText(finding?.message ?? ''));
        expect(where()).toContain(`finding=${finding?.id ?? ''}`);
        expect([...chosenParts(gauge(), { set: null, part: null, finding: finding?.id ?? null, select: () => undefined })]).toEqual(['dial_low', 'Dial_high']);
    });

    it('never counts what did not run as passed', () => {
        const delivery = winch();
        const checks = delivery.checks.map((check) => (check.code === 'ray-miss' ? { ...check, state: 'not-run', reason: 'sizes differ' } : check));
        const { getByLabelText, getByText } = show(<Findings delivery={{ ...delivery, checks, findings: [] }} station="clearance" />);
        expect(getByLabelText('checks that did not run').textContent).toContain('not run: sizes differ');
        expect(getByText(/passed/).textContent).not.toContain(String(checks.filter((one) => one.station === 'clearance').length));
    });

    it('says that it is being checked, and not that nothing was found', () => {
        const { getByRole } = show(<Findings delivery={winch({ state: 'measuring', findings: [], checks: [] })} station="clearance" />);
        expect(getByRole('heading').textContent).toBe('Being checked');
    });
});

describe('the frame', () => {
    it('opens a station by its number and walks findings by J and K', async () => {
        serve({ '/api/deliveries/3': gauge() });
        const { findByRole, user, where } = show(frame);
        await findByRole('heading', { name: '9 of 12 parts tie exactly' });
        await user.keyboard('j');
        const first = gauge().findings.filter((one) => one.station === 'pairing');
        expect(where()).toContain(`finding=${String(first.find((one) => one.code === 'pair-no-high')?.id)}`);
        await user.keyboard('{Escape}');
        expect(where()).toBe('/assets/3/deliveries/3/pairing');
        await user.keyboard('5');
        expect(where()).toBe('/assets/3/deliveries/3/clearance');
        await findByRole('heading', { name: /sets have a distance that works/ });
    });

    it('shows what goes on, and stops it', async () => {
        const delivery = lantern({ state: 'measuring', verdict: null, progress: { files: 2, filesDone: 2, sets: 11, setsDone: 4, doing: 'shooting rays of hood' } });
        const sent = serve({ '/api/deliveries/2': delivery });
        const { findByText, getByRole, user } = show(frame, '/assets/2/deliveries/2/clearance');
        await findByText('shooting rays of hood');
        await user.click(getByRole('button', { name: 'Cancel' }));
        await expect.poll(() => sent.some((one) => one.method === 'POST' && one.path === '/api/deliveries/2/cancel')).toBe(true);
    });

    it('asks only how far it is while it goes on, and for the rest once that changed', async () => {
        let step = 1;
        const doing = (): object => ({ files: 2, filesDone: 2, sets: 11, setsDone: step, doing: `shooting rays of hood ${step}` });
        const sent = serve({
            '/api/deliveries/2': () => lantern({ mark: `m${step}`, state: 'measuring', verdict: null, progress: doing() as At<'sets'>['progress'] }),
            '/api/deliveries/2/progress': () => ({ mark: `m${step}`, state: 'measuring', error: null, progress: doing() }),
        });
        const { findByText } = show(frame, '/assets/2/deliveries/2/clearance');
        await findByText('shooting rays of hood 1');
        const asked = (path: string): number => sent.filter((one) => one.path === path).length;
        await expect.poll(() => asked('/api/deliveries/2/progress'), { timeout: 4000 }).toBeGreaterThanOrEqual(2);
        expect([asked('/api/deliveries/2'), asked('/api/deliveries/2/clearance')]).toEqual([1, 1]);
        step = 2;
        await findByText('shooting rays of hood 2', {}, { timeout: 4000 });
        expect([asked('/api/deliveries/2'), asked('/api/deliveries/2/clearance')]).toEqual([2, 2]);
    });

    it('says where a station cannot be fetched', async () => {
        serve({ '/api/deliveries/3': gauge(), '/api/deliveries/3/sets': () => Response.json({ message: 'The database does not answer.' }, { status: 503 }) });
        const { findByRole } = show(frame, '/assets/3/deliveries/3/sets');
        expect((await findByRole('alert')).textContent).toBe('The database does not answer.');
    });

    it('says why a delivery failed, and begins again', async () => {
        const sent = serve({ '/api/deliveries/2': lantern({ state: 'failed', error: 'the disk is full' }) });
        const { findByRole, getByRole, user } = show(frame, '/assets/2/deliveries/2/intake');
        expect((await findByRole('alert')).textContent).toContain('Checking failed. the disk is full');
        await user.click(getByRole('button', { name: 'Check again' }));
        await expect.poll(() => sent.some((one) => one.path === '/api/deliveries/2/recheck')).toBe(true);
    });

    it('says what the server said where there is no such delivery', async () => {
        serve({ '/api/deliveries/7': () => Response.json({ message: 'There is no such delivery; it may have been deleted. Go back to the rack.' }, { status: 404 }) });
        const { findByText, getByRole } = show(frame, '/assets/3/deliveries/7/intake');
        await findByText(/it may have been deleted/);
        expect(getByRole('link', { name: 'Back to the rack' })).toBeDefined();
    });

    it('asks twice before an asset is deleted', async () => {
        const sent = serve({ '/api/deliveries/3': gauge() });
        const { findByRole, getByRole, getByLabelText, user, where } = show(frame);
        await user.click(await findByRole('button', { name: /delivery 1/ }));
        await user.click(getByRole('menuitem', { name: 'Delete Tide gauge…' }));
        expect(getByRole('button', { name: 'Delete' })).toHaveProperty('disabled', true);
        await user.type(getByLabelText('Type its name to go on'), 'Tide gauge');
        await user.click(getByRole('button', { name: 'Delete' }));
        await expect.poll(where).toBe('/');
        expect(sent.find((one) => one.method === 'DELETE')).toMatchObject({ path: '/api/assets/3', body: { name: 'Tide gauge' } });
    });

    it('keeps the question open with the words of a refusal', async () => {
        serve({
            '/api/deliveries/3': gauge(),
            '/api/assets/3': (one: { method: string }) =>
                one.method === 'DELETE' ? Response.json({ message: 'it is being checked' }, { status: 409 }) : { id: 3, name: 'Tide gauge', deliveries: [], changedBy: 'a' },
        });
        const { findByRole, getByRole, getByLabelText, user, findByText, where } = show(frame);
        await user.click(await findByRole('button', { name: /delivery 1/ }));
        await user.click(getByRole('menuitem', { name: 'Delete Tide gauge…' }));
        await user.type(getByLabelText('Type its name to go on'), 'Tide gauge{Enter}');
        await findByText('it is being checked');
        expect(where()).toBe('/assets/3/deliveries/3/pairing');
    });
});
