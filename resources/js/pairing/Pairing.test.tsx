// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { gauge, serve, show, winch } from '../testing/screen';
import { Pairing } from './Pairing';

const plan = (sent: { body: unknown }) => ({ plan: (sent.body as { renames: unknown[] }).renames, clashes: [], unsafe: [], pairedBefore: 9, pairedAfter: 11, basesAfter: 12 });

describe('the ledger', () => {
    it('says how many tie, what breaks, and who has no partner', () => {
        serve();
        const { getByRole, getByText, getAllByText } = show(<Pairing delivery={gauge()} />);
        expect(getByRole('heading', { level: 1 }).textContent).toBe('9 of 12 parts tie exactly');
        expect(getByText(/2 ties break on a name/).textContent).toContain('1 part has no partner');
        expect(getAllByText('Bake on itself')).toHaveLength(1);
        expect(getByRole('button', { name: 'all 11' })).toBeDefined();
    });

    it('says that all hold where they do', () => {
        serve();
        const delivery = winch();
        const { getByRole } = show(<Pairing delivery={delivery} />, '/assets/1/deliveries/1/pairing');
        expect(getByRole('heading', { level: 1 }).textContent).toBe(`All ${delivery.ties.length} ties hold exactly`);
        expect(getByRole('button', { name: 'Write mended files' })).toHaveProperty('disabled', true);
    });

    it('begins with the renames that mend, and tells what they would give', async () => {
        const sent = serve({ '/api/deliveries/3/renames': plan });
        const { findByText, getByText } = show(<Pairing delivery={gauge()} />);
        expect(getByText('Rename plan · 2 names')).toBeDefined();
        await findByText('9 pair now, 11 of 12 then');
        expect((sent.find((one) => one.path.endsWith('/renames'))?.body as { renames: { to: string }[] }).renames.map((row) => row.to).sort()).toEqual([
            'dial_high',
            'needle_high',
        ]);
    });

    it('writes the plan as a delivery of its own and goes there', async () => {
        const sent = serve({ '/api/deliveries/3/renames': plan, '/api/deliveries/3/mend': { assetId: 3, deliveryId: 9 } });
        const { getByRole, user, findByText, where } = show(<Pairing delivery={gauge()} />);
        await findByText('9 pair now, 11 of 12 then');
        await user.click(getByRole('button', { name: 'Write mended files' }));
        await expect.poll(where).toBe('/assets/3/deliveries/9/pairing');
        expect(sent.find((one) => one.path.endsWith('/mend'))?.method).toBe('POST');
    });

    it('writes nothing while two parts would bear one name', async () => {
        serve({ '/api/deliveries/3/renames': (one: { body: unknown }) => ({ ...plan(one), clashes: ['two parts would be dial_high'] }) });
        const { getByRole, findByRole } = show(<Pairing delivery={gauge()} />);
        expect((await findByRole('alert')).textContent).toBe('two parts would be dial_high');
        expect(getByRole('button', { name: 'Write mended files' })).toHaveProperty('disabled', true);
    });

    it('leaves a name as it is', async () => {
        serve({ '/api/deliveries/3/renames': plan });
        const { getByRole, user, getByText } = show(<Pairing delivery={gauge()} />);
        await user.click(getByRole('button', { name: 'leave Dial_high as it is' }));
        expect(getByText('Rename plan · 1 name')).toBeDefined();
        await user.click(getByRole('button', { name: 'Empty' }));
        expect(getByText('Rename plan is empty')).toBeDefined();
    });

    it('finds parts, and says when none is called so', async () => {
        serve();
        const { getByLabelText, user, findByText } = show(<Pairing delivery={gauge()} />);
        await user.type(getByLabelText('find a part'), 'nothing like it');
        await findByText('No part is called anything like "nothing like it".');
    });

    it('bakes a lone part on itself when told so', async () => {
        const sent = serve();
        const { getByRole, user } = show(<Pairing delivery={gauge()} />);
        await user.click(getByRole('button', { name: 'Bake on itself' }));
        await expect.poll(() => sent.find((one) => one.path.endsWith('/choices'))?.body).toEqual({ base: 'bracket', choice: 'self' });
    });

    it('asks a tool before it is taken into the plan', async () => {
        const sent = serve({
            '/api/deliveries/3/renames': (one: { body: unknown }) => {
                const { renames, tool } = one.body as { renames: object[]; tool: object | null };
                return {
                    plan: tool ? [...renames, { fileId: 10, from: 'pane_low', to: 'glass_low', reason: 'replace' }] : renames,
                    clashes: [],
                    unsafe: [],
                    pairedBefore: 9,
                    pairedAfter: 9,
                    basesAfter: 12,
                };
            },
        });
        const { getByRole, getByLabelText, user, findByText, getByText } = show(<Pairing delivery={gauge()} />);
        await user.click(getByRole('button', { name: 'Find and replace' }));
        await user.type(getByLabelText('find'), 'pane');
        await user.type(getByLabelText('replace by'), 'glass');
        await findByText('1 more');
        expect(sent.at(-1)?.body).toMatchObject({ tool: { kind: 'replace', find: 'pane', replace: 'glass', role: null } });
        await user.click(getByRole('button', { name: 'Add to plan' }));
        expect(getByText('Rename plan · 3 names')).toBeDefined();
    });
});
