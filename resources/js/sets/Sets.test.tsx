// @vitest-environment jsdom
import { fireEvent } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { At, BakeSet } from '../api/client';
import { gauge, lantern, serve, show, winch } from '../testing/screen';
import { Sets } from './Sets';

const at = '/assets/2/deliveries/2/sets';
const page = (delivery: At<'sets'> = lantern()) => show(<Sets delivery={delivery} />, at);

/** What a drag carries from one place to another. */
function carried(): DataTransfer {
    let text = '';
    return { setData: (_: string, value: string) => (text = value), getData: () => text } as unknown as DataTransfer;
}

describe('the board of sets', () => {
    it('moves what is dragged, and all that is held with it', async () => {
        serve();
        const { getByLabelText, user } = page();
        const lane = (name: string): Element => [...document.querySelectorAll('.lane')].find((one) => one.querySelector('.lane-head .mono')?.textContent === name) ?? document.body;
        const chips = (name: string): string[] => [...lane(name).querySelectorAll('.MuiChip-root')].map((chip) => chip.textContent);
        await user.type(getByLabelText('pattern of parts to select'), 'post_*{Enter}');
        const one = carried();
        const [held, ...others] = [...document.querySelectorAll('.MuiChip-root')].filter((chip) => chip.getAttribute('aria-pressed') === 'true');
        expect(others).toHaveLength(3);
        fireEvent.dragStart(held ?? document.body, { dataTransfer: one });
        fireEvent.drop(document.querySelectorAll('.lane')[0] ?? document.body, { dataTransfer: one });
        const first = document.querySelector('.lane-head .mono')?.textContent ?? '';
        expect(chips(first)).toEqual(expect.arrayContaining(['post_a', 'post_b', 'post_c', 'post_d']));
        expect([...document.querySelectorAll('.MuiChip-root')].every((chip) => chip.getAttribute('aria-pressed') === 'false')).toBe(true);
    });

    it('leaves out what is dragged there', () => {
        serve();
        const { getByText } = page();
        const one = carried();
        const chip = document.querySelector('.MuiChip-root');
        fireEvent.dragStart(chip ?? document.body, { dataTransfer: one });
        const out = getByText('left out').closest('.lane');
        expect(out?.textContent).toContain('nothing: every part is judged');
        fireEvent.drop(out ?? document.body, { dataTransfer: one });
        expect([...(out?.querySelectorAll('.MuiChip-root') ?? [])].map((each) => each.textContent)).toEqual([chip?.textContent]);
    });

    it('bakes a part on itself, takes a set off, and sends both', async () => {
        const sent = serve();
        const { getByRole, getAllByLabelText, user } = page();
        const base = document.querySelector('.MuiChip-root')?.textContent ?? '';
        await user.click(document.querySelector('.MuiChip-root') ?? document.body);
        await user.click(getByRole('button', { name: 'Bake on itself' }));
        expect(document.querySelector('.MuiChip-root')?.textContent).toBe(`${base} on itself`);
        await user.click(getAllByLabelText(/ comes off$/)[1] ?? document.body);
        await user.click(getByRole('button', { name: 'Apply, check again' }));
        await expect.poll(() => sent.find((one) => one.path === '/api/deliveries/2/board')?.body).toMatchObject({ bakedOnItself: [base], detachable: [expect.any(String)] });
    });

    it('renames with a double click, and leaves a name with Escape', async () => {
        serve();
        const { getByLabelText, user } = page();
        const head = (): HTMLElement => document.querySelector<HTMLElement>('.lane-head .mono') ?? document.body;
        const name = head().textContent;
        await user.dblClick(head());
        await user.keyboard('other{Escape}');
        expect(head().textContent).toBe(name);
        await user.dblClick(head());
        await user.clear(getByLabelText(`new name of the set ${name}`));
        await user.keyboard('signal{Enter}');
        expect(head().textContent).toBe('signal');
    });

    it('merges two sets and splits them again', async () => {
        serve();
        const { getAllByRole, getByRole, user } = page();
        const lanes = (): number => document.querySelectorAll('.lane').length;
        const before = lanes();
        await user.click(getAllByRole('combobox', { name: /^merge .* into$/ })[0] ?? document.body);
        await user.click(getAllByRole('option')[0] ?? document.body);
        expect(lanes()).toBe(before - 1);
        await user.click(getByRole('button', { name: 'Split' }));
        expect(lanes()).toBe(before);
        await user.click(getByRole('button', { name: 'Undo' }));
        expect(lanes()).toBe(before - 1);
    });

    it('offers the fewest sets that stay clean, one group or all', async () => {
        serve();
        const delivery = winch();
        const names = delivery.sets.map((set) => set.name);
        const groups = [names.slice(0, 3), names.slice(3, 5), ...names.slice(5).map((name) => [name])];
        const fewest = { groups, exact: false, conflicts: 2 } as unknown as At<'sets'>['fewest'];
        const { getByText, getByRole, user } = page({ ...delivery, fewest });
        expect(getByText(`${groups.length} sets would stay as clean as ${names.length}`)).toBeDefined();
        expect(getByText(/not proved to be the fewest/)).toBeDefined();
        await user.click(getByRole('button', { name: 'Take group 2' }));
        expect(document.querySelectorAll('.lane')).toHaveLength(names.length);
        await user.click(getByRole('button', { name: 'Take all' }));
        expect(document.querySelectorAll('.lane')).toHaveLength(groups.length + 1);
    });

    it('says who meets whom, picks a set from the matrix, and stands long rows of names on end', async () => {
        serve();
        const { getByRole, getAllByTitle, user, where } = page();
        const [one] = getAllByTitle(/first on .* of its seen low area/);
        await user.click(one ?? document.body);
        expect(where()).toMatch(/\?set=/);
        expect(getByRole('region', { name: 'bleed matrix' }).querySelector('table')?.className).toMatch(/^matrix/);
        const many: BakeSet[] = Array.from(
            { length: 30 },
            (_, i) => ({ ...(lantern().sets[0] as BakeSet), name: `s${i}`, bleeds: [{ other: `s${(i + 1) % 30}`, share: 0.01 }] }) as BakeSet,
        );
        const crowd = page(lantern({ sets: many }));
        expect(crowd.getByText('and 6 more sets in conflict')).toBeDefined();
        expect(crowd.container.querySelector('table')?.className).toBe('matrix many');
    });

    it('says that nothing is in the way where nothing is', async () => {
        serve();
        const quiet = gauge();
        const { getByText, getByRole, user } = page({ ...quiet, sets: quiet.sets.map((set) => ({ ...set, bleeds: [], shades: [] })) });
        expect(getByText("No set gets in another one's rays.")).toBeDefined();
        await user.click(getByRole('tab', { name: 'Who shades whom' }));
        expect(getByText('No set stands over another one.')).toBeDefined();
        await user.click(getByRole('radio', { name: 'all sets around it' }));
        expect(getByRole('button', { name: 'Apply, check again' })).toHaveProperty('disabled', false);
    });

    it('says in the words of the server why it was not taken', async () => {
        serve({ '/api/deliveries/2/board': () => Response.json({ message: 'the delivery is being checked; wait until it is done' }, { status: 409 }) });
        const { getByRole, findByRole, user } = page();
        await user.click(getByRole('button', { name: 'Group by material' }));
        await user.click(getByRole('button', { name: 'Apply, check again' }));
        expect((await findByRole('alert')).textContent).toBe('the delivery is being checked; wait until it is done');
    });
});
