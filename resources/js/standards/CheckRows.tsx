import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { memo, useState } from 'react';
import type { CheckLimits } from '../api/client';
import { Choice, Field, Tick } from '../frame/sheet';
import { limitOf, shown, unitWords, type CheckRule, type Rules } from './rules';

const STATIONS: Record<string, string> = {
    intake: 'Intake',
    pairing: 'Pairing',
    sets: 'Sets',
    'color-id': 'Color ID',
    clearance: 'Clearance',
    surface: 'Surface',
    proof: 'Proof',
    'hand-off': 'Hand-off',
};
const SEVERITIES = ['blocker', 'caution', 'note', 'off'];

/** A limit as it is typed; what is no number stays in the field and is told. */
function Limit({
    label,
    unit,
    value,
    builtIn,
    disabled,
    onLimit,
}: {
    label: string;
    unit: string | null;
    value: number | null | undefined;
    builtIn: number | null;
    disabled: boolean;
    onLimit: (limit: number | null) => void;
}) {
    const [text, setText] = useState(shown(value, unit));
    const [own, setOwn] = useState(value ?? null);
    if ((value ?? null) !== own) {
        setOwn(value ?? null);
        setText(shown(value, unit));
    }
    const isWrong = limitOf(text, unit) === undefined;
    return (
        <span style={{ display: 'inline-flex', alignItems: 'center', gap: 5 }}>
            <Field
                label={label}
                mono
                value={text}
                error={isWrong}
                disabled={disabled}
                placeholder={shown(builtIn, unit)}
                sx={{ width: 92, '& input': { textAlign: 'right', fontFamily: 'var(--mono)' } }}
                onText={(next) => {
                    setText(next);
                    const limit = limitOf(next, unit);
                    if (limit !== undefined) {
                        setOwn(limit);
                        onLimit(limit);
                    }
                }}
            />
            <span className="soft" style={{ width: 34 }}>
                {unitWords(unit)}
            </span>
        </span>
    );
}

const Row = memo(function Row({
    check,
    rule,
    builtIn,
    disabled,
    onChange,
}: {
    check: CheckLimits;
    rule: CheckRule | undefined;
    builtIn: number | null;
    disabled: boolean;
    onChange: (code: string, change: CheckRule) => void;
}) {
    const isSet = rule !== undefined;
    return (
        <TableRow selected={isSet}>
            <TableCell style={{ overflow: 'hidden', textOverflow: 'ellipsis' }} title={`${check.title}: ${check.limitWords}`}>
                {check.title}{' '}
                <span className="mono soft" style={{ whiteSpace: 'nowrap' }}>
                    {check.code}
                </span>
            </TableCell>
            <TableCell>
                <Choice
                    label={`severity of ${check.code}`}
                    value={rule?.severity ?? ''}
                    width={126}
                    disabled={disabled}
                    empty={check.severity}
                    options={[['', `as built in: ${check.severity}`], ...SEVERITIES.map((one) => [one, one] as const)]}
                    onChoose={(severity) => onChange(check.code, { severity: severity === '' ? null : severity })}
                />
            </TableCell>
            <TableCell className="num">
                {check.limit !== null || rule?.limit !== undefined || builtIn !== null ? (
                    <Limit
                        label={`limit of ${check.code}`}
                        unit={check.unit}
                        value={rule?.limit}
                        builtIn={builtIn}
                        disabled={disabled}
                        onLimit={(limit) => onChange(check.code, { limit })}
                    />
                ) : (
                    <span className="soft">–</span>
                )}
            </TableCell>
            <TableCell className="num">
                {check.caution !== null && (
                    <Limit
                        label={`caution limit of ${check.code}`}
                        unit={check.unit}
                        value={rule?.caution}
                        builtIn={check.caution}
                        disabled={disabled}
                        onLimit={(caution) => onChange(check.code, { caution })}
                    />
                )}
            </TableCell>
        </TableRow>
    );
});

/** Limit and severity of each check; what is not typed is as built in. */
export function CheckRows({ checks, rules, disabled, onChange }: { checks: CheckLimits[]; rules: Rules; disabled: boolean; onChange: (code: string, change: CheckRule) => void }) {
    const [find, setFind] = useState('');
    const [isOwn, setIsOwn] = useState(false);
    const words = find.trim().toLowerCase();
    const listed = checks.filter((check) => (!isOwn || rules.checks[check.code]) && `${check.code} ${check.title}`.toLowerCase().includes(words));
    const set = Object.keys(rules.checks).length;
    // These go with the map size where nothing is set.
    const padding = rules.checks['uv-padding']?.limit ?? rules.mapSize / 256;
    const bySize: Record<string, number> = { 'uv-padding': rules.mapSize / 256, 'uv-border': padding / 2, 'map-padding': padding };
    return (
        <>
            <div style={{ display: 'flex', gap: 16, alignItems: 'center', margin: '4px 0 8px' }}>
                <Field label="find a check" placeholder="find a check" type="search" value={find} onText={setFind} sx={{ width: 230 }} />
                <Tick checked={isOwn} onTick={setIsOwn}>
                    only those that this standard sets ({set})
                </Tick>
            </div>
            <Table>
                <colgroup>
                    <col />
                    <col style={{ width: 146 }} />
                    <col style={{ width: 156 }} />
                    <col style={{ width: 156 }} />
                </colgroup>
                <TableHead>
                    <TableRow>
                        <TableCell>check</TableCell>
                        <TableCell>severity</TableCell>
                        <TableCell className="num">limit</TableCell>
                        <TableCell className="num">caution from</TableCell>
                    </TableRow>
                </TableHead>
                {Object.entries(STATIONS).map(([station, name]) => {
                    const own = listed.filter((check) => check.station === station);
                    return own.length === 0 ? null : (
                        <TableBody key={station}>
                            <TableRow>
                                <TableCell colSpan={4} component="th" scope="rowgroup" sx={{ fontWeight: 700, pt: 1.5 }}>
                                    {name}
                                </TableCell>
                            </TableRow>
                            {own.map((check) => (
                                <Row
                                    key={check.code}
                                    builtIn={check.limit ?? bySize[check.code] ?? null}
                                    check={check}
                                    rule={rules.checks[check.code]}
                                    disabled={disabled}
                                    onChange={onChange}
                                />
                            ))}
                        </TableBody>
                    );
                })}
            </Table>
            {listed.length === 0 && <p className="soft">{words === '' ? 'All checks are as built in.' : `No check is called “${find.trim()}”.`}</p>}
        </>
    );
}
