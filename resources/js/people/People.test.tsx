// @vitest-environment jsdom
import { act } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Me, Session } from '../api/client';
import { serve, show } from '../testing/screen';
import { AccountPage } from './AccountPage';
import { InboxPage } from './InboxPage';
import { PeoplePage } from './PeoplePage';
import { PasswordPage } from './PasswordPage';
import { Signed } from './session';
import { SignIn } from './SignIn';

const page = { mode: 'light' as const, setMode: () => undefined };
const me: Me = { id: 2, name: 'Tomas Reed', email: 'tomas.reed@signal.example', role: 'technical-artist', may: ['view', 'mend', 'decide'], isDemo: false, sentBack: 0, letters: 0 };
const crew: Session['crew'] = [
    { id: 1, name: 'Ines Falk', role: 'lead' },
    { id: 3, name: 'Mara Lind', role: 'artist' },
];

describe('the way in', () => {
    it('asks for e-mail and password, and says what the server says', async () => {
        const sent = serve({ '/api/session': Response.json({ message: 'e-mail and password do not fit' }, { status: 422 }) });
        const { getByLabelText, getByRole, findByText, user } = show(<SignIn session={{ me: null, crew: [], isFresh: false }} />, '/', '/');
        const button = getByRole('button', { name: 'Sign in' });
        expect(button).toHaveProperty('disabled', true);
        await user.type(getByLabelText('E-mail'), 'tomas@harbor.example');
        await user.type(getByLabelText('Password'), 'seven gulls');
        await user.click(button);
        await findByText('e-mail and password do not fit');
        expect(sent.at(-1)).toMatchObject({ method: 'POST', path: '/api/session', body: { email: 'tomas@harbor.example', password: 'seven gulls' } });
    });

    it('sends a link where a password is forgotten, and tells nobody whether there is such an account', async () => {
        const sent = serve();
        const { getByLabelText, getByRole, findByText, user } = show(<SignIn session={{ me: null, crew: [], isFresh: false }} />, '/', '/');
        await user.click(getByRole('button', { name: 'Forgot your password?' }));
        await user.type(getByLabelText('E-mail'), 'tomas@harbor.example');
        await user.click(getByRole('button', { name: 'Send me a link' }));
        await findByText(/If there is an account with this e-mail/);
        expect(sent.at(-1)?.path).toBe('/api/password/forgot');
    });

    it('tells of the link that the first start printed', () => {
        serve();
        const { getByRole, queryByLabelText } = show(<SignIn session={{ me: null, crew: [], isFresh: true }} />, '/', '/');
        expect(getByRole('heading', { name: 'Nobody has signed up yet' })).toBeDefined();
        expect(queryByLabelText('E-mail')).toBeNull();
    });

    it('brings the lead of the demo in by themselves, and nobody after somebody signed out', async () => {
        sessionStorage.clear();
        const sent = serve({ '/api/session/demo': { me, crew, isFresh: false } });
        const first = show(
            <Signed session={{ me: null, crew, isFresh: false }} out={<p>out</p>}>
                {<p>in</p>}
            </Signed>,
            '/',
            '/',
        );
        await expect.poll(() => sent.at(-1)?.body).toEqual({ person: 1 });
        expect(first.queryByText('out')).toBeNull();
        first.unmount();
        sessionStorage.setItem('anvil.signed-out', '1');
        const again = serve();
        const { getByText } = show(
            <Signed session={{ me: null, crew, isFresh: false }} out={<p>out</p>}>
                {<p>in</p>}
            </Signed>,
            '/',
            '/',
        );
        expect(getByText('out')).toBeDefined();
        expect(again).toEqual([]);
        sessionStorage.clear();
    });

    it('shows the application to who is signed in', () => {
        serve();
        const { getByText } = show(
            <Signed session={{ me, crew: [], isFresh: false }} out={<p>out</p>}>
                {<p>in</p>}
            </Signed>,
            '/',
            '/',
        );
        expect(getByText('in')).toBeDefined();
    });
});

describe('a link that sets a password', () => {
    const open = (hash: string) => {
        window.history.replaceState(null, '', `/password${hash}`);
        return show(<PasswordPage />, '/password', '/password');
    };

    it('takes the first person name, e-mail and password, and leaves no trace of itself', async () => {
        const sent = serve({ '/api/password': { me, crew: [], isFresh: false } });
        const { getByLabelText, getByRole, user, where } = open('#email=owner%40localhost&token=abc&invite=1&name=Owner');
        expect(window.location.hash).toBe('');
        const button = getByRole('button', { name: 'Set password and sign in' });
        await user.type(getByLabelText('New password'), 'seven gulls over the mole');
        expect(button).toHaveProperty('disabled', true);
        await user.type(getByLabelText('Your name'), 'Ines Falk');
        await user.type(getByLabelText('Your e-mail'), 'ines@harbor.example');
        await user.click(button);
        await expect.poll(() => where()).toBe('/');
        expect(sent.find((one) => one.path === '/api/password')?.body).toEqual({
            email: 'owner@localhost',
            token: 'abc',
            invite: true,
            password: 'seven gulls over the mole',
            name: 'Ines Falk',
            newEmail: 'ines@harbor.example',
        });
    });

    it('asks only for the password of somebody who forgot theirs', async () => {
        const sent = serve({ '/api/password': Response.json({ message: 'this link was used already, or is too old; ask for another' }, { status: 422 }) });
        const { getByLabelText, getByRole, findByText, queryByLabelText, user } = open('#email=mara%40harbor.example&token=abc');
        expect(queryByLabelText('Your name')).toBeNull();
        await user.type(getByLabelText('New password'), 'seven gulls over the mole');
        await user.click(getByRole('button', { name: 'Set password and sign in' }));
        await findByText(/used already/);
        expect(sent.at(-1)?.body).toEqual({ email: 'mara@harbor.example', token: 'abc', invite: false, password: 'seven gulls over the mole', endTokens: true });
        // Scripts that are to go on keep their tokens.
        await user.click(getByLabelText(/^End my tokens too/));
        await user.click(getByRole('button', { name: 'Set password and sign in' }));
        await expect.poll(() => (sent.at(-1)?.body as { endTokens?: boolean }).endTokens).toBe(false);
    });

    it('says when it was cut off', () => {
        serve();
        expect(open('').getByRole('heading', { name: 'This link is not whole' })).toBeDefined();
    });
});

describe('the account', () => {
    it('shows a token once, and revokes it', async () => {
        const token = { id: 7, name: 'build farm', scopes: ['read'], madeAt: '2026-11-29T06:00:00+00:00', usedAt: null, until: null };
        let tokens: object[] = [];
        const sent = serve({
            '/api/me/tokens': (one: { method: string }) => {
                if (one.method === 'POST') {
                    tokens = [token];
                    return { token: '7|anvil_secret' };
                }
                return tokens;
            },
        });
        const { getByLabelText, getByRole, findByText, findByRole, user } = show(<AccountPage {...page} />, '/account', '/account');
        await user.type(getByLabelText('Name of the new token'), 'build farm');
        await user.click(getByLabelText('hand files in and write mended ones'));
        await user.click(getByRole('button', { name: 'Make token' }));
        await findByText('7|anvil_secret');
        expect(sent.find((one) => one.method === 'POST')?.body).toEqual({ name: 'build farm', scopes: ['read', 'hand-in'], days: 365 });
        await user.click(await findByRole('button', { name: 'Revoke build farm' }));
        await expect.poll(() => sent.some((one) => one.method === 'DELETE' && one.path === '/api/me/tokens/7')).toBe(true);
    });

    it('changes a password with the present one', async () => {
        const sent = serve({ '/api/me/tokens': [], '/api/me/password': Response.json({ message: 'that is not your present password' }, { status: 422 }) });
        const { getByLabelText, getByRole, findByText, user } = show(<AccountPage {...page} />, '/account', '/account');
        await user.type(getByLabelText('Present password'), 'one');
        await user.type(getByLabelText('New password'), 'two');
        await user.click(getByRole('button', { name: 'Change password' }));
        await findByText('that is not your present password');
        expect(sent.find((one) => one.path === '/api/me/password')?.body).toEqual({ current: 'one', password: 'two', endTokens: false });
    });

    it('ends other sessions, and tokens unless they are to stay', async () => {
        const sent = serve({ '/api/me/tokens': [] });
        const { getAllByLabelText, getByRole, findByText, user } = show(<AccountPage {...page} />, '/account', '/account');
        const everywhere = getByRole('button', { name: 'Sign out everywhere else' });
        await user.click(everywhere);
        await findByText('All other sessions and your tokens are ended');
        await user.click(getAllByLabelText('End my tokens too')[0] ?? document.body);
        await user.click(everywhere);
        await findByText('All other sessions are ended');
        expect(sent.filter((one) => one.method === 'DELETE').map((one) => one.body)).toEqual([{ endTokens: true }, { endTokens: false }]);
    });
});

describe('the people', () => {
    const people = [
        { id: 1, name: 'Ines Falk', email: 'ines@harbor.example', role: 'lead', state: 'active', signedInAt: '2026-11-29T06:00:00+00:00' },
        { id: 2, name: 'Tomas Reed', email: 'tomas@harbor.example', role: 'technical-artist', state: 'locked out', signedInAt: null },
        { id: 3, name: 'Mara Lind', email: 'mara@harbor.example', role: 'artist', state: 'invited', signedInAt: null },
    ];

    it('invites, lets in and sends a link again', async () => {
        const sent = serve({ '/api/people': (one: { method: string }) => (one.method === 'POST' ? { id: 4, sent: true } : people) });
        const { findByRole, getByRole, getByLabelText, findByText, user } = show(<PeoplePage {...page} />, '/people', '/people');
        await findByRole('heading', { name: '1 people work here' });
        await user.click(getByRole('button', { name: 'Let in Tomas Reed' }));
        await expect.poll(() => sent.find((one) => one.method === 'PUT')).toMatchObject({ path: '/api/people/2', body: { role: 'technical-artist', lockedOut: false } });
        await user.click(getByRole('button', { name: 'Send the link to Mara Lind again' }));
        await findByText('The link is sent again');
        await user.type(getByLabelText('Name'), 'Olga Brandt');
        await user.type(getByLabelText('E-mail'), 'olga@harbor.example');
        await user.click(getByRole('button', { name: 'Invite' }));
        await findByText(/A link is on its way to olga@harbor.example/);
        expect(sent.find((one) => one.path === '/api/people' && one.method === 'POST')?.body).toEqual({ name: 'Olga Brandt', email: 'olga@harbor.example', role: 'artist' });
    });
});

describe('the inbox', () => {
    it('opens a mail, and follows only links of its own', async () => {
        const text = `Hello,\n\n${window.location.origin}/fix-lists/3\n\nhttp://evil.example/x <img src=x>`;
        const sent = serve({ '/api/me/letters': [{ id: 5, to: 'mara@harbor.example', subject: 'Winch: 2 to mend', text, at: '2026-11-29T06:00:00+00:00', isRead: false }] });
        const { findByRole, findAllByRole, getByText, user } = show(<InboxPage {...page} />, '/inbox', '/inbox');
        await act(async () => user.click(await findByRole('button', { name: /Winch: 2 to mend/ })));
        const links = (await findAllByRole('link')).map((one) => one.getAttribute('href'));
        expect(links).toContain('/fix-lists/3');
        expect(links).not.toContain('http://evil.example/x');
        expect(getByText(/evil.example/).textContent).toContain('<img src=x>');
        expect(sent.some((one) => one.path === '/api/me/letters/5/read')).toBe(true);
    });

    it('says when there is no mail', async () => {
        serve({ '/api/me/letters': [] });
        const { findByRole } = show(<InboxPage {...page} />, '/inbox', '/inbox');
        await findByRole('heading', { name: 'No mail' });
    });
});
