import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { pinsOf, textOf } from './draft';

/** The colors that a studio has for IDs of certain names. */
export function Fixed({ pins, onClose, onKeep }: { pins: Record<string, string>; onClose: () => void; onKeep: (pins: Record<string, string>) => void }) {
    const [text, setText] = useState(() => textOf(pins));
    const read = pinsOf(text);
    return (
        <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="fixed-title">
            <DialogTitle id="fixed-title">Fixed colors</DialogTitle>
            <DialogContent>
                <p style={{ marginTop: 0 }}>
                    One line a color: the name of an ID, then the color. <span className="mono">*</span> stands for any letters. These IDs keep their colors; all others are spread
                    around them.
                </p>
                <TextField
                    multiline
                    minRows={5}
                    fullWidth
                    autoFocus
                    value={text}
                    placeholder={'brass* #E8112D'}
                    onChange={(event) => setText(event.target.value)}
                    error={typeof read === 'string'}
                    helperText={typeof read === 'string' ? `"${read}" is not a name and a color like #E8112D` : ' '}
                    slotProps={{ htmlInput: { 'aria-label': 'fixed colors', style: { fontFamily: 'var(--mono)' } } }}
                />
            </DialogContent>
            <DialogActions>
                <Button onClick={onClose}>Cancel</Button>
                <Button variant="contained" disabled={typeof read === 'string'} onClick={() => typeof read !== 'string' && onKeep(read)}>
                    Keep
                </Button>
            </DialogActions>
        </Dialog>
    );
}
