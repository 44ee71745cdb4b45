import Box from '@mui/material/Box';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, type MouseEvent } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { ask, type GuidePage as PageData } from '../api/client';
import { Plain, type Page } from '../people/forms';
import { CannotShow } from './sheet';

const dress = {
    display: 'grid',
    gridTemplateColumns: '230px minmax(0, 76ch)',
    gap: 4,
    '@media (max-width: 900px)': { gridTemplateColumns: '1fr' },
    '& article img': { maxWidth: '100%', height: 'auto', border: '1px solid var(--rule-strong)', display: 'block', my: 1 },
    '& article pre': { bgcolor: 'var(--sheet)', border: '1px solid var(--rule)', p: 1, overflowX: 'auto', fontFamily: 'var(--mono)', fontSize: 12.5 },
    '& article code': { fontFamily: 'var(--mono)', fontSize: '0.95em', overflowWrap: 'anywhere' },
    '& article h2': { mt: 3, mb: 0.5, scrollMarginTop: '12px' },
};

/** A page of the manual: a walk, or a check with a drawing of its fault. */
export function GuidePage({ mode, setMode }: Page) {
    const { page = 'technical-artist' } = useParams();
    const { hash } = useLocation();
    const navigate = useNavigate();
    const walks = useQuery({ queryKey: ['guide'], queryFn: () => ask<{ page: string; title: string }[]>('/api/guide'), staleTime: Infinity });
    const { data, error } = useQuery({ queryKey: ['guide', page], queryFn: () => ask<PageData>(`/api/guide/${page}`), staleTime: Infinity });
    const text = useRef<HTMLDivElement>(null);
    useEffect(() => {
        document.title = `${data?.title ?? 'Guide'} – Yellow Anvil`;
        if (data && hash !== '') {
            text.current?.querySelector(`[id="${CSS.escape(hash.slice(1))}"]`)?.scrollIntoView();
        }
    }, [data, hash]);
    // Links from page to page stay in the application.
    const follow = (event: MouseEvent): void => {
        const to = (event.target as HTMLElement).closest('a')?.getAttribute('href');
        if (to?.startsWith('/guide/')) {
            event.preventDefault();
            void navigate(to);
        }
    };
    return (
        <Plain title="guide" where={<b>Guide</b>} mode={mode} setMode={setMode}>
            <Box sx={dress}>
                <nav aria-label="pages of the guide">
                    {walks.data?.map((one) => (
                        <p key={one.page} style={{ margin: '0 0 8px' }}>
                            {one.page === page ? <b aria-current="page">{one.title}</b> : <Link to={`/guide/${one.page}`}>{one.title}</Link>}
                        </p>
                    ))}
                    <p className="soft">
                        Each check has a page with a drawing of its fault: press <kbd>/</kbd> and type its code, or what a bad bake looks like.
                    </p>
                </nav>
                <article>
                    {error ? <CannotShow what="This page of the guide" why={error.message} to="/guide" where="All walks" /> : <h1>{data?.title ?? 'Fetching the guide…'}</h1>}
                    {/* Markdown of our own, written as HTML by the server, with all markup in it escaped. */}
                    {data && <div ref={text} onClick={follow} dangerouslySetInnerHTML={{ __html: data.html }} />}
                </article>
            </Box>
        </Plain>
    );
}
