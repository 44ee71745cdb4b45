import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { Choice } from '../frame/sheet';
import type { ColorBy } from './colors';
import type { Show, View } from './scene';
import type { CageKind } from './useMeshes';

export interface Tools {
    show: Show;
    wire: boolean;
    seeThrough: boolean;
    by: ColorBy;
    /** How far through the model is cut, from 0 to 1; null: not at all. */
    cut: number | null;
    measures: boolean;
}

const BY = [
    ['role', 'color: low, high'],
    ['set', 'color: sets'],
    ['part', 'color: parts'],
    ['severity', 'color: severity'],
] as const;

/** What the stand shows, and how. */
export function StandTools({
    tools,
    onTools,
    onLook,
    full,
    onFull,
}: {
    tools: Tools;
    onTools: (change: Partial<Tools>) => void;
    onLook: (view: View) => void;
    full: boolean;
    onFull: () => void;
}) {
    const drawn = (['wire', 'seeThrough', 'measures'] as const).filter((key) => tools[key]);
    return (
        <Box className="stand-tools">
            <ToggleButtonGroup value={tools.show} onChange={(_, value: Show | null) => value && onTools({ show: value })} aria-label="what the stand shows">
                {(['low', 'high', 'both', 'cage', 'ID'] as const).map((one) => (
                    <ToggleButton key={one} value={one}>
                        {one}
                    </ToggleButton>
                ))}
            </ToggleButtonGroup>
            <ToggleButtonGroup
                exclusive={false}
                value={[...drawn, ...(tools.cut === null ? [] : ['cut'])]}
                onChange={(_, value: string[]) =>
                    onTools({
                        wire: value.includes('wire'),
                        seeThrough: value.includes('seeThrough'),
                        measures: value.includes('measures'),
                        cut: value.includes('cut') ? (tools.cut ?? 0.5) : null,
                    })
                }
                aria-label="how it is drawn"
            >
                <ToggleButton value="wire">wire</ToggleButton>
                <ToggleButton value="seeThrough" title="see through the high poly">
                    clear
                </ToggleButton>
                <ToggleButton value="cut" title="take off what is in front">
                    cut
                </ToggleButton>
                <ToggleButton value="measures" title="measure between two points">
                    measure
                </ToggleButton>
            </ToggleButtonGroup>
            <ToggleButtonGroup value="" onChange={(_, value: View | null) => value && onLook(value)} aria-label="look from">
                {(['front', 'side', 'top'] as const).map((view) => (
                    <ToggleButton key={view} value={view}>
                        {view}
                    </ToggleButton>
                ))}
                <ToggleButton value="free">fit</ToggleButton>
            </ToggleButtonGroup>
            <Choice label="colors of the stand" value={tools.by} options={BY} onChoose={(by) => onTools({ by: by as ColorBy })} />
            <Button variant="outlined" aria-pressed={full} onClick={onFull} title="the whole window, and back: F" sx={{ bgcolor: 'background.paper' }}>
                {full ? 'Back' : 'Full'}
            </Button>
            {tools.cut !== null && (
                <Box sx={{ width: 150, px: 1.5, bgcolor: 'background.paper', border: 1, borderColor: 'var(--rule-strong)' }}>
                    <Slider size="small" aria-label="how deep the cut goes" min={0} max={100} value={100 * tools.cut} onChange={(_, value) => onTools({ cut: value / 100 })} />
                </Box>
            )}
        </Box>
    );
}

/** Which of the cages is shown. */
export function CageTools({ cages, cage, onCage, words }: { cages: { kind: CageKind; words: string }[]; cage: CageKind; onCage: (cage: CageKind) => void; words: string }) {
    return (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap', mt: 0.5 }}>
            <ToggleButtonGroup value={cage} onChange={(_, value: CageKind | null) => value && onCage(value)} aria-label="which cage">
                {cages.map((one) => (
                    <ToggleButton key={one.kind} value={one.kind}>
                        {one.words}
                    </ToggleButton>
                ))}
            </ToggleButtonGroup>
            <Box component="span" sx={{ bgcolor: 'background.paper', px: 0.75 }}>
                {words}
            </Box>
        </Box>
    );
}
