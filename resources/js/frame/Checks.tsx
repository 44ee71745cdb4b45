import Accordion from '@mui/material/Accordion';
import AccordionDetails from '@mui/material/AccordionDetails';
import AccordionSummary from '@mui/material/AccordionSummary';
import Box from '@mui/material/Box';
import type { Delivery } from '../api/client';
import { plural } from './format';
import { Mark } from './marks';

/** How the checks ended that found nothing: what waits and what did not run is seen, the rest is folded. */
export function Checks({ delivery, station, quiet }: { delivery: Delivery; station: string; quiet: boolean }) {
    const checks = delivery.checks.filter((check) => check.station === station && check.state !== 'found');
    const of = (state: string) => checks.filter((check) => check.state === state);
    const [waiting, notRun, passed] = [of('waiting'), of('not-run'), of('passed')];
    const idle = checks.filter((check) => !['waiting', 'not-run', 'passed'].includes(check.state));
    const list = (label: string, rows: typeof checks, words: (check: (typeof checks)[number]) => string, look: string) => (
        <Box component="ul" aria-label={label} sx={{ listStyle: 'none', m: 0, mt: 0.5, p: 0, '& li': { display: 'flex', gap: 1, py: '2px' } }}>
            {rows.map((check) => (
                <li key={check.code}>
                    <span aria-hidden="true">{check.state === 'passed' ? <Mark kind="clear" /> : check.state === 'waiting' ? '…' : '–'}</span>
                    <Box component="span" className="mono" sx={{ minWidth: '10.5em' }}>
                        {check.code}
                    </Box>
                    <span className={look}>{words(check)}</span>
                </li>
            ))}
        </Box>
    );
    const reasons = [...new Set(waiting.map((check) => check.reason ?? 'still measured'))];
    return (
        <>
            {reasons.map((reason) => {
                const own = waiting.filter((check) => (check.reason ?? 'still measured') === reason);
                return (
                    <Box key={reason} component="p" className="soft" sx={{ m: 0, mt: 0.75 }} title={own.map((check) => check.code).join(', ')}>
                        … {plural(own.length, 'check waits', 'checks wait')}: {reason}
                    </Box>
                );
            })}
            {notRun.length > 0 && list('checks that did not run', notRun, (check) => `not run: ${check.reason ?? ''}`, 'caution')}
            {passed.length + idle.length > 0 && (
                <Accordion defaultExpanded={quiet && passed.length + idle.length <= 12} sx={{ mt: 1 }}>
                    <AccordionSummary expandIcon={<span aria-hidden="true">▾</span>}>
                        {passed.length > 0 && (
                            <>
                                <Mark kind="clear" />
                                &nbsp;{passed.length} passed
                            </>
                        )}
                        {passed.length > 0 && idle.length > 0 && ', '}
                        {idle.length > 0 && `${idle.length} with nothing to look at`}
                    </AccordionSummary>
                    <AccordionDetails>
                        {list('other checks', [...passed, ...idle], (check) => (check.state === 'passed' ? check.title : (check.reason ?? 'nothing of its kind is there')), 'soft')}
                    </AccordionDetails>
                </Accordion>
            )}
        </>
    );
}
