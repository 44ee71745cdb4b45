import type { BakeSet } from '../api/client';
import { digits, type LengthScale } from '../frame/format';

export interface GaugeScale {
    from: number;
    to: number;
}

const place = (value: number, scale: GaugeScale): number => Math.max(0, Math.min(100, (100 * (value - scale.from)) / (scale.to - scale.from)));

/** One set on the shared length scale: inward to the left of the low surface, outward to the right. */
export function Span({ neededOut, neededIn, wrong, scale }: { neededOut: number; neededIn: number; wrong: number | null; scale: GaugeScale }) {
    const zero = place(0, scale);
    const closed = wrong !== null && wrong <= neededOut;
    const end = wrong === null ? 100 : place(wrong, scale);
    return (
        <svg viewBox="0 0 100 34" preserveAspectRatio="none" aria-hidden="true">
            <line x1="0" x2="100" y1="17" y2="17" stroke="var(--rule)" vectorEffect="non-scaling-stroke" />
            <rect
                x={place(-neededIn, scale)}
                y="11"
                width={Math.max(0.4, place(neededOut, scale) - place(-neededIn, scale))}
                height="12"
                fill={closed ? 'var(--trouble-wash)' : 'var(--needed)'}
            />
            {!closed && <rect x={place(neededOut, scale)} y="11" width={Math.max(0.3, end - place(neededOut, scale))} height="12" fill="var(--safe)" />}
            <line x1={zero} x2={zero} y1="3" y2="31" stroke="var(--ink)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />
            {wrong !== null && wrong <= scale.to && (
                <line x1={place(wrong, scale)} x2={place(wrong, scale)} y1="5" y2="29" stroke="var(--trouble)" strokeWidth="3.5" vectorEffect="non-scaling-stroke" />
            )}
        </svg>
    );
}

/** The reach that a place on a gauge stands for, never inward of the low surface. */
export const reachAt = (x: number, left: number, width: number, scale: GaugeScale): number =>
    Math.max(0, Math.min(scale.to, scale.from + ((x - left) / Math.max(1, width)) * (scale.to - scale.from)));

/** The reach in use, as a diamond over the gauge that can be dragged or moved by arrow keys. */
export function Handle({ at, scale, name, words, onTry }: { at: number; scale: GaugeScale; name: string; words: string; onTry: (reach: number) => void }) {
    const step = (scale.to - scale.from) / 200;
    const keys: Record<string, number> = { ArrowLeft: -step, ArrowDown: -step, ArrowRight: step, ArrowUp: step, PageDown: -10 * step, PageUp: 10 * step };
    return (
        <span
            role="slider"
            tabIndex={0}
            aria-label={`reach of ${name}`}
            aria-valuemin={0}
            aria-valuemax={scale.to}
            aria-valuenow={at}
            aria-valuetext={words}
            className="reach-handle"
            style={{ left: `${place(at, scale)}%` }}
            onClick={(event) => event.stopPropagation()}
            onPointerDown={(event) => {
                event.preventDefault();
                event.stopPropagation();
                event.currentTarget.focus();
                event.currentTarget.setPointerCapture(event.pointerId);
            }}
            onPointerMove={(event) => {
                const gauge = event.currentTarget.parentElement?.getBoundingClientRect();
                if (gauge && event.currentTarget.hasPointerCapture(event.pointerId)) {
                    onTry(reachAt(event.clientX, gauge.left, gauge.width, scale));
                }
            }}
            onKeyDown={(event) => {
                const by = keys[event.key];
                if (by !== undefined) {
                    event.preventDefault();
                    event.stopPropagation();
                    onTry(Math.max(0, Math.min(scale.to, at + by)));
                }
            }}
        />
    );
}

/** What a reach outward would miss and meet wrongly, from the curves that the rays gave; nothing is known past their end. */
export function consequences(set: Pick<BakeSet, 'curveTop' | 'curveMiss' | 'curveWrong'>, reach: number): { miss: number | null; wrong: number } {
    const steps = set.curveMiss.length - 1;
    if (steps < 1 || set.curveTop <= 0 || reach > set.curveTop * (1 + 0.5 / steps)) {
        return { miss: null, wrong: 0 };
    }
    const at = Math.max(0, Math.min(steps, Math.round((reach / set.curveTop) * steps)));
    return { miss: set.curveMiss[at] ?? 0, wrong: set.curveWrong[at] ?? 0 };
}

export function gaugeScale(sets: BakeSet[]): GaugeScale {
    const measured = sets.filter((set) => set.needed.out !== null);
    const reach = Math.max(0, ...measured.flatMap((set) => [set.needed.out ?? 0, set.inUse.out ?? 0]));
    const into = Math.max(0, ...measured.flatMap((set) => [set.needed.in ?? 0]));
    // Wrong hits far beyond any reach would squeeze what matters.
    const wrong = measured.map((set) => set.firstWrong.out).filter((one): one is number => one !== null && one < 4 * reach);
    const to = Math.max(reach * 1.6, ...wrong.map((one) => one * 1.12), 1e-9);
    return { from: -Math.max(into * 1.25, 0.12 * to), to };
}

/** Round marks along the scale. */
export function Ticks({ scale, lengths }: { scale: GaugeScale; lengths: LengthScale }) {
    const rough = (scale.to - scale.from) / 5;
    const power = 10 ** Math.floor(Math.log10(rough));
    const step = ([1, 2, 5, 10].find((one) => one * power >= rough) ?? 10) * power;
    const marks: number[] = [];
    for (let mark = Math.ceil(scale.from / step) * step; mark <= scale.to; mark += step) {
        marks.push(Math.abs(mark) < step / 100 ? 0 : mark);
    }
    return (
        <span style={{ position: 'relative', display: 'block', height: 18 }} className="mono soft">
            {marks.map((mark) => (
                <span key={mark} style={{ position: 'absolute', left: `${place(mark, scale)}%`, transform: 'translateX(-50%)', fontSize: 11.5, whiteSpace: 'nowrap' }}>
                    {mark === 0 ? 'low' : digits(mark * lengths.factor, 2)}
                </span>
            ))}
        </span>
    );
}
