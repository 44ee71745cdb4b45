import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type CSSProperties, type KeyboardEvent, type ReactNode } from 'react';

interface Props {
    count: number;
    height?: number;
    /** The row that the keyboard starts from, −1 for none. */
    current: number;
    onMove: (index: number) => void;
    label: string;
    render: (index: number, place: CSSProperties) => ReactNode;
    style?: CSSProperties;
    role?: 'listbox' | 'list';
    onKey?: (event: KeyboardEvent, index: number) => void;
}

/** A list of any length of which only what is seen is drawn; arrows, Page, Home and End walk it. */
export function Rows({ count, height = 32, current, onMove, label, render, style, role = 'listbox', onKey }: Props) {
    const scroll = useRef<HTMLDivElement>(null);
    // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer's own way; nothing here is memoised
    const rows = useVirtualizer({ count, getScrollElement: () => scroll.current, estimateSize: () => height, overscan: 14 });
    const scrollTo = rows.scrollToIndex;
    useEffect(() => {
        if (current >= 0) {
            scrollTo(current, { align: 'auto' });
        }
    }, [current, scrollTo]);
    const page = (): number => Math.max(1, Math.floor((scroll.current?.clientHeight ?? height) / height) - 1);
    const onKeyDown = (event: KeyboardEvent): void => {
        if (event.target instanceof HTMLInputElement || event.ctrlKey || event.metaKey || event.altKey) {
            return;
        }
        const to = { ArrowDown: current + 1, ArrowUp: current - 1, PageDown: current + page(), PageUp: current - page(), Home: 0, End: count - 1 }[event.key];
        if (to !== undefined && count > 0) {
            event.preventDefault();
            onMove(Math.max(0, Math.min(count - 1, to)));
        } else {
            onKey?.(event, current);
        }
    };
    return (
        <div ref={scroll} role={role} aria-label={label} tabIndex={0} style={{ overflowY: 'auto', ...style }} onKeyDown={onKeyDown}>
            <div role="presentation" style={{ height: rows.getTotalSize(), position: 'relative' }}>
                {rows.getVirtualItems().map((row) => render(row.index, { position: 'absolute', top: row.start, left: 0, right: 0, height }))}
            </div>
        </div>
    );
}
