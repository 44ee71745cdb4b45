import { createTheme, type Theme } from '@mui/material/styles';

export type Mode = 'light' | 'dark';

/** Every color of the application; the style sheet gets them as variables of the same names. */
export const colors = {
    light: {
        paper: '#F6F3EC',
        sheet: '#FCFBF8',
        stand: '#EAE5DA',
        ink: '#22303A',
        bar: '#22303A',
        barText: '#F6F3EC',
        soft: '#57626B',
        rule: '#D3CBBA',
        ruleStrong: '#9A9382',
        wash: '#FBF1D2',
        anvil: '#F4B400',
        anvilText: '#22303A',
        low: '#3A5A8C',
        high: '#B8623B',
        highText: '#964A27',
        cage: '#9A7B1E',
        trouble: '#8E2A7B',
        troubleWash: '#EBD3E6',
        blocker: '#A3202A',
        blockerWash: '#F7DADA',
        caution: '#8A5A00',
        cautionWash: '#FAECC8',
        note: '#4E5F6B',
        clear: '#2C6A3F',
        clearWash: '#DCEBDD',
        safe: '#7DB2A3',
        needed: '#CDB58F',
    },
    dark: {
        paper: '#171E23',
        sheet: '#1D262C',
        stand: '#242E35',
        ink: '#ECE7DB',
        bar: '#0F1418',
        barText: '#ECE7DB',
        soft: '#A9B3B9',
        rule: '#35414A',
        ruleStrong: '#66737C',
        wash: '#3A3420',
        anvil: '#F4B400',
        anvilText: '#171E23',
        low: '#86A8DC',
        high: '#E0926C',
        highText: '#E0926C',
        cage: '#D9B957',
        trouble: '#E08AD2',
        troubleWash: '#4A2C45',
        blocker: '#FF8A8F',
        blockerWash: '#4A2428',
        caution: '#F0BE5A',
        cautionWash: '#473918',
        note: '#A9BBC7',
        clear: '#7FCB94',
        clearWash: '#20382A',
        safe: '#4E9583',
        needed: '#8D7852',
    },
} as const;

export type Palette = Record<keyof (typeof colors)['light'], string>;

export const sans = "'Archivo', system-ui, sans-serif";
export const mono = "'IBM Plex Mono', ui-monospace, monospace";

export function themeFor(mode: Mode): Theme {
    const c = colors[mode];
    const focus = { outline: `2px solid ${c.ink}`, outlineOffset: 1 };
    const line = `1px solid ${c.ruleStrong}`;
    return createTheme({
        palette: {
            mode,
            primary: { main: c.anvil, contrastText: c.anvilText },
            error: { main: c.blocker },
            warning: { main: c.caution },
            success: { main: c.clear },
            text: { primary: c.ink, secondary: c.soft },
            background: { default: c.paper, paper: c.sheet },
            divider: c.rule,
        },
        shape: { borderRadius: 0 },
        typography: {
            fontFamily: sans,
            fontSize: 13,
            body1: { fontSize: 13.5, lineHeight: 1.45 },
            body2: { fontSize: 13.5, lineHeight: 1.45 },
            button: { textTransform: 'none', fontWeight: 600 },
        },
        components: {
            MuiButtonBase: {
                defaultProps: { disableRipple: true },
                styleOverrides: { root: { fontFamily: 'inherit', fontSize: 'inherit', lineHeight: 'inherit', '&.mono': { fontFamily: mono }, '&.Mui-focusVisible': focus } },
            },
            MuiButton: {
                defaultProps: { disableElevation: true, size: 'small' },
                styleOverrides: {
                    root: { borderRadius: 0, padding: '4px 12px', lineHeight: 1.4, whiteSpace: 'nowrap', flex: 'none', '&.Mui-focusVisible': { ...focus, outlineOffset: 2 } },
                    outlined: { color: c.ink, borderColor: c.ink },
                    colorInherit: { color: 'inherit', borderColor: '#71808a', fontWeight: 500, '&.Mui-focusVisible': { outline: `2px solid ${c.anvil}` } },
                    text: { color: c.soft, padding: '3px 7px', minWidth: 0 },
                },
            },
            MuiToggleButtonGroup: { defaultProps: { size: 'small', exclusive: true } },
            MuiToggleButton: {
                styleOverrides: {
                    root: {
                        textTransform: 'none',
                        padding: '3px 9px',
                        lineHeight: 1.4,
                        color: c.ink,
                        borderColor: c.ruleStrong,
                        background: c.sheet,
                        fontWeight: 500,
                        '&.Mui-selected, &.Mui-selected:hover': { background: c.ink, color: c.sheet },
                        '&.Mui-focusVisible': focus,
                    },
                },
            },
            MuiPaper: { styleOverrides: { root: { backgroundImage: 'none', border: line, boxShadow: 'none' } } },
            MuiAlert: {
                styleOverrides: {
                    root: { padding: '5px 12px', alignItems: 'center', fontSize: 13.5, lineHeight: 1.45, color: c.ink, background: c.sheet },
                    colorError: { background: c.blockerWash, border: `1.5px solid ${c.blocker}` },
                    colorWarning: { background: c.cautionWash, border: `1.5px solid ${c.caution}` },
                    colorSuccess: { background: c.clearWash, border: `1.5px solid ${c.clear}` },
                    message: { padding: '3px 0', flex: 1, minWidth: 0 },
                    action: { padding: 0, margin: '0 0 0 14px', alignItems: 'center', gap: 8 },
                },
            },
            MuiOutlinedInput: {
                styleOverrides: {
                    root: {
                        background: c.sheet,
                        fontSize: 13.5,
                        '& .MuiOutlinedInput-notchedOutline': { borderColor: c.ruleStrong },
                        '&.Mui-focused .MuiOutlinedInput-notchedOutline': { borderColor: c.ink },
                    },
                    input: { padding: '4px 8px', height: '1.45em' },
                },
            },
            MuiInputLabel: { styleOverrides: { root: { '&.Mui-focused': { color: c.ink } } } },
            MuiSelect: { styleOverrides: { select: { minHeight: '1.45em', padding: '4px 8px' } } },
            MuiCheckbox: { styleOverrides: { root: { padding: 3, color: c.soft, '&.Mui-checked': { color: c.ink }, '&.Mui-focusVisible': focus } } },
            MuiRadio: { styleOverrides: { root: { padding: 3, color: c.soft, '&.Mui-checked': { color: c.ink }, '&.Mui-focusVisible': focus } } },
            MuiFormControlLabel: { styleOverrides: { root: { marginLeft: -3, marginRight: 0 }, label: { fontSize: 13 } } },
            MuiTabs: { styleOverrides: { root: { minHeight: 32 }, indicator: { background: c.ink } } },
            MuiTab: { styleOverrides: { root: { minHeight: 32, padding: '4px 10px', textTransform: 'none', fontSize: 13.5, '&.Mui-selected': { color: c.ink } } } },
            MuiTable: { defaultProps: { size: 'small' }, styleOverrides: { root: { tableLayout: 'fixed' } } },
            MuiTableCell: {
                styleOverrides: {
                    root: { padding: '5px 6px', borderBottomColor: c.rule, fontSize: 13.5, lineHeight: 1.45, overflow: 'hidden', textOverflow: 'ellipsis' },
                    body: {
                        '&.mono, &.num': { fontFamily: mono },
                        '&.num': { textAlign: 'right', whiteSpace: 'nowrap' },
                        '&.soft': { color: c.soft },
                        '&.low': { color: c.low },
                        '&.high': { color: c.highText },
                        '&.trouble': { color: c.trouble },
                        '&.clear': { color: c.clear },
                    },
                    head: {
                        color: c.soft,
                        '&.num': { textAlign: 'right' },
                        fontWeight: 500,
                        fontSize: 12.5,
                        borderBottomColor: c.ruleStrong,
                        verticalAlign: 'bottom',
                        lineHeight: 1.3,
                    },
                },
            },
            MuiTableRow: { styleOverrides: { root: { '&.Mui-selected, &.Mui-selected:hover': { background: c.wash } } } },
            MuiAccordion: {
                defaultProps: { disableGutters: true, elevation: 0, square: true },
                styleOverrides: { root: { border: 0, background: 'transparent', '&::before': { display: 'none' } } },
            },
            MuiAccordionSummary: {
                styleOverrides: {
                    root: { minHeight: 28, padding: '0 4px', color: c.soft, '&.Mui-focusVisible': { background: 'transparent', ...focus } },
                    content: { margin: 0, alignItems: 'center' },
                },
            },
            MuiAccordionDetails: { styleOverrides: { root: { padding: '0 4px' } } },
            MuiChip: {
                styleOverrides: {
                    root: {
                        borderRadius: 0,
                        height: 25,
                        fontFamily: mono,
                        fontSize: 12.5,
                        background: c.sheet,
                        border: line,
                        '&.Mui-focusVisible': { ...focus, background: c.sheet },
                    },
                    label: { padding: '0 8px' },
                    clickable: { '&:hover': { background: c.wash } },
                    filled: { '&.MuiChip-colorPrimary': { background: c.ink, color: c.sheet } },
                },
            },
            MuiLinearProgress: { styleOverrides: { root: { height: 5, background: c.rule }, bar: { background: c.low } } },
            MuiSlider: { styleOverrides: { root: { color: c.ink }, thumb: { '&:hover, &.Mui-focusVisible': { boxShadow: `0 0 0 5px ${c.wash}` } } } },
            MuiListItemButton: { styleOverrides: { root: { '&.Mui-selected, &.Mui-selected:hover': { background: c.wash }, '&.Mui-focusVisible': { background: c.wash } } } },
            MuiListSubheader: { styleOverrides: { root: { background: c.sheet, color: c.soft, fontSize: 12.5 } } },
            MuiMenuItem: { styleOverrides: { root: { fontSize: 13.5, minHeight: 0, '&.Mui-selected, &.Mui-selected:hover': { background: c.wash } } } },
            MuiTooltip: { styleOverrides: { tooltip: { background: c.ink, color: c.paper, fontSize: 12, borderRadius: 0 } } },
            MuiCssBaseline: {
                styleOverrides: {
                    'html, body, #root': { height: '100%' },
                    body: { overflow: 'hidden', fontSize: 13.5, lineHeight: 1.45, fontFamily: sans },
                    h1: { fontSize: 20, lineHeight: 1.2, margin: 0, fontWeight: 700, letterSpacing: '-0.005em', textWrap: 'balance' },
                    h2: { fontSize: 14, margin: 0, fontWeight: 700 },
                    a: { color: 'inherit' },
                    'a:focus-visible, [tabindex]:focus-visible': focus,
                    kbd: { font: `11px ${mono}`, border: line, padding: '0 4px', background: c.sheet, color: c.ink },
                },
            },
        },
    });
}

/** Puts a mode's colors into the page for the style sheet. */
export function paint(mode: Mode): void {
    const root = document.documentElement;
    root.dataset.mode = mode;
    root.style.colorScheme = mode;
    root.style.setProperty('--mono', mono);
    for (const [name, value] of Object.entries(colors[mode])) {
        root.style.setProperty(`--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`, value);
    }
}
