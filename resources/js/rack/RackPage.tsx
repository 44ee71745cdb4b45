import Button from '@mui/material/Button';
import Pagination from '@mui/material/Pagination';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { handIn, useRack, type AssetRow, type Station } from '../api/client';
import { Bar } from '../frame/Bar';
import { plural, when, whole } from '../frame/format';
import { Anvil, Mark } from '../frame/marks';
import type { Mode } from '../theme';

function Cell({ station }: { station: Station }) {
    const kind = station.blockers > 0 ? 'blocker' : station.cautions > 0 ? 'caution' : station.notes > 0 ? 'note' : null;
    const words = `${station.title}: ${kind ? plural(station[`${kind}s`], kind) : station.state.replace('-', ' ')}`;
    const look = kind ?? (station.state === 'clear' ? 'clear' : station.state === 'computing' ? 'computing' : 'idle');
    return (
        <span className={look} title={words}>
            {kind ? <Mark kind={kind} size={10} /> : station.state === 'clear' ? <Mark kind="clear" size={10} /> : station.state === 'computing' ? '…' : ''}
            <span className="visually-hidden">{words}</span>
        </span>
    );
}

function Verdict({ asset }: { asset: AssetRow }) {
    if (asset.state === 'failed' || asset.state === 'cancelled') {
        return <b className="caution">{asset.state}</b>;
    }
    if (asset.state !== 'done') {
        return <span className="low">{asset.doing ?? 'waiting'}…</span>;
    }
    return asset.verdict === 'ready' ? (
        <span className="ready">{asset.sealed ? '✓ SEALED' : '✓ READY'}</span>
    ) : (
        <b className="blocker">
            <Mark kind="blocker" /> {asset.blockers > 0 ? plural(asset.blockers, 'blocker') : 'a check did not run'}
        </b>
    );
}

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
    const search = useRef<HTMLInputElement>(null);
    const top = useRef<HTMLElement>(null);
    const navigate = useNavigate();
    const client = useQueryClient();

    const send = async (files: File[]): Promise<void> => {
        if (files.length === 0) {
            return;
        }
        setRefused(null);
        setSending({ share: 0, name: files[0]?.name ?? '', waits: false });
        try {
            const delivered = await handIn(files, null, (share, name, waits) => setSending({ share, name, waits }));
            await client.invalidateQueries();
            void navigate(`/assets/${delivered.assetId}/deliveries/${delivered.deliveryId}/pairing`);
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
        const key = (event: KeyboardEvent): void => {
            if (event.key === '/' && event.target === document.body) {
                event.preventDefault();
                search.current?.focus();
            }
        };
        const events = ['dragover', 'dragleave', 'drop'] as const;
        events.forEach((name) => window.addEventListener(name, drag));
        window.addEventListener('keydown', key);
        return () => {
            events.forEach((name) => window.removeEventListener(name, drag));
            window.removeEventListener('keydown', key);
        };
    }, []);

    const shown = rack?.assets ?? [];
    // The last page may be gone since: assets are deleted, and what is looked for changes.
    if (rack && page > Math.max(1, rack.pages)) {
        setPage(Math.max(1, rack.pages));
    }
    const { total, ready, blocked, computing } = rack ?? { total: 0, ready: 0, blocked: 0, computing: 0 };

    return (
        <div className="app">
            <Bar mode={mode} setMode={setMode}>
                <span className="here">Rack</span>
                <span className="grow" />
                <span className="crumb">standard: {rack?.standard ?? '…'}</span>
                <span className="crumb">{rack?.user}</span>
            </Bar>
            <main className="rack" ref={top}>
                <div className="head" style={{ alignItems: 'flex-end', marginBottom: 0 }}>
                    <div>
                        <h1 style={{ fontSize: 23 }}>
                            {total === 0 ? (rack ? 'The rack is empty' : 'Fetching the rack…') : `${plural(total, 'asset')}, ${whole(ready)} ready to hand off`}
                        </h1>
                        <p>
                            {total === 0
                                ? 'Hand in a low and a high poly: in a few seconds you see what would go wrong in the bake.'
                                : [
                                      blocked > 0 ? `${whole(blocked)} ${blocked === 1 ? 'waits' : 'wait'} for an artist` : 'none waits for an artist',
                                      computing > 0 ? `${whole(computing)} being checked` : null,
                                  ]
                                      .filter(Boolean)
                                      .join(' · ')}
                        </p>
                    </div>
                    {total > 0 && (
                        <div style={{ display: 'flex', gap: 10 }}>
                            <input
                                ref={search}
                                type="search"
                                value={find}
                                onChange={(event) => {
                                    setFind(event.target.value);
                                    setPage(1);
                                }}
                                placeholder="find an asset or part  /"
                                aria-label="find an asset or part"
                                style={{ width: 220 }}
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
                        </div>
                    )}
                </div>
                <div className={`drop${over ? ' over' : ''}`}>
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
                            <div
                                className="progress"
                                role="progressbar"
                                aria-valuenow={Math.round(100 * sending.share)}
                                aria-valuemin={0}
                                aria-valuemax={100}
                                aria-label="upload"
                                style={{ marginTop: 8 }}
                            >
                                <div style={{ width: `${100 * sending.share}%` }} />
                            </div>
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
                </div>
                {refused && (
                    <div className="error-box" role="alert">
                        <b>Not taken in.</b> {refused}
                    </div>
                )}
                {error && (
                    <div className="error-box" role="alert">
                        {error.message}
                    </div>
                )}
                {total > 0 && (
                    <table className="sheet">
                        <colgroup>
                            <col />
                            <col style={{ width: 230 }} />
                            <col style={{ width: 190 }} />
                            <col style={{ width: 80 }} />
                            <col style={{ width: 130 }} />
                            <col style={{ width: 190 }} />
                        </colgroup>
                        <thead>
                            <tr>
                                <th>asset</th>
                                <th>intake → hand-off</th>
                                <th>verdict</th>
                                <th className="num">delivery</th>
                                <th className="num">triangles low / high</th>
                                <th className="num">last change</th>
                            </tr>
                        </thead>
                        <tbody>
                            {shown.map((asset) => (
                                <tr
                                    key={asset.id}
                                    className="choosable"
                                    onClick={() =>
                                        void navigate(
                                            `/assets/${asset.id}/deliveries/${asset.deliveryId}/${asset.stations.find((station) => station.blockers > 0)?.key ?? 'intake'}`,
                                        )
                                    }
                                >
                                    <td>
                                        <Link
                                            to={`/assets/${asset.id}/deliveries/${asset.deliveryId}/${asset.stations.find((station) => station.blockers > 0)?.key ?? 'intake'}`}
                                            style={{ fontWeight: 700, textDecoration: 'none', fontSize: 15 }}
                                            onClick={(event) => event.stopPropagation()}
                                        >
                                            {asset.name}
                                        </Link>
                                        <br />
                                        <span className="soft">
                                            {plural(asset.parts, 'part')} in {plural(asset.sets, 'set')}
                                        </span>
                                    </td>
                                    <td>
                                        <span className="cells">
                                            {asset.stations.map((station) => (
                                                <Cell key={station.key} station={station} />
                                            ))}
                                        </span>
                                    </td>
                                    <td>
                                        <Verdict asset={asset} />
                                    </td>
                                    <td className="num">{asset.delivery}</td>
                                    <td className="num">
                                        {whole(asset.lowTriangles)}
                                        <br />
                                        <span className="soft">{whole(asset.highTriangles)}</span>
                                    </td>
                                    <td className="num" style={{ fontFamily: 'inherit' }}>
                                        {when(asset.changedAt)}
                                        <br />
                                        <span className="soft">{asset.changedBy}</span>
                                    </td>
                                </tr>
                            ))}
                            {shown.length === 0 && rack && (
                                <tr>
                                    <td colSpan={6} className="soft">
                                        Nothing fits {wanted === '' ? 'this filter' : `"${find}"`}.
                                    </td>
                                </tr>
                            )}
                        </tbody>
                    </table>
                )}
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
            </main>
        </div>
    );
}
