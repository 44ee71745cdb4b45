// @vitest-environment jsdom
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { Rows } from '../frame/Rows';
import { SuffixOffer } from '../intake/SuffixOffer';
import { choose, gauge, serve, show } from '../testing/screen';
import { Name } from './Name';
import { Tools, type Tool } from './Tools';

/** The tools with what they ask for beside them. */
function Bench({ count, onTake }: { count: number; onTake: () => void }) {
    const [tool, setTool] = useState<Tool | null>(null);
    return (
        <>
            <Tools tool={tool} onTool={setTool} onTake={onTake} count={count} disabled={false} />
            <i data-testid="asked">{JSON.stringify(tool)}</i>
        </>
    );
}

const bench = (count = 3) => {
    const onTake = vi.fn<() => void>();
    const view = show(<Bench count={count} onTake={onTake} />);
    return { ...view, onTake, asked: (): unknown => JSON.parse(view.getByTestId('asked').textContent) };
};

describe('the tools of the rename plan', () => {
    it('ask for nothing while a field that they need is empty', async () => {
        const { getByRole, getByLabelText, user, asked } = bench();
        await user.click(getByRole('button', { name: 'Find and replace' }));
        expect(asked()).toBeNull();
        await user.type(getByLabelText('find'), 'a');
        expect(asked()).toEqual({ kind: 'replace', find: 'a', replace: '', role: null });
        await choose(user, 'which parts', 'high parts');
        expect(asked()).toMatchObject({ role: 'high' });
    });

    it('add, change and take off a suffix', async () => {
        const { getByRole, getByLabelText, queryByLabelText, user, asked } = bench();
        await user.click(getByRole('button', { name: 'Suffix' }));
        expect(asked()).toEqual({ kind: 'add-suffix', find: '', role: null });
        await choose(user, 'what to do', 'change');
        expect(asked()).toBeNull();
        await user.type(getByLabelText('suffix'), '_hp');
        await user.type(getByLabelText('to'), '_high');
        expect(asked()).toEqual({ kind: 'change-suffix', find: '_hp', replace: '_high', role: null });
        await choose(user, 'what to do', 'take off');
        expect(asked()).toEqual({ kind: 'change-suffix', find: '_hp', replace: '', role: null });
        expect(queryByLabelText('to')).toBeNull();
    });

    it('number, change letter case, follow places, and copy names', async () => {
        const { getByRole, getByLabelText, user, asked } = bench();
        await user.click(getByRole('button', { name: 'Number' }));
        await user.type(getByLabelText('pattern, such as link_###'), 'bolt_##');
        await user.clear(getByLabelText('first number'));
        await user.type(getByLabelText('first number'), '5');
        expect(asked()).toEqual({ kind: 'number', pattern: 'bolt_##', first: 5, find: '' });
        await user.click(getByRole('button', { name: 'Letter case' }));
        await choose(user, 'letter case', 'UPPER CASE');
        expect(asked()).toEqual({ kind: 'case', upper: true, role: null });
        await user.click(getByRole('button', { name: 'By place' }));
        expect(asked()).toEqual({ kind: 'follow', role: 'low' });
        await choose(user, 'who takes whose name', 'low parts take the name of the high part where they stand');
        expect(asked()).toEqual({ kind: 'follow', role: 'high' });
        await user.click(getByRole('button', { name: 'Copy names' }));
        await choose(user, 'which parts take names', 'cages');
        await choose(user, 'whose names', 'low parts');
        expect(asked()).toEqual({ kind: 'copy', role: 'low', to: 'cage' });
    });

    it('are taken only where they change something, and close', async () => {
        const nothing = bench(0);
        await nothing.user.click(nothing.getByRole('button', { name: 'Letter case' }));
        expect(nothing.getByRole('status').textContent).toBe('changes nothing');
        expect(nothing.getByRole('button', { name: 'Add to plan' })).toHaveProperty('disabled', true);
        nothing.unmount();
        const { getByRole, user, asked, onTake, queryByRole } = bench(2);
        await user.click(getByRole('button', { name: 'Letter case' }));
        await user.click(getByRole('button', { name: 'Add to plan' }));
        expect(onTake).toHaveBeenCalledOnce();
        expect([asked(), queryByRole('button', { name: 'Add to plan' })]).toEqual([null, null]);
        await user.click(getByRole('button', { name: 'Suffix' }));
        await user.click(getByRole('button', { name: 'Close' }));
        expect(asked()).toBeNull();
    });
});

describe('a name', () => {
    it('marks the letters that differ from the one that is wanted', () => {
        const { container } = show(<Name name="flaot_low" suffix="_low" wanted="float_low" role="low" />);
        expect(container.textContent).toContain('flaot_low');
        expect([...container.querySelectorAll('mark, .differs, b')].map((one) => one.textContent).join('')).toContain('ao');
    });
});

describe('a list of any length', () => {
    it('is walked by arrows, Page, Home and End', async () => {
        const moved = vi.fn<(index: number) => void>();
        const { getByRole, user } = show(
            <Rows
                count={2000}
                current={5}
                onMove={moved}
                label="rows"
                render={(index, place) => <div key={index} style={place} role="option" aria-selected={index === 5}>{`row ${index}`}</div>}
            />,
        );
        getByRole('listbox', { name: 'rows' }).focus();
        for (const [key, to] of [
            ['{ArrowDown}', 6],
            ['{ArrowUp}', 4],
            ['{Home}', 0],
            ['{End}', 1999],
        ] as const) {
            await user.keyboard(key);
            expect(moved).toHaveBeenLastCalledWith(to);
        }
        await user.keyboard('{PageDown}');
        expect(moved.mock.lastCall?.[0]).toBeGreaterThan(10);
    });

    it('draws only what is seen of it', () => {
        const { container } = show(<Rows count={2000} current={-1} onMove={() => undefined} label="rows" render={(index, place) => <i key={index} style={place} />} />);
        expect(container.querySelectorAll('i').length).toBeLessThan(100);
    });
});

describe('what is offered and what is not there', () => {
    it('takes the suffixes that were found', async () => {
        const sent = serve();
        const guess = { low: '_lp', high: '_hp', id: '_col', pairs: 8, bases: 9, ofFiles: false } as unknown as ReturnType<typeof gauge>['suffixGuess'];
        const { getByRole, user } = show(<SuffixOffer delivery={gauge({ suffixGuess: guess })} />);
        expect(getByRole('note').textContent).toContain('The parts end in _lp and _hp, ID copies in _col. With these suffixes 8 of 9 names would pair.');
        await user.click(getByRole('button', { name: 'Use these suffixes' }));
        await expect.poll(() => sent.some((one) => one.path === '/api/deliveries/3/suffixes')).toBe(true);
    });
});
