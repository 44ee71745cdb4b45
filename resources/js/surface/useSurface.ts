import { useQuery } from '@tanstack/react-query';
import { fetchMesh, type Delivery } from '../api/client';
import { parseSurface, type UvPart } from './layout';

/** The low poly with its UVs, as it was when the delivery was judged. */
export function useSurface(delivery: Pick<Delivery, 'id' | 'checkedAt'>): { parts: UvPart[] | undefined; isError: boolean } {
    const { data, isError } = useQuery({
        queryKey: ['surface', delivery.id, delivery.checkedAt],
        staleTime: Infinity,
        queryFn: async () => {
            const bytes = await fetchMesh(delivery.id, 'mesh/surface');
            return bytes ? parseSurface(bytes) : [];
        },
    });
    return { parts: data, isError };
}
