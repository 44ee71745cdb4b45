// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import type { At, Delivery, Rack } from '../api/client';
import { Clearance } from '../clearance/Clearance';
import { ColorId } from '../colorid/ColorId';
import { HandOff } from '../handoff/HandOff';
import { FormatsPage } from '../intake/FormatsPage';
import { Intake } from '../intake/Intake';
import { RackPage } from '../rack/RackPage';
import { Sets } from '../sets/Sets';
import rackJson from './rack.json';
import { choose, gauge, lantern, serve, show, winch } from './screen';

const rack = rackJson as unknown as Rack;
const first = <T,>(list: T[]): T => {
    const [one] = list;
    if (one === undefined) {
        throw new Error('the list is empty');
    }
    return one;
};

describe('the rack', () => {
    const page = <RackPage mode="light" setMode={() => undefined} />;

    it('says how many are ready and who waits, a row an asset', async () => {
        serve();
        const { findByRole, getByText, getAllByRole, getByRole } = show(page, '/', '/');
        await findByRole('heading', { name: '3 assets, 1 ready to hand off' });
        expect(getByText('2 wait for an artist')).toBeDefined();
        expect(getAllByRole('row')).toHaveLength(4);
        expect(getByRole('link', { name: 'Tide gauge' }).getAttribute('href')).toBe('/assets/3/deliveries/3/pairing');
        expect(getByText('✓ READY')).toBeDefined();
    });

    it('lists its keys at "?", but not while one types', async () => {
        serve();
        const { findByRole, getByRole, queryByRole, user, where } = show(page, '/', '/');
        await findByRole('heading', { name: '3 assets, 1 ready to hand off' });
        await user.type(getByRole('searchbox', { name: /find/i }), '?');
        expect(queryByRole('dialog')).toBeNull();
        (document.activeElement as HTMLElement).blur();
        await user.keyboard('?');
        const keys = await findByRole('dialog', { name: 'Keys' });
        expect(keys.textContent).toContain('search assets, parts, checks');
        await user.keyboard('/');
        expect(queryByRole('searchbox', { name: /what a bad bake looks like/ })).toBeNull();
        await user.click(getByRole('link', { name: 'guide' }));
        expect(where()).toBe('/guide');
    });

    it('asks the server for what is looked for, a page at a time', async () => {
        const sent = serve({
            '/api/rack*': (one: { path: string }) => (one.path.includes('find=nothing') ? { ...rack, assets: [], fitting: 0, pages: 0 } : { ...rack, fitting: 250, pages: 3 }),
        });
        const { findByRole, getByLabelText, getByRole, findByText, user } = show(page, '/', '/');
        await findByRole('heading', { name: /3 assets/ });
        await user.click(getByRole('button', { name: 'Go to page 2' }));
        await expect.poll(() => sent.at(-1)?.path).toBe('/api/rack?find=&verdict=all&page=2');
        await user.click(getByRole('button', { name: 'ready 1' }));
        await expect.poll(() => sent.at(-1)?.path).toBe('/api/rack?find=&verdict=ready&page=1');
        await user.type(getByLabelText('find an asset or part'), 'nothing');
        await findByText('Nothing fits "nothing".');
        expect(sent.at(-1)?.path).toBe('/api/rack?find=nothing&verdict=ready&page=1');
    });

    it('goes back to the last page where the one it was on is gone', async () => {
        let pages = 3;
        const sent = serve({ '/api/rack*': (one: { path: string }) => ({ ...rack, fitting: 250, pages: one.path.includes('page=3') ? (pages = 2) : pages }) });
        const { findByRole, getByRole, user } = show(page, '/', '/');
        await findByRole('heading', { name: /3 assets/ });
        await user.click(getByRole('button', { name: 'Go to page 3' }));
        await expect.poll(() => sent.at(-1)?.path).toBe('/api/rack?find=&verdict=all&page=2');
    });

    it('tells an empty rack, a failed and a running delivery from the rest', async () => {
        serve({ '/api/rack*': { ...rack, assets: [], fitting: 0, pages: 0, total: 0, ready: 0, blocked: 0 } });
        const empty = show(page, '/', '/');
        await empty.findByRole('heading', { name: 'The rack is empty' });
        empty.unmount();
        const [a, b] = rack.assets;
        serve({
            '/api/rack*': {
                ...rack,
                computing: 1,
                assets: [
                    { ...a, state: 'failed', verdict: null },
                    { ...b, state: 'measuring', verdict: null, doing: 'shooting rays of drum' },
                ],
            },
        });
        const { findByText, getByText } = show(page, '/', '/');
        await findByText('failed');
        expect(getByText('shooting rays of drum…')).toBeDefined();
        expect(getByText(/1 being checked/)).toBeDefined();
    });

    it('hands files in piece by piece and goes to the delivery', async () => {
        const size = 9 * 1024 * 1024;
        let received = 0;
        const sent = serve({
            '/api/uploads': { id: 'u1', name: 'buoy_low.obj', bytes: size, received: 0 },
            '/api/uploads/u1*': (one: { body: unknown }) => ({ id: 'u1', name: 'buoy_low.obj', bytes: size, received: (received += (one.body as Blob).size) }),
            '/api/deliveries': { assetId: 8, deliveryId: 12, number: 1 },
        });
        const { findByRole, getByTestId, user, where } = show(page, '/', '/');
        await findByRole('heading', { name: /3 assets/ });
        await user.upload(getByTestId('files'), new File([new Uint8Array(size)], 'buoy_low.obj'));
        await expect.poll(where).toBe('/assets/8/deliveries/12/pairing');
        expect(sent.filter((one) => one.method === 'PUT').map((one) => one.path)).toEqual(['/api/uploads/u1?offset=0', '/api/uploads/u1?offset=8388608']);
        expect(sent.some((one) => one.path === '/api/deliveries')).toBe(true);
        expect(sent.find((one) => one.path === '/api/deliveries')?.body).toEqual({ uploads: ['u1'], assetId: null });
    });

    it('reports files that a delivery already has, and makes a new delivery on request', async () => {
        const sent = serve({
            '/api/uploads': { id: 'u1', name: 'buoy.zip', bytes: 1, received: 0 },
            '/api/uploads/u1*': { id: 'u1', name: 'buoy.zip', bytes: 1, received: 1 },
            '/api/deliveries': (one: { body: unknown }) => ({
                assetId: 8,
                deliveryId: (one.body as { asNew?: boolean }).asNew ? 13 : 12,
                number: 4,
                known: !(one.body as { asNew?: boolean }).asNew,
            }),
        });
        const { findByRole, findByText, getByTestId, user, where } = show(page, '/', '/');
        await findByRole('heading', { name: /3 assets/ });
        await user.upload(getByTestId('files'), new File(['x'], 'buoy.zip'));
        await findByText(/Delivery 4 already has these files, byte for byte/);
        expect(where()).toBe('/assets/8/deliveries/12/pairing');
        await user.click(await findByRole('button', { name: 'Upload anyway' }));
        await expect.poll(where).toBe('/assets/8/deliveries/13/pairing');
        expect(sent.filter((one) => one.path === '/api/deliveries').at(-1)?.body).toEqual({ uploads: ['u1'], asNew: true });
    });

    it('says in the words of the server why files were not taken', async () => {
        serve({ '/api/uploads': () => Response.json({ message: '.fbx is a format that is not read here' }, { status: 422 }) });
        const { findByRole, getByTestId, user, findByText } = show(page, '/', '/');
        await findByRole('heading', { name: /3 assets/ });
        await user.upload(getByTestId('files'), new File(['x'], 'buoy.fbx'));
        await findByText(/\.fbx is a format that is not read here/);
    });
});

describe('intake', () => {
    it('says that all is usable, and what each file is against the other', () => {
        serve();
        const { getByRole, getByLabelText } = show(<Intake delivery={winch()} />);
        expect(getByRole('heading', { level: 1 }).textContent).toBe('Same thing, same place, same size: all files are usable');
        expect(getByLabelText('winch_high.obj').textContent).toMatch(/of winch_low\.obj\d+\.\d %/);
        expect(getByLabelText('winch_low.obj').textContent).toContain('says none · says none');
    });

    it('says of a mended delivery that its files are being written, or were not', () => {
        serve();
        const empty = { files: [], parts: [], findings: [], verdict: null };
        const first = show(<Intake delivery={winch({ ...empty, state: 'writing', madeByWords: '1 name mended from delivery 1' })} />);
        expect(first.getByText('1 name mended from delivery 1. That delivery stays as it is.')).toBeDefined();
        expect(first.getByRole('heading', { level: 1 }).textContent).toBe('Writing the mended files');
        first.unmount();
        const { getByRole } = show(<Intake delivery={winch({ ...empty, state: 'failed', error: 'The files could not be mended.' })} />);
        expect(getByRole('heading', { level: 1 }).textContent).toBe('The mended files were not written');
    });

    it('says which file cannot be read and why', () => {
        serve();
        const delivery = winch();
        const files = delivery.files.map((file) =>
            file.name === 'winch_low.obj' ? { ...file, state: 'unreadable' as const, error: 'line 3: a face names vertex 9, and there are 8' } : file,
        );
        const { getByRole, getByText } = show(<Intake delivery={{ ...delivery, files }} />);
        expect(getByRole('heading', { level: 1 }).textContent).toBe('1 file cannot be read');
        expect(getByText(/line 3: a face names vertex 9/)).toBeDefined();
    });

    it('offers to mend a high poly in another unit', async () => {
        const sent = serve({ '/api/deliveries/1/place': { assetId: 1, deliveryId: 5 } });
        const finding = { ...first(winch().findings), code: 'unit-mismatch', station: 'intake', severity: 'blocker' };
        const place = {
            words: 'scaled by 0.01',
            stuck: null,
            factor: 0.01,
            turn: null,
            matrix: [0.01, 0, 0, 0, 0, 0.01, 0, 0, 0, 0, 0.01, 0, 0, 0, 0, 1],
        } as At<'intake'>['place'];
        const { getByRole, user, where } = show(<Intake delivery={winch({ findings: [finding], place })} />, '/assets/1/deliveries/1/intake');
        expect(getByRole('heading', { level: 1 }).textContent).toBe('High and low poly differ in size');
        await user.click(getByRole('button', { name: 'Write mended high poly' }));
        await expect.poll(where).toBe('/assets/1/deliveries/5/intake');
        expect(sent.some((one) => one.method === 'POST' && one.path === '/api/deliveries/1/place')).toBe(true);
    });

    it('asks what another role would do before it is given', async () => {
        const sent = serve({ '/api/deliveries/1/files/*': { pairedBefore: 8, pairedAfter: 0, basesBefore: 8, basesAfter: 16, mixed: 8, unknown: 0 } });
        const { getByRole, findByText, user } = show(<Intake delivery={winch()} />, '/assets/1/deliveries/1/intake');
        await choose(user, 'role of winch_high.obj', 'low poly');
        await findByText(/8 of 8 pair now, 0 of 16 would; 8 parts would contradict it/);
        expect(sent.every((one) => one.method === 'GET')).toBe(true);
        await user.click(getByRole('button', { name: 'Change' }));
        await expect.poll(() => sent.find((one) => one.method === 'POST')?.body).toEqual({ role: 'low' });
    });
});

describe('sets', () => {
    it('counts who meets whom first', () => {
        serve();
        const { getByRole, getByLabelText } = show(<Sets delivery={lantern()} />);
        expect(getByRole('heading', { level: 1 }).textContent).toMatch(/^11 sets, \d+ times one meets another first$/);
        expect(getByLabelText('bake sets').querySelectorAll('.lane')).toHaveLength(12);
    });

    it('moves, undoes, and checks again with what was put together', async () => {
        const sent = serve();
        const { getByLabelText, getByRole, user } = show(<Sets delivery={lantern()} />, '/assets/2/deliveries/2/sets');
        const apply = getByRole('button', { name: 'Apply, check again' });
        expect(apply).toHaveProperty('disabled', true);
        await user.type(getByLabelText('pattern of parts to select'), 'post_*');
        await user.click(getByRole('button', { name: 'Select 4' }));
        await user.type(getByLabelText('set to move to'), 'posts');
        await user.click(getByRole('button', { name: 'Move' }));
        expect(getByRole('button', { name: 'posts' })).toBeDefined();
        await user.click(getByRole('button', { name: 'Undo' }));
        expect(apply).toHaveProperty('disabled', true);
        await user.type(getByLabelText('pattern of parts to select'), '{Enter}');
        await user.type(getByLabelText('set to move to'), 'posts');
        await user.click(getByRole('button', { name: 'Move' }));
        await user.click(apply);
        await expect
            .poll(() => (sent.find((one) => one.path === '/api/deliveries/2/board')?.body as { sets?: unknown } | undefined)?.sets)
            .toEqual([{ name: 'posts', patterns: ['post_a', 'post_b', 'post_c', 'post_d'] }]);
    });

    it('shows who shades whom, and marks one pair by hand', async () => {
        serve();
        const { getByRole, getAllByTitle, user } = show(<Sets delivery={lantern()} />);
        await user.click(getByRole('tab', { name: 'Who shades whom' }));
        const pair = first(getAllByTitle(/stands in .* of the directions over/));
        expect(pair.getAttribute('aria-pressed')).toBe('false');
        await user.click(pair);
        expect(getByRole('button', { name: 'Undo' })).toHaveProperty('disabled', false);
    });
});

describe('clearance', () => {
    it('says how many sets have a distance, each with its span', () => {
        serve();
        const { getByRole, getAllByText } = show(<Clearance delivery={winch()} />);
        expect(getByRole('heading', { level: 1 }).textContent).toBe('All 8 sets have a distance that works');
        expect(getAllByText('drum').length).toBeGreaterThan(0);
        expect(getByRole('button', { name: 'Fit cages' })).toHaveProperty('disabled', false);
    });

    it('writes the exploded files, and fits cages', async () => {
        const sent = serve();
        const { getByRole, getByText, user } = show(<Clearance delivery={lantern()} />, '/assets/2/deliveries/2/clearance');
        expect(getByText(/Apart by moving \d+ sets?/)).toBeDefined();
        expect(getByText(/proved by shooting again/)).toBeDefined();
        await user.click(getByRole('button', { name: 'Write exploded files' }));
        await user.click(getByRole('button', { name: 'Fit cages' }));
        await expect.poll(() => sent.filter((one) => one.path === '/api/deliveries/2/outputs').map((one) => one.body)).toEqual([{ kind: 'exploded' }, { kind: 'cage' }]);
    });

    it('says why a cage could not be fitted', () => {
        serve();
        const output = {
            id: 4,
            kind: 'cage',
            state: 'failed',
            error: 'the disk is full',
            name: null,
            bytes: null,
            createdAt: '2026-11-28T00:00:00+00:00',
            cages: [],
        } as unknown as Delivery['outputs'][number];
        const { getByText } = show(<Clearance delivery={lantern({ outputs: [output] })} />);
        expect(getByText('the disk is full')).toBeDefined();
    });

    it('lays sets out again with another gap', async () => {
        const sent = serve();
        const { getByLabelText, getByRole, user } = show(<Clearance delivery={lantern()} />, '/assets/2/deliveries/2/clearance');
        await user.click(getByLabelText('every set apart'));
        await user.click(getByRole('button', { name: 'Lay out again' }));
        await expect.poll(() => sent.find((one) => one.path === '/api/deliveries/2/explode')?.body).toMatchObject({ all: true });
    });
});

describe('color ID', () => {
    it('says what will be picked as one, the nearest first', () => {
        serve();
        const { getByRole } = show(<ColorId delivery={gauge()} />);
        expect(getByRole('heading', { level: 1 }).textContent).toMatch(/will be picked as one|are close to another|no ID color/);
        expect(getByRole('img').getAttribute('aria-label')).toMatch(/^least distance ΔE00 \d/);
    });
});

describe('hand-off', () => {
    it('names all that stands in the way, each with its station', () => {
        serve();
        const { getByRole, getByLabelText } = show(<HandOff delivery={gauge()} />, '/assets/3/deliveries/3/hand-off');
        expect(getByRole('heading', { name: /causes stand in the way/ }).textContent).toMatch(/^6 /);
        expect(getByLabelText('what stands in the way').children).toHaveLength(6);
        expect(getByRole('button', { name: 'Seal package' })).toHaveProperty('disabled', true);
    });

    it('says a reach that many sets share once, the greatest of them, and copies it', async () => {
        serve();
        const one = first(winch().sets.filter((set) => set.inUse.out !== null));
        const sets = Array.from({ length: 1200 }, (_, i) => ({ ...one, name: `crate_${i}`, diagonal: 2, inUse: { out: i === 7 ? 0.5 : 0.25 + 1e-9 * i, in: 0.125 } }));
        const { getByRole, getAllByRole, getByText, user } = show(<HandOff delivery={winch({ sets })} />, '/assets/1/deliveries/1/hand-off');
        expect(getByText('and 1,198 more')).toBeDefined();
        expect(getAllByRole('button', { name: /copy reach out of/ }).map((button) => button.textContent)).toEqual([
            expect.stringContaining('copy reach out of crate_0'),
            expect.stringContaining('copy reach out of crate_7'),
        ]);
        const written: string[] = [];
        Object.defineProperty(navigator, 'clipboard', { configurable: true, value: { writeText: (text: string) => (written.push(text), Promise.resolve()) } });
        await user.click(getByRole('button', { name: /copy reach out of crate_0/ }));
        await expect.poll(() => written).toEqual(['0.250001']);
    });

    it('seals what is ready, and offers the package', async () => {
        const sent = serve();
        const { getByRole, user, unmount } = show(<HandOff delivery={winch()} />, '/assets/1/deliveries/1/hand-off');
        expect(getByRole('heading', { name: 'Ready to hand off' })).toBeDefined();
        await user.click(getByRole('checkbox', { name: 'cages' }));
        await user.click(getByRole('button', { name: 'Seal package' }));
        await expect.poll(() => sent.find((one) => one.path === '/api/deliveries/1/packages')?.body).toEqual({ with: ['cage'] });
        unmount();
        const sealed = {
            id: 7,
            state: 'done',
            error: null,
            name: 'winch_1.zip',
            bytes: 5000,
            sha256: 'ab',
            sealedAt: '2026-11-28T00:00:00+00:00',
            sealedBy: 'a',
            with: ['cage'],
            stale: null,
        } as Delivery['packages'][number];
        const after = show(<HandOff delivery={winch({ packages: [sealed] })} />, '/assets/1/deliveries/1/hand-off');
        expect(after.getByRole('link', { name: 'Download package' }).getAttribute('href')).toBe('/api/packages/7');
        expect(after.getByText(/with cages · read back/)).toBeDefined();
        after.unmount();
        // What is out of date is not handed out, and why is told.
        const old = show(<HandOff delivery={winch({ packages: [{ ...sealed, stale: 'the standard is version 2 now' }] })} />, '/assets/1/deliveries/1/hand-off');
        expect(old.getByRole('heading', { name: 'The package is out of date: seal again' })).toBeDefined();
        expect(old.getByText(/the standard is version 2 now/)).toBeDefined();
        expect(old.queryByRole('link', { name: 'Download package' })).toBeNull();
        old.unmount();
        // Judged by an earlier version of the standard, it is checked again before anything is sealed.
        const judged = show(<HandOff delivery={winch({ judgedBy: 0 })} />, '/assets/1/deliveries/1/hand-off');
        expect(judged.getByRole('heading', { name: 'The standard changed: check again' })).toBeDefined();
        expect(judged.getByRole('button', { name: 'Seal package' })).toHaveProperty('disabled', true);
        await judged.user.click(judged.getByRole('button', { name: 'Check again' }));
        await expect.poll(() => sent.some((one) => one.path === '/api/deliveries/1/recheck')).toBe(true);
    });
});

describe('the page of formats', () => {
    it('says what each carries', async () => {
        serve({ '/api/formats': { carried: ['UVs', 'materials'], formats: [{ ending: 'stl', name: 'STL', carries: ['materials'], isWritten: true }], notRead: ['fbx'] } });
        const { findByText } = show(<FormatsPage mode="light" setMode={() => undefined} />, '/formats', '/formats');
        await findByText('.stl');
    });
});
