import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Mode } from '../theme';
import { Anvil } from './marks';

/** The ink bar on top of every page. */
export function Bar({ children, mode, setMode }: { children: ReactNode; mode: Mode; setMode: (mode: Mode) => void }) {
    return (
        <header className="bar">
            <Link to="/" className="brand">
                <Anvil /> Yellow Anvil
            </Link>
            {children}
            <button type="button" className="plain box" onClick={() => setMode(mode === 'light' ? 'dark' : 'light')}>
                {mode === 'light' ? 'night' : 'paper'}
            </button>
        </header>
    );
}
