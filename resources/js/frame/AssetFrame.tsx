import { useCallback, useEffect, useMemo, useState, type ReactElement } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { useDelivery, useStation, type At, type Delivery, type StationData, type StationKey } from '../api/client';
import { Clearance } from '../clearance/Clearance';
import { ColorId } from '../colorid/ColorId';
import { Changes } from '../findings/Changes';
import { HandOff } from '../handoff/HandOff';
import { Intake } from '../intake/Intake';
import { Pairing } from '../pairing/Pairing';
import { Proof } from '../proof/Proof';
import { Sets } from '../sets/Sets';
import type { StandLit } from '../stand/lit';
import type { StandSurface } from '../stand/surface';
import { Surface } from '../surface/Surface';
import { Stand } from '../stand/Stand';
import type { Mode } from '../theme';
import { Bar } from './Bar';
import { causesOf, choiceOf, linesOf, showsNotes, step } from './causes';
import { DeliveryBar } from './DeliveryBar';
import { Findings } from './Findings';
import { App } from './looks';
import { isOverlaid, isTyping } from './keys';
import { Lost } from './Notice';
import { Progress } from './Progress';
import { Rail } from './Rail';
import { StandContext, useSelection, type StandControl, type StandSheet } from './selection';
import { CannotShow, Failure } from './sheet';
import { Split } from './Split';

/** Fetches what a station shows beside the delivery, and shows it. */
function Fetched<S extends StationKey>({ delivery, station, show }: { delivery: Delivery; station: S; show: (at: At<S>) => ReactElement }) {
    const { data, error, isPlaceholderData } = useStation(delivery, station);
    // What is shown is of one moment: a station's answer never stands beside a delivery of another.
    const [pair, setPair] = useState<{ delivery: Delivery; data: StationData[S] } | null>(null);
    if (data && !isPlaceholderData && (pair?.delivery !== delivery || pair.data !== data)) {
        setPair({ delivery, data });
    }
    if (pair?.delivery.id === delivery.id) {
        return show({ ...pair.delivery, ...pair.data });
    }
    return error ? (
        <Failure sx={{ mx: '18px', mt: 1.25 }}>{error.message}</Failure>
    ) : (
        <p className="soft" role="status" style={{ padding: '10px 18px' }}>
            Fetching the station…
        </p>
    );
}

function Station({ delivery, station }: { delivery: Delivery; station: string }) {
    switch (station) {
        case 'pairing':
            return <Fetched key={`${delivery.id} pairing`} delivery={delivery} station="pairing" show={(at) => <Pairing delivery={at} />} />;
        case 'sets':
            return <Fetched key={`${delivery.id} sets`} delivery={delivery} station="sets" show={(at) => <Sets delivery={at} />} />;
        case 'clearance':
            return <Fetched key={`${delivery.id} clearance`} delivery={delivery} station="clearance" show={(at) => <Clearance delivery={at} />} />;
        case 'surface':
            return <Fetched key={`${delivery.id} surface`} delivery={delivery} station="surface" show={(at) => <Surface delivery={at} />} />;
        case 'color-id':
            return <Fetched key={`${delivery.id} color-id`} delivery={delivery} station="color-id" show={(at) => <ColorId delivery={at} />} />;
        case 'hand-off':
            return <Fetched key={`${delivery.id} hand-off`} delivery={delivery} station="hand-off" show={(at) => <HandOff delivery={at} />} />;
        case 'changes':
            return <Changes key={delivery.id} delivery={delivery} />;
        case 'proof':
            return <Proof key={delivery.id} delivery={delivery} />;
        default:
            return <Fetched key={`${delivery.id} intake`} delivery={delivery} station="intake" show={(at) => <Intake delivery={at} />} />;
    }
}

/** What the whole frame holds in common: what the stand is asked for, which causes are open, what is folded. */
function useFrame(station: string) {
    const [explode, setExplode] = useState(0);
    const [fly, setFly] = useState(0);
    const [asked, setAsked] = useState<StandControl['asked']>(null);
    const [sheet, setSheet] = useState<StandSheet | null>(null);
    const [surface, setSurface] = useState<StandSurface | null>(null);
    const [lit, setLit] = useState<StandLit | null>(null);
    const [probe, setProbe] = useState<number[] | null>(null);
    const [ghost, setGhost] = useState<StandControl['ghost']>(null);
    const [walk, putWalk] = useState<StandControl['walk']>(null);
    const setWalk = useCallback((to: StandControl['walk']): void => putWalk(() => to), []);
    const [open, setOpen] = useState<ReadonlySet<number>>(new Set());
    const [full, setFull] = useState(false);
    const [folded, setFolded] = useState(false);
    const onOpen = useCallback(
        (cause: number, to: boolean): void =>
            setOpen((old) => {
                const next = new Set(old);
                if (to) {
                    next.add(cause);
                } else {
                    next.delete(cause);
                }
                return next;
            }),
        [],
    );
    const control = useMemo<StandControl>(
        () => ({
            explode,
            setExplode,
            fly,
            flyTo: () => setFly((n) => n + 1),
            ids: station === 'color-id',
            asked,
            showCage: () => setAsked((old) => ({ show: 'cage', time: (old?.time ?? 0) + 1 })),
            sheet,
            setSheet,
            surface,
            setSurface,
            lit,
            setLit,
            probe,
            setProbe,
            ghost,
            setGhost,
            walk,
            setWalk,
        }),
        [explode, fly, station, asked, sheet, surface, lit, probe, ghost, walk, setWalk],
    );
    return { control, open, onOpen, full, setFull, folded, setFolded };
}

/** The keys of the frame. */
function useKeys(delivery: Delivery | undefined, station: string, base: string, frame: ReturnType<typeof useFrame>): void {
    const selection = useSelection();
    const navigate = useNavigate();
    const { search } = useLocation();
    useEffect(() => {
        const onKey = (event: KeyboardEvent): void => {
            if (!delivery || isTyping(event) || isOverlaid()) {
                return;
            }
            const number = Number(event.key);
            const to = number >= 1 ? delivery.stations[number - 1] : undefined;
            const told = causesOf(delivery, station);
            const lines = linesOf(told, frame.open, showsNotes(told, frame.open, selection));
            if (to) {
                void navigate(`${base}/${to.key}${search}`);
            } else if ((event.key === 'j' || event.key === 'k') && frame.control.walk) {
                frame.control.walk(event.key === 'j' ? 1 : -1);
            } else if (event.key === 'j' || event.key === 'k') {
                const line = step(lines, selection, event.key === 'j' ? 1 : -1);
                if (line) {
                    selection.select(choiceOf(line));
                }
            } else if ((event.key === 'ArrowRight' || event.key === 'ArrowLeft') && event.target === document.body && selection.cause !== null) {
                frame.onOpen(selection.cause, event.key === 'ArrowRight');
            } else if (event.key === 'Enter' && event.target === document.body && (selection.finding !== null || selection.cause !== null || selection.texel !== null)) {
                frame.control.flyTo();
            } else if (event.key === 'f' || event.key === 'F') {
                frame.setFull((old) => !old);
            } else if (event.key === 'Escape') {
                if (frame.full) {
                    frame.setFull(false);
                } else {
                    selection.select({});
                }
            }
        };
        window.addEventListener('keydown', onKey);
        return () => window.removeEventListener('keydown', onKey);
    }, [delivery, station, selection, navigate, base, search, frame]);
}

/** Bar, rail, work area, stand and findings of one delivery. */
export function AssetFrame({ mode, setMode }: { mode: Mode; setMode: (mode: Mode) => void }) {
    const { assetId = '', deliveryId = '', station = 'intake' } = useParams();
    const { data: delivery, error, lost } = useDelivery(Number(deliveryId));
    const { search } = useLocation();
    const frame = useFrame(station);
    const base = `/assets/${assetId}/deliveries/${deliveryId}`;
    useKeys(delivery, station, base, frame);
    useEffect(() => {
        document.title = delivery ? `${delivery.assetName} – Yellow Anvil` : 'Yellow Anvil';
    }, [delivery]);

    if (!delivery) {
        return (
            <App>
                <Bar mode={mode} setMode={setMode}>
                    <span className="grow" />
                </Bar>
                <main style={{ padding: 28 }} aria-busy={!error}>
                    {error ? <CannotShow what="This delivery" why={error.message} to="/" where="Back to the rack" /> : <h1 className="soft">Fetching the delivery…</h1>}
                </main>
            </App>
        );
    }
    return (
        <StandContext.Provider value={frame.control}>
            <App>
                <DeliveryBar delivery={delivery} station={station} mode={mode} setMode={setMode} />
                {!frame.full && <Rail delivery={delivery} current={station} base={base} search={search} />}
                <Lost error={lost} />
                <main style={{ flex: 1, minHeight: 0, display: 'flex' }}>
                    <Split
                        full={frame.full}
                        left={
                            <>
                                <Progress delivery={delivery} />
                                <Station delivery={delivery} station={station} />
                            </>
                        }
                        right={
                            <>
                                <Stand
                                    delivery={delivery}
                                    mode={mode}
                                    initial={station === 'color-id' ? 'ID' : station === 'surface' || station === 'proof' ? 'low' : 'both'}
                                    full={frame.full}
                                    onFull={() => frame.setFull((old) => !old)}
                                />
                                {!frame.full && station !== 'changes' && (
                                    <Findings
                                        delivery={delivery}
                                        station={station}
                                        open={frame.open}
                                        onOpen={frame.onOpen}
                                        folded={frame.folded}
                                        onFold={() => frame.setFolded((old) => !old)}
                                    />
                                )}
                            </>
                        }
                    />
                </main>
            </App>
        </StandContext.Provider>
    );
}
