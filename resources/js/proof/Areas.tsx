import Box from '@mui/material/Box';
import { useEffect, useRef } from 'react';
import type { Delivery, ProofStation } from '../api/client';

type Area = ProofStation['pages'][number]['areas'][number];

/** The finding that tells why texels of a set miss or go wrong. */
const CAUSES: Record<Area['kind'], string[]> = {
    miss: ['ray-miss', 'floater-unbacked', 'low-margin', 'surface-gap', 'set-incomplete'],
    wrong: ['span-closed', 'sets-bleed', 'reach-long', 'cage-pierced', 'ray-lean'],
};

export function causeOf(delivery: Delivery, area: Area): Delivery['findings'][number] | undefined {
    const own = delivery.findings.filter((finding) => finding.set === area.set);
    return CAUSES[area.kind].map((code) => own.find((finding) => finding.code === code)).find((finding) => finding !== undefined);
}

/** What is left to paint, area by area. */
export function Areas({ delivery, areas, current, onChoose }: { delivery: Delivery; areas: Area[]; current: number; onChoose: (area: Area) => void }) {
    const list = useRef<HTMLDivElement>(null);
    useEffect(() => {
        list.current?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' });
    }, [current]);
    if (areas.length === 0) {
        return null;
    }
    return (
        <Box ref={list} role="list" aria-label="areas to paint" sx={{ maxHeight: 180, overflowY: 'auto', borderTop: '1px solid var(--rule-strong)' }} tabIndex={0}>
            {areas.map((area, i) => {
                const cause = causeOf(delivery, area);
                return (
                    <Box role="listitem" key={`${area.set} ${area.x} ${area.y}`}>
                        <Box
                            component="button"
                            type="button"
                            onClick={() => onChoose(area)}
                            aria-current={i === current}
                            sx={{
                                all: 'unset',
                                boxSizing: 'border-box',
                                display: 'grid',
                                gridTemplateColumns: '110px 90px minmax(80px, 1fr) minmax(120px, 1.4fr)',
                                gap: 1.5,
                                width: '100%',
                                minHeight: 32,
                                alignItems: 'center',
                                px: 0.75,
                                cursor: 'pointer',
                                borderBottom: '1px solid var(--rule)',
                                bgcolor: i === current ? 'var(--wash)' : undefined,
                                '&:focus-visible': { outline: '2px solid var(--ink)', outlineOffset: -2 },
                            }}
                        >
                            <span>
                                <span aria-hidden style={{ color: 'var(--trouble)' }}>
                                    {area.kind === 'miss' ? '▨ ' : '▧ '}
                                </span>
                                {area.kind === 'miss' ? 'nothing met' : 'wrong hit'}
                            </span>
                            <span className="mono" style={{ textAlign: 'right' }}>
                                {area.texels.toLocaleString('en-US')} px
                            </span>
                            <span className="mono">{area.set}</span>
                            <span className="soft">{cause ? `why: ${cause.code}` : 'no other finding tells why'}</span>
                        </Box>
                    </Box>
                );
            })}
        </Box>
    );
}
