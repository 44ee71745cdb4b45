import InputBase from '@mui/material/InputBase';
import type { Tie } from '../api/client';
import { baseOf, differing } from './ledger';

/** A name with its suffix set back, and the letters marked that differ from those it should have. */
export function Name({ name, suffix, wanted, role }: { name: string; suffix: string; wanted: string | null; role: 'low' | 'high' }) {
    const cut = baseOf(name, suffix).length;
    const marked = wanted === null ? [] : [...differing(name.slice(0, cut), baseOf(wanted, suffix)), ...differing(name.slice(cut), cut === name.length ? '' : suffix)];
    return (
        <span className="name">
            <span className="peg" style={{ background: `var(--${role})` }} aria-hidden="true" />
            <span className="text" title={name}>
                {Array.from(name).map((letter, i) =>
                    marked[i] ? (
                        <mark key={i}>{letter}</mark>
                    ) : i >= cut ? (
                        <span key={i} className="suffix">
                            {letter}
                        </span>
                    ) : (
                        letter
                    ),
                )}
                {cut === name.length && wanted !== null && <mark title="the suffix is missing">∅</mark>}
            </span>
        </span>
    );
}

/** A name being given anew: Enter or leaving the field takes it, Escape leaves it. */
export function NameField({ name, value, onRename, onLeave }: { name: string; value: string; onRename: (to: string) => void; onLeave: () => void }) {
    return (
        <InputBase
            className="mono"
            slotProps={{ input: { 'aria-label': `new name of ${name}` } }}
            sx={{ width: '100%', border: 1, px: 0.5, bgcolor: 'background.paper', font: 'inherit', '& input': { p: '1px' } }}
            defaultValue={value}
            autoFocus
            onClick={(event) => event.stopPropagation()}
            onBlur={(event) => onRename(event.target.value.trim())}
            onKeyDown={(event) => {
                if (event.key === 'Enter') {
                    onRename((event.target as HTMLInputElement).value.trim());
                } else if (event.key === 'Escape') {
                    onLeave();
                }
                event.stopPropagation();
            }}
        />
    );
}

interface CellProps {
    names: string[];
    role: 'low' | 'high';
    tie: Tie;
    suffix: string;
    /** Suffix of the other side. */
    others: string;
    /** The name that the plan gives it. */
    planned: string | null;
    onEdit: () => void;
}

/** One side of a tie: its first name, how many more there are, and who fits better. */
export function NameCell({ names, role, tie, suffix, others, planned, onEdit }: CellProps) {
    const name = names[0] ?? '';
    const other = (role === 'low' ? tie.high[0] : tie.low[0]) ?? '';
    const compared = tie.kind === 'near' && (planned !== null || tie.troubles.some((code) => code.startsWith('name-'))) ? (planned ?? baseOf(other, others) + suffix) : null;
    return (
        <span style={{ display: 'flex', minWidth: 0 }} onDoubleClick={onEdit}>
            <Name name={name} suffix={suffix} wanted={compared} role={role} />
            {names.length > 1 && (
                <span className="soft" title={names.join('\n')}>
                    &nbsp;+{names.length - 1}
                </span>
            )}
            {role === 'high' && tie.kind === 'crossed' && tie.candidate && <span className="fit">&nbsp;{baseOf(tie.candidate, suffix)} fits</span>}
        </span>
    );
}
