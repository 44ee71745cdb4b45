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
import { NoticeProvider } from './frame/Notice';
import { AssetFrame } from './frame/AssetFrame';
import { FormatsPage } from './intake/FormatsPage';
import { RackPage } from './rack/RackPage';
import { paint, themeFor, type Mode } from './theme';

const client = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 500, networkMode: 'always' }, mutations: { networkMode: 'always' } } });

function ToIntake() {
    const { assetId, deliveryId } = useParams();
    return <Navigate to={`/assets/${assetId}/deliveries/${deliveryId}/intake`} replace />;
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
                    <Route path="/" element={<RackPage mode={mode} setMode={choose} />} />
                    <Route path="/formats" element={<FormatsPage mode={mode} setMode={choose} />} />
                    <Route path="/assets/:assetId/deliveries/:deliveryId" element={<ToIntake />} />
                    <Route path="/assets/:assetId/deliveries/:deliveryId/:station" element={<AssetFrame mode={mode} setMode={choose} />} />
                    <Route path="*" element={<Navigate to="/" replace />} />
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
