import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { Link } from 'react-router';
import { useOpenAt } from './keys';

const KEYS = {
    Everywhere: [
        ['/', 'search assets, parts, checks, and what a bad bake looks like'],
        ['↑ ↓ Page Home End', 'walk a list that has the focus'],
        ['?', 'this list'],
    ],
    'On an asset': [
        ['1 – 8', 'go to a station'],
        ['J / K', 'next and previous cause, and its findings where it is open'],
        ['→ / ←', 'open and close the chosen cause'],
        ['Enter', 'fly the stand to the evidence'],
        ['F', 'give the stand the whole window, and back'],
        ['F2, ⇧F2', 'rename the high, the low part of the chosen tie'],
        ['Esc', 'choose nothing'],
    ],
} as const;

/** The list of keys, opened at `?` wherever one is. */
export function Keys() {
    const [open, setOpen] = useOpenAt('?');
    return (
        <Dialog open={open} onClose={() => setOpen(false)} aria-labelledby="keys-title">
            <DialogTitle id="keys-title">Keys</DialogTitle>
            <DialogContent>
                {Object.entries(KEYS).map(([where, keys]) => (
                    <section key={where} aria-label={where}>
                        <h3 style={{ margin: '12px 0 4px', fontSize: 14 }}>{where}</h3>
                        {keys.map(([key, does]) => (
                            <p key={key} style={{ margin: '6px 0', display: 'grid', gridTemplateColumns: '132px 1fr', gap: 12 }}>
                                <span>
                                    <kbd>{key}</kbd>
                                </span>
                                {does}
                            </p>
                        ))}
                    </section>
                ))}
                <p style={{ margin: '14px 0 0' }}>
                    The <Link to="/guide">guide</Link> walks through a day: of a technical artist, of an artist, of a pipeline.
                </p>
            </DialogContent>
        </Dialog>
    );
}
