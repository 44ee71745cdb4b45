// @vitest-environment jsdom
import { afterEach, describe, expect, it } from 'vitest';
import { serve } from '../testing/screen';
import { handIn } from './client';

const SIZE = 9 * 1024 * 1024;
const FIRST = 8 * 1024 * 1024;
const buoy = (): File => new File([new Uint8Array(SIZE)], 'buoy_low.obj', { lastModified: 7 });
const key = `anvil.upload:buoy_low.obj:${SIZE}:7`;
const at = (received: number) => ({ id: 'u1', name: 'buoy_low.obj', bytes: SIZE, received });
const delivered = { assetId: 8, deliveryId: 12, number: 1 };

afterEach(() => localStorage.clear());

describe('an upload', () => {
    it('goes on where a tab that was closed left it', async () => {
        localStorage.setItem(key, 'u1');
        const sent = serve({ '/api/uploads/u1': at(FIRST), '/api/uploads/u1?*': at(SIZE), '/api/deliveries': delivered });
        expect(await handIn([buoy()], null, () => undefined)).toEqual({ delivered, uploads: ['u1'] });
        expect(sent.map((one) => `${one.method} ${one.path}`)).toEqual(['GET /api/uploads/u1', `PUT /api/uploads/u1?offset=${FIRST}`, 'POST /api/deliveries']);
        expect(localStorage.getItem(key)).toBeNull();
    });

    it('begins anew where the earlier one is gone or is of another file', async () => {
        for (const earlier of [() => Response.json({ message: 'gone' }, { status: 404 }), { ...at(FIRST), bytes: 3 }]) {
            localStorage.setItem(key, 'old');
            const sent = serve({
                '/api/uploads/old': earlier,
                '/api/uploads': at(0),
                '/api/uploads/u1?offset=0': at(FIRST),
                '/api/uploads/u1?*': at(SIZE),
                '/api/deliveries': delivered,
            });
            await handIn([buoy()], null, () => undefined);
            expect(sent.map((one) => one.method)).toEqual(['GET', 'POST', 'PUT', 'PUT', 'POST']);
        }
    });

    it('waits for a server that does not answer, says so, and goes on', async () => {
        let failures = 2;
        const waited: boolean[] = [];
        serve({
            '/api/uploads': at(0),
            '/api/uploads/u1?offset=0': () => {
                failures -= 1;
                return failures >= 0 ? new Response(null, { status: 502 }) : at(FIRST);
            },
            '/api/uploads/u1?*': at(SIZE),
            '/api/deliveries': delivered,
        });
        await handIn([buoy()], null, (_, __, waits) => waited.push(waits));
        expect(waited).toEqual([false, false, true, true, false, false]);
    });

    it('asks how far the server is where it wants another piece', async () => {
        const sent = serve({
            '/api/uploads': at(0),
            '/api/uploads/u1': at(FIRST),
            '/api/uploads/u1?offset=0': () => Response.json(at(FIRST), { status: 409 }),
            '/api/uploads/u1?*': at(SIZE),
            '/api/deliveries': delivered,
        });
        await handIn([buoy()], null, () => undefined);
        expect(sent.map((one) => one.method)).toEqual(['POST', 'PUT', 'GET', 'PUT', 'POST']);
    });

    it('stops with the words of the server where it is refused, and forgets it', async () => {
        serve({ '/api/uploads': at(0), '/api/uploads/u1?*': () => Response.json({ message: 'buoy_low.obj: more bytes came than were announced' }, { status: 422 }) });
        await expect(handIn([buoy()], null, () => undefined)).rejects.toThrow('more bytes came than were announced');
        expect(localStorage.getItem(key)).toBeNull();
        serve({ '/api/uploads': () => Response.json({ message: 'The disk has 6 MB left' }, { status: 507 }) });
        await expect(handIn([buoy()], null, () => undefined)).rejects.toThrow('The disk has 6 MB left');
    });
});
