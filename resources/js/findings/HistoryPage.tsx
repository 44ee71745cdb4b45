import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { ask, type History } from '../api/client';
import { when } from '../frame/format';
import { Failure } from '../frame/sheet';
import { Plain, type Page } from '../people/forms';

/** What was done to an asset, by whom and when. */
export function HistoryPage({ mode, setMode }: Page) {
    const { assetId = '' } = useParams();
    const { data, error } = useQuery({ queryKey: ['history', assetId], queryFn: () => ask<History>(`/api/assets/${assetId}/history`), refetchInterval: 15_000 });
    useEffect(() => {
        document.title = data ? `History of ${data.asset} – Yellow Anvil` : 'History – Yellow Anvil';
    }, [data]);
    return (
        <Plain
            title="history"
            where={
                <span>
                    {data?.deliveryId != null && (
                        <Link className="crumb" to={`/assets/${assetId}/deliveries/${data.deliveryId}/intake`}>
                            {data.asset}
                        </Link>
                    )}
                    <span className="crumb"> / </span>
                    <b>history</b>
                </span>
            }
            mode={mode}
            setMode={setMode}
        >
            {error && <Failure>{error.message}</Failure>}
            {data && (
                <>
                    <h1>{data.events.length === 0 ? `Nothing was done to ${data.asset} yet` : `What was done to ${data.asset}`}</h1>
                    <Table sx={{ mt: 1 }}>
                        <colgroup>
                            <col style={{ width: 170 }} />
                            <col style={{ width: 200 }} />
                            <col />
                            <col style={{ width: 110 }} />
                        </colgroup>
                        <TableBody>
                            {data.events.map((one) => (
                                <TableRow key={one.id}>
                                    <TableCell className="soft">{when(one.at)}</TableCell>
                                    <TableCell>
                                        <b>{one.who}</b>
                                        {one.via && <span className="soft"> by token {one.via}</span>}
                                    </TableCell>
                                    <TableCell style={{ overflow: 'visible', overflowWrap: 'anywhere' }}>{one.words}</TableCell>
                                    <TableCell>
                                        {one.delivery !== null &&
                                            (one.deliveryId === null ? (
                                                <span className="soft">delivery {one.delivery}</span>
                                            ) : (
                                                <Link to={`/assets/${assetId}/deliveries/${one.deliveryId}/intake`}>delivery {one.delivery}</Link>
                                            ))}
                                    </TableCell>
                                </TableRow>
                            ))}
                        </TableBody>
                    </Table>
                    {data.more && <p className="soft">Earlier than that is not shown.</p>}
                </>
            )}
        </Plain>
    );
}
