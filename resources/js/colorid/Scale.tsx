const WANTED = 20;

/** Each color by how far its nearest other is, against what is wanted. */
export function Scale({ dots, least, onPick }: { dots: { name: string; nearest: number | null }[]; least: number | null; onPick?: (name: string) => void }) {
    const axis = Math.max(60, ...dots.map((dot) => dot.nearest ?? 0));
    return (
        <div style={{ marginBottom: 14 }} role="img" aria-label={`least distance ΔE00 ${least?.toFixed(1) ?? 'none'}, limit ${WANTED}`}>
            <div style={{ position: 'relative', height: 26 }}>
                <span style={{ position: 'absolute', left: 0, width: `${(100 * WANTED) / axis}%`, top: 9, height: 10, background: 'var(--trouble-wash)' }} />
                <span style={{ position: 'absolute', left: 0, right: 0, top: 14, borderTop: '1px solid var(--rule-strong)' }} />
                <span style={{ position: 'absolute', left: `${(100 * WANTED) / axis}%`, top: 0, bottom: 0, borderLeft: '2px solid var(--trouble)' }} />
                {dots.map(
                    (dot) =>
                        dot.nearest !== null && (
                            <span
                                key={dot.name}
                                title={`${dot.name} ${dot.nearest.toFixed(1)}`}
                                onClick={() => onPick?.(dot.name)}
                                style={{
                                    position: 'absolute',
                                    left: `${(100 * dot.nearest) / axis}%`,
                                    top: 14,
                                    width: 10,
                                    height: 10,
                                    borderRadius: 5,
                                    background: dot.nearest < WANTED ? 'var(--trouble)' : 'var(--ink)',
                                    transform: 'translate(-50%, -50%)',
                                    cursor: onPick ? 'pointer' : undefined,
                                }}
                            />
                        ),
                )}
            </div>
            <div className="soft mono" style={{ display: 'flex', justifyContent: 'space-between', fontSize: 12, position: 'relative' }}>
                <span>0</span>
                <span className="trouble" style={{ position: 'absolute', left: `${(100 * WANTED) / axis}%`, transform: 'translateX(-50%)' }}>
                    limit {WANTED}
                </span>
                <span>ΔE00 {axis.toFixed(0)}</span>
            </div>
            <div className="soft" style={{ fontSize: 12.5 }}>
                each dot: one color to its nearest other
            </div>
        </div>
    );
}
