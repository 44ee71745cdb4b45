import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';

/** From so many rows on, only those that are seen are drawn. */
const LONG = 80;

/** Rows of any height inside the scrolled work area. */
export function LongList({ count, height, keyOf, render }: { count: number; height: number; keyOf: (index: number) => string; render: (index: number) => ReactNode }) {
    return count <= LONG ? (
        <>
            {Array.from({ length: count }, (_, i) => (
                <div key={keyOf(i)}>{render(i)}</div>
            ))}
        </>
    ) : (
        <Virtual count={count} height={height} keyOf={keyOf} render={render} />
    );
}

function Virtual({ count, height, keyOf, render }: { count: number; height: number; keyOf: (index: number) => string; render: (index: number) => ReactNode }) {
    const list = useRef<HTMLDivElement>(null);
    const [above, setAbove] = useState(0);
    const scroller = (): HTMLElement | null => list.current?.closest<HTMLElement>('[data-scroll]') ?? null;
    useLayoutEffect(() => {
        const box = scroller();
        if (box && list.current) {
            setAbove(list.current.getBoundingClientRect().top - box.getBoundingClientRect().top + box.scrollTop);
        }
    }, [count]);
    // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer's own way; nothing here is memoised
    const rows = useVirtualizer({ count, getScrollElement: scroller, estimateSize: () => height, overscan: 10, scrollMargin: above, getItemKey: keyOf });
    return (
        <div ref={list} style={{ height: rows.getTotalSize(), position: 'relative' }}>
            {rows.getVirtualItems().map((row) => (
                <div
                    key={row.key}
                    ref={rows.measureElement}
                    data-index={row.index}
                    style={{ position: 'absolute', top: 0, left: 0, right: 0, transform: `translateY(${row.start - above}px)` }}
                >
                    {render(row.index)}
                </div>
            ))}
        </div>
    );
}
