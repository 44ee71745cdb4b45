import Box from '@mui/material/Box';
import { useState, type ReactNode } from 'react';
import { Choice, Field, Tick } from '../frame/sheet';
import { typed, without, type Rules } from './rules';

const ROLES = ['low', 'high', 'id', 'cage', 'pose'];

function Row({ label, help, children }: { label: string; help?: string; children: ReactNode }) {
    return (
        <Box sx={{ display: 'grid', gridTemplateColumns: '150px minmax(0, 1fr)', gap: '4px 12px', alignItems: 'center', py: '3px' }}>
            <span>{label}</span>
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
                {children}
                {help !== undefined && <span className="soft">{help}</span>}
            </Box>
        </Box>
    );
}

/** A field whose words are kept as they are typed, and taken where they mean something. */
function Typed<T>({
    label,
    value,
    shown,
    read,
    onTake,
    disabled,
    width = 120,
    placeholder,
}: {
    label: string;
    value: T;
    shown: (value: T) => string;
    read: (text: string) => T | undefined;
    onTake: (value: T) => void;
    disabled: boolean;
    width?: number;
    placeholder?: string;
}) {
    const [text, setText] = useState(shown(value));
    const [own, setOwn] = useState(shown(value));
    if (shown(value) !== own) {
        setOwn(shown(value));
        setText(shown(value));
    }
    return (
        <Field
            label={label}
            mono
            value={text}
            disabled={disabled}
            placeholder={placeholder}
            error={read(text) === undefined}
            sx={{ width }}
            onText={(next) => {
                setText(next);
                const taken = read(next);
                if (taken !== undefined) {
                    setOwn(shown(taken));
                    onTake(taken);
                }
            }}
        />
    );
}

const number =
    (least: number, isWhole = false) =>
    (text: string): number | null | undefined => {
        const value = Number(text.trim().replace(',', '.'));
        return text.trim() === '' ? null : Number.isFinite(value) && value >= least && (!isWhole || Number.isInteger(value)) ? value : undefined;
    };
const words = (value: number | null): string => (value === null ? '' : typed(value));
const reachOf = (text: string): number | string | null | undefined => {
    const trimmed = text.trim();
    return trimmed === '' ? null : /^\d+(\.\d+)?%$/.test(trimmed) ? trimmed : number(0)(trimmed);
};
const listOf = (value: string[] | string | undefined): string[] => (value === undefined ? [] : typeof value === 'string' ? [value] : value);

/** All of a standard but the limits of its checks. */
export function RuleFields({ rules, disabled, onRules }: { rules: Rules; disabled: boolean; onRules: (rules: Rules) => void }) {
    const take = (change: Partial<Rules>): void => onRules({ ...rules, ...change });
    const all = rules.reach['*'] ?? {};
    const others = Object.keys(rules.reach).filter((set) => set !== '*').length;
    return (
        <>
            <h2>Names</h2>
            <Row label="parts are matched">
                <Choice
                    label="parts are matched"
                    value={rules.pairing}
                    disabled={disabled}
                    width={260}
                    options={[
                        ['names', 'by name, letter for letter'],
                        ['whole', 'all as one set, whatever their names'],
                    ]}
                    onChoose={(pairing) => take({ pairing })}
                />
            </Row>
            {ROLES.map((role) => (
                <Row key={role} label={`${role} suffixes`} help={role === 'low' ? 'several with blanks between; a * may stand at the end' : undefined}>
                    <Typed
                        label={`${role} suffixes`}
                        value={listOf(rules.suffixes[role])}
                        shown={(list) => list.join(' ')}
                        read={(text) => {
                            const list = text.split(/[\s,]+/).filter(Boolean);
                            return list.length > 0 && list.every((one) => /^[^*]+\*?$/.test(one)) ? list : undefined;
                        }}
                        disabled={disabled}
                        width={210}
                        onTake={(list) => take({ suffixes: { ...rules.suffixes, [role]: list } })}
                    />
                </Row>
            ))}
            <h2>Textures</h2>
            <Row label="map size" help="px; padding is a 256th of it where no limit is set">
                <Typed<number | null>
                    label="map size"
                    value={rules.mapSize}
                    shown={words}
                    read={(text) => number(16, true)(text) ?? undefined}
                    disabled={disabled}
                    onTake={(mapSize) => take({ mapSize: mapSize ?? 2048 })}
                />
            </Row>
            <Row label="pages" help="sets of textures an asset has; empty: not said; udim: each UV tile is one">
                <Typed
                    label="pages"
                    value={rules.pages}
                    shown={(pages) => (pages === null ? '' : String(pages))}
                    read={(text): number | string | null | undefined => (text.trim() === 'udim' ? 'udim' : number(1, true)(text))}
                    disabled={disabled}
                    onTake={(pages) => take({ pages })}
                />
            </Row>
            <Row label="normal map green">
                <Choice
                    label="normal map green"
                    value={rules.greenChannel}
                    disabled={disabled}
                    width={120}
                    options={[
                        ['+Y', '+Y'],
                        ['-Y', '−Y'],
                    ]}
                    onChoose={(greenChannel) => take({ greenChannel })}
                />
            </Row>
            <Row label="texel density" help="px a file unit; empty: islands are held against each other">
                <Typed label="texel density" value={rules.texelDensity} shown={words} read={number(0)} disabled={disabled} onTake={(texelDensity) => take({ texelDensity })} />
            </Row>
            <Row label="triangle budget" help="of the low poly; empty: none">
                <Typed
                    label="triangle budget"
                    value={rules.triangleBudget}
                    shown={words}
                    read={number(0, true)}
                    disabled={disabled}
                    onTake={(triangleBudget) => take({ triangleBudget })}
                />
            </Row>
            <Row label="unit of files" help="where a file says none">
                <Choice
                    label="unit of files"
                    value={rules.unit ?? ''}
                    disabled={disabled}
                    width={120}
                    empty="not said"
                    options={[['', 'not said'], ...['m', 'cm', 'mm', 'in', 'ft'].map((unit) => [unit, unit] as const)]}
                    onChoose={(unit) => {
                        onRules(unit === '' ? without(rules, 'unit') : { ...rules, unit });
                    }}
                />
            </Row>
            <h2>Rays</h2>
            <Row label="directions">
                <Choice
                    label="directions"
                    value={rules.rays.direction}
                    disabled={disabled}
                    width={260}
                    options={[
                        ['smooth', 'averaged at vertices'],
                        ['split', "the file's own normals"],
                    ]}
                    onChoose={(direction) => take({ rays: { ...rules.rays, direction } })}
                />
            </Row>
            <Row label="lengths">
                <Choice
                    label="lengths"
                    value={rules.rays.length}
                    disabled={disabled}
                    width={260}
                    options={[
                        ['cage', 'as a cage moves its vertices'],
                        ['unit', 'one length on all of a face'],
                    ]}
                    onChoose={(length) => take({ rays: { ...rules.rays, length } })}
                />
            </Row>
            <Row label="rays a set" help="more find smaller faults, and take longer">
                <Typed<number | null>
                    label="rays a set"
                    value={rules.rays.count}
                    shown={words}
                    read={(text) => number(64, true)(text) ?? undefined}
                    disabled={disabled}
                    onTake={(count) => take({ rays: { ...rules.rays, count: count ?? 65536 } })}
                />
            </Row>
            <Row label="">
                <Tick checked={rules.rays.setsKeptApart} disabled={disabled} onTick={(setsKeptApart) => take({ rays: { ...rules.rays, setsKeptApart } })}>
                    sets are kept apart: each meets only its own high parts
                </Tick>
                <Tick checked={rules.rays.backFaces} disabled={disabled} onTick={(backFaces) => take({ rays: { ...rules.rays, backFaces } })}>
                    back faces stop rays
                </Tick>
            </Row>
            <h2>Reach</h2>
            {(['out', 'in'] as const).map((side) => (
                <Row
                    key={side}
                    label={`every set, ${side}`}
                    help={
                        side === 'out'
                            ? 'a length in file units, or a share of the set such as 1%; empty: recommended'
                            : others > 0
                              ? `${others} sets have their own, in the file`
                              : undefined
                    }
                >
                    <Typed
                        label={`reach ${side}`}
                        value={all[side] ?? null}
                        shown={(value) => (value === null ? '' : String(value))}
                        read={reachOf}
                        disabled={disabled}
                        onTake={(value) => {
                            const own = { ...all, [side]: value };
                            const rest = without(rules.reach, '*');
                            take({ reach: (own.out ?? null) === null && (own.in ?? null) === null ? rest : { ...rest, '*': own } });
                        }}
                    />
                </Row>
            ))}
        </>
    );
}
