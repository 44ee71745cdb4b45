import ButtonBase from '@mui/material/ButtonBase';
import type { MouseEvent } from 'react';

/** Black or white, whichever reads better on a color (WCAG 2.2 relative luminance). */
export function inkOn(hex: string): string {
    const channel = (at: number): number => {
        const v = parseInt(hex.slice(at, at + 2), 16) / 255;
        return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    };
    const luminance = 0.2126 * channel(1) + 0.7152 * channel(3) + 0.0722 * channel(5);
    return luminance > 0.179 ? '#000000' : '#FFFFFF';
}

export interface Card {
    name: string;
    hex: string;
    /** What wears it, in a line. */
    worn: string;
    nearest: number | null;
    nearestName: string | null;
    pinned?: boolean;
}

/** One ID: its color, its name, how far its nearest other is, and what wears it. */
export function Swatch({ card, chosen, onPick }: { card: Card; chosen: boolean; onPick: (adds: boolean) => void }) {
    const near = card.nearest !== null && card.nearest < 20;
    return (
        <ButtonBase
            className={`swatch-card${chosen ? ' chosen' : ''}`}
            aria-pressed={chosen}
            onClick={(event: MouseEvent) => onPick(event.shiftKey || event.ctrlKey || event.metaKey)}
        >
            <div className="chip" style={{ background: card.hex, color: inkOn(card.hex) }}>
                {card.hex}
                {card.pinned && <span style={{ float: 'right' }}>fixed</span>}
            </div>
            <div className="body">
                <div>
                    <b className="ellipsis" title={card.name}>
                        {card.name}
                    </b>
                    {card.nearest !== null && (
                        <span
                            className={`mono ${near ? 'trouble' : 'soft'}`}
                            style={{ fontWeight: near ? 700 : 400 }}
                            title={`ΔE00 to its nearest other${card.nearestName === null ? '' : `, ${card.nearestName}`}`}
                        >
                            {card.nearest.toFixed(1)}
                        </span>
                    )}
                </div>
                <span className="mono soft ellipsis" title={card.worn}>
                    {card.worn}
                </span>
            </div>
        </ButtonBase>
    );
}
