import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, configure } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactElement } from 'react';
import { MemoryRouter, Route, Routes, useLocation } from 'react-router';
import { afterEach, vi } from 'vitest';
import type { At, StationKey } from '../api/client';
import { MeanwhileDialog } from '../frame/MeanwhileDialog';
import { NoticeProvider } from '../frame/Notice';
import { themeFor } from '../theme';
import assetJson from './asset.json';
import gaugeJson from './gauge.json';
import lanternJson from './lantern.json';
import rackJson from './rack.json';
import winchJson from './winch.json';

// A machine that is also doing other things takes longer to draw than the second that is waited for by itself.
configure({ asyncUtilTimeout: 8000 });

/** A delivery with what all stations show of it. */
export type Whole = { [S in StationKey]: (at: At<S>) => void }[StationKey] extends (at: infer All) => void ? All : never;

/** What the server answers for the three demo assets; DeliveryTest holds them against the schema. */
const copy = <T,>(json: unknown): T => structuredClone(json) as T;
export const winch = (change: Partial<Whole> = {}): Whole => ({ ...copy<Whole>(winchJson), ...change });
export const lantern = (change: Partial<Whole> = {}): Whole => ({ ...copy<Whole>(lanternJson), ...change });
export const gauge = (change: Partial<Whole> = {}): Whole => ({ ...copy<Whole>(gaugeJson), ...change });

export interface Sent {
    method: string;
    path: string;
    body: unknown;
    /** The version at which what is decided was loaded, where it is given. */
    version: string | null;
}

/** Chooses one of the options of a field. */
export async function choose(user: ReturnType<typeof userEvent.setup>, label: string | RegExp, option: string | RegExp): Promise<void> {
    const [field] = screen.getAllByRole('combobox', { name: label });
    await user.click(field ?? document.body);
    await user.click(screen.getByRole('option', { name: option }));
}

/** A server that answers by path, and keeps what it was sent. */
export function serve(answers: Record<string, object | ((sent: Sent) => object)> = {}): Sent[] {
    const sent: Sent[] = [];
    const all: typeof answers = {
        ...answers,
        '/api/rack*': answers['/api/rack*'] ?? rackJson,
        ...Object.fromEntries([1, 2, 3].map((id) => [`/api/assets/${id}`, answers[`/api/assets/${id}`] ?? assetJson])),
    };
    vi.stubGlobal('fetch', (path: string, init?: RequestInit) => {
        const one: Sent = {
            method: init?.method ?? 'GET',
            path,
            body: typeof init?.body === 'string' ? JSON.parse(init.body) : (init?.body ?? null),
            version: new Headers(init?.headers).get('X-Anvil-Version'),
        };
        sent.push(one);
        // What a station shows lies in the same file as the delivery.
        const of = /^(\/api\/deliveries\/\d+)\/(progress|intake|pairing|sets|color-id|clearance|surface|hand-off)$/.exec(path);
        if (of?.[1] !== undefined && one.method === 'GET' && all[path] === undefined && all[of[1]] !== undefined) {
            path = of[1];
        }
        const key = Object.keys(all).find((known) => path === known || (known.endsWith('*') && path.startsWith(known.slice(0, -1))));
        const answer = key === undefined ? undefined : all[key];
        const said: unknown = typeof answer === 'function' ? (answer as (sent: Sent) => unknown)(one) : answer;
        if (said instanceof Response) {
            return Promise.resolve(said);
        }
        return Promise.resolve(said === undefined ? new Response(null, { status: 204 }) : Response.json(said));
    });
    return sent;
}

function Where() {
    const { pathname, search } = useLocation();
    return <i data-testid="where">{pathname + search}</i>;
}

/** Renders a screen at an address; answers of the server have to be given before. */
export function show(screen: ReactElement, at = '/assets/3/deliveries/3/pairing', path = '/assets/:assetId/deliveries/:deliveryId/:station') {
    const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
    const user = userEvent.setup();
    const view = render(
        <ThemeProvider theme={themeFor('light')}>
            <QueryClientProvider client={client}>
                <NoticeProvider>
                    <MemoryRouter initialEntries={[at]}>
                        <Routes>
                            <Route path={path} element={screen} />
                            <Route path="*" element={null} />
                        </Routes>
                        <Where />
                        <MeanwhileDialog />
                    </MemoryRouter>
                </NoticeProvider>
            </QueryClientProvider>
        </ThemeProvider>,
    );
    return { ...view, user, where: () => view.getByTestId('where').textContent };
}

// jsdom lays nothing out: what is virtual shows rows for a window of this height.
vi.stubGlobal(
    'ResizeObserver',
    class {
        observe(): void {}
        unobserve(): void {}
        disconnect(): void {}
    },
);
Object.defineProperty(HTMLElement.prototype, 'offsetHeight', { configurable: true, value: 600 });
Object.defineProperty(HTMLElement.prototype, 'offsetWidth', { configurable: true, value: 800 });
Object.defineProperty(HTMLElement.prototype, 'clientHeight', { configurable: true, value: 600 });
Element.prototype.scrollTo = () => undefined;
Element.prototype.scrollIntoView = () => undefined;

afterEach(cleanup);
