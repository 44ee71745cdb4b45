import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import { useEffect, useRef } from 'react';
import type { Delivery } from '../api/client';
import { SendBackButton } from '../findings/SendBack';
import { causesOf, choiceOf, extent, isChosen, isNote, linesOf, NOTES, severityOf, showsNotes, type Line } from './causes';
import { Checks } from './Checks';
import { Detail } from './Detail';
import { plural, whole } from './format';
import { Mark } from './marks';
import { useSelection, useStand } from './selection';

function Row({
    line,
    chosen,
    open,
    delivery,
    onChoose,
    onOpen,
}: {
    line: Line;
    chosen: boolean;
    open: boolean;
    delivery: Delivery;
    onChoose: () => void;
    onOpen: (open: boolean) => void;
}) {
    const { told, member } = line;
    const many = member === null && told.members.length > 1;
    const severity = severityOf(member ?? told.cause);
    const row = useRef<HTMLLIElement>(null);
    useEffect(() => {
        if (chosen) {
            row.current?.scrollIntoView({ block: 'nearest' });
        }
    }, [chosen]);
    return (
        <Box
            component="li"
            ref={row}
            sx={{
                borderBottom: member ? 0 : 1,
                borderColor: 'divider',
                contentVisibility: 'auto',
                containIntrinsicSize: 'auto 44px',
                '& .remedy': { display: 'block' },
                bgcolor: chosen ? 'var(--wash)' : undefined,
                pl: member ? '22px' : 0,
            }}
        >
            <Box sx={{ display: 'flex', alignItems: 'flex-start' }}>
                <ButtonBase
                    className="cause"
                    aria-pressed={chosen}
                    onClick={onChoose}
                    onKeyDown={(event) => {
                        if (many && (event.key === 'ArrowRight' || event.key === 'ArrowLeft')) {
                            onOpen(event.key === 'ArrowRight');
                        }
                    }}
                    sx={{
                        flex: 1,
                        display: 'grid',
                        gridTemplateColumns: '18px 1fr auto',
                        gap: '6px',
                        textAlign: 'left',
                        alignItems: 'start',
                        px: 0.5,
                        py: member ? '3px' : '7px',
                        font: 'inherit',
                    }}
                >
                    <Box component="span" sx={{ pt: '3px' }}>
                        <Mark kind={severity} />
                        <span className="visually-hidden">{severity}</span>
                    </Box>
                    <span>
                        {member?.message ?? told.cause.message}
                        {!member && !chosen && <span className="remedy soft">{told.cause.remedy}</span>}
                    </span>
                    {!member && (
                        <span className={`mono ${severity}`}>
                            {told.cause.code}
                            {told.cause.waived ? ' (waived)' : ''}
                        </span>
                    )}
                </ButtonBase>
                {many && (
                    <Button
                        variant="text"
                        aria-expanded={open}
                        aria-label={`${open ? 'close' : 'open'} the ${whole(told.members.length)} findings of ${told.cause.code}`}
                        onClick={() => onOpen(!open)}
                    >
                        {whole(told.members.length)} {open ? '▴' : '▾'}
                    </Button>
                )}
            </Box>
            {chosen && <Detail delivery={delivery} told={told} member={member} />}
        </Box>
    );
}

/** What the checks of this station found, cause by cause, and how the others ended. */
export function Findings({
    delivery,
    station,
    open,
    onOpen,
    folded,
    onFold,
}: {
    delivery: Delivery;
    station: string;
    open: ReadonlySet<number>;
    onOpen: (cause: number, open: boolean) => void;
    folded: boolean;
    onFold: () => void;
}) {
    const selection = useSelection();
    const stand = useStand();
    const told = causesOf(delivery, station);
    const notes = told.filter(isNote);
    const isOpen = showsNotes(told, open, selection);
    const lines = linesOf(told, open, isOpen);
    const list = (label: string, own: Line[]) => (
        <Box component="ul" aria-label={label} sx={{ listStyle: 'none', m: 0, p: 0 }}>
            {own.map((line) => (
                <Row
                    key={line.member ? `member ${line.member.id}` : line.told.id}
                    line={line}
                    chosen={isChosen(line, selection)}
                    open={open.has(line.told.id)}
                    delivery={delivery}
                    onChoose={() => {
                        selection.select(choiceOf(line));
                        stand.flyTo();
                    }}
                    onOpen={(to) => onOpen(line.told.id, to)}
                />
            ))}
        </Box>
    );
    const goesOn = !['done', 'failed', 'cancelled'].includes(delivery.state);
    const faults = told.filter((one) => !isNote(one));
    const findings = faults.reduce((sum, one) => sum + one.members.length, 0);
    const heading =
        faults.length > 0
            ? `${plural(faults.length, 'cause')}${findings > 1 ? `, ${plural(findings, 'finding')}` : ''}${goesOn ? ' so far' : station === 'hand-off' ? ' in all' : ''}`
            : goesOn
              ? 'Nothing found so far'
              : notes.length > 0
                ? 'No blockers and no cautions here'
                : 'No findings here';
    return (
        <Box
            component="section"
            aria-label="findings"
            sx={{
                flex: folded ? 'none' : '0 1 44%',
                minHeight: folded ? 0 : 170,
                display: 'flex',
                flexDirection: 'column',
                bgcolor: 'background.paper',
                borderTop: 1,
                borderColor: 'divider',
            }}
        >
            <Box component="header" sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'baseline', columnGap: 1.5, px: '14px', pt: 1, pb: 0.5 }}>
                <Box component="h2" sx={{ maxWidth: '100%' }} title={told.map(extent).join(', ')}>
                    {heading}
                </Box>
                {/* Those that do not fit beside the rest are left out whole. */}
                <Box
                    component="span"
                    className="soft"
                    sx={{ flex: '1 1 0', height: '1.6em', overflow: 'hidden', display: 'flex', flexWrap: 'wrap', justifyContent: 'flex-end', columnGap: '14px' }}
                >
                    {lines.length > 0 && !folded && (
                        <>
                            <span>
                                <kbd>J</kbd> <kbd>K</kbd> walk
                            </span>
                            <span>
                                <kbd>→</kbd> open
                            </span>
                            <span>
                                <kbd>↵</kbd> show
                            </span>
                        </>
                    )}
                </Box>
                {!folded && <SendBackButton delivery={delivery} />}
                <Button variant="text" aria-expanded={!folded} onClick={onFold}>
                    {folded ? 'Unfold' : 'Fold'}
                </Button>
            </Box>
            {!folded && (
                <Box sx={{ overflowY: 'auto', px: '14px', pb: 1 }} tabIndex={0} role="region" aria-label="list of findings">
                    {list(
                        'causes',
                        lines.filter((line) => !isNote(line.told)),
                    )}
                    {notes.length > 0 && (
                        <Button
                            variant="text"
                            aria-expanded={isOpen}
                            sx={{ display: 'block', my: 0.5 }}
                            onClick={() => {
                                onOpen(NOTES, !isOpen);
                                if (isOpen && lines.some((line) => isNote(line.told) && isChosen(line, selection))) {
                                    selection.select({});
                                }
                            }}
                        >
                            {plural(notes.length, 'note')} {isOpen ? '▴' : '▾'}
                        </Button>
                    )}
                    {isOpen &&
                        list(
                            'notes',
                            lines.filter((line) => isNote(line.told)),
                        )}
                    <Checks delivery={delivery} station={station} quiet={told.length === 0} />
                </Box>
            )}
        </Box>
    );
}
