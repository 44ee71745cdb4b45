/** A name with its suffix set back and the letters marked that differ from its partner's. */
export function Name({ name, suffix, other, role }: { name: string; suffix: string; other: string | null; role: 'low' | 'high' }) {
    const cut = name.toLowerCase().endsWith(suffix.toLowerCase()) ? name.length - suffix.length : name.length;
    const wanted = other ?? name;
    return (
        <span className="name">
            <span className="peg" style={{ background: `var(--${role})` }} aria-hidden="true" />
            <span className="text" title={name}>
                {Array.from(name).map((letter, i) => {
                    const inSuffix = i >= cut;
                    const should = inSuffix ? suffix[i - cut] : wanted[i];
                    const differs = other !== null && letter !== should && letter.toLowerCase() === should?.toLowerCase();
                    return differs ? (
                        <mark key={i}>{letter}</mark>
                    ) : inSuffix ? (
                        <span key={i} className="suffix">
                            {letter}
                        </span>
                    ) : (
                        letter
                    );
                })}
                {cut === name.length && other !== null && <mark title="the suffix is missing">∅</mark>}
            </span>
        </span>
    );
}
