import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Pagination from '@mui/material/Pagination';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { handIn, takeAsNew, useRack, type Delivered } from '../api/client';
import { Bar } from '../frame/Bar';
import { plural, whole } from '../frame/format';
import { Anvil } from '../frame/marks';
import { useNotice } from '../frame/Notice';
import { Failure, Field, Head } from '../frame/sheet';
import { App } from '../frame/looks';
import type { Mode } from '../theme';
import { DropBox, RackBox } from './looks';
import { RackTable } from './RackTable';

type Kind = 'all' | 'blocked' | 'ready';

/** All assets, and the place to hand files in. */
export function RackPage({ mode, setMode }: { mode: Mode; setMode: (mode: Mode) => void }) {
    const [find, setFind] = useState('');
    const [kind, setKind] = useState<Kind>('all');
    const [page, setPage] = useState(1);
    const wanted = useDeferredValue(find.trim());
    const { data: rack, error } = useRack({ find: wanted, verdict: kind, page });
    const [over, setOver] = useState(false);
    const [sending, setSending] = useState<{ share: number; name: string; waits: boolean } | null>(null);
    const [refused, setRefused] = useState<string | null>(null);
    const chooser = useRef<HTMLInputElement>(null);
    const top = useRef<HTMLElement>(null);
    const navigate = useNavigate();
    const client = useQueryClient();
    const notice = useNotice();

    const open = async (delivered: Delivered): Promise<void> => {
        await client.invalidateQueries();
        void navigate(`/assets/${delivered.assetId}/deliveries/${delivered.deliveryId}/pairing`);
    };
    const send = async (files: File[]): Promise<void> => {
        if (files.length === 0) {
            return;
        }
        setRefused(null);
        setSending({ share: 0, name: files[0]?.name ?? '', waits: false });
        try {
            const { delivered, uploads } = await handIn(files, null, (share, name, waits) => setSending({ share, name, waits }));
            await open(delivered);
            if (delivered.known) {
                notice.offer(`Delivery ${delivered.number} already has these files, byte for byte. No new delivery was made.`, 'Upload anyway', () => {
                    takeAsNew(uploads).then(open).catch(notice.failed);
                });
            }
        } catch (problem) {
            setRefused(problem instanceof Error ? problem.message : 'The files could not be handed in.');
        } finally {
            setSending(null);
        }
    };
    const latest = useRef(send);
    useEffect(() => {
        latest.current = send;
        document.title = 'Rack – Yellow Anvil';
    });
    useEffect(() => {
        const drag = (event: DragEvent): void => {
            event.preventDefault();
            setOver(event.type === 'dragover');
            if (event.type === 'drop') {
                void latest.current([...(event.dataTransfer?.files ?? [])]);
            }
        };
        const events = ['dragover', 'dragleave', 'drop'] as const;
        events.forEach((name) => window.addEventListener(name, drag));
        return () => {
            events.forEach((name) => window.removeEventListener(name, drag));
        };
    }, []);

    const shown = rack?.assets ?? [];
    // The last page may be gone since: assets are deleted, and what is looked for changes.
    if (rack && page > Math.max(1, rack.pages)) {
        setPage(Math.max(1, rack.pages));
    }
    const { total, ready, blocked, computing } = rack ?? { total: 0, ready: 0, blocked: 0, computing: 0 };

    return (
        <App>
            <Bar mode={mode} setMode={setMode}>
                <b>Rack</b>
                <span className="grow" />
                <Link to="/standards" className="crumb">
                    standard: {rack?.standard ?? '…'}
                </Link>
            </Bar>
            <RackBox ref={top}>
                <Head
                    title={total === 0 ? (rack ? 'The rack is empty' : 'Fetching the rack…') : `${plural(total, 'asset')}, ${whole(ready)} ready to hand off`}
                    acts={
                        total > 0 && (
                            <>
                                <Field
                                    type="search"
                                    label="find an asset or part"
                                    placeholder="filter by asset or part"
                                    value={find}
                                    onText={(text) => {
                                        setFind(text);
                                        setPage(1);
                                    }}
                                    sx={{ width: 200 }}
                                />
                                <ToggleButtonGroup
                                    value={kind}
                                    onChange={(_, value: Kind | null) => {
                                        if (value) {
                                            setKind(value);
                                            setPage(1);
                                        }
                                    }}
                                    aria-label="which assets"
                                >
                                    <ToggleButton value="all">all {whole(total)}</ToggleButton>
                                    <ToggleButton value="blocked">blocked {whole(blocked)}</ToggleButton>
                                    <ToggleButton value="ready">ready {whole(ready)}</ToggleButton>
                                </ToggleButtonGroup>
                            </>
                        )
                    }
                >
                    {total === 0
                        ? 'Hand in a low and a high poly: in a few seconds you see what would go wrong in the bake.'
                        : [
                              blocked > 0 ? `${whole(blocked)} ${blocked === 1 ? 'waits' : 'wait'} for an artist` : 'none waits for an artist',
                              computing > 0 ? `${whole(computing)} being checked` : null,
                          ]
                              .filter(Boolean)
                              .join(' · ')}
                </Head>
                <DropBox className={over ? 'over' : ''}>
                    <Anvil size={30} color="var(--ink)" />
                    <div style={{ flex: 1 }}>
                        <h2>
                            {!sending
                                ? 'Drop low- and high-poly files here'
                                : sending.waits
                                  ? 'The server does not answer. The upload goes on when it does'
                                  : `Taking in ${sending.name}`}
                        </h2>
                        {sending ? (
                            <LinearProgress variant="determinate" value={100 * sending.share} aria-label="upload" sx={{ mt: 1 }} />
                        ) : (
                            <p>
                                <span className="mono">.glb .gltf .obj .dae .usda .ply .stl</span> with their side files, or a <span className="mono">.zip</span> of them (
                                <Link to="/formats">what each carries</Link>). Names such as <span className="mono">winch_low</span> and <span className="mono">winch_high</span>{' '}
                                tell the roles; a name that fits an asset becomes its next delivery.
                            </p>
                        )}
                    </div>
                    <input
                        ref={chooser}
                        type="file"
                        multiple
                        hidden
                        data-testid="files"
                        onChange={(event) => {
                            const files = [...(event.target.files ?? [])];
                            event.target.value = '';
                            void send(files);
                        }}
                    />
                    <Button variant="contained" disabled={sending !== null} onClick={() => chooser.current?.click()}>
                        Choose files
                    </Button>
                </DropBox>
                {refused && (
                    <Failure>
                        <b>Upload rejected.</b> {refused}
                    </Failure>
                )}
                {error && <Failure>{error.message}</Failure>}
                {total > 0 && <RackTable assets={shown} empty={rack === undefined ? null : `Nothing fits ${wanted === '' ? 'this filter' : `"${find}"`}.`} />}
                {rack && rack.pages > 1 && (
                    <Pagination
                        count={rack.pages}
                        page={Math.min(page, rack.pages)}
                        onChange={(_, value) => {
                            setPage(value);
                            top.current?.scrollTo(0, 0);
                        }}
                        aria-label={`pages of ${plural(rack.fitting, 'asset')}`}
                        shape="rounded"
                        sx={{ mt: 2, display: 'flex', justifyContent: 'center' }}
                    />
                )}
            </RackBox>
        </App>
    );
}
