import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import TextField, { type TextFieldProps } from '@mui/material/TextField';
import type { ReactNode, Ref } from 'react';
import { Link, useLocation } from 'react-router';

/** What the screens are put together from: a head that says the state in a sentence, the scrolled work area, the bar of acts at its foot. */
export function Scroll({ children, still = false }: { children: ReactNode; still?: boolean }) {
    return (
        <Box
            data-scroll
            tabIndex={still ? undefined : 0}
            role={still ? undefined : 'region'}
            aria-label={still ? undefined : 'work area'}
            sx={{ flex: 1, minHeight: 0, px: '18px', py: 2, ...(still ? { display: 'flex', flexDirection: 'column', overflow: 'hidden' } : { overflowY: 'auto' }) }}
        >
            {children}
        </Box>
    );
}

export function Head({ title, children, acts }: { title: ReactNode; children?: ReactNode; acts?: ReactNode }) {
    return (
        <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, alignItems: 'flex-start', mb: 1.5, flex: 'none', flexWrap: 'wrap' }}>
            <Box sx={{ flex: '1 1 300px', minWidth: 0 }}>
                <GuideLink />
                <h1>{title}</h1>
                {children !== undefined && <Box sx={{ mt: 0.5, color: 'text.secondary', maxWidth: '70ch' }}>{children}</Box>}
            </Box>
            {acts !== undefined && <Box sx={{ display: 'flex', gap: 1, flex: 'none', alignItems: 'flex-start' }}>{acts}</Box>}
        </Box>
    );
}

/** At a station: to what the guide says of it. */
function GuideLink() {
    const station = /\/deliveries\/[^/]+\/([a-z-]+)$/.exec(useLocation().pathname)?.[1];
    return station === undefined || station === 'changes' ? null : (
        <Link to={`/guide/technical-artist#${station}`} className="soft" style={{ float: 'right', marginLeft: 12, lineHeight: '28px' }}>
            Guide
        </Link>
    );
}

export function Foot({ children }: { children: ReactNode }) {
    return (
        <Box
            sx={{
                flex: 'none',
                borderTop: 2,
                borderColor: 'text.primary',
                px: '18px',
                py: '9px',
                display: 'flex',
                alignItems: 'center',
                gap: 1.5,
                flexWrap: 'wrap',
                bgcolor: 'background.default',
            }}
        >
            {children}
        </Box>
    );
}

export const Grow = () => <Box sx={{ flex: 1 }} />;

/** What could be done, with the acts that do it; `quiet` where it is only told. */
export function Offer({ children, acts, quiet = false }: { children: ReactNode; acts?: ReactNode; quiet?: boolean }) {
    return (
        <Alert
            severity="info"
            icon={false}
            role="note"
            action={acts}
            sx={{ mb: 1.5, flex: 'none', borderLeft: quiet ? undefined : '5px solid', borderLeftColor: quiet ? undefined : 'primary.main' }}
        >
            {children}
        </Alert>
    );
}

/** A whole page that is not there, why, and where one goes from here. */
export function CannotShow({ what, why, to, where }: { what: string; why: string; to: string; where: string }) {
    return (
        <>
            <h1>{what} cannot be shown</h1>
            <p>{why}</p>
            <Link to={to}>{where}</Link>
        </>
    );
}

/** What went wrong, and what to do. */
export function Failure({ children, acts, sx }: { children: ReactNode; acts?: ReactNode; sx?: object }) {
    return (
        <Alert severity="error" role="alert" icon={false} action={acts} sx={{ mb: 1.5, ...sx }}>
            {children}
        </Alert>
    );
}

type FieldProps = Omit<TextFieldProps, 'label' | 'onChange'> & {
    label: string;
    onText: (text: string) => void;
    shown?: boolean;
    mono?: boolean;
    list?: string;
    least?: number;
    field?: Ref<HTMLInputElement>;
};

/** A field of one line; its label is read out, and shown beside it where `shown`. */
export function Field({ label, onText, shown = false, mono = false, list, least, field, slotProps, sx, ...rest }: FieldProps) {
    return (
        <TextField
            size="small"
            label={shown ? label : undefined}
            onChange={(event) => onText(event.target.value)}
            slotProps={{ ...slotProps, htmlInput: { 'aria-label': shown ? undefined : label, list, min: least, step: 'any', ref: field } }}
            sx={{ ...(mono ? { '& input': { fontFamily: 'var(--mono)' } } : {}), ...(sx as object) }}
            {...rest}
        />
    );
}

/** One of a few; its label is read out. */
export function Choice({
    label,
    value,
    options,
    onChoose,
    width,
    disabled = false,
    empty,
}: {
    label: string;
    value: string;
    options: readonly (readonly [string, string])[];
    onChoose: (value: string) => void;
    width?: number | string;
    disabled?: boolean;
    /** What is shown while nothing is chosen. */
    empty?: string;
}) {
    return (
        <TextField
            select
            size="small"
            value={value}
            disabled={disabled}
            onChange={(event) => onChoose(event.target.value)}
            slotProps={{
                select: {
                    displayEmpty: empty !== undefined,
                    renderValue: empty === undefined || value !== '' ? undefined : () => empty,
                    SelectDisplayProps: { 'aria-label': label },
                },
                htmlInput: { 'aria-hidden': true },
            }}
            sx={{ width, maxWidth: '100%' }}
        >
            {options.map(([key, words]) => (
                <MenuItem key={key} value={key}>
                    {words}
                </MenuItem>
            ))}
        </TextField>
    );
}

export function Tick({
    checked,
    onTick,
    children,
    label,
    disabled,
}: {
    checked: boolean;
    onTick: (checked: boolean) => void;
    children: ReactNode;
    label?: string;
    disabled?: boolean;
}) {
    return (
        <FormControlLabel
            control={
                <Checkbox size="small" checked={checked} disabled={disabled} onChange={(event) => onTick(event.target.checked)} slotProps={{ input: { 'aria-label': label } }} />
            }
            label={children}
        />
    );
}

/** An act that a file is the answer to. */
export const Download = ({ href, children }: { href: string; children: ReactNode }) => (
    <Button variant="outlined" href={href}>
        {children}
    </Button>
);
