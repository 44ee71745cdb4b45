import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { handInMaps, takeMapBack, type Delivery, type ProofStation, type ReturnedMap } from '../api/client';
import { useNotice } from '../frame/Notice';
import { Choice, Failure, Grow } from '../frame/sheet';

const WORDS: Record<string, string> = {
    'map-unreadable': 'cannot be read',
    'map-turned': 'turned or mirrored',
    'map-green': 'green inverted',
    'map-space': 'wrong color space',
    'map-other': 'of something else',
    'map-size': 'another size',
    'map-bits': 'too few bits',
    'map-hole': 'has holes',
    'map-padding': 'padding stops short',
    'map-blend': 'IDs are smoothed',
    'map-differs': 'differs from the trial',
};

/** What was found of a map, in a few words. */
export function verdictOf(map: ReturnedMap): string {
    if (map.error !== null) {
        return map.error;
    }
    if (map.number < 0) {
        return 'not judged yet';
    }
    if (map.codes.length > 0) {
        return map.codes.map((code) => WORDS[code] ?? code).join(', ');
    }
    return map.median === null
        ? 'nothing to compare'
        : `fits: ${map.kind === 'normal' ? `${map.median.toFixed(1)}°` : map.kind === 'id' ? `ΔE ${map.median.toFixed(1)}` : map.median.toFixed(3)} off the trial`;
}

/** Maps that came back from a baker: dropped here, judged, taken back. */
export function Maps({ delivery, proof, shown, onShow }: { delivery: Delivery; proof: ProofStation; shown: number | null; onShow: (map: ReturnedMap) => void }) {
    const client = useQueryClient();
    const notice = useNotice();
    const field = useRef<HTMLInputElement>(null);
    const [sending, setSending] = useState<{ share: number; name: string } | null>(null);
    const [refused, setRefused] = useState<string | null>(null);
    const [kind, setKind] = useState('');
    const [page, setPage] = useState('');
    const send = async (files: File[]): Promise<void> => {
        if (files.length === 0) {
            return;
        }
        setRefused(null);
        setSending({ share: 0, name: files[0]?.name ?? '' });
        try {
            await handInMaps(files, delivery.id, { ...(kind === '' ? {} : { kind }), ...(page === '' ? {} : { page }) }, (share, name) => setSending({ share, name }));
            notice.done('The maps are held against the trial');
            await client.invalidateQueries();
        } catch (problem) {
            setRefused(problem instanceof Error ? problem.message : 'The maps could not be handed in.');
        } finally {
            setSending(null);
        }
    };
    return (
        <Box
            component="section"
            aria-label="maps that came back"
            onDragOver={(event) => event.preventDefault()}
            onDrop={(event) => {
                event.preventDefault();
                event.stopPropagation();
                void send([...event.dataTransfer.files]);
            }}
            sx={{ mt: 2 }}
        >
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 0.75 }}>
                <h2>Maps that came back</h2>
                <span className="soft">{proof.maps.length === 0 ? 'Drop them here: PNG, TGA or TIFF, named PAGE_normal and so on.' : ''}</span>
                <Grow />
                <Choice
                    label="kind, where names do not tell"
                    value={kind}
                    empty="kind by name"
                    options={[
                        ['', 'kind by name'],
                        ['normal', 'normal'],
                        ['ao', 'occlusion'],
                        ['id', 'color ID'],
                        ['height', 'height'],
                    ]}
                    onChoose={setKind}
                />
                {proof.pages.length > 1 && (
                    <Choice
                        label="page, where names do not tell"
                        value={page}
                        empty="page by name"
                        options={[['', 'page by name'], ...proof.pages.map((one) => [one.name, one.name] as const)]}
                        onChoose={setPage}
                    />
                )}
                <Button variant="outlined" onClick={() => field.current?.click()} disabled={sending !== null}>
                    Add maps
                </Button>
                <input
                    ref={field}
                    type="file"
                    multiple
                    hidden
                    accept=".png,.tga,.tif,.tiff"
                    aria-label="maps that came back"
                    onChange={(event) => {
                        void send([...(event.target.files ?? [])]);
                        event.target.value = '';
                    }}
                />
            </Box>
            {refused !== null && <Failure>{refused}</Failure>}
            {sending !== null && (
                <Box role="status" sx={{ mb: 1 }}>
                    Sending {sending.name}
                    <LinearProgress variant="determinate" value={100 * sending.share} aria-label="sending maps" />
                </Box>
            )}
            {proof.maps.map((map) => (
                <Box
                    key={map.file}
                    sx={{
                        display: 'grid',
                        gridTemplateColumns: 'minmax(120px, 1.2fr) 150px minmax(140px, 1.6fr) auto auto',
                        gap: 1,
                        alignItems: 'center',
                        minHeight: 34,
                        borderTop: '1px solid var(--rule)',
                        bgcolor: shown === map.file ? 'var(--wash)' : undefined,
                    }}
                >
                    <span className="mono" style={{ overflowWrap: 'anywhere' }}>
                        {map.name}
                    </span>
                    <span className="soft">{map.width === null ? '' : `${map.width} × ${map.height ?? 0} px, ${map.bits ?? 0} bits`}</span>
                    <span style={{ color: map.codes.length > 0 || map.error !== null ? 'var(--blocker)' : undefined }}>{verdictOf(map)}</span>
                    <Button size="small" variant="outlined" disabled={map.size === 0} onClick={() => onShow(map)} aria-pressed={shown === map.file}>
                        Show
                    </Button>
                    <Button
                        size="small"
                        aria-label={`Take back ${map.name}`}
                        onClick={() => {
                            takeMapBack(delivery.id, map.file)
                                .then(() => client.invalidateQueries())
                                .catch(notice.failed);
                        }}
                    >
                        Take back
                    </Button>
                </Box>
            ))}
        </Box>
    );
}
