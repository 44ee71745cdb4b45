// @vitest-environment jsdom
import { fireEvent } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { useState } from 'react';
import { ApiError, patience, rest, type At } from '../api/client';
import { gauge, lantern, serve, show, winch } from '../testing/screen';
import { hitsOf } from './SearchDialog';
import { AssetFrame } from './AssetFrame';
import { causesOf, choiceOf, extent, isNote, linesOf, NOTES, showsNotes, step, type Line, type Told } from './causes';
import { Findings } from './Findings';
import { mendOf } from './mends';
import { Lost, NoticeProvider, useNotice } from './Notice';
import { Rail } from './Rail';
import { Split } from './Split';
import { chosenParts } from './selection';

vi.mock('../stand/Stand', () => ({ Stand: () => <div data-testid="stand" /> }));

const frame = <AssetFrame mode="light" setMode={() => undefined} />;

describe('the rail', () => {
    it('counts what was found at each station, in order', () => {
        const { getAllByRole, getByRole } = show(<Rail delivery={gauge()} current="pairing" base="/assets/3/deliveries/3" search="?set=dial" />);
        const shown = getAllByRole('link').map((link) => link.textContent);
        expect(shown.map((text, i) => text.startsWith(`${i + 1}${gauge().stations[i]?.title ?? ''}`))).toEqual(Array(8).fill(true));
        expect(shown[5]).toContain('2blockers');
        expect(shown[6]).toContain('clear');
        expect(getByRole('link', { current: 'page' }).getAttribute('href')).toBe('/assets/3/deliveries/3/pairing?set=dial');
        expect(getByRole('link', { current: 'page' }).textContent).toContain('3blockers');
    });
});

const listed = (delivery: ReturnType<typeof gauge>, station: string, folded = false) => {
    const onOpen = vi.fn<(cause: number, open: boolean) => void>();
    const onFold = vi.fn<() => void>();
    function List() {
        const [open, setOpen] = useState<ReadonlySet<number>>(new Set());
        return (
            <Findings
                delivery={delivery}
                station={station}
                open={open}
                onOpen={(cause, to) => {
                    onOpen(cause, to);
                    setOpen(new Set(to ? [cause] : []));
                }}
                folded={folded}
                onFold={onFold}
            />
        );
    }
    return { ...show(<List />), onOpen, onFold };
};

/** A delivery on which three parts have one trouble with one remedy. */
const three = (): ReturnType<typeof gauge> => {
    const delivery = gauge();
    const one = delivery.findings.find((each) => each.code === 'name-case');
    if (!one) {
        throw new Error('the gauge has no such finding');
    }
    const parts = ['float_low', 'bezel_low', 'gasket_low'];
    const findings = parts.map((part, i) => ({
        ...one,
        id: 900 + i,
        code: 'normals-missing',
        station: 'intake',
        severity: 'caution',
        part,
        other: null,
        set: null,
        message: `${part} has no normals`,
        cause: 0,
    }));
    const causes = [
        {
            code: 'normals-missing',
            station: 'intake',
            severity: 'caution',
            message: '3 parts of gauge_low.obj have no normals: float_low, bezel_low, gasket_low',
            remedy: 'export normals',
            subjects: 3,
            waived: false,
        },
    ];
    return { ...delivery, findings, causes };
};

describe('findings', () => {
    it('shows those of the station, the worst first, with what mends them', () => {
        const { getByLabelText, getByText } = listed(gauge(), 'pairing');
        expect([...getByLabelText('causes').querySelectorAll('.cause .mono')].map((one) => one.textContent)).toEqual(['pair-no-high', 'suffix-case', 'name-case']);
        expect(getByText('3 causes, 3 findings')).toBeDefined();
        expect(getByText('rename Dial_high to dial_high')).toBeDefined();
    });

    it('chooses what a finding is about, and says its value, what it looks like and what mends it', async () => {
        const { getByText, user, where } = listed(gauge(), 'pairing');
        const finding = gauge().findings.find((one) => one.code === 'name-case');
        await user.click(getByText(finding?.message ?? ''));
        expect(where()).toContain(`finding=${finding?.id ?? ''}`);
        expect([...chosenParts(gauge(), { set: null, part: null, finding: finding?.id ?? null, cause: null, island: null, texel: null, select: () => undefined })]).toEqual([
            'dial_low',
            'Dial_high',
        ]);
        expect(getByText('the part bakes flat: its partner is not found')).toBeDefined();
        expect(getByText('what mends it')).toBeDefined();
    });

    it('tells one cause of many once, and opens it to its members', async () => {
        const { getByText, getByRole, queryByText, user, where } = listed(three(), 'intake');
        expect(getByText('1 cause, 3 findings')).toBeDefined();
        expect(queryByText('float_low has no normals')).toBeNull();
        await user.click(getByText(/^3 parts of gauge_low/));
        expect(where()).toContain('cause=900');
        expect([...chosenParts(three(), { set: null, part: null, finding: null, cause: 900, island: null, texel: null, select: () => undefined })]).toEqual([
            'float_low',
            'bezel_low',
            'gasket_low',
        ]);
        await user.click(getByRole('button', { name: 'open the 3 findings of normals-missing' }));
        await user.click(getByText('bezel_low has no normals'));
        expect(where()).toContain('finding=901');
        await user.click(getByRole('button', { name: 'close the 3 findings of normals-missing' }));
        expect(queryByText('float_low has no normals')).toBeNull();
    });

    it('keeps notes folded until they are wanted', async () => {
        const delivery = gauge();
        const note = delivery.causes.find((one) => one.station === 'sets' && one.severity === 'note');
        const { getByRole, getByText, queryByText, user, onOpen } = listed(delivery, 'sets');
        expect(getByText('No blockers and no cautions here')).toBeDefined();
        expect(queryByText(note?.message ?? '')).toBeNull();
        await user.click(getByRole('button', { name: '1 note ▾' }));
        expect(onOpen).toHaveBeenLastCalledWith(NOTES, true);
        await user.click(getByText(note?.message ?? ''));
        // Folding them takes the chosen one with it.
        await user.click(getByRole('button', { name: '1 note ▴' }));
        expect(queryByText(note?.message ?? '')).toBeNull();
        expect(getByText('No blockers and no cautions here')).toBeDefined();
    });

    it('shows a note that is chosen, notes last', () => {
        const told = causesOf(gauge(), 'surface');
        const note = told.find(isNote) as Told;
        const nothing = { finding: null, cause: null };
        expect([showsNotes(told, new Set(), nothing), showsNotes(told, new Set([NOTES]), nothing)]).toEqual([false, true]);
        expect([showsNotes(told, new Set(), { finding: note.id, cause: null }), showsNotes(told, new Set(), { finding: null, cause: note.id })]).toEqual([true, true]);
        expect(linesOf(told, new Set(), true).map((line) => isNote(line.told))).toEqual([false, false, false, false, true, true]);
        expect(linesOf(told, new Set(), false)).toHaveLength(4);
    });

    it('opens and closes by the arrow keys, and folds away', async () => {
        const { getByText, onOpen, onFold, getByRole, user } = listed(three(), 'intake');
        getByText(/^3 parts of gauge_low/)
            .closest('button')
            ?.focus();
        await user.keyboard('{ArrowRight}');
        await user.keyboard('{ArrowLeft}');
        expect(onOpen.mock.calls).toEqual([
            [900, true],
            [900, false],
        ]);
        await user.click(getByRole('button', { name: 'Fold' }));
        expect(onFold).toHaveBeenCalledOnce();
    });

    it('keeps only its head while folded', () => {
        const { queryByLabelText, getByRole } = listed(gauge(), 'pairing', true);
        expect(queryByLabelText('causes')).toBeNull();
        expect(getByRole('button', { name: 'Unfold' }).getAttribute('aria-expanded')).toBe('false');
    });

    it('never counts what did not run as passed, nor what waits', () => {
        const delivery = winch();
        const checks = delivery.checks.map((check) =>
            check.code === 'ray-miss'
                ? { ...check, state: 'not-run', reason: 'sizes differ' }
                : check.code === 'reach-long'
                  ? { ...check, state: 'waiting', reason: 'the rays of 3 sets are still to be shot' }
                  : check,
        );
        const { getByLabelText, getByText } = listed({ ...delivery, checks, findings: [], causes: [] }, 'clearance');
        expect(getByLabelText('checks that did not run').textContent).toContain('not run: sizes differ');
        expect(getByText(/1 check waits: the rays of 3 sets are still to be shot/)).toBeDefined();
        expect(getByText(/passed/).textContent).not.toContain(String(checks.filter((one) => one.station === 'clearance').length));
    });

    it('says what is found so far while it is being checked', () => {
        const { getByRole } = listed(winch({ state: 'measuring', findings: [], causes: [], checks: [] }), 'clearance');
        expect(getByRole('heading').textContent).toBe('Nothing found so far');
    });
});

describe('what mends a cause at once', () => {
    it('writes the names that are suggested for its parts', async () => {
        const sent = serve({
            '/api/deliveries/3/pairing': {
                suggestions: [
                    { fileId: 5, part: 'Dial_high', rename: 'dial_high', reason: 'letter case', file: 'x', confidence: 1 },
                    { fileId: 5, part: 'other', rename: 'x', reason: '', file: 'x', confidence: 1 },
                ],
            },
            '/api/deliveries/3/mend': { assetId: 3, deliveryId: 9, number: 2 },
        });
        const { getByText, getByRole, user, where } = listed(gauge(), 'pairing');
        await user.click(getByText('dial_low and Dial_high would tie but for letter case'));
        await user.click(getByRole('button', { name: 'Write the mended name' }));
        await expect.poll(where).toBe('/assets/3/deliveries/9/pairing');
        expect(sent.find((one) => one.path.endsWith('/mend'))?.body).toEqual({ renames: [{ fileId: 5, from: 'Dial_high', to: 'dial_high', reason: 'letter case' }] });
    });

    it('is there for what can be mended in the files, and for nothing else', () => {
        const delivery = lantern();
        const [set] = delivery.sets;
        const told = (code: string, more: object = {}): Told => ({
            id: 1,
            cause: { code, station: 'sets', severity: 'blocker', message: '', remedy: '', subjects: 1, waived: false },
            members: [{ ...(gauge().findings[0] as Told['members'][number]), code, set: set?.name ?? null, part: null, other: null, ...more }],
        });
        const words = (code: string, of = delivery): string | undefined => mendOf(of, told(code))?.words;
        expect([words('unit-mismatch'), words('id-close'), words('span-closed'), words('sets-bleed'), words('mesh-flipped'), words('explode-drift')]).toEqual([
            'Write the high poly to fit',
            'Write new ID colors',
            'Fit cages',
            'Write exploded files',
            undefined,
            undefined,
        ]);
        expect(words('reach-long')).toBeUndefined();
        const off = { ...delivery, sets: delivery.sets.map((one) => ({ ...one, inUse: { out: 9, in: 9 } })) };
        expect(words('reach-long', off)).toBe('Use the recommended reach');
        expect(words('span-closed', { ...delivery, state: 'measuring' })).toBeUndefined();
    });
});

describe('lines of findings', () => {
    it('are walked cause by cause, and member by member where one is open', () => {
        const told = causesOf(three(), 'intake');
        const closed = linesOf(told, new Set(), false);
        const open = linesOf(told, new Set([900]), false);
        expect([closed.length, open.length]).toEqual([1, 4]);
        const nothing = { finding: null, cause: null };
        expect(choiceOf(step(open, nothing, 1) as Line)).toEqual({ cause: 900 });
        expect(choiceOf(step(open, { finding: null, cause: 900 }, 1) as Line)).toMatchObject({ finding: 900, cause: 900, part: 'float_low' });
        expect(choiceOf(step(open, { finding: 900, cause: 900 }, -1) as Line)).toEqual({ cause: 900 });
        expect(choiceOf(step(open, { finding: 902, cause: 900 }, 1) as Line)).toMatchObject({ finding: 902 });
        expect(extent(told[0] as Told)).toBe('3 parts');
        expect(step([], nothing, 1)).toBeUndefined();
    });
});

describe('how often the server is asked', () => {
    it('is often while something goes on, and seldom in a tab that nobody looks at', () => {
        expect([patience(true, false), patience(false, false), patience(true, true), patience(false, true)]).toEqual([1000, 10_000, 15_000, 60_000]);
        expect([rest(1000, 500), rest(1000, 5000), rest(20, 0)]).toEqual([2500, 0, 60]);
    });
});

describe('the border between work area and stand', () => {
    it('is moved by arrow keys, put back by a double click, and kept', async () => {
        localStorage.clear();
        const { getByRole, user, unmount } = show(<Split full={false} left={<p>work</p>} right={<p>stand</p>} />);
        const border = getByRole('separator');
        expect(border.getAttribute('aria-valuenow')).toBe('58');
        border.focus();
        await user.keyboard('{ArrowLeft}{ArrowLeft}');
        expect(border.getAttribute('aria-valuenow')).toBe('54');
        unmount();
        const again = show(<Split full={false} left={<p>work</p>} right={<p>stand</p>} />);
        expect(again.getByRole('separator').getAttribute('aria-valuenow')).toBe('54');
        again.getByRole('separator').focus();
        await again.user.keyboard('{Home}');
        expect(again.getByRole('separator').getAttribute('aria-valuenow')).toBe('34');
        fireEvent.doubleClick(again.getByRole('separator'));
        expect(again.getByRole('separator').getAttribute('aria-valuenow')).toBe('58');
    });

    it('is dragged while the pointer is held, and not when it only passes', () => {
        localStorage.clear();
        const { getByRole } = show(<Split full={false} left={<p>work</p>} right={<p>stand</p>} />);
        const border = getByRole('separator');
        // jsdom captures no pointers.
        const held = new Set<number>();
        border.setPointerCapture = (id) => held.add(id);
        border.hasPointerCapture = (id) => held.has(id);
        vi.spyOn(Element.prototype, 'getBoundingClientRect').mockReturnValue(new DOMRect(100, 0, 1000, 800));
        fireEvent.pointerMove(border, { clientX: 600, pointerId: 1 });
        expect(border.getAttribute('aria-valuenow')).toBe('58');
        fireEvent.pointerDown(border, { clientX: 683, pointerId: 1 });
        fireEvent.pointerMove(border, { clientX: 600, pointerId: 1 });
        expect(border.getAttribute('aria-valuenow')).toBe('50');
        vi.restoreAllMocks();
    });

    it('goes while the stand has the whole window', () => {
        const { queryByRole, getByText } = show(<Split full left={<p>work</p>} right={<p>stand</p>} />);
        expect(queryByRole('separator')).toBeNull();
        expect(getByText('stand')).toBeDefined();
    });
});

describe('the search', () => {
    const found = {
        assets: [{ assetId: 3, name: 'Tide gauge', deliveryId: 3 }],
        parts: [{ assetId: 3, asset: 'Tide gauge', deliveryId: 3, name: 'dial_low', file: 'gauge_low.obj' }],
        checks: [
            { code: 'name-case', title: 'Name in another letter case', station: 'pairing', afterBake: 'the part bakes flat', remedy: '' },
            { code: 'ray-lean', title: 'Details come out leaning', station: 'clearance', afterBake: 'leaning screws', remedy: '' },
        ],
        guide: [{ page: 'artist', title: 'Mend it', anchor: 'mend-it', told: "An artist's walk" }],
    };

    it('opens at "/" and goes to what a symptom is caused by', async () => {
        serve({ '/api/deliveries/3': gauge(), '/api/search*': found });
        const { findByRole, getByRole, findAllByRole, user, where } = show(frame);
        await findByRole('heading', { name: '9 of 12 parts tie exactly' });
        await user.keyboard('/');
        await user.type(getByRole('searchbox', { name: /what a bad bake looks like/ }), 'flat');
        const options = await findAllByRole('option');
        expect(options.map((one) => one.querySelector('b')?.textContent)).toEqual(['name-case', 'ray-lean', 'dial_low', 'Tide gauge', 'Mend it']);
        expect(options[1]?.textContent).toContain('not found on this delivery');
        await user.keyboard('{ArrowDown}{ArrowUp}{Enter}');
        const finding = gauge().findings.find((one) => one.code === 'name-case');
        expect(where()).toBe(`/assets/3/deliveries/3/pairing?finding=${finding?.id ?? ''}`);
    });

    it('leads to the guide where a delivery has nothing of it', async () => {
        serve({ '/api/deliveries/3': gauge(), '/api/search*': found });
        const { findByRole, getByRole, findAllByRole, user, where } = show(frame);
        await findByRole('heading', { name: '9 of 12 parts tie exactly' });
        await user.keyboard('/');
        await user.type(getByRole('searchbox', { name: /what a bad bake looks like/ }), 'flat');
        await findAllByRole('option');
        await user.keyboard('{ArrowDown}{Enter}');
        expect(where()).toBe('/guide/ray-lean');
        expect(hitsOf(found, null).map((hit) => hit.name)).toEqual(['dial_low', 'Tide gauge', 'Mend it', 'name-case', 'ray-lean']);
    });

    it('says that nothing is known by that', async () => {
        serve({ '/api/deliveries/3': gauge(), '/api/search*': { assets: [], parts: [], checks: [], guide: [] } });
        const { findByRole, getByRole, findByText, user } = show(frame);
        await findByRole('heading', { name: '9 of 12 parts tie exactly' });
        await user.click(getByRole('button', { name: /Search/ }));
        await user.type(getByRole('searchbox', { name: /what a bad bake looks like/ }), 'zzz');
        await findByText('Nothing is called "zzz", and no check is known by that.');
    });
});

describe('what is said of an act', () => {
    function Acts() {
        const notice = useNotice();
        return (
            <>
                <button onClick={() => notice.done('Set moved', () => notice.done('Taken back'))}>act</button>
                <button onClick={() => notice.offer('Delivery 2 has these files', 'Upload anyway', () => notice.done('Uploaded'))}>offer</button>
                <button onClick={() => notice.failed(new Error('the disk is full'))}>fail</button>
            </>
        );
    }

    it('can be taken back, and failures stay until they are closed', async () => {
        const { getByText, findByText, findByRole, getByRole, queryByText, user } = show(
            <NoticeProvider>
                <Acts />
            </NoticeProvider>,
        );
        await user.click(getByText('act'));
        await findByText('Set moved');
        await user.click(getByRole('button', { name: 'Undo' }));
        await findByText('Taken back');
        await user.click(getByText('offer'));
        await user.click(await findByRole('button', { name: 'Close' }));
        await expect.poll(() => queryByText('Delivery 2 has these files')).toBeNull();
        await user.click(getByText('offer'));
        await user.click(await findByRole('button', { name: 'Upload anyway' }));
        await findByText('Uploaded');
        await user.click(getByText('fail'));
        expect(getByRole('alert').textContent).toContain('the disk is full');
    });

    it('tells a server that is gone from a session that is over', () => {
        const { getByText, rerender } = show(<Lost error={new ApiError('gone', 0)} />);
        expect(getByText(/The server does not answer/)).toBeDefined();
        for (const [status, words] of [
            [401, /session is over/],
            [404, /was deleted/],
            [503, /answers with an error \(503\)/],
        ] as const) {
            rerender(<Lost error={new ApiError('x', status)} />);
            expect(getByText(words)).toBeDefined();
        }
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
        const delivery = lantern({
            state: 'measuring',
            verdict: null,
            progress: { files: 2, filesDone: 2, sets: 11, setsDone: 4, doing: 'shooting rays of hood', waitsFor: 'the rays of 7 of 11 sets' },
        });
        const sent = serve({ '/api/deliveries/2': delivery });
        const { findByText, getByRole, user } = show(frame, '/assets/2/deliveries/2/clearance');
        await findByText('shooting rays of hood');
        await user.click(getByRole('button', { name: 'Cancel' }));
        await expect.poll(() => sent.some((one) => one.method === 'POST' && one.path === '/api/deliveries/2/cancel')).toBe(true);
    });

    it('asks only how far it is while it goes on, and for the rest once that changed', async () => {
        let step = 1;
        const doing = (): object => ({ files: 2, filesDone: 2, sets: 11, setsDone: step, doing: `shooting rays of hood ${step}`, waitsFor: null });
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
