import type { Delivery } from '../api/client';

/** A number with so many significant digits and no exponent. */
export function digits(value: number, count = 4): string {
    if (value === 0) {
        return '0';
    }
    const decimals = Math.max(0, Math.min(9, count - 1 - Math.floor(Math.log10(Math.abs(value)))));
    return value.toFixed(decimals);
}

export interface LengthScale {
    unit: string;
    factor: number;
}

/** How lengths are shown: meters in the unit that suits their size, other units as they are; `units` where none is known. */
export function scaleFor(unit: string | null, size: number): LengthScale {
    if (unit !== 'm') {
        return { unit: unit === null ? 'units' : /^\d/.test(unit) ? 'file units' : unit, factor: 1 };
    }
    return size < 0.05 ? { unit: 'mm', factor: 1000 } : size < 20 ? { unit: 'cm', factor: 100 } : { unit: 'm', factor: 1 };
}

/** The longest side of what was handed in, in the frame that all files are shown in. */
export function extentOf(delivery: Pick<Delivery, 'files'>): number {
    const boxes = delivery.files.map((file) => file.inFrame ?? file.bounds).filter((box) => box !== null);
    return Math.max(0, ...boxes.map((box) => Math.max(...box.max.map((max, axis) => max - (box.min[axis] ?? 0)))));
}

export const scaleOf = (delivery: Pick<Delivery, 'files' | 'unit'>): LengthScale => scaleFor(delivery.unit, extentOf(delivery));

export const length = (value: number, scale: LengthScale, count = 3): string => `${digits(value * scale.factor, count)} ${scale.unit}`;

/** A round length, without digits that are none. */
export const shortLength = (value: number, scale: LengthScale): string => length(value, scale, 1);

/** A value beside its limit, in words: `1.2 %`, `3.4 cm`, `12`. */
export function measured(
    { value, limit, unit }: { value: number; limit: number; unit: string },
    delivery: Pick<Delivery, 'files' | 'unit'>,
): { value: string; limit: string | null } {
    const show = (one: number): string => {
        switch (unit) {
            case 'share':
                return percent(one);
            case 'length':
                return length(one, scaleFor(delivery.unit, delivery.unit === 'm' ? Math.abs(one) * 3 : 1));
            case 'ratio':
                return `${digits(one, 3)} ×`;
            case 'deg':
                return `${digits(one, 3)}°`;
            case 'px':
                return `${digits(one, 3)} px`;
            case 'dE00':
                return `ΔE00 ${digits(one, 3)}`;
            default:
                return whole(one);
        }
    };
    return { value: show(value), limit: limit === 0 && unit === 'count' ? 'none' : show(limit) };
}

/** Lengths of one column, all with as many decimals as the largest needs for three digits; the unit stands in the head. */
export function column(largest: number, scale: LengthScale): (value: number) => string {
    const decimals = Math.max(0, Math.min(7, 2 - Math.floor(Math.log10(Math.max(1e-9, largest * scale.factor)))));
    return (value) => (value * scale.factor).toFixed(decimals);
}

export const percent = (share: number, count = 3): string =>
    share === 0
        ? '0 %'
        : `${digits(100 * share, share >= 0.9995 ? 4 : count)
              .replace(/(\.\d*?)0+$/, '$1')
              .replace(/\.$/, '')} %`;

export const whole = (value: number): string => value.toLocaleString('en-GB');

export function bytes(value: number): string {
    const units = ['bytes', 'KB', 'MB', 'GB'];
    let step = 0;
    while (value >= 1000 && step < 3) {
        value /= 1000;
        step += 1;
    }
    return `${step === 0 ? value : digits(value, 3)} ${units[step] ?? ''}`;
}

export const plural = (count: number, one: string, many = `${one}s`): string => `${whole(count)} ${count === 1 ? one : many}`;

/** `today 14:02`, `yesterday 09:40`, or a date. */
export function when(iso: string): string {
    const date = new Date(iso);
    const day = (d: Date): number => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime();
    const ago = Math.round((day(new Date()) - day(date)) / 86_400_000);
    const time = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
    return ago === 0 ? `today ${time}` : ago === 1 ? `yesterday ${time}` : date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
}
