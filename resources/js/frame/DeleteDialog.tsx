import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogContentText from '@mui/material/DialogContentText';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { type Delivery, useDelete } from '../api/client';
import { plural } from './format';

export type Doomed = 'delivery' | 'asset';

/** Asks for the second time: what goes, that it cannot be brought back, and its name once more. */
export function DeleteDialog({ delivery, deliveries, what, close }: { delivery: Delivery; deliveries: number; what: Doomed; close: () => void }) {
    const navigate = useNavigate();
    const remove = useDelete();
    const [typed, setTyped] = useState('');
    const isAsset = what === 'asset' || deliveries <= 1;
    const wanted = isAsset ? delivery.assetName : String(delivery.number);
    const path = isAsset ? `assets/${delivery.assetId}` : `deliveries/${delivery.id}`;
    return (
        <Dialog open onClose={close} aria-labelledby="delete-title">
            <form
                onSubmit={(event) => {
                    event.preventDefault();
                    remove.mutate([path, isAsset ? { name: typed } : { number: Number(typed) }], { onSuccess: () => void navigate('/') });
                }}
            >
                <DialogTitle id="delete-title">{isAsset ? `Delete ${delivery.assetName}` : `Delete delivery ${delivery.number} of ${delivery.assetName}`}</DialogTitle>
                <DialogContent>
                    <DialogContentText>
                        {isAsset ? `${plural(deliveries, 'delivery', 'deliveries')} with all files, findings, outputs and packages` : 'Its files, findings, outputs and packages'}{' '}
                        will be gone for good. The files that you exported stay where they are.
                    </DialogContentText>
                    <TextField
                        autoFocus
                        fullWidth
                        margin="normal"
                        autoComplete="off"
                        label={isAsset ? 'Type its name to go on' : 'Type its number to go on'}
                        placeholder={wanted}
                        slotProps={{ inputLabel: { sx: { '&.Mui-focused': { color: 'var(--ink)' } } } }}
                        value={typed}
                        onChange={(event) => setTyped(event.target.value)}
                        error={remove.isError}
                        helperText={remove.error?.message ?? ' '}
                    />
                </DialogContent>
                <DialogActions>
                    <Button onClick={close}>Keep it</Button>
                    <Button type="submit" color="error" variant="contained" disabled={typed !== wanted || remove.isPending}>
                        Delete
                    </Button>
                </DialogActions>
            </form>
        </Dialog>
    );
}
