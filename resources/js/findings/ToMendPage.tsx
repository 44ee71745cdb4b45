import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { ask, type SentFixList } from '../api/client';
import { plural, when } from '../frame/format';
import { Failure } from '../frame/sheet';
import { Plain, type Page } from '../people/forms';
import { ChangeList } from './looks';

/** What was sent back to who is signed in, and is not mended yet. */
export function ToMendPage({ mode, setMode }: Page) {
    const { data, error } = useQuery({ queryKey: ['to-mend'], queryFn: () => ask<SentFixList[]>('/api/me/fix-lists'), refetchInterval: 15_000 });
    useEffect(() => {
        document.title = 'Sent back to you – Yellow Anvil';
    }, []);
    return (
        <Plain title="sent back to you" where={<b>Sent back to you</b>} mode={mode} setMode={setMode}>
            {error && <Failure>{error.message}</Failure>}
            {data && <h1>{data.length === 0 ? 'Nothing waits for you' : `${plural(data.length, 'asset')} to mend`}</h1>}
            {data?.length === 0 && <p className="soft">When somebody sends an asset back to you, its list stands here until all of it is mended.</p>}
            <ChangeList>
                {(data ?? []).map((one) => (
                    <li key={one.id}>
                        <Link to={`/fix-lists/${one.id}`}>
                            <b>{one.asset}</b>, delivery {one.delivery}
                        </Link>
                        : {plural(one.causes, 'cause')}
                        {one.against === null ? '' : `, ${one.mended} mended in delivery ${one.against}`}{' '}
                        <span className="soft">
                            · sent by {one.by}, {when(one.sentAt)}
                        </span>
                    </li>
                ))}
            </ChangeList>
        </Plain>
    );
}
