import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useEffect, useMemo, useState, type ReactElement } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { useAct, useAsset, useDelivery, useStation, type At, type Delivery, type StationKey } from '../api/client';
import { Clearance } from '../clearance/Clearance';
import { ColorId } from '../colorid/ColorId';
import { HandOff } from '../handoff/HandOff';
import { Intake } from '../intake/Intake';
import { Pairing } from '../pairing/Pairing';
import { Sets } from '../sets/Sets';
import { Stand } from '../stand/Stand';
import type { Mode } from '../theme';
import { Bar } from './Bar';
import { DeleteDialog, type Doomed } from './DeleteDialog';
import { Findings, stationFindings } from './Findings';
import { plural, when } from './format';
import { Mark } from './marks';
import { NotBuilt } from './NotBuilt';
import { Rail } from './Rail';
import { StandContext, useSelection } from './selection';

const isTyping = (event: KeyboardEvent): boolean => event.target instanceof HTMLElement && (event.target.matches('input, select, textarea') || event.target.isContentEditable);

/** Fetches what a station shows beside the delivery, and shows it. */
function Fetched<S extends StationKey>({ delivery, station, show }: { delivery: Delivery; station: S; show: (at: At<S>) => ReactElement }) {
    const { data, error } = useStation(delivery, station);
    if (data) {
        return show({ ...delivery, ...data });
    }
    return error ? (
        <div className="error-box" role="alert" style={{ margin: '10px 18px 0' }}>
            {error.message}
        </div>
    ) : (
        <p className="soft" role="status" style={{ padding: '10px 18px' }}>
            Fetching the station…
        </p>
    );
}

function Station({ delivery, station }: { delivery: Delivery; station: string }) {
    switch (station) {
        case 'pairing':
            return <Fetched key={delivery.id} delivery={delivery} station="pairing" show={(at) => <Pairing delivery={at} />} />;
        case 'sets':
            return <Fetched key={delivery.id} delivery={delivery} station="sets" show={(at) => <Sets delivery={at} />} />;
        case 'clearance':
            return <Fetched delivery={delivery} station="clearance" show={(at) => <Clearance delivery={at} />} />;
        case 'color-id':
            return <Fetched delivery={delivery} station="color-id" show={(at) => <ColorId delivery={at} />} />;
        case 'hand-off':
            return <Fetched delivery={delivery} station="hand-off" show={(at) => <HandOff delivery={at} />} />;
        case 'intake':
            return <Fetched delivery={delivery} station="intake" show={(at) => <Intake delivery={at} />} />;
        default:
            return <NotBuilt delivery={delivery} station={station} />;
    }
}

function Progress({ delivery }: { delivery: Delivery }) {
    const cancel = useAct<void>(delivery.id, () => 'cancel');
    const again = useAct<void>(delivery.id, () => 'recheck');
    if (delivery.state === 'failed' || delivery.state === 'cancelled') {
        return (
            <div className="error-box" role="alert" style={{ margin: '10px 18px 0' }}>
                <b>{delivery.state === 'failed' ? 'Checking failed.' : 'Checking was cancelled.'}</b> {delivery.error}{' '}
                <Button variant="outlined" sx={{ ml: 1 }} onClick={() => again.mutate()}>
                    Check again
                </Button>
            </div>
        );
    }
    if (delivery.state === 'done') {
        return null;
    }
    const { files, filesDone, sets, setsDone, doing } = delivery.progress;
    const share = delivery.state === 'writing' ? 0.02 : delivery.state === 'reading' ? (0.4 * filesDone) / Math.max(1, files) : 0.4 + (0.55 * setsDone) / Math.max(1, sets);
    return (
        <div style={{ padding: '10px 18px 0' }} role="status">
            <div style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', marginBottom: 4 }}>
                <span>
                    {doing ?? 'working'}{' '}
                    {files > 0 && (
                        <span className="soft">
                            · {filesDone} of {plural(files, 'file')} read, {setsDone} of {plural(sets, 'set')} measured
                        </span>
                    )}
                </span>
                <Button variant="outlined" onClick={() => cancel.mutate()}>
                    Cancel
                </Button>
            </div>
            <div className="progress">
                <div style={{ width: `${100 * share}%` }} />
            </div>
        </div>
    );
}

/** Bar, rail, work area, stand and findings of one delivery. */
export function AssetFrame({ mode, setMode }: { mode: Mode; setMode: (mode: Mode) => void }) {
    const { assetId = '', deliveryId = '', station = 'intake' } = useParams();
    const { data: delivery, error } = useDelivery(Number(deliveryId));
    const { data: asset } = useAsset(Number(assetId));
    const navigate = useNavigate();
    const { search } = useLocation();
    const selection = useSelection();
    const [explode, setExplode] = useState(0);
    const [fly, setFly] = useState(0);
    const [menu, setMenu] = useState<HTMLElement | null>(null);
    const [help, setHelp] = useState(false);
    const [doomed, setDoomed] = useState<Doomed | null>(null);
    const base = `/assets/${assetId}/deliveries/${deliveryId}`;
    const [asked, setAsked] = useState<{ show: 'cage'; time: number } | null>(null);
    const control = useMemo(
        () => ({
            explode,
            setExplode,
            fly,
            flyTo: () => setFly((n) => n + 1),
            ids: station === 'color-id',
            asked,
            showCage: () => setAsked((old) => ({ show: 'cage', time: (old?.time ?? 0) + 1 })),
        }),
        [explode, fly, station, asked],
    );

    useEffect(() => {
        const onKey = (event: KeyboardEvent): void => {
            if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey || !delivery) {
                return;
            }
            const number = Number(event.key);
            const to = number >= 1 ? delivery.stations[number - 1] : undefined;
            const findings = stationFindings(delivery, station);
            const at = findings.findIndex((finding) => finding.id === selection.finding);
            if (to) {
                void navigate(`${base}/${to.key}${search}`);
            } else if (event.key === 'j' || event.key === 'k') {
                const next = findings[Math.max(0, Math.min(findings.length - 1, event.key === 'j' ? at + 1 : at - 1))];
                if (next) {
                    selection.select({ finding: next.id, set: next.set, part: next.part });
                }
            } else if (event.key === 'Enter' && at >= 0 && event.target === document.body) {
                control.flyTo();
            } else if (event.key === '?') {
                setHelp(true);
            } else if (event.key === 'Escape') {
                selection.select({});
            } else if (event.key === '/') {
                const field = document.querySelector<HTMLInputElement>('input[type=search]');
                if (field) {
                    event.preventDefault();
                    field.focus();
                }
            }
        };
        window.addEventListener('keydown', onKey);
        return () => window.removeEventListener('keydown', onKey);
    }, [delivery, station, selection, navigate, base, search, control]);

    useEffect(() => {
        document.title = delivery ? `${delivery.assetName} – Yellow Anvil` : 'Yellow Anvil';
    }, [delivery]);

    if (error && !delivery) {
        return (
            <div className="app">
                <Bar mode={mode} setMode={setMode}>
                    <span className="grow" />
                </Bar>
                <main style={{ padding: 28 }}>
                    <h1>This delivery cannot be shown</h1>
                    <p>{error.message}</p>
                    <Link to="/">Back to the rack</Link>
                </main>
            </div>
        );
    }
    if (!delivery) {
        return (
            <div className="app">
                <Bar mode={mode} setMode={setMode}>
                    <span className="grow" />
                </Bar>
                <main style={{ padding: 28 }} aria-busy="true">
                    <h1 className="soft">Fetching the delivery…</h1>
                </main>
            </div>
        );
    }
    return (
        <StandContext.Provider value={control}>
            <div className="app">
                <Bar mode={mode} setMode={setMode}>
                    <span>
                        <Link to="/" className="crumb">
                            Rack
                        </Link>
                        <span className="crumb"> / </span>
                        <span className="here">{delivery.assetName}</span>
                    </span>
                    <span className="grow" />
                    <button type="button" className="plain box" aria-haspopup="menu" onClick={(event) => setMenu(event.currentTarget)}>
                        delivery {delivery.number} · {when(delivery.handedInAt)} ▾
                    </button>
                    <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
                        {(asset?.deliveries ?? []).map((row) => (
                            <MenuItem
                                key={row.id}
                                selected={row.id === delivery.id}
                                onClick={() => {
                                    setMenu(null);
                                    void navigate(`/assets/${assetId}/deliveries/${row.id}/${station}`);
                                }}
                            >
                                delivery {row.number} · {when(row.handedInAt)} ·{' '}
                                {row.verdict === 'ready' ? 'ready' : row.verdict === 'blocked' ? plural(row.blockers, 'blocker') : row.state}
                                {row.madeByWords ? ` · ${row.madeByWords}` : ''}
                            </MenuItem>
                        ))}
                        <Divider />
                        {(asset?.deliveries.length ?? 1) > 1 && (
                            <MenuItem
                                onClick={() => {
                                    setMenu(null);
                                    setDoomed('delivery');
                                }}
                            >
                                Delete delivery {delivery.number}…
                            </MenuItem>
                        )}
                        <MenuItem
                            onClick={() => {
                                setMenu(null);
                                setDoomed('asset');
                            }}
                        >
                            Delete {delivery.assetName}…
                        </MenuItem>
                    </Menu>
                    {doomed && <DeleteDialog delivery={delivery} deliveries={asset?.deliveries.length ?? 1} what={doomed} close={() => setDoomed(null)} />}
                    <span className="verdict">
                        {delivery.verdict === 'ready' ? (
                            <>
                                <Mark kind="clear" size={13} /> ready to bake
                            </>
                        ) : delivery.verdict === 'blocked' ? (
                            <>
                                <Mark kind="blocker" size={14} /> {delivery.blockers > 0 ? plural(delivery.blockers, 'blocker') : 'a check did not run'}
                            </>
                        ) : (
                            delivery.state
                        )}
                    </span>
                </Bar>
                <Rail delivery={delivery} current={station} base={base} search={search} />
                <main className="split">
                    <div className="work">
                        <Progress delivery={delivery} />
                        <Station delivery={delivery} station={station} />
                    </div>
                    <div className="side">
                        <Stand delivery={delivery} mode={mode} initial={station === 'color-id' ? 'ID' : 'both'} />
                        <Findings delivery={delivery} station={station} />
                    </div>
                </main>
                <Dialog open={help} onClose={() => setHelp(false)}>
                    <DialogTitle>Keys</DialogTitle>
                    <DialogContent>
                        {[
                            ['1 – 8', 'go to a station'],
                            ['J / K', 'next and previous finding'],
                            ['Enter', 'fly the stand to the evidence'],
                            ['↑ ↓ Page Home End', 'walk a list that has the focus'],
                            ['F2, ⇧F2', 'rename the high, the low part of the chosen tie'],
                            ['/', 'search'],
                            ['Esc', 'choose nothing'],
                            ['?', 'this list'],
                        ].map(([key, does]) => (
                            <p key={key} style={{ margin: '6px 0' }}>
                                <kbd>{key}</kbd> {does}
                            </p>
                        ))}
                    </DialogContent>
                </Dialog>
            </div>
        </StandContext.Provider>
    );
}
