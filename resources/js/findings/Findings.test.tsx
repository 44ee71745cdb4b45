// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import type { Changes as Data, FixList } from '../api/client';
import { Waivers } from '../handoff/Waivers';
import { serve, show, winch, gauge } from '../testing/screen';
import { Changes } from './Changes';
import { FixListPage } from './FixListPage';
import { HistoryPage } from './HistoryPage';
import { SendBackButton } from './SendBack';
import { ToMendPage } from './ToMendPage';
import { WaiveButton } from './Waive';

const page = { mode: 'light' as const, setMode: () => undefined };

describe('a waiver', () => {
    it('needs a reason, and is sent with the findings and its last day', async () => {
        const delivery = gauge();
        const finding = delivery.findings.find((one) => one.measure !== null && !one.waived);
        expect(finding).toBeDefined();
        const sent = serve();
        const { getByRole, getByLabelText, user } = show(<WaiveButton delivery={delivery} findings={finding ? [finding] : []} />);
        await user.click(getByRole('button', { name: 'Waive…' }));
        const button = getByRole('button', { name: 'Waive' });
        expect(button).toHaveProperty('disabled', true);
        await user.type(getByLabelText('Reason'), 'behind the lid');
        await user.type(getByLabelText('Last day (if it is to end)'), '2027-01-31');
        await user.click(button);
        await expect.poll(() => sent.at(-1)?.path).toBeDefined();
        expect(sent.find((one) => one.method === 'POST')).toEqual({
            method: 'POST',
            path: `/api/deliveries/${delivery.id}/waivers`,
            version: String(delivery.version),
            body: { findings: [finding?.id], reason: 'behind the lid', until: '2027-01-31' },
        });
    });

    it('is not offered for what cannot be accepted, or is', () => {
        serve();
        const delivery = gauge();
        const [one] = delivery.findings;
        const none = show(
            <WaiveButton
                delivery={delivery}
                findings={
                    one
                        ? [
                              { ...one, waived: true },
                              { ...one, code: 'file-unreadable' },
                              { ...one, code: 'waiver-died' },
                          ]
                        : []
                }
            />,
        );
        expect(none.queryByRole('button')).toBeNull();
    });

    it('says whether it holds, and is taken back', async () => {
        const base = { subject: 'drum_low', message: 'x', measure: { value: 0.02, limit: 0.01, unit: 'share' }, by: 'Tomas Reed', at: '2026-11-29T06:00:00+00:00', cause: null };
        const waivers = [
            { ...base, id: 1, code: 'uv-stretch', title: 'UVs stretched', reason: 'behind the lid', until: '2027-01-31', state: 'holds', words: null },
            { ...base, id: 2, code: 'ray-lean', title: 'Details lean', reason: 'fine', until: null, state: 'died', words: 'worse now than what was accepted' },
            { ...base, id: 3, code: 'uv-use', title: 'Page used', reason: 'gone', until: null, state: 'taken back', words: 'taken back by Ines Falk' },
        ];
        const sent = serve();
        const { getByText, queryByText, getByRole, user } = show(<Waivers delivery={winch({ waivers })} />);
        expect(getByText('holds')).toBeDefined();
        expect(getByText(/until 2027-01-31/)).toBeDefined();
        expect(getByText(/worse now than what was accepted/)).toBeDefined();
        expect(queryByText(/gone/)).toBeNull();
        await user.click(getByRole('button', { name: 'Take back the waiver of ray-lean on drum_low' }));
        await expect.poll(() => sent.find((one) => one.method === 'DELETE')?.path).toBe('/api/deliveries/1/waivers/2');
    });
});

describe('sending back', () => {
    it('ticks what blocks and cautions, and sends it to who handed it in', async () => {
        const delivery = gauge({ handedInBy: 'Mara Lind' });
        const people = [
            { id: 2, name: 'Tomas Reed', email: null, role: 'technical-artist', state: 'active', signedInAt: null },
            { id: 3, name: 'Mara Lind', email: null, role: 'artist', state: 'active', signedInAt: null },
            { id: 4, name: 'Olga Brandt', email: null, role: 'artist', state: 'locked out', signedInAt: null },
        ];
        const sent = serve({ '/api/people': people, [`/api/deliveries/${delivery.id}/fix-lists`]: { id: 9, sent: true } });
        const { getByRole, findByRole, findByText, getAllByRole, getByLabelText, user, where } = show(<SendBackButton delivery={delivery} />);
        await user.click(getByRole('button', { name: 'Send back…' }));
        await findByText('Mara Lind, artist');
        const boxes = getAllByRole('checkbox') as HTMLInputElement[];
        const wanted = delivery.causes.filter((one) => one.severity !== 'note' && !one.waived).length;
        expect(boxes.filter((one) => one.checked)).toHaveLength(wanted);
        await user.click(boxes[0] as HTMLInputElement);
        await user.type(getByLabelText('Note (if there is more to say)'), 'by Friday');
        await user.click(await findByRole('button', { name: `Send back ${wanted - 1} causes` }));
        await expect.poll(() => where()).toBe('/fix-lists/9');
        const body = sent.find((one) => one.path.endsWith('/fix-lists'))?.body as { causes: number[]; to: number; note: string };
        expect([body.to, body.note, body.causes.length]).toEqual([3, 'by Friday', wanted - 1]);
        expect(body.causes.every((number) => delivery.causes[number]?.severity !== 'note')).toBe(true);
    });
});

const list: FixList = {
    id: 9,
    assetId: 1,
    asset: 'Mooring winch',
    deliveryId: 1,
    delivery: 1,
    to: 'Mara Lind',
    by: 'Tomas Reed',
    note: 'by Friday <b>',
    sentAt: '2026-11-29T06:00:00+00:00',
    against: 2,
    againstId: 8,
    mended: 1,
    waived: 0,
    causes: [
        {
            code: 'uv-stretch',
            severity: 'caution',
            message: 'drum_low is stretched',
            remedy: 'relax it',
            station: 'surface',
            afterBake: 'blurred',
            mended: 1,
            state: 'mended',
            findings: [
                {
                    part: 'drum_low',
                    other: null,
                    set: 'drum',
                    file: null,
                    page: null,
                    message: 'drum_low is stretched',
                    remedy: 'relax it',
                    measure: { value: 2.5, limit: 2, unit: 'ratio' },
                    now: null,
                    where: [],
                    state: 'mended',
                },
            ],
        },
        {
            code: 'mesh-loose',
            severity: 'note',
            message: '2 parts have loose vertices',
            remedy: 'delete them',
            station: 'intake',
            afterBake: '',
            mended: 0,
            state: 'open',
            findings: ['drum_low', 'base_low'].map((part) => ({
                part,
                other: null,
                set: null,
                file: null,
                page: null,
                message: `${part} has loose vertices`,
                remedy: 'delete them',
                measure: null,
                now: null,
                where: [],
                state: 'open',
            })),
        },
    ],
};

describe('the fix list', () => {
    it('says what is to be mended, by what value, and what of it is', async () => {
        serve({ '/api/fix-lists/9': list, '/api/deliveries/1': winch() });
        const { findByRole, findByText, getByText, getByRole } = show(<FixListPage {...page} />, '/fix-lists/9', '/fix-lists/:listId');
        await findByRole('heading', { name: 'Mooring winch, delivery 1: 2 causes to mend' });
        await findByText('2.50 ×');
        expect(getByText('mended in delivery 2')).toBeDefined();
        expect(getByText('still open in delivery 2')).toBeDefined();
        expect(getByText('by Friday <b>')).toBeDefined();
        expect(getByText(/Delivery 2: of 2 causes, 1 is mended/)).toBeDefined();
        expect(getByRole('button', { name: 'Copy 2 names' })).toBeDefined();
        expect(getByRole('button', { name: 'Print' })).toBeDefined();
    });

    it('says what went wrong', async () => {
        serve({ '/api/fix-lists/9': Response.json({ message: 'There is no such fix list; it may have been deleted.' }, { status: 404 }) });
        const { findByText } = show(<FixListPage {...page} />, '/fix-lists/9', '/fix-lists/:listId');
        await findByText(/There is no such fix list/, undefined, { timeout: 8000 });
    });

    it('stands among what waits for somebody', async () => {
        serve({
            '/api/me/fix-lists': [
                { id: 9, asset: 'Mooring winch', assetId: 1, deliveryId: 1, delivery: 1, by: 'Tomas Reed', sentAt: '2026-11-29T06:00:00+00:00', causes: 8, mended: 3, against: 2 },
            ],
        });
        const { findByRole, getByText } = show(<ToMendPage {...page} />, '/to-mend', '/to-mend');
        expect((await findByRole('link', { name: 'Mooring winch, delivery 1' })).getAttribute('href')).toBe('/fix-lists/9');
        expect(getByText(/3 mended in delivery 2/)).toBeDefined();
    });
});

const changed: Data = {
    before: 1,
    beforeId: 7,
    isSource: false,
    isKnown: true,
    parts: [
        { name: 'drum_low', was: 'barrel_low', role: 'low', states: ['renamed', 'moved'], words: ['renamed, was barrel_low', 'moved by 2 cm'] },
        { name: 'pawl_low', was: null, role: 'low', states: ['gone'], words: ['gone'] },
    ],
    same: 14,
    gone: [{ code: 'uv-use', title: 'x', station: 'surface', severity: 'note', message: 'gone one', before: null, measure: null, was: null, id: null, waived: false }],
    new: [],
    better: [],
    worse: [
        {
            code: 'uv-stretch',
            title: 'x',
            station: 'surface',
            severity: 'caution',
            message: 'worse one',
            before: 'then',
            measure: { value: 0.3, limit: 0.1, unit: 'share' },
            was: { value: 0.2, limit: 0.1, unit: 'share' },
            id: 5,
            waived: false,
        },
    ],
    sameFindings: 3,
    died: [],
};

describe('what changed', () => {
    it('tells parts by how they changed, and findings by which way', async () => {
        serve({ '/api/deliveries/1/changes': changed });
        const { findByRole, getByText, getByRole, queryByRole, user, where } = show(<Changes delivery={winch()} />);
        await findByRole('heading', { name: '2 parts changed since delivery 1' });
        expect(getByText('renamed, was barrel_low; moved by 2 cm')).toBeDefined();
        expect(getByText(/1 gone, 1 renamed, 1 moved; 14 the same\. Findings: 1 gone, 0 new, 0 better, 1 worse, 3 the same\./)).toBeDefined();
        expect(getByText('20 % → 30 %')).toBeDefined();
        expect(getByRole('link', { name: 'worse one' }).getAttribute('href')).toBe('/assets/1/deliveries/1/surface?finding=5');
        expect(queryByRole('heading', { name: /New findings/ })).toBeNull();
        await user.click(getByRole('button', { name: 'drum_low' }));
        expect(where()).toContain('part=drum_low');
    });

    it('says when there is nothing to compare with', async () => {
        serve({ '/api/deliveries/1/changes': { ...changed, before: null, beforeId: null, isKnown: false, parts: [] } });
        const { findByRole } = show(<Changes delivery={winch()} />);
        await findByRole('heading', { name: 'This is the first delivery' });
    });
});

describe('the history', () => {
    it('tells who did what, by which token, on which delivery', async () => {
        const event = { id: 1, who: 'Tomas Reed', via: null, words: 'sealed a package', delivery: 2, deliveryId: 8, at: '2026-11-29T06:00:00+00:00' };
        serve({
            '/api/assets/1/history': {
                asset: 'Mooring winch',
                deliveryId: 8,
                events: [event, { ...event, id: 2, via: 'build farm', words: 'handed in 2 files', delivery: 1, deliveryId: null }],
                more: true,
            },
        });
        const { findByText, getByText, getByRole } = show(<HistoryPage {...page} />, '/assets/1/history', '/assets/:assetId/history');
        await findByText('sealed a package');
        expect(getByText('by token build farm', { exact: false })).toBeDefined();
        expect(getByRole('link', { name: 'delivery 2' }).getAttribute('href')).toBe('/assets/1/deliveries/8/intake');
        expect(getByText('delivery 1').tagName).toBe('SPAN');
        expect(getByText('Earlier than that is not shown.')).toBeDefined();
    });
});
