import Box from '@mui/material/Box';
import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';

const KEY = 'anvil.split';
const LEAST = 0.34;
const MOST = 0.78;
const USUAL = 7 / 12;

const within = (share: number): number => Math.max(LEAST, Math.min(MOST, share));

/** The kept place of the border; the usual one where none is kept or nothing can be. */
export function keptShare(): number {
    try {
        const kept = Number(localStorage.getItem(KEY));
        return Number.isFinite(kept) && kept > 0 ? within(kept) : USUAL;
    } catch {
        return USUAL;
    }
}

function keep(share: number): void {
    try {
        localStorage.setItem(KEY, share.toFixed(4));
    } catch {
        // Then it is not kept.
    }
}

/** Two areas side by side with a border that is dragged or moved by arrow keys; a double click puts it back. */
export function Split({ left, right, full }: { left: ReactNode; right: ReactNode; full: boolean }) {
    const [share, setShare] = useState(keptShare);
    const frame = useRef<HTMLDivElement>(null);
    const move = (to: number): void => {
        setShare(within(to));
        keep(within(to));
    };
    const drag = (event: PointerEvent): void => {
        const box = frame.current?.getBoundingClientRect();
        if (box && event.currentTarget.hasPointerCapture(event.pointerId)) {
            move((event.clientX - box.left) / Math.max(1, box.width));
        }
    };
    const onKey = (event: KeyboardEvent): void => {
        const to = { ArrowLeft: share - 0.02, ArrowRight: share + 0.02, Home: LEAST, End: MOST }[event.key];
        if (to !== undefined) {
            event.preventDefault();
            event.stopPropagation();
            move(to);
        }
    };
    return (
        <Box ref={frame} sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: full ? 'minmax(0, 1fr)' : `minmax(0, ${share}fr) 7px minmax(0, ${1 - share}fr)` }}>
            {/* What is being done in the work area stays while the stand has the window. */}
            <Box sx={{ minWidth: 0, minHeight: 0, display: full ? 'none' : 'flex', flexDirection: 'column' }}>{left}</Box>
            {!full && (
                <Box
                    role="separator"
                    aria-orientation="vertical"
                    aria-label="border between work area and stand"
                    aria-valuemin={Math.round(100 * LEAST)}
                    aria-valuemax={Math.round(100 * MOST)}
                    aria-valuenow={Math.round(100 * share)}
                    tabIndex={0}
                    title="drag, or use the arrow keys; double-click puts it back"
                    onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
                    onPointerMove={drag}
                    onDoubleClick={() => move(USUAL)}
                    onKeyDown={onKey}
                    sx={{
                        cursor: 'col-resize',
                        touchAction: 'none',
                        borderLeft: 1,
                        borderRight: 1,
                        borderColor: 'divider',
                        bgcolor: 'background.default',
                        '&:hover': { bgcolor: 'divider' },
                    }}
                />
            )}
            <Box sx={{ minWidth: 0, minHeight: 0, display: 'flex', flexDirection: 'column' }}>{right}</Box>
        </Box>
    );
}
