import Button from '@mui/material/Button';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useAct, type At } from '../api/client';
import { useNotice } from '../frame/Notice';
import { Choice, Download, Foot, Grow } from '../frame/sheet';

type How = { kind: 'ids'; onto: string; as: string };

/** Writes the IDs that were decided on: as a download, or into a new delivery that is checked. */
export function Writing({ delivery, ready }: { delivery: At<'color-id'>; ready: boolean }) {
    const [onto, setOnto] = useState('copy');
    const [as, setAs] = useState('materials');
    const navigate = useNavigate();
    const notice = useNotice();
    const make = useAct<How>(delivery.id, () => 'outputs');
    const handIn = useAct<How, { assetId: number; deliveryId: number; number: number }>(delivery.id, () => 'id-files');
    const written = delivery.outputs.filter((output) => output.kind === 'ids').at(-1);
    const busy = written !== undefined && !['done', 'failed'].includes(written.state);
    const how: How = { kind: 'ids', onto, as };
    return (
        <Foot>
            <Grow />
            {written?.state === 'failed' && (
                <span className="blocker" role="alert">
                    {written.error}
                </span>
            )}
            <Choice
                label="where IDs are written"
                value={onto}
                onChoose={setOnto}
                options={[
                    ['copy', 'ID files of their own'],
                    ['high', 'onto the high poly'],
                ]}
            />
            <Choice
                label="what IDs are written as"
                value={as}
                onChoose={setAs}
                options={[
                    ['materials', 'materials'],
                    ['vertex-colors', 'vertex colors'],
                ]}
            />
            {written?.state === 'done' && <Download href={`/api/outputs/${written.id}`}>Download</Download>}
            <Button variant="outlined" disabled={!ready || busy || make.isPending} onClick={() => make.mutate(how, { onError: notice.failed })}>
                {busy ? 'Writing…' : 'Write ID files'}
            </Button>
            <Button
                variant="contained"
                disabled={!ready || handIn.isPending}
                title="a new delivery with these IDs, checked at once"
                onClick={() =>
                    handIn.mutate(how, {
                        onSuccess: (to) => {
                            notice.done(`Delivery ${to.number} gets these IDs and is checked`);
                            void navigate(`/assets/${to.assetId}/deliveries/${to.deliveryId}/color-id`);
                        },
                        onError: notice.failed,
                    })
                }
            >
                Hand in with IDs
            </Button>
        </Foot>
    );
}
