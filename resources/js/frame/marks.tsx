/** A severity by shape; colour and word stand beside it. */
export function Mark({ kind, size = 11 }: { kind: 'blocker' | 'caution' | 'note' | 'clear'; size?: number }) {
    const path = {
        blocker: 'M7 0h6l7 7v6l-7 7H7l-7-7V7z',
        caution: 'M10 1l10 18H0z',
        note: 'M10 3a7 7 0 100 14 7 7 0 000-14z',
        clear: 'M2 10l3-3 4 4 8-9 3 3L9 18z',
    }[kind];
    return (
        <svg width={size} height={size} viewBox="0 0 20 20" className={kind} aria-hidden="true">
            <path d={path} fill="currentColor" />
        </svg>
    );
}

export function Anvil({ size = 24, color = 'var(--anvil)' }: { size?: number; color?: string }) {
    return (
        <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true">
            <path fill={color} d="M1 5h15v2h7c0 4-4 5-8 5v3l2 2v3H6v-3l2-2v-3C4 12 1 9 1 5z" />
        </svg>
    );
}
