import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Delivery } from '../api/client';
import type { Mode } from '../theme';
import { AccountMenu } from '../people/AccountMenu';
import { BarBox } from './looks';
import { Anvil } from './marks';
import { Keys } from './KeysDialog';
import { Search } from './SearchDialog';

/** The ink bar on top of every page, with the search. */
export function Bar({ children, mode, setMode, delivery = null }: { children: ReactNode; mode: Mode; setMode: (mode: Mode) => void; delivery?: Delivery | null }) {
    return (
        <BarBox>
            <Link to="/" className="brand" aria-label="Yellow Anvil, to the rack">
                <Anvil /> <span>Yellow Anvil</span>
            </Link>
            {children}
            <Search delivery={delivery} />
            <Keys />
            <AccountMenu />
            <Button variant="outlined" color="inherit" onClick={() => setMode(mode === 'light' ? 'dark' : 'light')}>
                {mode === 'light' ? 'Night' : 'Paper'}
            </Button>
        </BarBox>
    );
}
