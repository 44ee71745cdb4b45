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

/** How lengths are shown: files in metres in the unit that suits their size, files without a unit as they are. */
export function scaleFor(unit: string | null, size: number): LengthScale {
    if (unit !== 'm') {
        return { unit: '', factor: 1 };
    }
    return size < 0.05 ? { unit: 'mm', factor: 1000 } : size < 20 ? { unit: 'cm', factor: 100 } : { unit: 'm', factor: 1 };
}

export const length = (value: number, scale: LengthScale, count = 3): string => `${digits(value * scale.factor, count)}${scale.unit ? ` ${scale.unit}` : ''}`;

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
