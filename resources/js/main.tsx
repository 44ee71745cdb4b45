import '@fontsource/archivo/latin-400.css';
import '@fontsource/archivo/latin-500.css';
import '@fontsource/archivo/latin-600.css';
import '@fontsource/archivo/latin-700.css';
import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-mono/latin-600.css';
import './styles.css';
import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode, useEffect, useMemo, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Route, Routes, useParams } from 'react-router';
import { FixListPage } from './findings/FixListPage';
import { HistoryPage } from './findings/HistoryPage';
import { ToMendPage } from './findings/ToMendPage';
import { NoticeProvider } from './frame/Notice';
import { AssetFrame } from './frame/AssetFrame';
import { GuidePage } from './frame/GuidePage';
import { MeanwhileDialog } from './frame/MeanwhileDialog';
import { FormatsPage } from './intake/FormatsPage';
import { AccountPage } from './people/AccountPage';
import { InboxPage } from './people/InboxPage';
import { PasswordPage } from './people/PasswordPage';
import { PeoplePage } from './people/PeoplePage';
import { Signed, useSession } from './people/session';
import { Outside, SignIn } from './people/SignIn';
import { RackPage } from './rack/RackPage';
import { StandardPage } from './standards/StandardPage';
import { StandardsPage } from './standards/StandardsPage';
import { paint, themeFor, type Mode } from './theme';

const client = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 500, networkMode: 'always' }, mutations: { networkMode: 'always' } } });

function ToIntake() {
    const { assetId, deliveryId } = useParams();
    return <Navigate to={`/assets/${assetId}/deliveries/${deliveryId}/intake`} replace />;
}

/** The pages, for who is signed in. */
function Pages({ mode, setMode }: { mode: Mode; setMode: (mode: Mode) => void }) {
    const { data: session, error } = useSession();
    if (!session) {
        return error ? <Outside title="The server does not answer">{error.message}</Outside> : null;
    }
    const page = { mode, setMode };
    return (
        <Signed session={session} out={<SignIn session={session} />}>
            <MeanwhileDialog />
            <Routes>
                <Route path="/" element={<RackPage {...page} />} />
                <Route path="/formats" element={<FormatsPage {...page} />} />
                <Route path="/account" element={<AccountPage {...page} />} />
                <Route path="/guide" element={<GuidePage {...page} />} />
                <Route path="/guide/:page" element={<GuidePage {...page} />} />
                <Route path="/standards" element={<StandardsPage {...page} />} />
                <Route path="/standards/:standardId" element={<StandardPage {...page} />} />
                <Route path="/people" element={<PeoplePage {...page} />} />
                <Route path="/inbox" element={<InboxPage {...page} />} />
                <Route path="/to-mend" element={<ToMendPage {...page} />} />
                <Route path="/fix-lists/:listId" element={<FixListPage {...page} />} />
                <Route path="/assets/:assetId/history" element={<HistoryPage {...page} />} />
                <Route path="/assets/:assetId/deliveries/:deliveryId" element={<ToIntake />} />
                <Route path="/assets/:assetId/deliveries/:deliveryId/:station" element={<AssetFrame {...page} />} />
                <Route path="*" element={<Navigate to="/" replace />} />
            </Routes>
        </Signed>
    );
}

function App() {
    const [mode, setMode] = useState<Mode>(() => {
        const kept = localStorage.getItem('mode');
        return kept === 'dark' || kept === 'light' ? kept : window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
    });
    const theme = useMemo(() => themeFor(mode), [mode]);
    useEffect(() => paint(mode), [mode]);
    const choose = (next: Mode): void => {
        localStorage.setItem('mode', next);
        setMode(next);
    };
    return (
        <ThemeProvider theme={theme}>
            <CssBaseline />
            <NoticeProvider>
                <Routes>
                    <Route path="/password" element={<PasswordPage />} />
                    <Route path="*" element={<Pages mode={mode} setMode={choose} />} />
                </Routes>
            </NoticeProvider>
        </ThemeProvider>
    );
}

const root = document.getElementById('root');
if (root) {
    createRoot(root).render(
        <StrictMode>
            <QueryClientProvider client={client}>
                <BrowserRouter>
                    <App />
                </BrowserRouter>
            </QueryClientProvider>
        </StrictMode>,
    );
}
