import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';

/** Whether a key is meant for what is being typed, or goes with another key. */
export const isTyping = (event: KeyboardEvent): boolean =>
    event.ctrlKey || event.metaKey || event.altKey || (event.target instanceof HTMLElement && (event.target.matches('input, select, textarea') || event.target.isContentEditable));

/** Whether something lies over the page and has the keys. */
export const isOverlaid = (): boolean => document.querySelector('[role=dialog], [role=menu]') !== null;

/** Whether a dialog is open that a key opens, wherever one is; it closes when one goes elsewhere. */
export function useOpenAt(key: string): [boolean, (open: boolean) => void] {
    const [open, setOpen] = useState(false);
    const { pathname } = useLocation();
    const [from, setFrom] = useState(pathname);
    if (from !== pathname) {
        setFrom(pathname);
        setOpen(false);
    }
    useEffect(() => {
        const onKey = (event: KeyboardEvent): void => {
            if (event.key === key && !isTyping(event) && !isOverlaid()) {
                event.preventDefault();
                setOpen(true);
            }
        };
        window.addEventListener('keydown', onKey);
        return () => window.removeEventListener('keydown', onKey);
    }, [key]);
    return [open, setOpen];
}
