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
