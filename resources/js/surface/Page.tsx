import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { UvSheet } from '../api/client';
import { mono, type Palette } from '../theme';
import { fitted, Finder, pageAt, tileOf, zoomed, type PageShapes, type View } from './layout';

export interface Drawn {
    overlaps: boolean;
    gaps: boolean;
    edges: boolean;
}

interface Props {
    sheet: UvSheet;
    page: number;
    shapes: PageShapes;
    /** Color of an island. */
    fill: (island: number) => string;
    drawn: Drawn;
    palette: Palette;
    chosen: number | null;
    /** Islands that something chosen elsewhere is about. */
    marked: number[];
    onChoose: (island: number | null) => void;
    onHover: (island: number | null) => void;
    label: string;
}

/** Gaps told with their measure at once, the nearest. */
const TOLD = 40;

function trace(context: CanvasRenderingContext2D | Path2D, uv: number[], closed: boolean): void {
    const step = closed ? 6 : 4;
    for (let k = 0; k + step - 1 < uv.length; k += step) {
        context.moveTo(uv[k] ?? 0, -(uv[k + 1] ?? 0));
        for (let n = 2; n < step; n += 2) {
            context.lineTo(uv[k + n] ?? 0, -(uv[k + n + 1] ?? 0));
        }
        if (closed) {
            context.closePath();
        }
    }
}

/** Hatching that stands still on the screen however near the page is. */
function hatching(context: CanvasRenderingContext2D, color: string): CanvasPattern | string {
    const tile = document.createElement('canvas');
    tile.width = tile.height = 8;
    const pen = tile.getContext('2d');
    if (!pen) {
        return color;
    }
    pen.strokeStyle = color;
    pen.lineWidth = 2.5;
    pen.beginPath();
    for (const from of [-8, 0, 8]) {
        pen.moveTo(from, 8);
        pen.lineTo(from + 8, 0);
    }
    pen.stroke();
    return context.createPattern(tile, 'repeat') ?? color;
}

/** A UV page: drag to move it, wheel to come closer, click for an island. */
export function Page({ sheet, page, shapes, fill, drawn, palette, chosen, marked, onChoose, onHover, label }: Props) {
    const host = useRef<HTMLDivElement>(null);
    const canvas = useRef<HTMLCanvasElement>(null);
    const [size, setSize] = useState<[number, number]>([0, 0]);
    const [own, setOwn] = useState<{ page: number; view: View } | null>(null);
    const view = useMemo(() => (own?.page === page ? own.view : fitted(...size)), [own, page, size]);
    const setView = useCallback((next: View): void => setOwn({ page, view: next }), [page]);
    const finder = useMemo(() => new Finder(shapes.fills), [shapes]);
    const paths = useMemo(() => {
        // Where nothing is drawn, as in a browser without a canvas, the list of islands tells the same.
        if (typeof Path2D === 'undefined') {
            return null;
        }
        const byColor = new Map<string, Path2D>();
        for (const [island, uv] of shapes.fills) {
            const color = fill(island);
            const path = byColor.get(color) ?? new Path2D();
            trace(path, uv, true);
            byColor.set(color, path);
        }
        const seams = new Path2D();
        trace(seams, shapes.seams, false);
        const hard = new Path2D();
        trace(hard, shapes.hard, false);
        return { byColor, seams, hard };
    }, [shapes, fill]);

    useEffect(() => {
        const element = host.current;
        if (!element) {
            return;
        }
        const observer = new ResizeObserver(() => setSize([element.clientWidth, element.clientHeight]));
        observer.observe(element);
        return () => observer.disconnect();
    }, []);

    useEffect(() => {
        const element = canvas.current;
        const context = element?.getContext('2d');
        const [width, height] = size;
        if (!element || !context || !paths || width === 0) {
            return;
        }
        const pending = requestAnimationFrame(() => {
            const ratio = window.devicePixelRatio || 1;
            element.width = width * ratio;
            element.height = height * ratio;
            context.setTransform(ratio, 0, 0, ratio, 0, 0);
            context.fillStyle = palette.paper;
            context.fillRect(0, 0, width, height);
            const place = (): void => context.setTransform(ratio * view.zoom, 0, 0, ratio * view.zoom, ratio * view.x, ratio * view.y);
            place();
            context.fillStyle = palette.sheet;
            context.fillRect(0, -1, 1, 1);
            for (const [color, path] of paths.byColor) {
                context.fillStyle = color;
                context.fill(path);
                // So that no paper shines through between the triangles of an island.
                context.strokeStyle = color;
                context.lineWidth = 0.6 / view.zoom;
                context.stroke(path);
            }
            if (chosen !== null || marked.length > 0) {
                const path = new Path2D();
                for (const island of chosen !== null ? [chosen] : marked) {
                    trace(path, shapes.fills.get(island) ?? [], true);
                }
                context.fillStyle = palette.anvil;
                context.globalAlpha = chosen !== null ? 0.45 : 0.3;
                context.fill(path);
                context.globalAlpha = 1;
            }
            const info = sheet.pages[page];
            if (drawn.overlaps) {
                const pattern = hatching(context, palette.trouble);
                if (pattern instanceof CanvasPattern) {
                    pattern.setTransform(new DOMMatrix([1 / (ratio * view.zoom), 0, 0, 1 / (ratio * view.zoom), 0, 0]));
                }
                context.fillStyle = pattern;
                context.strokeStyle = palette.trouble;
                context.lineWidth = 1.2 / view.zoom;
                for (const outline of info?.regions ?? []) {
                    const [u, v] = tileOf([outline[0] ?? 0, outline[1] ?? 0, outline[2] ?? 0, outline[3] ?? 0]);
                    context.beginPath();
                    for (let k = 0; k + 1 < outline.length; k += 2) {
                        context.lineTo((outline[k] ?? 0) - u, -((outline[k + 1] ?? 0) - v));
                    }
                    context.closePath();
                    context.fill();
                    context.stroke();
                }
            }
            if (drawn.edges) {
                // Of thousands of islands the lines step back, so that their colors are still seen.
                context.globalAlpha = Math.min(1, Math.max(0.15, view.zoom ** 2 / (10 * shapes.seams.length)));
                context.strokeStyle = palette.ink;
                context.lineWidth = 1 / view.zoom;
                context.stroke(paths.seams);
                context.globalAlpha = 1;
                context.strokeStyle = palette.high;
                context.lineWidth = 2.5 / view.zoom;
                context.stroke(paths.hard);
            }
            if (sheet.pose.length > 0) {
                context.lineWidth = 1.5 / view.zoom;
                for (const one of sheet.pose.filter((each) => each.page === info?.name || sheet.pages.length === 1)) {
                    context.strokeStyle = one.ships ? palette.trouble : palette.ink;
                    context.setLineDash(one.ships ? [] : [4 / view.zoom, 3 / view.zoom]);
                    context.beginPath();
                    for (let k = 0; k + 1 < one.outline.length; k += 2) {
                        context.lineTo(one.outline[k] ?? 0, -(one.outline[k + 1] ?? 0));
                    }
                    context.closePath();
                    context.stroke();
                }
                context.setLineDash([]);
            }
            context.strokeStyle = palette.ink;
            context.lineWidth = 1.5 / view.zoom;
            context.strokeRect(0, -1, 1, 1);
            if (drawn.gaps) {
                context.strokeStyle = palette.trouble;
                context.fillStyle = palette.trouble;
                const gaps = info?.gaps ?? [];
                gaps.slice(0, 500).forEach((gap, i) => {
                    const [u, v] = tileOf(gap.ends);
                    const at = (k: number): number => (k % 2 === 0 ? (gap.ends[k] ?? 0) - u : -((gap.ends[k] ?? 0) - v));
                    place();
                    context.lineWidth = 2.5 / view.zoom;
                    context.beginPath();
                    context.moveTo(at(0), at(1));
                    context.lineTo(at(2), at(3));
                    context.stroke();
                    if (i < TOLD) {
                        const [x, y] = [view.x + (view.zoom * (at(0) + at(2))) / 2, view.y + (view.zoom * (at(1) + at(3))) / 2];
                        const words = `${gap.px.toFixed(1)} px`;
                        context.setTransform(ratio, 0, 0, ratio, 0, 0);
                        context.font = `11px ${mono}`;
                        const wide = context.measureText(words).width;
                        context.fillStyle = palette.paper;
                        context.fillRect(x + 6, y - 9, wide + 8, 17);
                        context.fillStyle = palette.trouble;
                        context.fillText(words, x + 10, y + 4);
                    }
                });
            }
        });
        return () => cancelAnimationFrame(pending);
    }, [size, view, paths, shapes, sheet, page, drawn, palette, chosen, marked]);

    // The wheel must not scroll what lies around: React's own listener could not stop it.
    useEffect(() => {
        const element = canvas.current;
        if (!element) {
            return;
        }
        const onWheel = (event: WheelEvent): void => {
            event.preventDefault();
            const rect = element.getBoundingClientRect();
            setView(zoomed(view, Math.exp(-event.deltaY / 400), event.clientX - rect.left, event.clientY - rect.top, Math.min(...size) / 4));
        };
        element.addEventListener('wheel', onWheel, { passive: false });
        return () => element.removeEventListener('wheel', onWheel);
    }, [view, setView, size]);

    const drag = useRef<{ x: number; y: number; view: View; moved: boolean } | null>(null);
    const at = (event: { clientX: number; clientY: number }): [number, number] => {
        const rect = canvas.current?.getBoundingClientRect();
        return [event.clientX - (rect?.left ?? 0), event.clientY - (rect?.top ?? 0)];
    };
    const step = (by: number): void => {
        const all = [...shapes.fills.keys()];
        if (all.length > 0) {
            const now = chosen === null ? (by > 0 ? -1 : 0) : all.indexOf(chosen);
            onChoose(all[(now + by + all.length) % all.length] ?? null);
        }
    };
    const middle = (factor: number): void => setView(zoomed(view, factor, size[0] / 2, size[1] / 2, Math.min(...size) / 4));
    return (
        <Box ref={host} sx={{ position: 'relative', flex: 1, minHeight: 0, minWidth: 160, border: 1, borderColor: 'var(--rule-strong)', overflow: 'hidden' }}>
            <canvas
                ref={canvas}
                role="application"
                aria-label={label}
                aria-description="Arrow keys go from island to island, plus and minus come closer, 0 shows the whole page."
                tabIndex={0}
                style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', cursor: 'crosshair', touchAction: 'none' }}
                onPointerDown={(event) => {
                    drag.current = { x: event.clientX, y: event.clientY, view, moved: false };
                    event.currentTarget.setPointerCapture(event.pointerId);
                }}
                onPointerMove={(event) => {
                    const held = drag.current;
                    if (held) {
                        held.moved ||= Math.hypot(event.clientX - held.x, event.clientY - held.y) > 3;
                        if (held.moved) {
                            setView({ ...held.view, x: held.view.x + event.clientX - held.x, y: held.view.y + event.clientY - held.y });
                        }
                    } else {
                        onHover(finder.at(...pageAt(view, ...at(event))));
                    }
                }}
                onPointerUp={(event) => {
                    if (drag.current && !drag.current.moved) {
                        onChoose(finder.at(...pageAt(view, ...at(event))));
                    }
                    drag.current = null;
                }}
                onPointerLeave={() => onHover(null)}
                onKeyDown={(event) => {
                    const act = {
                        ArrowRight: () => step(1),
                        ArrowLeft: () => step(-1),
                        ArrowDown: () => step(1),
                        ArrowUp: () => step(-1),
                        '+': () => middle(1.5),
                        '-': () => middle(1 / 1.5),
                        '0': () => setOwn(null),
                    }[event.key];
                    if (act) {
                        event.preventDefault();
                        act();
                    }
                }}
            />
            <Button
                variant="outlined"
                size="small"
                onClick={() => setOwn(null)}
                disabled={own?.page !== page}
                sx={{ position: 'absolute', right: 8, top: 8, bgcolor: 'background.paper' }}
            >
                Fit
            </Button>
        </Box>
    );
}
