import Button from '@mui/material/Button';
import { useState } from 'react';
import { ApiError, useAct, type At } from '../api/client';
import { plural } from '../frame/format';
import { useSelection, chosenParts } from '../frame/selection';

/** Black or white, whichever reads better on a colour (WCAG 2.2 relative luminance). */
function inkOn(hex: string): string {
    const channel = (at: number): number => {
        const v = parseInt(hex.slice(at, at + 2), 16) / 255;
        return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    };
    const luminance = 0.2126 * channel(1) + 0.7152 * channel(3) + 0.0722 * channel(5);
    return luminance > 0.179 ? '#000000' : '#FFFFFF';
}

const sources: Record<string, string> = {
    'id file': 'the ID file',
    'vertex colours': 'the vertex colours of the high poly',
    materials: 'the materials of the high poly',
};

/** The swatch sheet. */
export function ColorId({ delivery }: { delivery: At<'color-id'> }) {
    const selection = useSelection();
    const chosen = chosenParts(delivery, selection);
    const [proposed, setProposed] = useState(false);
    const make = useAct<void>(
        delivery.id,
        () => 'outputs',
        () => ({ kind: 'ids' }),
    );
    const ids = delivery.ids;
    const none = !ids || ids.source === 'none';
    const written = delivery.outputs.filter((output) => output.kind === 'ids').at(-1);
    const busy = written !== undefined && !['done', 'failed'].includes(written.state);
    const close = ids?.colors.filter((color) => color.nearest !== null && color.nearest < 20) ?? [];
    const blocking = delivery.findings.filter((finding) => finding.code === 'id-close' && finding.severity === 'blocker');
    const showProposal = proposed || none;
    const cards = showProposal
        ? (ids?.proposal ?? []).map((one) => ({ hex: one.hex, name: one.name, parts: one.parts, nearest: null as number | null, near: false }))
        : [...ids.colors]
              .sort((a, b) => (a.nearest ?? 999) - (b.nearest ?? 999))
              .map((one) => ({ hex: one.hex, name: one.name, parts: one.parts, nearest: one.nearest, near: one.nearest !== null && one.nearest < 20 }));
    const headline = !ids
        ? delivery.state === 'done'
            ? 'There is no high poly to give IDs to'
            : 'Reading colours'
        : none
          ? 'The asset has no ID colours yet'
          : blocking.length > 0
            ? `${close.length === 2 ? 'Two' : close.length} of ${ids.colors.length} colours will be picked as one`
            : ids.missing.length > 0
              ? `${plural(ids.missing.length, 'part has', 'parts have')} no ID colour`
              : close.length > 0
                ? `${close.length} of ${ids.colors.length} colours are close to another`
                : `${plural(ids.colors.length, 'colour')}, all far apart`;
    const nearest = ids === null ? [] : ids.colors.map((color) => color.nearest ?? 0);
    const axis = Math.max(60, ...nearest);

    return (
        <>
            <div className="scroll">
                <div className="head">
                    <div>
                        <h1>{headline}</h1>
                        <p>
                            {none
                                ? ids && ids.proposal.length > 0
                                    ? `No ID file, no vertex colours, and no two materials with colours of their own. Below: the most distinct ${ids.proposal.length} colours, one a part.`
                                    : ''
                                : `IDs come from ${sources[ids.source] ?? ids.source}. Wanted between any two: ΔE00 20, and 30 where they touch; under 5, or RGB 32, a picker takes both.`}
                        </p>
                    </div>
                </div>
                {!none && !showProposal && (
                    <div style={{ marginBottom: 14 }} role="img" aria-label={`least distance ΔE00 ${ids.least?.toFixed(1) ?? 'none'}, limit 20`}>
                        <div style={{ position: 'relative', height: 26 }}>
                            <span style={{ position: 'absolute', left: 0, width: `${(100 * 20) / axis}%`, top: 9, height: 10, background: 'var(--trouble-wash)' }} />
                            <span style={{ position: 'absolute', left: 0, right: 0, top: 14, borderTop: '1px solid var(--rule-strong)' }} />
                            <span style={{ position: 'absolute', left: `${(100 * 20) / axis}%`, top: 0, bottom: 0, borderLeft: '2px solid var(--trouble)' }} />
                            {ids.colors.map(
                                (color) =>
                                    color.nearest !== null && (
                                        <span
                                            key={color.hex}
                                            title={`${color.name} ${color.nearest.toFixed(1)}`}
                                            style={{
                                                position: 'absolute',
                                                left: `${(100 * color.nearest) / axis}%`,
                                                top: 14,
                                                width: 10,
                                                height: 10,
                                                borderRadius: 5,
                                                background: color.nearest < 20 ? 'var(--trouble)' : 'var(--ink)',
                                                transform: 'translate(-50%, -50%)',
                                            }}
                                        />
                                    ),
                            )}
                        </div>
                        <div className="soft mono" style={{ display: 'flex', justifyContent: 'space-between', fontSize: 12, position: 'relative' }}>
                            <span>0</span>
                            <span className="trouble" style={{ position: 'absolute', left: `${(100 * 20) / axis}%`, transform: 'translateX(-50%)' }}>
                                limit 20
                            </span>
                            <span>ΔE00 {axis.toFixed(0)}</span>
                        </div>
                        <div className="soft" style={{ fontSize: 12.5 }}>
                            each dot: one colour to its nearest other
                        </div>
                    </div>
                )}
                <div className="swatches">
                    {cards.map((card) => (
                        <button
                            type="button"
                            key={`${card.hex}${card.name}`}
                            className={`plain swatch-card${card.parts.some((part) => chosen.has(part)) ? ' chosen' : ''}`}
                            style={{ display: 'block' }}
                            onClick={() => selection.select({ part: card.parts[0] ?? null })}
                        >
                            <div className="chip" style={{ background: card.hex, color: inkOn(card.hex) }}>
                                {card.hex}
                            </div>
                            <div className="body">
                                <div>
                                    <b className="ellipsis" title={card.name}>
                                        {card.name}
                                    </b>
                                    {card.nearest !== null && (
                                        <span className={`mono ${card.near ? 'trouble' : 'soft'}`} style={{ fontWeight: card.near ? 700 : 400 }} title="ΔE00 to its nearest other">
                                            {card.nearest.toFixed(1)}
                                        </span>
                                    )}
                                </div>
                                <span className="mono soft ellipsis" title={card.parts.join(', ')}>
                                    {card.parts.join(', ')}
                                </span>
                            </div>
                        </button>
                    ))}
                </div>
                {ids && ids.missing.length > 0 && (
                    <div className="tray">
                        <b>No ID colour</b> <span className="mono soft">{ids.missing.slice(0, 40).join(', ')}</span>
                    </div>
                )}
            </div>
            <div className="foot">
                <span className="ellipsis">
                    {ids && ids.proposal.length > 0 && (
                        <>
                            <b>Spread</b> gives {plural(ids.proposal.length, 'colour')}, one a part
                            {ids.proposalLeast !== null && (
                                <>
                                    ; the closest pair <span className="mono">{ids.proposalLeast.toFixed(1)}</span>
                                </>
                            )}
                        </>
                    )}
                </span>
                <span className="grow" />
                {make.error instanceof ApiError && <span className="blocker">{make.error.message}</span>}
                {written?.state === 'failed' && <span className="blocker">{written.error}</span>}
                {!none && ids.proposal.length > 0 && (
                    <Button variant="outlined" onClick={() => setProposed((old) => !old)}>
                        {showProposal ? 'Show as they are' : 'Show the spread'}
                    </Button>
                )}
                {written?.state === 'done' && (
                    <Button variant="outlined" href={`/api/outputs/${written.id}`}>
                        Download
                    </Button>
                )}
                <Button
                    variant={(none || blocking.length > 0 || showProposal) && written?.state !== 'done' ? 'contained' : 'outlined'}
                    disabled={!ids || ids.proposal.length === 0 || busy || delivery.state !== 'done'}
                    onClick={() => make.mutate()}
                >
                    {busy ? 'Writing…' : written?.state === 'done' ? 'Write again' : 'Write ID files'}
                </Button>
            </div>
        </>
    );
}
