import Box from '@mui/material/Box';
import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { useId, type ReactNode } from 'react';
import { Bar } from '../frame/Bar';
import { App } from '../frame/looks';
import { RackBox } from '../rack/looks';
import type { Mode } from '../theme';

/** A field of a form, with its label over it. */
export function Line({ label, onText, help, ...rest }: Omit<TextFieldProps, 'label' | 'onChange'> & { label: string; onText: (text: string) => void; help?: string }) {
    const id = useId();
    return (
        <Box sx={{ mb: 1.5 }}>
            <Box component="label" htmlFor={id} sx={{ display: 'block', fontWeight: 600, mb: '2px' }}>
                {label}
            </Box>
            <TextField id={id} size="small" fullWidth onChange={(event) => onText(event.target.value)} helperText={help} {...rest} />
        </Box>
    );
}

/** A page of its own beside the rack: what is looked after, not measured. */
export function Plain({ title, where, mode, setMode, children }: { title: string; where: ReactNode; mode: Mode; setMode: (mode: Mode) => void; children: ReactNode }) {
    return (
        <App>
            <Bar mode={mode} setMode={setMode}>
                {where}
                <span className="grow" />
            </Bar>
            <RackBox aria-label={title}>
                <Box sx={{ maxWidth: 1080 }}>{children}</Box>
            </RackBox>
        </App>
    );
}

export interface Page {
    mode: Mode;
    setMode: (mode: Mode) => void;
}
