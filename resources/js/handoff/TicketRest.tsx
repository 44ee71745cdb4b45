import ButtonBase from '@mui/material/ButtonBase';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { ReactNode } from 'react';
import type { At } from '../api/client';
import { percent, plural, whole } from '../frame/format';
import { useNotice } from '../frame/Notice';

/** A number as a baker's field takes it: in file units, no unit behind it. */
export const copyable = (value: number | null): string => (value === null ? '' : String(Number(value.toPrecision(6))));

/** Puts a value into the clipboard, and says so. */
export function useCopy(): (value: string) => void {
    const notice = useNotice();
    return (value) => void navigator.clipboard.writeText(value).then(() => notice.done(`${value} copied`), notice.failed);
}

/** A value that is copied when it is clicked. */
export function Copied({ label, value, onCopy, children }: { label: string; value: string; onCopy: (value: string) => void; children: ReactNode }) {
    return (
        <ButtonBase
            title={`click to copy ${value}`}
            onClick={() => onCopy(value)}
            sx={{
                font: 'inherit',
                textAlign: 'inherit',
                display: 'inline',
                textDecoration: 'underline dotted',
                textUnderlineOffset: '4px',
                textDecorationColor: 'var(--rule-strong)',
                '&:hover': { bgcolor: 'var(--wash)' },
            }}
        >
            <span className="visually-hidden">copy {label}: </span>
            {children}
        </ButtonBase>
    );
}

/** Sets of which is said who shades them; the page to print has all. */
const SETS = 24;

/** What else the ticket says: what is left out, what is left to paint, which color is which, and who shades whom. */
export function TicketRest({ delivery }: { delivery: At<'hand-off'> }) {
    const { shades, leftOut, legend, pages } = delivery;
    const sets = [...new Set(shades.map((one) => one.set))];
    return (
        <>
            {leftOut.length > 0 && (
                <>
                    <h2>Left out of the bake</h2>
                    <p className="mono" style={{ margin: 0 }}>
                        {leftOut.join(', ')}
                    </p>
                </>
            )}
            {pages.length > 0 && (
                <>
                    <h2>Left to paint after the bake</h2>
                    <Table>
                        <TableBody>
                            {pages.map((one) => (
                                <TableRow key={one.page}>
                                    <TableCell className="mono">{one.page}</TableCell>
                                    <TableCell className="num">{whole(one.texels)} texels</TableCell>
                                    <TableCell className="num">{percent(one.share)}</TableCell>
                                    <TableCell className="soft">of those inside UV islands</TableCell>
                                </TableRow>
                            ))}
                        </TableBody>
                    </Table>
                </>
            )}
            {legend.length > 0 && (
                <>
                    <h2>Color IDs</h2>
                    <Table>
                        <TableBody>
                            {legend.slice(0, 100).map((id) => (
                                <TableRow key={id.hex}>
                                    <TableCell style={{ width: 130 }} className="mono">
                                        <span
                                            aria-hidden="true"
                                            style={{
                                                display: 'inline-block',
                                                width: 26,
                                                height: 13,
                                                background: id.hex,
                                                border: '1px solid var(--ink)',
                                                verticalAlign: -1,
                                                marginRight: 8,
                                            }}
                                        />
                                        {id.hex}
                                    </TableCell>
                                    <TableCell className="mono">{id.name}</TableCell>
                                    <TableCell className="soft mono">{id.parts.join(', ')}</TableCell>
                                </TableRow>
                            ))}
                        </TableBody>
                    </Table>
                    {legend.length > 100 && <p className="soft">and {plural(legend.length - 100, 'more ID')}, in the legend</p>}
                </>
            )}
            {shades.length > 0 && (
                <>
                    <h2>Who shades whom</h2>
                    <p className="soft" style={{ margin: '0 0 4px' }}>
                        Share of a set&apos;s directions in which another set stands nearest.
                    </p>
                    <Table>
                        <TableBody>
                            {sets.slice(0, SETS).map((set) => (
                                <TableRow key={set}>
                                    <TableCell className="mono" style={{ width: '24%' }}>
                                        {set}
                                    </TableCell>
                                    <TableCell style={{ overflow: 'visible', overflowWrap: 'anywhere' }}>
                                        {[true, false].map((wanted) => {
                                            const own = shades.filter((one) => one.set === set && one.wanted === wanted);
                                            return own.length === 0 ? null : (
                                                <div key={String(wanted)}>
                                                    {wanted ? 'bake together with ' : 'keep apart from '}
                                                    {own.slice(0, 8).map((one, i) => (
                                                        <span key={one.by}>
                                                            {i > 0 && ', '}
                                                            <span className="mono">{one.by}</span> <span className="soft">{percent(one.share)}</span>
                                                        </span>
                                                    ))}
                                                    {own.length > 8 && `, and ${whole(own.length - 8)} more`}
                                                </div>
                                            );
                                        })}
                                    </TableCell>
                                </TableRow>
                            ))}
                        </TableBody>
                    </Table>
                    {sets.length > SETS && <p className="soft">and {plural(sets.length - SETS, 'more set')}, on the page to print</p>}
                </>
            )}
        </>
    );
}
