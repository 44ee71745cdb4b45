import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import { ApiError, type BakeSet, type useAct } from '../api/client';
import { column, length, percent, plural, type LengthScale } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { Field } from '../frame/sheet';
import { Handle, Span, consequences, type GaugeScale } from './SpanGauge';
import { useMay } from '../people/session';

function spanWords(set: BakeSet, show: (value: number) => string): { text: string; closed: boolean } {
    const needed = set.needed.out ?? 0;
    const wrong = set.firstWrong.out;
    return wrong === null
        ? { text: 'no wrong hit', closed: false }
        : wrong > needed
          ? { text: `open ${show(wrong - needed)}`, closed: false }
          : { text: `closed by ${show(needed - wrong)}`, closed: true };
}

interface RowProps {
    set: BakeSet;
    scale: GaugeScale;
    lengths: LengthScale;
    chosen: boolean;
    /** The reach outward that is being tried on it. */
    tried: number | null;
    onChoose: () => void;
    onTry: (reach: number) => void;
}

export function Row({ set, scale, lengths, chosen, tried, onChoose, onTry }: RowProps) {
    if (set.needed.out === null) {
        return (
            <div className={`gauge-row${chosen ? ' chosen' : ''}`} onClick={onChoose}>
                <b className="mono ellipsis">{set.name}</b>
                <span className="soft">
                    {set.state === 'waiting' || set.state === 'measuring' ? 'shooting rays…' : (set.error ?? 'not measured: it has not both low and high parts')}
                </span>
                <span />
            </div>
        );
    }
    const show = column(scale.to, lengths);
    const span = spanWords(set, show);
    const safe = set.firstWrong.out;
    const at = tried ?? set.inUse.out ?? 0;
    return (
        <div className={`gauge-row${chosen ? ' chosen' : ''}`} onClick={onChoose}>
            <span style={{ minWidth: 0 }}>
                <ButtonBase className="mono ellipsis" sx={{ maxWidth: '100%', fontSize: 13, textAlign: 'left' }} aria-pressed={chosen} title={set.name}>
                    <b>{set.name}</b>
                </ButtonBase>
                <span className="soft" style={{ fontSize: 12, display: 'block' }}>
                    {plural(set.low.length + set.high.length, 'part')}
                    {set.byHand ? ', reach set here' : set.reach ? ', reach of the standard' : ''}
                </span>
                <span className="visually-hidden">
                    needs {length(set.needed.out, lengths)} outward and {length(set.needed.in ?? 0, lengths)} inward; {span.text}
                </span>
            </span>
            <span style={{ position: 'relative' }}>
                <Span neededOut={set.needed.out} neededIn={set.needed.in ?? 0} wrong={safe} scale={scale} />
                <Handle at={at} scale={scale} name={set.name} words={length(at, lengths)} onTry={onTry} />
            </span>
            <span className="num">
                {show(at)} <span className="soft">/ {safe === null ? 'any' : show(safe)}</span>
                <br />
                <span className={span.closed ? 'blocker' : 'soft'} style={{ fontSize: 12 }}>
                    {span.text}
                </span>
            </span>
        </div>
    );
}

/** A reach that is tried on a set, in file units; null: as it is. */
export interface Tried {
    set: string;
    out: number | null;
    in: number | null;
    /** It is saved, and being checked. */
    kept?: boolean;
}

interface WhatIfProps {
    set: BakeSet;
    lengths: LengthScale;
    tried: Tried | null;
    onTry: (tried: Tried | null) => void;
    keep: ReturnType<typeof useAct<{ set: string; out: number | null; in: number | null }>>;
}

/** What the tried reach would do to a set, read from the rays that were shot: nothing is computed anew until it is kept. */
export function WhatIf({ set, lengths, tried: draft, onTry, keep }: WhatIfProps) {
    const mayDecide = useMay('decide');
    const inward = set.inUse.in ?? 0;
    const tried = draft?.out ?? set.inUse.out ?? 0;
    const into = draft?.in ?? null;
    const change = (to: Partial<Tried>): void => onTry({ set: set.name, out: draft?.out ?? null, in: into, ...to, kept: false });
    const notice = useNotice();
    /** Sets the reach, or gives it back; what it was before is one click away. */
    const put = (out: number | null, inward: number | null, words: string): void => {
        const before = { set: set.name, out: set.byHand ? (set.reach?.out ?? null) : null, in: set.byHand ? (set.reach?.in ?? null) : null };
        keep.mutate(
            { set: set.name, out, in: inward },
            {
                onSuccess: () => {
                    // It is shown until it is what was shot.
                    onTry(out === null ? null : { set: set.name, out, in: inward, kept: true });
                    notice.done(`${words}; it is checked again`, () => keep.mutate(before));
                },
            },
        );
    };
    const { miss, wrong } = consequences(set, tried);
    const needed = set.needed.out ?? 0;
    const changed = tried !== (set.inUse.out ?? 0) || (into !== null && into !== inward);
    const field = (label: string, value: number, onChange: (value: number) => void) => (
        <Field
            type="number"
            label={label}
            least={0}
            value={Number((value * lengths.factor).toPrecision(4))}
            sx={{ width: 92, mx: 0.5 }}
            onText={(text) => onChange(Math.max(0, Number(text) / lengths.factor))}
        />
    );
    return (
        <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: '6px 12px', bgcolor: 'var(--wash)', borderBottom: 1, borderColor: 'divider', px: 1, py: 0.5 }}>
            <span className="soft">out {field(`reach outward of ${set.name}`, tried, (value) => change({ out: value }))}</span>
            <span className="soft">
                in {field(`reach inward of ${set.name}`, into ?? inward, (value) => change({ in: value }))} {lengths.unit}
            </span>
            <span role="status" style={{ flex: 1 }}>
                {tried < needed && <b className="blocker">clips what is higher; </b>}
                {miss === null ? (
                    <span className="soft">further than these rays were followed: keep it to see</span>
                ) : (
                    <>
                        <b className={miss > 0.0005 ? 'blocker' : ''}>{percent(miss, 2)}</b> meets nothing, <b className={wrong > 0.0005 ? 'trouble' : ''}>{percent(wrong, 2)}</b>{' '}
                        goes wrong
                    </>
                )}
            </span>
            {keep.error instanceof ApiError && (
                <span className="blocker" role="alert">
                    {keep.error.message}
                </span>
            )}
            {changed ? (
                <>
                    <Button variant="text" onClick={() => onTry(null)}>
                        As it was
                    </Button>
                    <Button
                        variant="contained"
                        disabled={keep.isPending || tried <= 0 || !mayDecide}
                        onClick={() => put(tried, into ?? (set.byHand ? (set.reach?.in ?? null) : null), `${set.name} is baked at ${length(tried, lengths)}`)}
                    >
                        Keep
                    </Button>
                </>
            ) : (
                set.byHand && (
                    <Button variant="outlined" disabled={keep.isPending || !mayDecide} onClick={() => put(null, null, `${set.name} is baked at the recommended reach`)}>
                        As recommended
                    </Button>
                )
            )}
        </Box>
    );
}

/** What the marks of a gauge mean. */
export function GaugeKey() {
    return (
        <Box sx={{ display: 'flex', gap: 2, pt: 1, pb: 1.75, color: 'text.secondary', fontSize: 12.5, flexWrap: 'wrap' }}>
            <span>
                <i className="swatch" style={{ background: 'var(--needed)', width: 22 }} />
                needed, in and out
            </span>
            <span>
                <i className="swatch" style={{ background: 'var(--safe)', width: 22 }} />
                safe span
            </span>
            <span>
                <i className="swatch" style={{ background: 'var(--ink)', transform: 'rotate(45deg) scale(.9)' }} />
                &nbsp;reach in use: drag it
            </span>
            <span>
                <i className="swatch" style={{ background: 'var(--trouble)', width: 4, height: 14 }} />
                first wrong hit
            </span>
        </Box>
    );
}
