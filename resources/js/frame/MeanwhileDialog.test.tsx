// @vitest-environment jsdom
import { fireEvent } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { At } from '../api/client';
import { Clearance } from '../clearance/Clearance';
import { Sets } from '../sets/Sets';
import { lantern, serve, show, winch, type Sent } from '../testing/screen';

const change = { who: 'Ines Holm', when: '2026-12-01T09:30:00+00:00', words: 'moved post_a from sets of their own to pier' };
const conflict = (version: number): Response =>
    Response.json({ message: `Ines Holm changed this after you loaded it: ${change.words}.`, changes: [change], version }, { status: 409 });

/** A screen whose delivery becomes another one at a click, as it does when somebody else changed it. */
function Later<D>({ first, between, then, draw }: { first: D; between?: D; then: D; draw: (delivery: D) => React.ReactNode }) {
    const [delivery, setDelivery] = useState(first);
    return (
        <>
            <button onClick={() => setDelivery(between ?? then)}>meanwhile</button>
            <button onClick={() => setDelivery(then)}>later</button>
            {draw(delivery)}
        </>
    );
}

const versions = (sent: Sent[], path: string): (string | null)[] => sent.filter((one) => one.method === 'POST' && one.path.endsWith(path)).map((one) => one.version);

describe('two people who decide at once', () => {
    const sets = (delivery: At<'sets'>) => <Sets delivery={delivery} />;
    const later: At<'sets'> = lantern({ version: 9, checkedAt: '2026-12-01T09:31:00+00:00' });

    it('are told of each other: who, what, and the own change goes on top when it is asked for', async () => {
        const sent = serve({ '/api/deliveries/2/board': (one) => (one.version === '9' ? new Response(null, { status: 204 }) : conflict(9)) });
        const { getByLabelText, getByRole, findByRole, queryByRole, findByText, user } = show(
            <Later first={lantern()} between={lantern({ version: 9, checkedAt: null, state: 'measuring', sets: [] })} then={later} draw={sets} />,
            '/assets/2/deliveries/2/sets',
        );
        await user.type(getByLabelText('pattern of parts to select'), 'post_*');
        await user.click(getByRole('button', { name: 'Select 4' }));
        await user.type(getByLabelText('set to move to'), 'posts');
        await user.click(getByRole('button', { name: 'Move' }));
        // What was moved stays, on what the other one did; also while that is checked, and no sets are there.
        await user.click(getByRole('button', { name: 'meanwhile' }));
        expect(getByRole('button', { name: 'posts' })).toBeDefined();
        await user.click(getByRole('button', { name: 'later' }));
        expect(getByRole('button', { name: 'posts' })).toBeDefined();
        await user.click(getByRole('button', { name: 'Apply, check again' }));
        const dialog = await findByRole('dialog', { name: 'Somebody changed this after you loaded it' });
        expect(dialog.textContent).toContain(`Ines Holm ${change.words}`);
        await user.click(getByRole('button', { name: 'Keep theirs for now' }));
        await findByText('Not saved: somebody else changed this. Save again to put yours over it.');
        expect(getByRole('button', { name: 'posts' })).toBeDefined();
        await user.click(getByRole('button', { name: 'Apply, check again' }));
        await user.click(await findByRole('button', { name: 'Save mine over theirs' }));
        await findByText('The sets are put together; they are checked again');
        expect(queryByRole('dialog')).toBeNull();
        // The version at which the draft began, not that of what is shown by now.
        expect(versions(sent, '/board')).toEqual(['4', '4', '9']);
    });

    it('are not asked again and again: who keeps closing it keeps the other', async () => {
        const sent = serve({ '/api/deliveries/2/board': () => conflict(9) });
        const { getByLabelText, getByRole, findByRole, findByText, user } = show(sets(lantern()), '/assets/2/deliveries/2/sets');
        await user.type(getByLabelText('pattern of parts to select'), 'post_*');
        await user.click(getByRole('button', { name: 'Select 4' }));
        await user.type(getByLabelText('set to move to'), 'posts');
        await user.click(getByRole('button', { name: 'Move' }));
        await user.click(getByRole('button', { name: 'Apply, check again' }));
        await findByRole('dialog', { name: 'Somebody changed this after you loaded it' });
        await user.keyboard('{Escape}');
        await findByText(/^Not saved/);
        expect(versions(sent, '/board')).toHaveLength(1);
    });

    it('lose no reach that they try while the other one’s is checked', async () => {
        const sent = serve();
        const drawn = (delivery: At<'clearance'>) => <Clearance delivery={delivery} />;
        const then = winch({ version: 6, checkedAt: '2026-12-01T09:31:00+00:00' });
        const { getByLabelText, getByRole, findByText, user } = show(<Later first={winch()} then={then} draw={drawn} />, '/assets/1/deliveries/1/clearance?set=drum');
        fireEvent.change(getByLabelText('reach inward of drum'), { target: { value: '0.03' } });
        fireEvent.change(getByLabelText('reach outward of drum'), { target: { value: '0.02' } });
        await user.click(getByRole('button', { name: 'later' }));
        expect(getByLabelText('reach outward of drum')).toHaveProperty('value', '0.02');
        expect(getByLabelText('reach inward of drum')).toHaveProperty('value', '0.03');
        await user.click(getByRole('button', { name: 'Keep' }));
        await findByText(/drum is baked at/);
        expect(sent.find((one) => one.path.endsWith('/reach'))).toMatchObject({ version: '4', body: { set: 'drum', out: 0.02, in: 0.03 } });
    });
});
