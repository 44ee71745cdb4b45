import Button from '@mui/material/Button';
import { useState } from 'react';
import type { components } from '../api/schema';

export type Tool = components['schemas']['RenameTool'];
type Kind = 'replace' | 'suffix' | 'number' | 'case' | 'place' | 'copy';

const kinds: [Kind, string][] = [
    ['replace', 'Find and replace'],
    ['suffix', 'Suffix'],
    ['number', 'Number'],
    ['case', 'Letter case'],
    ['place', 'By place'],
    ['copy', 'Copy names'],
];
const roles = [
    ['', 'all parts'],
    ['low', 'low parts'],
    ['high', 'high parts'],
    ['id', 'ID parts'],
    ['cage', 'cages'],
] as const;

interface Fields {
    kind: Kind;
    role: string;
    find: string;
    replace: string;
    pattern: string;
    first: number;
    upper: boolean;
    to: string;
    suffixAct: 'add' | 'change' | 'strip';
}

/** What is asked of the server; null while a field that it needs is empty. */
function toolOf(f: Fields): Tool | null {
    const role = f.role === '' ? null : (f.role as Tool['role']);
    switch (f.kind) {
        case 'replace':
            return f.find === '' ? null : { kind: 'replace', find: f.find, replace: f.replace, role };
        case 'suffix':
            return f.suffixAct === 'add'
                ? { kind: 'add-suffix', find: f.replace, role }
                : f.find === ''
                  ? null
                  : { kind: 'change-suffix', find: f.find, replace: f.suffixAct === 'strip' ? '' : f.replace, role };
        case 'number':
            return f.pattern === '' ? null : { kind: 'number', pattern: f.pattern, first: f.first, find: f.find };
        case 'case':
            return { kind: 'case', upper: f.upper, role };
        case 'place':
            return { kind: 'follow', role: f.to === 'low' ? 'high' : 'low' };
        case 'copy':
            return { kind: 'copy', role: f.role === '' ? 'high' : role, to: f.to === 'low' || f.to === f.role ? 'id' : (f.to as Tool['to']) };
    }
}

/** The tools of the rename plan. What one would do is shown in the plan before it is taken into it. */
export function Tools({ tool, onTool, onTake, count, disabled }: { tool: Tool | null; onTool: (tool: Tool | null) => void; onTake: () => void; count: number; disabled: boolean }) {
    const [fields, setFields] = useState<Fields | null>(null);
    const set = (change: Partial<Fields>): void => {
        const next = {
            ...(fields ?? { kind: 'replace', role: '', find: '', replace: '', pattern: '', first: 1, upper: false, to: 'high', suffixAct: 'add' }),
            ...change,
        };
        setFields(next);
        onTool(toolOf(next));
    };
    const close = (): void => {
        setFields(null);
        onTool(null);
    };
    const text = (key: 'find' | 'replace' | 'pattern', label: string, width = 110) => (
        <input className="mono" aria-label={label} placeholder={label} value={fields?.[key] ?? ''} style={{ width }} onChange={(event) => set({ [key]: event.target.value })} />
    );
    const choice = (key: 'role' | 'to', label: string, options: readonly (readonly [string, string])[]) => (
        <select aria-label={label} value={fields?.[key] ?? ''} onChange={(event) => set({ [key]: event.target.value })}>
            {options.map(([value, words]) => (
                <option key={value} value={value}>
                    {words}
                </option>
            ))}
        </select>
    );
    return (
        <>
            <div className="tools" role="group" aria-label="rename tools">
                {kinds.map(([kind, words]) => (
                    <button
                        type="button"
                        key={kind}
                        className="plain tool"
                        aria-expanded={fields?.kind === kind}
                        disabled={disabled}
                        onClick={() => (fields?.kind === kind ? close() : set({ kind, find: '', replace: '', pattern: '' }))}
                    >
                        {words}
                    </button>
                ))}
            </div>
            {fields && (
                <form
                    className="tool-form"
                    onSubmit={(event) => {
                        event.preventDefault();
                        if (count > 0) {
                            onTake();
                            close();
                        }
                    }}
                >
                    {fields.kind === 'replace' && (
                        <>
                            {text('find', 'find')} {text('replace', 'replace by')} in {choice('role', 'which parts', roles)}
                        </>
                    )}
                    {fields.kind === 'suffix' && (
                        <>
                            <select aria-label="what to do" value={fields.suffixAct} onChange={(event) => set({ suffixAct: event.target.value as Fields['suffixAct'] })}>
                                <option value="add">add what is missing</option>
                                <option value="change">change</option>
                                <option value="strip">take off</option>
                            </select>
                            {fields.suffixAct !== 'add' && text('find', 'suffix', 90)}
                            {fields.suffixAct === 'change' && text('replace', 'to', 90)}
                            {fields.suffixAct === 'add' && text('replace', "the role's own, or", 130)}{' '}
                            {(fields.suffixAct !== 'add' || fields.replace === '') && <>on {choice('role', 'which parts', roles)}</>}
                        </>
                    )}
                    {fields.kind === 'number' && (
                        <>
                            {text('pattern', 'pattern, such as link_###', 180)} from{' '}
                            <input
                                type="number"
                                aria-label="first number"
                                min={0}
                                max={1000000}
                                value={fields.first}
                                style={{ width: 66 }}
                                onChange={(event) => set({ first: Number(event.target.value) })}
                            />{' '}
                            bases with {text('find', 'any letters', 96)}
                        </>
                    )}
                    {fields.kind === 'case' && (
                        <>
                            <select aria-label="letter case" value={fields.upper ? 'upper' : 'lower'} onChange={(event) => set({ upper: event.target.value === 'upper' })}>
                                <option value="lower">lower case</option>
                                <option value="upper">UPPER CASE</option>
                            </select>{' '}
                            for {choice('role', 'which parts', roles)}
                        </>
                    )}
                    {fields.kind === 'place' &&
                        choice('to', 'who takes whose name', [
                            ['high', 'high parts take the name of the low part where they stand'],
                            ['low', 'low parts take the name of the high part where they stand'],
                        ])}
                    {fields.kind === 'copy' && (
                        <>
                            {choice('to', 'which parts take names', [
                                ['id', 'ID parts'],
                                ['cage', 'cages'],
                                ['high', 'high parts'],
                            ])}{' '}
                            take the names of the{' '}
                            {choice('role', 'whose names', [
                                ['high', 'high parts'],
                                ['low', 'low parts'],
                            ])}{' '}
                            that they lie on
                        </>
                    )}
                    <span style={{ flex: 1 }} />
                    <span className="soft" role="status">
                        {tool === null ? '' : count === 0 ? 'changes nothing' : `${count} more`}
                    </span>
                    <Button type="submit" variant="outlined" disabled={count === 0}>
                        Add to plan
                    </Button>
                    <Button onClick={close}>Close</Button>
                </form>
            )}
        </>
    );
}
