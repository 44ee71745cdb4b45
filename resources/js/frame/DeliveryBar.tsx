import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAsset, type Delivery } from '../api/client';
import { useMay } from '../people/session';
import type { Mode } from '../theme';
import { Bar } from './Bar';
import { DeleteDialog, type Doomed } from './DeleteDialog';
import { plural, when } from './format';
import { Mark } from './marks';

function Verdict({ delivery }: { delivery: Delivery }) {
    const { verdict, blockers, progress } = delivery;
    if (verdict === 'ready') {
        return (
            <>
                <Mark kind="clear" size={13} /> ready to bake
            </>
        );
    }
    if (verdict === 'waiting') {
        return <>waiting for {progress.waitsFor ?? 'the other side'}</>;
    }
    if (verdict === 'blocked') {
        return (
            <>
                <Mark kind="blocker" size={14} /> {blockers > 0 ? plural(blockers, 'blocker') : 'a check did not run'}
            </>
        );
    }
    return blockers > 0 && !['failed', 'cancelled'].includes(delivery.state) ? (
        <span title={progress.waitsFor === null ? undefined : `the verdict waits for ${progress.waitsFor}`}>
            <Mark kind="blocker" size={14} /> {plural(blockers, 'blocker')} so far
        </span>
    ) : (
        <>
            {{ writing: 'being written', reading: 'being read', measuring: 'being measured', checking: 'being checked', cancelled: 'stopped' }[delivery.state as string] ??
                delivery.state}
        </>
    );
}

/** The bar of a delivery: where one is, the other deliveries of the asset, and the verdict. */
export function DeliveryBar({ delivery, station, mode, setMode }: { delivery: Delivery; station: string; mode: Mode; setMode: (mode: Mode) => void }) {
    const { data: asset } = useAsset(delivery.assetId);
    const navigate = useNavigate();
    const [menu, setMenu] = useState<HTMLElement | null>(null);
    const [doomed, setDoomed] = useState<Doomed | null>(null);
    const may = useMay('delete');
    const go = (path: string) => (): void => {
        setMenu(null);
        void navigate(path);
    };
    const ask = (what: Doomed) => (): void => {
        setMenu(null);
        setDoomed(what);
    };
    return (
        <Bar mode={mode} setMode={setMode} delivery={delivery}>
            <span>
                <Link to="/" className="crumb">
                    Rack
                </Link>
                <span className="crumb"> / </span>
                <b>{delivery.assetName}</b>
            </span>
            <span className="grow" />
            <Button variant="outlined" color="inherit" aria-haspopup="menu" onClick={(event) => setMenu(event.currentTarget)}>
                delivery {delivery.number} · {when(delivery.handedInAt)} ▾
            </Button>
            <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
                {(asset?.deliveries ?? []).map((row) => (
                    <MenuItem
                        key={row.id}
                        selected={row.id === delivery.id}
                        onClick={() => {
                            setMenu(null);
                            void navigate(`/assets/${delivery.assetId}/deliveries/${row.id}/${station}`);
                        }}
                    >
                        delivery {row.number} · {when(row.handedInAt)} · {row.verdict === 'blocked' ? plural(row.blockers, 'blocker') : (row.verdict ?? row.state)}
                        {row.madeByWords ? ` · ${row.madeByWords}` : ''}
                    </MenuItem>
                ))}
                <Divider />
                <MenuItem onClick={go(`/assets/${delivery.assetId}/deliveries/${delivery.id}/changes`)}>What changed since the delivery before</MenuItem>
                <MenuItem onClick={go(`/assets/${delivery.assetId}/history`)}>History of {delivery.assetName}</MenuItem>
                {delivery.sentBack && <MenuItem onClick={go(`/fix-lists/${delivery.sentBack.id}`)}>What was sent back to {delivery.sentBack.to}</MenuItem>}
                {may && <Divider />}
                {may && (asset?.deliveries.length ?? 1) > 1 && <MenuItem onClick={ask('delivery')}>Delete delivery {delivery.number}…</MenuItem>}
                {may && <MenuItem onClick={ask('asset')}>Delete {delivery.assetName}…</MenuItem>}
            </Menu>
            {doomed && <DeleteDialog delivery={delivery} deliveries={asset?.deliveries.length ?? 1} what={doomed} close={() => setDoomed(null)} />}
            <span className="verdict">
                <Verdict delivery={delivery} />
            </span>
        </Bar>
    );
}
