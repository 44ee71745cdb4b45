import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import { useEffect, useRef, useState } from 'react';
import type { Palette } from '../theme';

/** How a map is painted for the sheet: as it is, or misses and masks in plum over paper. */
export type Ink = 'plain' | 'trouble' | 'difference';

/** Pixels that the loupe shows of a map of 256 px, of a larger one as much of the page; and how large it is drawn. */
const LOUPE = 15;
const DRAWN = 90;

function inked(data: ImageData, ink: Ink, palette: Palette): ImageData {
    if (ink === 'plain') {
        return data;
    }
    const rgb = (hex: string): number[] => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16));
    const [trouble, paper] = [rgb(palette.trouble), rgb(palette.sheet)];
    const out = new ImageData(data.width, data.height);
    for (let i = 0; i < data.data.length; i += 4) {
        const value = data.data[i] ?? 0;
        // A miss is full plum, a wrong hit half of it; a difference deepens up to twice what it may be.
        const share = ink === 'difference' ? value / 255 : value >= 200 ? 1 : value > 0 ? 0.55 : 0;
        for (let k = 0; k < 3; k += 1) {
            out.data[i + k] = Math.round((paper[k] ?? 0) + share * ((trouble[k] ?? 0) - (paper[k] ?? 0)));
        }
        out.data[i + 3] = 255;
    }
    return out;
}

/** One map of the contact sheet, with the loupe at the place that all of them are looked at. */
export function Tile({
    label,
    url,
    ink = 'plain',
    palette,
    at,
    chosen,
    words,
    waits,
    onPoint,
    onChoose,
}: {
    label: string;
    url: string | undefined;
    ink?: Ink;
    palette: Palette;
    /** Shares of the page from the left and the top. */
    at: { x: number; y: number } | null;
    chosen: { x: number; y: number } | null;
    /** What the value there says. */
    words: (bytes: Uint8ClampedArray) => string;
    /** Why there is no map yet, and how far it is. */
    waits: { words: string; done: number | null } | null;
    onPoint: (at: { x: number; y: number } | null) => void;
    onChoose: (at: { x: number; y: number }) => void;
}) {
    const sheet = useRef<HTMLCanvasElement>(null);
    const glass = useRef<HTMLCanvasElement>(null);
    const [image, setImage] = useState<{ url: string; plain: ImageData; inked: ImageData } | null>(null);
    const [failed, setFailed] = useState<string | null>(null);
    useEffect(() => {
        if (url === undefined) {
            return;
        }
        let gone = false;
        const one = new Image();
        one.onload = () => {
            const canvas = document.createElement('canvas');
            canvas.width = one.naturalWidth;
            canvas.height = one.naturalHeight;
            const pen = canvas.getContext('2d', { willReadFrequently: true });
            if (gone || !pen || canvas.width === 0) {
                return;
            }
            pen.drawImage(one, 0, 0);
            const plain = pen.getImageData(0, 0, canvas.width, canvas.height);
            setImage({ url, plain, inked: inked(plain, ink, palette) });
        };
        one.onerror = () => !gone && setFailed(url);
        one.src = url;
        return () => {
            gone = true;
        };
    }, [url, ink, palette]);
    const shown = image && image.url === url ? image : null;
    useEffect(() => {
        const canvas = sheet.current;
        if (canvas && shown) {
            canvas.width = shown.inked.width;
            canvas.height = shown.inked.height;
            canvas.getContext('2d')?.putImageData(shown.inked, 0, 0);
        }
    }, [shown]);
    const looked = at ?? chosen;
    const px = shown && looked ? Math.min(shown.plain.width - 1, Math.floor(looked.x * shown.plain.width)) : -1;
    const py = shown && looked ? Math.min(shown.plain.height - 1, Math.floor(looked.y * shown.plain.height)) : -1;
    useEffect(() => {
        const pen = glass.current?.getContext('2d');
        if (!pen || !shown || px < 0 || !sheet.current) {
            return;
        }
        const across = Math.max(LOUPE, Math.round((LOUPE * shown.plain.width) / 256));
        const half = Math.floor(across / 2);
        pen.imageSmoothingEnabled = false;
        pen.fillStyle = palette.stand;
        pen.fillRect(0, 0, DRAWN, DRAWN);
        pen.drawImage(sheet.current, px - half, py - half, across, across, 0, 0, DRAWN, DRAWN);
        const cell = DRAWN / across;
        pen.strokeStyle = palette.ink;
        pen.strokeRect(half * cell - 0.5, half * cell - 0.5, cell + 1, cell + 1);
    }, [shown, px, py, palette]);
    const place = (event: React.PointerEvent): { x: number; y: number } => {
        const box = event.currentTarget.getBoundingClientRect();
        const inside = (share: number): number => Math.min(0.99999, Math.max(0, share));
        return { x: inside((event.clientX - box.left) / box.width), y: inside((event.clientY - box.top) / box.height) };
    };
    const value = shown && px >= 0 ? words(shown.plain.data.subarray(4 * (py * shown.plain.width + px), 4 * (py * shown.plain.width + px) + 4)) : '';
    return (
        <Box component="figure" sx={{ m: 0, minWidth: 0 }}>
            <Box component="figcaption" sx={{ display: 'flex', gap: 1, alignItems: 'baseline', minHeight: 22 }}>
                <b style={{ whiteSpace: 'nowrap' }}>{label}</b>
                <span className="mono" style={{ fontSize: 12, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                    {value}
                </span>
            </Box>
            <Box
                data-map={label}
                sx={{
                    position: 'relative',
                    aspectRatio: '1',
                    border: '1px solid var(--rule-strong)',
                    bgcolor: 'var(--stand)',
                    cursor: shown ? 'crosshair' : 'default',
                    touchAction: 'none',
                }}
                onPointerMove={(event) => shown && onPoint(place(event))}
                onPointerLeave={() => onPoint(null)}
                onClick={(event) => shown && onChoose(place(event as unknown as React.PointerEvent))}
            >
                {shown && (
                    <canvas
                        ref={sheet}
                        role="img"
                        aria-label={`${label} map`}
                        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', imageRendering: 'pixelated' }}
                    />
                )}
                {shown && looked && (
                    <Box
                        sx={{
                            position: 'absolute',
                            pointerEvents: 'none',
                            border: '2px solid var(--ink)',
                            lineHeight: 0,
                            // Beside the place, on the side where there is room.
                            ...(looked.x < 0.5 ? { left: `calc(${100 * looked.x}% + 10px)` } : { right: `calc(${100 * (1 - looked.x)}% + 10px)` }),
                            ...(looked.y < 0.5 ? { top: `calc(${100 * looked.y}% + 10px)` } : { bottom: `calc(${100 * (1 - looked.y)}% + 10px)` }),
                        }}
                    >
                        <canvas ref={glass} width={DRAWN} height={DRAWN} style={{ width: 'min(90px, 13cqw)', aspectRatio: '1' }} aria-hidden />
                    </Box>
                )}
                {shown && looked && (
                    <Box
                        aria-hidden
                        sx={{
                            position: 'absolute',
                            left: `${100 * looked.x}%`,
                            top: `${100 * looked.y}%`,
                            width: 9,
                            height: 9,
                            ml: '-5px',
                            mt: '-5px',
                            border: '2px solid var(--ink)',
                            outline: '1px solid var(--sheet)',
                            pointerEvents: 'none',
                        }}
                    />
                )}
                {!shown && (
                    <Box
                        sx={{ position: 'absolute', inset: 0, display: 'grid', placeContent: 'center', textAlign: 'center', p: 1, color: 'text.secondary', fontSize: 13 }}
                        role={waits ? 'status' : undefined}
                    >
                        {failed !== null && failed === url ? 'This map could not be fetched.' : (waits?.words ?? '')}
                        {waits?.done != null && <LinearProgress variant="determinate" value={100 * waits.done} aria-label={`baking ${label}`} sx={{ mt: 1, width: 110 }} />}
                    </Box>
                )}
            </Box>
        </Box>
    );
}
