import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useAct, type Delivery } from '../api/client';
import { plural, whole } from './format';
import { Failure } from './sheet';

/** How much of a delivery is done, from 0 to 1. */
export function shareOf({ state, progress: { files, filesDone, sets, setsDone } }: Pick<Delivery, 'state' | 'progress'>): number {
    return state === 'writing' ? 0.02 : state === 'reading' ? (0.4 * filesDone) / Math.max(1, files) : state === 'checking' ? 0.97 : 0.4 + (0.55 * setsDone) / Math.max(1, sets);
}

/** How far a delivery is, that it failed or was stopped, and what can be done about either. */
export function Progress({ delivery }: { delivery: Delivery }) {
    const cancel = useAct<void>(delivery.id, () => 'cancel');
    const again = useAct<void>(delivery.id, () => 'recheck');
    if (delivery.state === 'failed' || delivery.state === 'cancelled') {
        return (
            <Failure
                sx={{ mx: '18px', mt: 1.25, mb: 0 }}
                acts={
                    <Button variant="outlined" disabled={again.isPending} onClick={() => again.mutate()}>
                        Check again
                    </Button>
                }
            >
                <b>{delivery.state === 'failed' ? 'Checking failed.' : 'Checking was stopped.'}</b> {delivery.error}
            </Failure>
        );
    }
    if (delivery.state === 'done') {
        return null;
    }
    const { files, filesDone, sets, setsDone, doing, waitsFor } = delivery.progress;
    return (
        <Box sx={{ px: '18px', pt: 1.25, flex: 'none' }} role="status">
            <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mb: 0.5, gap: 1 }}>
                <span>
                    {doing ?? 'working'}{' '}
                    {files > 0 && (
                        <span className="soft">
                            · {sets > 0 && filesDone === files ? `${whole(setsDone)} of ${plural(sets, 'set')} measured` : `${filesDone} of ${plural(files, 'file')} read`}
                            {waitsFor !== null && filesDone === files && `; the verdict waits for ${waitsFor}`}
                        </span>
                    )}
                </span>
                <Button variant="outlined" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
                    Cancel
                </Button>
            </Box>
            <LinearProgress variant="determinate" value={100 * shareOf(delivery)} aria-label="how much is done" />
        </Box>
    );
}
