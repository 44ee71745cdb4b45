import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { Link } from 'react-router';

const KEYS = [
    ['1 – 8', 'go to a station'],
    ['J / K', 'next and previous cause, and its findings where it is open'],
    ['→ / ←', 'open and close the chosen cause'],
    ['Enter', 'fly the stand to the evidence'],
    ['F', 'give the stand the whole window, and back'],
    ['/', 'search assets, parts, checks, and what a bad bake looks like'],
    ['↑ ↓ Page Home End', 'walk a list that has the focus'],
    ['F2, ⇧F2', 'rename the high, the low part of the chosen tie'],
    ['Esc', 'choose nothing'],
    ['?', 'this list'],
] as const;

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
    return (
        <Dialog open={open} onClose={onClose} aria-labelledby="keys-title">
            <DialogTitle id="keys-title">Keys</DialogTitle>
            <DialogContent>
                {KEYS.map(([key, does]) => (
                    <p key={key} style={{ margin: '6px 0' }}>
                        <kbd>{key}</kbd> {does}
                    </p>
                ))}
                <p style={{ margin: '14px 0 0' }}>
                    The <Link to="/guide">guide</Link> walks through a day: of a technical artist, of an artist, of a pipeline.
                </p>
            </DialogContent>
        </Dialog>
    );
}
