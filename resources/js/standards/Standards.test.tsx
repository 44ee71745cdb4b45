// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import type { CheckLimits, Effect, Me, StandardPage as PageData } from '../api/client';
import { Signed } from '../people/session';
import { choose, serve, show, type Sent } from '../testing/screen';
import { GuidePage } from '../frame/GuidePage';
import { StandardPage } from './StandardPage';
import { StandardsPage } from './StandardsPage';

const rules =
    '{"name":"harbor rules","suffixes":{"low":["_low"],"high":["_high"]},"pairing":"names","mapSize":2048,"pages":null,"triangleBudget":null,"texelDensity":null,"greenChannel":"+Y","rays":{"direction":"smooth","length":"cage","backFaces":false,"count":65536,"setsKeptApart":true},"reach":{},"checks":{}}';
const page: PageData = {
    id: 1,
    name: 'harbor rules',
    version: 2,
    changedBy: 'Ines Falk',
    changedAt: '2026-11-29T08:00:00+00:00',
    rules,
    assetCount: 2,
    versions: [
        { version: 2, name: 'harbor rules', changedBy: 'Ines Falk', changedAt: '2026-11-29T08:00:00+00:00', reason: 'the new engine', rules },
        { version: 1, name: 'harbor rules', changedBy: 'Ines Falk', changedAt: '2026-11-28T08:00:00+00:00', reason: null, rules: rules.replace('2048', '1024') },
    ],
    assets: [
        { id: 4, name: 'Mooring winch', verdict: 'ready', outdated: false },
        { id: 5, name: 'Tide gauge', verdict: 'blocked', outdated: true },
    ],
};
const row = { id: 1, name: 'harbor rules', version: 2, assets: 2, changedBy: 'Ines Falk', changedAt: '2026-11-29T08:00:00+00:00', first: true, rules };
const checks: CheckLimits[] = [
    { code: 'uv-use', title: 'Little of the page used', station: 'surface', severity: 'note', limit: 0.55, caution: null, unit: 'share', limitWords: '55 %' },
    { code: 'ray-miss', title: 'Rays that meet nothing', station: 'clearance', severity: 'blocker', limit: 0.005, caution: 0.0005, unit: 'share', limitWords: '0.5 %' },
    {
        code: 'uv-padding',
        title: 'UV islands too near to each other',
        station: 'surface',
        severity: 'caution',
        limit: null,
        caution: null,
        unit: 'px',
        limitWords: 'map size / 256',
    },
];
const effect: Effect = {
    assets: 2,
    foretold: 1,
    judged: 1,
    unknown: 1,
    changed: 1,
    nowBlocked: 1,
    nowReady: 0,
    waiversIdle: 0,
    waiversDied: 1,
    codes: [{ code: 'uv-use', blockers: 3, cautions: 0, notes: -3 }],
    rows: [{ assetId: 4, deliveryId: 9, name: 'Mooring winch', wasReady: true, isReady: false, codes: [{ code: 'uv-use', blockers: 3, cautions: 0, notes: -3 }] }],
    unknownChecks: ['Rays that meet nothing'],
    next: null,
};
const me: Me = { id: 2, name: 'Tomas Reed', email: 't@signal.example', role: 'technical-artist', may: ['view', 'mend', 'decide'], isDemo: false, sentBack: 0, letters: 0 };
const props = { mode: 'light' as const, setMode: () => undefined };

const at = (who: Me, answers: Record<string, object | ((sent: Sent) => object)> = {}) => {
    const sent = serve({ '/api/standards/1': page, '/api/standards': [row], '/api/checks': checks, '/api/standards/1/effect': effect, ...answers });
    const shown = show(
        <Signed session={{ me: who, crew: [], isFresh: false }} out={null}>
            <StandardPage {...props} />
        </Signed>,
        '/standards/1',
        '/standards/:standardId',
    );
    return { ...shown, sent };
};

describe('a standard', () => {
    it('says that there is none, and leads to those that are', async () => {
        const { findByRole, getByText, getByRole } = at(me, {
            '/api/standards/1': () => Response.json({ message: 'There is no such standard; it may have been deleted.' }, { status: 404 }),
        });
        await findByRole('heading', { name: 'This standard cannot be shown' });
        expect(getByText('There is no such standard; it may have been deleted.')).toBeDefined();
        expect(getByRole('link', { name: 'All standards' }).getAttribute('href')).toBe('/standards');
    });

    it('says what a change would do before it is saved, and is saved as a version with its reason', async () => {
        const { findByRole, getByRole, findByText, user, sent } = at(me, { '/api/standards/1': (one) => (one.method === 'PUT' ? { version: 3, rechecked: 2 } : page) });
        await findByRole('heading', { name: 'Version 2, in force for 2 assets' });
        expect(getByRole('button', { name: 'Save as version 3' })).toHaveProperty('disabled', true);
        await user.type(getByRole('textbox', { name: 'limit of uv-use' }), '60');
        await findByText('3 more blockers, 3 fewer notes on 1 asset, 1 waiver dies', undefined, { timeout: 5000 });
        await findByText(/1 asset that is ready would be blocked/);
        await findByText(/1 check needs new measures on 1 asset/);
        expect(getByRole('link', { name: 'Mooring winch' }).getAttribute('href')).toBe('/assets/4/deliveries/9/hand-off');
        const asked = sent.find((one) => one.path.endsWith('/effect'))?.body as { rules: string; after: number };
        expect([(JSON.parse(asked.rules) as { checks: object }).checks, asked.after]).toEqual([{ 'uv-use': { limit: 0.6 } }, 0]);
        await user.type(getByRole('textbox', { name: 'what it is changed for' }), 'fuller pages');
        await user.click(getByRole('button', { name: 'Save as version 3' }));
        await findByText('Saved as version 3; 2 assets are checked again');
        expect(sent.find((one) => one.method === 'PUT')?.body).toMatchObject({ version: 2, reason: 'fuller pages', recheck: true });
    });

    it('keeps what is changed while somebody else saves, and puts it on top only when asked', async () => {
        let now = page;
        const theirs = { ...page, version: 3, rules: rules.replace('2048', '4096') };
        const { findByRole, getByRole, findByText, user, sent } = at(me, {
            '/api/standards/1': (one) => {
                if (one.method !== 'PUT') {
                    return now;
                }
                const { version } = one.body as { version: number };
                now = theirs;
                return version === 3
                    ? { version: 4, rechecked: 0 }
                    : Response.json({ message: '', changes: [{ who: 'Ines Falk', when: '2026-11-30T08:00:00+00:00', words: 'saved version 3' }], version: 3 }, { status: 409 });
            },
        });
        await findByRole('heading', { name: 'Version 2, in force for 2 assets' });
        await user.type(getByRole('textbox', { name: 'limit of uv-use' }), '60');
        await user.click(getByRole('button', { name: 'Save as version 3' }));
        const dialog = await findByRole('dialog', { name: 'Somebody changed this after you loaded it' });
        expect(dialog.textContent).toContain('Ines Falk saved version 3');
        await user.click(getByRole('button', { name: 'Keep theirs for now' }));
        // Version 3 is shown by then, and the change stands on it.
        const save = await findByRole('button', { name: 'Save as version 4' });
        expect(getByRole('textbox', { name: 'limit of uv-use' })).toHaveProperty('value', '60');
        await user.click(save);
        await user.click(await findByRole('button', { name: 'Save mine over theirs' }));
        await findByText('Saved as version 4');
        expect(sent.filter((one) => one.method === 'PUT').map((one) => (one.body as { version: number }).version)).toEqual([2, 2, 3]);
    });

    it('goes on asking until every asset is told', async () => {
        let asked = 0;
        const { findByRole, getByRole, findByText, user } = at(me, {
            '/api/standards/1/effect': () => ({
                ...effect,
                rows: [],
                codes: [],
                changed: 0,
                waiversDied: 0,
                unknownChecks: [],
                assets: asked === 0 ? 2 : 0,
                foretold: 0,
                judged: 1,
                next: asked++ === 0 ? 4 : null,
            }),
        });
        await findByRole('heading', { name: /in force for/ });
        await user.clear(getByRole('textbox', { name: 'map size' }));
        await user.type(getByRole('textbox', { name: 'map size' }), '1024');
        await findByText('Told of 2 of 2 assets, from what was measured.', undefined, { timeout: 5000 });
        expect(asked).toBeGreaterThanOrEqual(2);
    });

    it('shows a value that is no number, and does not take it', async () => {
        const { findByRole, getByRole, user, sent } = at(me);
        const field = await findByRole('textbox', { name: 'limit of uv-padding' });
        expect(field.getAttribute('placeholder')).toBe('8');
        await user.type(field, 'wide');
        expect(field.getAttribute('aria-invalid')).toBe('true');
        expect(getByRole('button', { name: 'Save as version 3' })).toHaveProperty('disabled', true);
        expect(sent.some((one) => one.path.endsWith('/effect'))).toBe(false);
    });

    it('is learned from ticked assets, each limit with the asset that sets it', async () => {
        const learned = {
            rules: rules.replace('"checks":{}', '"checks":{"uv-use":{"limit":0.4}}'),
            limits: [{ code: 'uv-use', title: 'Little of the page used', of: 'limit', was: 0.55, limit: 0.4, value: 0.402, unit: 'share', asset: 'Mooring winch', others: 1 }],
            left: [{ asset: 'Tide gauge', words: ['name-case: Name in another letter case'] }],
            unknown: [],
        };
        const { findByRole, getByRole, findByText, user, sent } = at(me, { '/api/standards/1/learn': learned });
        await user.click(await findByRole('tab', { name: 'Learn' }));
        await user.click(getByRole('checkbox', { name: /Mooring winch/ }));
        await user.click(getByRole('button', { name: 'Propose limits from 1 asset' }));
        await findByText('1 limit to move');
        expect(getByRole('status', { name: 'proposed limits' }).textContent).toMatch(/uv-use55\s%40\s%Mooring winch and 1 more/);
        await findByText(/no limit mends name-case/);
        expect(sent.find((one) => one.path.endsWith('/learn'))?.body).toEqual({ assets: [4] });
        await user.click(getByRole('button', { name: 'Take these limits' }));
        await findByRole('heading', { name: 'Changed, not saved' });
        expect(getByRole('textbox', { name: 'limit of uv-use' })).toHaveProperty('value', '40');
    });

    it('is compared with an earlier version, and an asset is held to another one', async () => {
        const { findByRole, getByRole, findByText, user, sent } = at(me, { '/api/standards': [row, { ...row, id: 2, name: 'quay rules', first: false, assets: 0 }] });
        await user.click(await findByRole('tab', { name: 'Compare' }));
        await choose(user, 'compare with', /version 1/);
        await findByText('mapSize');
        expect(getByRole('region', { name: 'Compare' }).textContent).toMatch(/mapSize20481024/);
        await user.click(getByRole('tab', { name: 'Assets' }));
        await findByText(/blocked, by an earlier version/);
        await choose(user, 'standard of Tide gauge', 'quay rules');
        await expect.poll(() => sent.find((one) => one.path === '/api/assets/5/standard')?.body).toEqual({ standard: 2 });
    });

    it('is looked at, and not changed, by an artist', async () => {
        const { findByText, getByRole, queryByRole } = at({ ...me, role: 'artist', may: ['view', 'mend'] });
        await findByText(/A technical artist changes standards/);
        expect(getByRole('textbox', { name: 'map size' })).toHaveProperty('disabled', true);
        expect(queryByRole('button', { name: 'Copy' })).toBeNull();
        expect(getByRole('link', { name: 'Export' }).getAttribute('download')).toBe('harbor rules.json');
    });
});

describe('the standards', () => {
    it('are listed, made, and imported under a name of their own', async () => {
        const sent = serve({ '/api/standards': (one: Sent) => (one.method === 'POST' ? { id: 7 } : [row]) });
        const { findByRole, getByLabelText, findByText, user, where } = show(
            <Signed session={{ me, crew: [], isFresh: false }} out={null}>
                <StandardsPage {...props} />
            </Signed>,
            '/standards',
            '/standards',
        );
        await findByRole('heading', { name: '1 standard; 2 assets are held to it' });
        await findByText('_low / _high, 2048 px, sets kept apart, limits as built in');
        await user.upload(getByLabelText('standard file'), new File(['{"name":"harbor rules","mapSize":512}'], 'studio.json', { type: 'application/json' }));
        await expect.poll(() => sent.find((one) => one.method === 'POST')?.body).toEqual({ rules: '{"name":"harbor rules 2","mapSize":512}', reason: 'imported from studio.json' });
        await expect.poll(() => where()).toBe('/standards/7');
    });

    it('say what is wrong with a file that is none', async () => {
        const sent = serve({ '/api/standards': [row] });
        const { findByRole, getByLabelText, user } = show(
            <Signed session={{ me, crew: [], isFresh: false }} out={null}>
                <StandardsPage {...props} />
            </Signed>,
            '/standards',
            '/standards',
        );
        await findByRole('heading', { name: /1 standard/ });
        await user.upload(getByLabelText('standard file'), new File(['{'], 'broken.json', { type: 'application/json' }));
        expect((await findByRole('alert')).textContent).toMatch(/^broken.json is no JSON: /);
        expect(sent.some((one) => one.method === 'POST')).toBe(false);
    });
});

describe('the guide', () => {
    it('shows a page, and its links stay in the application', async () => {
        serve({
            '/api/guide': [{ page: 'artist', title: "An artist's walk" }],
            '/api/guide/uv-use': { page: 'uv-use', title: 'uv-use', html: '', isCheck: true },
            '/api/guide/artist': { page: 'artist', title: "An artist's walk", html: '<p>See <a href="/guide/uv-use">uv-use</a>.</p>', isCheck: false },
        });
        const { findByRole, user, where } = show(
            <Signed session={{ me, crew: [], isFresh: false }} out={null}>
                <GuidePage {...props} />
            </Signed>,
            '/guide/artist',
            '/guide/:page',
        );
        await findByRole('heading', { level: 1, name: "An artist's walk" });
        await user.click(await findByRole('link', { name: 'uv-use' }));
        expect(where()).toBe('/guide/uv-use');
    });
});
