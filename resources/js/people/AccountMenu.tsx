import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import ListSubheader from '@mui/material/ListSubheader';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useNotice } from '../frame/Notice';
import { standingWords, useCrew, useMe, useSignIn, useSignOut } from './session';

const initials = (name: string): string =>
    name
        .split(/\s+/)
        .map((word) => word[0] ?? '')
        .slice(0, 2)
        .join('')
        .toUpperCase();

/** Who is signed in, what waits for them, and the pages of their own. */
export function AccountMenu() {
    const me = useMe();
    const crew = useCrew();
    const signIn = useSignIn();
    const signOut = useSignOut();
    const notice = useNotice();
    const navigate = useNavigate();
    const [at, setAt] = useState<HTMLElement | null>(null);
    const go = (path: string) => (): void => {
        setAt(null);
        void navigate(path);
    };
    const waits = me.sentBack > 0;
    return (
        <>
            <Button
                variant="outlined"
                color="inherit"
                aria-haspopup="menu"
                title={`${me.name}, ${standingWords[me.role]}`}
                onClick={(event) => setAt(event.currentTarget)}
                sx={{ minWidth: 0 }}
            >
                <span className="wide">{me.name}&nbsp;</span>
                <span className="narrow">{initials(me.name)}</span>
                {waits ? ` · ${me.sentBack} to mend` : ''}
                <span aria-hidden="true">{'\u00a0▾'}</span>
            </Button>
            <Menu anchorEl={at} open={at !== null} onClose={() => setAt(null)}>
                <ListSubheader sx={{ lineHeight: '28px' }}>
                    {me.name}, {standingWords[me.role]}
                </ListSubheader>
                <MenuItem onClick={go('/to-mend')}>Sent back to you{waits ? `: ${me.sentBack}` : ''}</MenuItem>
                <MenuItem onClick={go('/inbox')}>Inbox{me.letters > 0 ? `: ${me.letters} unread` : ''}</MenuItem>
                <MenuItem onClick={go('/standards')}>Standards</MenuItem>
                {me.may.includes('people') && <MenuItem onClick={go('/people')}>People</MenuItem>}
                <MenuItem onClick={go('/account')}>Account and tokens</MenuItem>
                <MenuItem onClick={go('/guide')}>Guide</MenuItem>
                <MenuItem onClick={go('/formats')}>File formats</MenuItem>
                {crew.length > 0 && <Divider />}
                {crew
                    .filter((one) => one.id !== me.id)
                    .map((one) => (
                        <MenuItem
                            key={one.id}
                            onClick={() => {
                                setAt(null);
                                signIn.mutate({ person: one.id }, { onSuccess: () => notice.done(`You are ${one.name} now, ${standingWords[one.role]}`), onError: notice.failed });
                            }}
                        >
                            Work as {one.name}, {standingWords[one.role]}
                        </MenuItem>
                    ))}
                <Divider />
                <MenuItem onClick={() => signOut.mutate(undefined, { onError: notice.failed })}>Sign out</MenuItem>
            </Menu>
        </>
    );
}
