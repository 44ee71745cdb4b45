import { createTheme, type Theme } from '@mui/material/styles';

export type Mode = 'light' | 'dark';

/** Every colour of the application; the style sheet gets them as variables of the same names. */
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
    return createTheme({
        palette: {
            mode,
            primary: { main: c.anvil, contrastText: c.anvilText },
            text: { primary: c.ink, secondary: c.soft },
            background: { default: c.paper, paper: c.sheet },
            divider: c.rule,
        },
        shape: { borderRadius: 0 },
        typography: { fontFamily: sans, fontSize: 13, button: { textTransform: 'none', fontWeight: 600 } },
        components: {
            MuiButtonBase: { defaultProps: { disableRipple: true } },
            MuiButton: {
                defaultProps: { disableElevation: true, size: 'small' },
                styleOverrides: {
                    root: {
                        borderRadius: 0,
                        padding: '5px 13px',
                        lineHeight: 1.4,
                        whiteSpace: 'nowrap',
                        flex: 'none',
                        '&.Mui-focusVisible': { outline: `2px solid ${c.ink}`, outlineOffset: 2 },
                    },
                    outlined: { color: c.ink, borderColor: c.ink },
                    text: { color: c.soft, padding: '3px 7px', minWidth: 0 },
                },
            },
            MuiToggleButtonGroup: { defaultProps: { size: 'small', exclusive: true } },
            MuiToggleButton: {
                styleOverrides: {
                    root: {
                        textTransform: 'none',
                        padding: '2px 10px',
                        color: c.ink,
                        borderColor: c.ruleStrong,
                        background: c.sheet,
                        fontWeight: 500,
                        '&.Mui-selected, &.Mui-selected:hover': { background: c.ink, color: c.sheet },
                        '&.Mui-focusVisible': { outline: `2px solid ${c.ink}`, outlineOffset: 1 },
                    },
                },
            },
            MuiPaper: { styleOverrides: { root: { backgroundImage: 'none', border: `1px solid ${c.ruleStrong}`, boxShadow: 'none' } } },
            MuiSlider: { styleOverrides: { root: { color: c.ink }, thumb: { '&:hover, &.Mui-focusVisible': { boxShadow: `0 0 0 5px ${c.wash}` } } } },
            MuiTooltip: { styleOverrides: { tooltip: { background: c.ink, color: c.paper, fontSize: 12, borderRadius: 0 } } },
        },
    });
}

/** Puts a mode's colours into the page for the style sheet. */
export function paint(mode: Mode): void {
    const root = document.documentElement;
    root.dataset.mode = mode;
    for (const [name, value] of Object.entries(colors[mode])) {
        root.style.setProperty(`--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`, value);
    }
}
