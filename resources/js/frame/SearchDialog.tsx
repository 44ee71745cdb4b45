import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import ListSubheader from '@mui/material/ListSubheader';
import { useDeferredValue, useState, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import { useFound, type Delivery, type Found } from '../api/client';
import { causesOf, extent } from './causes';
import { useOpenAt } from './keys';
import { Field } from './sheet';

interface Hit {
    key: string;
    head: string;
    name: string;
    told: string;
    mono: boolean;
    to: string;
}

/** What was found, in the order in which it is walked. A check leads to its findings, where this delivery has any. */
export function hitsOf(found: Found, delivery: Delivery | null): Hit[] {
    const base = (assetId: number, deliveryId: number): string => `/assets/${assetId}/deliveries/${deliveryId}`;
    const told = delivery ? causesOf(delivery, 'hand-off') : [];
    // What this delivery has comes first.
    const isFound = (code: string): boolean => told.some((one) => one.cause.code === code);
    const hits = [
        ...[...found.checks]
            .sort((a, b) => Number(isFound(b.code)) - Number(isFound(a.code)))
            .map((check): Hit => {
                const own = told.filter((one) => one.cause.code === check.code);
                const count = own.length === 0 ? (delivery ? 'not found on this delivery' : '') : own.map(extent).join(', ');
                const first = own[0];
                const at = first === undefined ? '' : first.members.length === 1 ? `?finding=${first.id}` : `?cause=${first.id}`;
                return {
                    key: `check ${check.code}`,
                    head: 'Checks, by name or by what a bad bake looks like',
                    name: check.code,
                    told: [check.title, `after the bake: ${check.afterBake}`, count].filter(Boolean).join(' · '),
                    mono: true,
                    to: delivery && own.length > 0 ? `${base(delivery.assetId, delivery.id)}/${check.station}${at}` : `/guide/${check.code}`,
                };
            }),
        ...found.parts.map((part, i): Hit => ({
            key: `part ${part.deliveryId} ${part.name} ${i}`,
            head: 'Parts',
            name: part.name,
            told: delivery?.id === part.deliveryId ? part.file : `${part.asset} · ${part.file}`,
            mono: true,
            to: `${base(part.assetId, part.deliveryId)}/pairing?part=${encodeURIComponent(part.name)}`,
        })),
        ...found.assets.map((asset): Hit => ({
            key: `asset ${asset.assetId}`,
            head: 'Assets',
            name: asset.name,
            told: '',
            mono: false,
            to: `${base(asset.assetId, asset.deliveryId)}/intake`,
        })),
        ...found.guide.map((one): Hit => ({
            key: `guide ${one.page} ${one.anchor}`,
            head: 'Guide',
            name: one.title,
            told: one.told,
            mono: false,
            to: `/guide/${one.page}#${one.anchor}`,
        })),
    ];
    // Without a delivery a check leads to its page in the guide: assets and parts come first.
    const isCheck = (hit: Hit): boolean => hit.key.startsWith('check ');
    return delivery ? hits : [...hits.filter((hit) => !isCheck(hit)), ...hits.filter(isCheck)];
}

/** Searches assets, parts and checks from anywhere, and goes there. */
export function SearchDialog({ delivery, onClose }: { delivery: Delivery | null; onClose: () => void }) {
    const [find, setFind] = useState('');
    const [at, setAt] = useState(0);
    const wanted = useDeferredValue(find.trim());
    const { data, error } = useFound(wanted, delivery?.id ?? null);
    const navigate = useNavigate();
    const hits = data && wanted !== '' ? hitsOf(data, delivery) : [];
    const go = (hit: Hit | undefined): void => {
        if (hit) {
            onClose();
            void navigate(hit.to);
        }
    };
    const onKey = (event: KeyboardEvent): void => {
        const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
        if (by !== undefined) {
            event.preventDefault();
            setAt((old) => Math.max(0, Math.min(hits.length - 1, old + by)));
        } else if (event.key === 'Enter') {
            event.preventDefault();
            go(hits[at]);
        }
    };
    return (
        <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-label="search" slotProps={{ paper: { sx: { position: 'absolute', top: '8vh', m: 0 } } }}>
            <Box sx={{ p: 1.5, pb: 1 }} onKeyDown={onKey}>
                <Field
                    label="search assets, parts, checks, and what a bad bake looks like"
                    placeholder="an asset, a part, a check, or what the bake looks like: dark edge"
                    type="search"
                    fullWidth
                    autoFocus
                    value={find}
                    onText={(text) => {
                        setFind(text);
                        setAt(0);
                    }}
                />
            </Box>
            <List dense sx={{ pt: 0, maxHeight: '60vh', overflowY: 'auto' }} aria-label="found" role="listbox">
                {hits.map((hit, i) => (
                    <Box key={hit.key} role="presentation">
                        {hits[i - 1]?.head !== hit.head && (
                            <ListSubheader role="presentation" sx={{ lineHeight: '28px' }}>
                                {hit.head}
                            </ListSubheader>
                        )}
                        <ListItemButton role="option" aria-selected={i === at} selected={i === at} onClick={() => go(hit)} sx={{ display: 'block', py: 0.5 }}>
                            <b className={hit.mono ? 'mono' : undefined}>{hit.name}</b>
                            {hit.told !== '' && <span className="soft"> {hit.told}</span>}
                        </ListItemButton>
                    </Box>
                ))}
            </List>
            <Box role="status" className="soft" sx={{ px: 2, pb: 1.5 }}>
                {error
                    ? error.message
                    : wanted === ''
                      ? '↑ ↓ walk, Enter goes there, Esc closes'
                      : data && hits.length === 0
                        ? `Nothing is called "${wanted}", and no check is known by that.`
                        : ''}
            </Box>
        </Dialog>
    );
}

/** Opens the search at `/`, wherever one is. */
export function Search({ delivery }: { delivery: Delivery | null }) {
    const [open, setOpen] = useOpenAt('/');
    return (
        <>
            <Button variant="outlined" color="inherit" aria-haspopup="dialog" onClick={() => setOpen(true)}>
                Search&nbsp;<kbd>/</kbd>
            </Button>
            {open && <SearchDialog delivery={delivery} onClose={() => setOpen(false)} />}
        </>
    );
}
