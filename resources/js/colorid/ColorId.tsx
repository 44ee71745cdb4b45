import LinearProgress from '@mui/material/LinearProgress';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useEffect, useRef, useState } from 'react';
import { useAct, type At } from '../api/client';
import { plural } from '../frame/format';
import { useNotice } from '../frame/Notice';
import { Failure, Head, Scroll } from '../frame/sheet';
import { Found, headOf, sourceOf } from './Found';
import { Sheet } from './Sheet';
import { CutTools } from './Tools';
import { Writing } from './Writing';

/** The IDs that were handed in, and those that are to be given. */
export function ColorId({ delivery }: { delivery: At<'color-id'> }) {
    const { ids, sheet } = delivery;
    const none = !ids || ids.source === 'none';
    const [chosen, setChosen] = useState<'found' | 'sheet' | null>(null);
    const view = chosen ?? (none ? 'sheet' : 'found');
    const notice = useNotice();
    const cut = useAct<{ by: string; angle: number }>(delivery.id, () => 'id-cut');
    const { mutate } = cut;
    const settled = delivery.state === 'done';
    // The first look at what could be given has the high poly cut as it was for the last one, at first by parts; no second one while that goes on.
    const asked = useRef('');
    useEffect(() => {
        const what = `${delivery.id} ${delivery.checkedAt ?? ''}`;
        if (view === 'sheet' && settled && ids?.canGive && sheet === null && asked.current !== what) {
            asked.current = what;
            mutate({ by: delivery.by, angle: delivery.angle }, { onError: notice.failed });
        }
    }, [view, settled, ids, sheet, mutate, notice, delivery.id, delivery.checkedAt, delivery.by, delivery.angle]);
    const onCut = (by: string, angle: number): void => mutate({ by, angle }, { onError: notice.failed });
    const cutting = cut.isPending || delivery.outputs.some((output) => output.kind === 'id-cut' && !['done', 'failed'].includes(output.state));
    const failed = delivery.outputs.filter((output) => output.kind === 'id-cut').at(-1);

    if (!ids) {
        return (
            <Scroll>
                <Head title={settled ? 'There is no high poly to give IDs to' : 'The ID colors are shown once all is measured'} />
            </Scroll>
        );
    }
    const blocking = delivery.findings.filter((finding) => finding.code === 'id-close' && finding.severity === 'blocker' && !finding.waived).length;
    const toggle = !none && ids.canGive && (
        <ToggleButtonGroup exclusive value={view} onChange={(_, to: 'found' | 'sheet' | null) => to && setChosen(to)} aria-label="which IDs">
            <ToggleButton value="found">handed in</ToggleButton>
            <ToggleButton value="sheet">to give</ToggleButton>
        </ToggleButtonGroup>
    );
    const isThere = sheet?.state === 'done';
    return (
        <>
            <Scroll>
                <Head title={view === 'found' || none ? headOf(ids, blocking) : isThere ? `${plural(sheet.ids.length, 'ID')} to give` : 'IDs to give'} acts={toggle || undefined}>
                    {view === 'found'
                        ? sourceOf(ids)
                        : none
                          ? 'No ID file, no vertex colors, and no two materials with colors of their own. Below: the most distinct colors for as many IDs as are wanted. Click pieces in the stand, or draw a band with Shift held, to give them one ID.'
                          : 'Click pieces in the stand, or draw a band with Shift held, to give them one ID.'}
                </Head>
                {view === 'found' ? (
                    <Found delivery={delivery} ids={ids} />
                ) : (
                    <>
                        {!ids.canGive && <p>There is no high poly to give IDs to.</p>}
                        {cutting && (
                            <div role="status" style={{ marginBottom: 10 }}>
                                Cutting the high poly…
                                <LinearProgress aria-label="cutting the high poly" />
                            </div>
                        )}
                        {failed?.state === 'failed' && !cutting && <Failure>{failed.error}</Failure>}
                        {isThere ? (
                            <Sheet key={sheet.cut} delivery={delivery} fetched={sheet} onCut={onCut} />
                        ) : (
                            sheet && !cutting && <CutTools sheet={sheet} busy={false} onCut={onCut} />
                        )}
                    </>
                )}
            </Scroll>
            {view === 'sheet' && ids.canGive && <Writing delivery={delivery} ready={isThere && !cutting} />}
        </>
    );
}
