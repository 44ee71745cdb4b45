import ButtonBase from '@mui/material/ButtonBase';
import FormControl from '@mui/material/FormControl';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormLabel from '@mui/material/FormLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import type { CSSProperties } from 'react';
import type { BakeSet } from '../api/client';
import { digits, percent } from '../frame/format';
import { shaded, shadedBy, type Board } from './board';

/** Who gets in whose rays, as a share of seen area: rows meet columns. Only sets in conflict are shown. */
export function Bleeds({ sets, limit, onPick }: { sets: BakeSet[]; limit: number; onPick: (set: string) => void }) {
    const busy = sets.filter(
        (set) => set.bleeds.some((bleed) => bleed.share > 0) || sets.some((other) => other.bleeds.some((bleed) => bleed.other === set.name && bleed.share > 0)),
    );
    if (busy.length === 0) {
        return <p className="soft">No set gets in another one&apos;s rays.</p>;
    }
    const shown = busy.slice(0, 24);
    return (
        <div style={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label="bleed matrix">
            <table className={matrixClass(shown.length)}>
                <thead>
                    <tr>
                        <th scope="col">meets first, % →</th>
                        {shown.map((set) => (
                            <th key={set.name} scope="col" className="mono">
                                {set.name}
                            </th>
                        ))}
                    </tr>
                </thead>
                <tbody>
                    {shown.map((row) => (
                        <tr key={row.name}>
                            <th scope="row" className="mono">
                                {row.name}
                            </th>
                            {shown.map((column) => {
                                const share = row.bleeds.find((bleed) => bleed.other === column.name)?.share ?? 0;
                                const style: CSSProperties = share > limit ? { background: 'var(--trouble-wash)', color: 'var(--trouble)', fontWeight: 700 } : {};
                                return (
                                    <td key={column.name} style={style}>
                                        {row.name === column.name ? (
                                            <span className="soft">–</span>
                                        ) : share > 0 ? (
                                            <ButtonBase
                                                sx={{ font: 'inherit' }}
                                                onClick={() => onPick(row.name)}
                                                title={`${row.name} meets ${column.name} first on ${percent(share)} of its seen low area`}
                                            >
                                                {digits(100 * share, 2)}
                                            </ButtonBase>
                                        ) : (
                                            ''
                                        )}
                                    </td>
                                );
                            })}
                        </tr>
                    ))}
                </tbody>
            </table>
            {busy.length > shown.length && <p className="soft">and {busy.length - shown.length} more sets in conflict</p>}
        </div>
    );
}

/** Many columns have their names standing on end, so that all of them are seen. */
const matrixClass = (columns: number): string => (columns > 7 ? 'matrix many' : 'matrix');

/** Who stands over whom, as a share of the directions over a set's faces, and who is to shade whom when occlusion is baked. */
export function Shades({ sets, board, onChange, onPick }: { sets: BakeSet[]; board: Board; onChange: (board: Board) => void; onPick: (set: string) => void }) {
    const stand = sets.map((set) => ({ name: set.name, others: set.shades.map((shade) => shade.other) }));
    const rows = [...sets].filter((set) => set.shades.some((shade) => shade.share >= 0.005)).sort((a, b) => (b.shades[0]?.share ?? 0) - (a.shades[0]?.share ?? 0));
    const shown = rows.slice(0, 24);
    const columns = sets.filter((set) => shown.some((row) => row.shades.some((shade) => shade.other === set.name && shade.share >= 0.005))).slice(0, 24);
    return (
        <>
            <FormControl sx={{ flexDirection: 'row', alignItems: 'center', gap: 2, mb: 1, flexWrap: 'wrap' }}>
                <FormLabel id="occlusion-label">Occlusion is baked with</FormLabel>
                <RadioGroup
                    row
                    aria-labelledby="occlusion-label"
                    value={board.occlusion}
                    onChange={(_, value) => onChange({ ...board, occlusion: value as Board['occlusion'] })}
                    sx={{ gap: 2 }}
                >
                    {(
                        [
                            ['own', 'each set alone'],
                            ['all', 'all sets around it'],
                            ['named', 'those marked below'],
                        ] as const
                    ).map(([value, words]) => (
                        <FormControlLabel key={value} value={value} control={<Radio size="small" />} label={words} />
                    ))}
                </RadioGroup>
            </FormControl>
            {rows.length === 0 ? (
                <p className="soft">No set stands over another one.</p>
            ) : (
                <div style={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label="shading matrix">
                    <table className={matrixClass(columns.length)}>
                        <thead>
                            <tr>
                                <th scope="col">is shaded by, % →</th>
                                {columns.map((set) => (
                                    <th key={set.name} scope="col" className="mono">
                                        {set.name}
                                    </th>
                                ))}
                            </tr>
                        </thead>
                        <tbody>
                            {shown.map((row) => (
                                <tr key={row.name}>
                                    <th scope="row" className="mono">
                                        <ButtonBase sx={{ font: 'inherit' }} onClick={() => onPick(row.name)}>
                                            {row.name}
                                        </ButtonBase>
                                    </th>
                                    {columns.map((column) => {
                                        const share = row.shades.find((shade) => shade.other === column.name)?.share ?? 0;
                                        const marked = shadedBy(board, row.name, column.name);
                                        return (
                                            <td key={column.name} className={marked && share > 0 ? 'marked' : ''}>
                                                {row.name === column.name ? (
                                                    <span className="soft">–</span>
                                                ) : share > 0 ? (
                                                    <ButtonBase
                                                        sx={{ font: 'inherit' }}
                                                        aria-pressed={marked}
                                                        title={`${column.name} stands in ${percent(share)} of the directions over ${row.name}: ${marked ? 'it shades it' : 'it does not shade it in the bake'}`}
                                                        onClick={() => onChange(shaded(board, row.name, column.name, stand))}
                                                    >
                                                        {marked ? '✓ ' : ''}
                                                        {digits(100 * share, 2)}
                                                    </ButtonBase>
                                                ) : (
                                                    ''
                                                )}
                                            </td>
                                        );
                                    })}
                                </tr>
                            ))}
                        </tbody>
                    </table>
                    {rows.length > shown.length && <p className="soft">and {rows.length - shown.length} more sets that stand less in the shade</p>}
                </div>
            )}
            <p className="soft">A share of the directions over the set&apos;s low poly, those straight up counting most. Click one to let it shade, or not.</p>
        </>
    );
}
