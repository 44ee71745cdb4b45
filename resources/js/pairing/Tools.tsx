import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import type { components } from '../api/schema';
import { Choice, Field } from '../frame/sheet';

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
        <Field mono label={label} placeholder={label} value={fields?.[key] ?? ''} sx={{ width }} onText={(value) => set({ [key]: value })} />
    );
    const choice = (key: 'role' | 'to', label: string, options: readonly (readonly [string, string])[]) => (
        <Choice label={label} value={fields?.[key] ?? ''} options={options} onChoose={(value) => set({ [key]: value })} empty={options[0]?.[1]} />
    );
    return (
        <>
            <Box role="group" aria-label="rename tools" sx={{ display: 'flex', flexWrap: 'wrap', gap: '2px 6px', my: 0.5 }}>
                {kinds.map(([kind, words]) => (
                    <Button
                        variant="text"
                        key={kind}
                        sx={{ '&[aria-expanded=true]': { color: 'text.primary', textDecoration: 'underline' } }}
                        aria-expanded={fields?.kind === kind}
                        disabled={disabled}
                        onClick={() => (fields?.kind === kind ? close() : set({ kind, find: '', replace: '', pattern: '' }))}
                    >
                        {words}
                    </Button>
                ))}
            </Box>
            {fields && (
                <Box
                    component="form"
                    sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.75, flexWrap: 'wrap' }}
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
                            <Choice
                                label="what to do"
                                value={fields.suffixAct}
                                options={[
                                    ['add', 'add what is missing'],
                                    ['change', 'change'],
                                    ['strip', 'take off'],
                                ]}
                                onChoose={(value) => set({ suffixAct: value as Fields['suffixAct'] })}
                            />
                            {fields.suffixAct !== 'add' && text('find', 'suffix', 90)}
                            {fields.suffixAct === 'change' && text('replace', 'to', 90)}
                            {fields.suffixAct === 'add' && text('replace', "the role's own, or", 130)}{' '}
                            {(fields.suffixAct !== 'add' || fields.replace === '') && <>on {choice('role', 'which parts', roles)}</>}
                        </>
                    )}
                    {fields.kind === 'number' && (
                        <>
                            {text('pattern', 'pattern, such as link_###', 180)} from{' '}
                            <Field type="number" label="first number" least={0} value={fields.first} sx={{ width: 74 }} onText={(value) => set({ first: Number(value) })} /> bases
                            with {text('find', 'any letters', 96)}
                        </>
                    )}
                    {fields.kind === 'case' && (
                        <>
                            <Choice
                                label="letter case"
                                value={fields.upper ? 'upper' : 'lower'}
                                options={[
                                    ['lower', 'lower case'],
                                    ['upper', 'UPPER CASE'],
                                ]}
                                onChoose={(value) => set({ upper: value === 'upper' })}
                            />{' '}
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
                </Box>
            )}
        </>
    );
}
