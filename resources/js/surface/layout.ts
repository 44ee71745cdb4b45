import type { UvSheet } from '../api/client';

/** A low part with its UVs, corner by corner, as the server sends it. */
export interface UvPart {
    name: string;
    triangles: number;
    /** xyz of each corner. */
    positions: Float32Array;
    /** u and v of each corner. */
    uvs: Float32Array;
    /** The island of each triangle, by its place among those of the sheet. */
    islands: Uint32Array;
    /** Bit 0–2: a seam, 3–5: hard, from the first corner on. */
    edges: Uint32Array;
}

export const NO_ISLAND = 0xffffffff;

export function parseSurface(buffer: ArrayBuffer): UvPart[] {
    const length = new DataView(buffer).getUint32(0, true);
    const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))) as { parts: { name: string; triangles: number }[] };
    let at = 4 + length;
    return head.parts.map(({ name, triangles }) => {
        const positions = new Float32Array(buffer, at, 9 * triangles);
        const uvs = new Float32Array(buffer, (at += 36 * triangles), 6 * triangles);
        const islands = new Uint32Array(buffer, (at += 24 * triangles), triangles);
        const edges = new Uint32Array(buffer, (at += 4 * triangles), triangles);
        at += 4 * triangles;
        return { name, triangles, positions, uvs, islands, edges };
    });
}

/** The UV tile in which the middle of an island lies. */
export const tileOf = ([u0, v0, u1, v1]: number[]): [number, number] => [Math.floor(((u0 ?? 0) + (u1 ?? 0)) / 2), Math.floor(((v0 ?? 0) + (v1 ?? 0)) / 2)];

/** What of a page is drawn, moved into the tile at the origin. */
export interface PageShapes {
    /** Island → its triangles, six numbers each. */
    fills: Map<number, number[]>;
    /** Four numbers a segment. */
    seams: number[];
    hard: number[];
}

export function shapesOf(parts: UvPart[], sheet: UvSheet, page: number): PageShapes {
    const fills = new Map<number, number[]>();
    const seams: number[] = [];
    const hard: number[] = [];
    for (const part of parts) {
        for (let t = 0; t < part.triangles; t += 1) {
            const number = part.islands[t] ?? NO_ISLAND;
            const island = sheet.islands[number];
            if (island?.page !== page) {
                continue;
            }
            const [u, v] = tileOf(island.box);
            let fill = fills.get(number);
            if (!fill) {
                fill = [];
                fills.set(number, fill);
            }
            const at = (k: number): number => (part.uvs[6 * t + k] ?? 0) - (k % 2 === 0 ? u : v);
            for (let k = 0; k < 6; k += 1) {
                fill.push(at(k));
            }
            const edges = part.edges[t] ?? 0;
            for (let k = 0; k < 3; k += 1) {
                const isSeam = (edges >> k) & 1;
                if (isSeam || (edges >> (3 + k)) & 1) {
                    const n = (k + 1) % 3;
                    (isSeam ? seams : hard).push(at(2 * k), at(2 * k + 1), at(2 * n), at(2 * n + 1));
                }
            }
        }
    }
    return { fills, seams, hard };
}

const CELLS = 96;

/** Which island lies at a place of a page. */
export class Finder {
    private readonly cells = new Map<number, [number, number][]>();

    constructor(private readonly fills: Map<number, number[]>) {
        const cell = (x: number): number => Math.max(0, Math.min(CELLS - 1, Math.floor(x * CELLS)));
        for (const [island, uv] of fills) {
            for (let k = 0; k + 5 < uv.length; k += 6) {
                const us = [uv[k] ?? 0, uv[k + 2] ?? 0, uv[k + 4] ?? 0];
                const vs = [uv[k + 1] ?? 0, uv[k + 3] ?? 0, uv[k + 5] ?? 0];
                for (let y = cell(Math.min(...vs)); y <= cell(Math.max(...vs)); y += 1) {
                    for (let x = cell(Math.min(...us)); x <= cell(Math.max(...us)); x += 1) {
                        const key = y * CELLS + x;
                        const list = this.cells.get(key);
                        if (list) {
                            list.push([island, k]);
                        } else {
                            this.cells.set(key, [[island, k]]);
                        }
                    }
                }
            }
        }
    }

    at(u: number, v: number): number | null {
        const key = Math.max(0, Math.min(CELLS - 1, Math.floor(v * CELLS))) * CELLS + Math.max(0, Math.min(CELLS - 1, Math.floor(u * CELLS)));
        for (const [island, k] of this.cells.get(key) ?? []) {
            const uv = this.fills.get(island) ?? [];
            const [au, av, bu, bv, cu, cv] = [uv[k] ?? 0, uv[k + 1] ?? 0, uv[k + 2] ?? 0, uv[k + 3] ?? 0, uv[k + 4] ?? 0, uv[k + 5] ?? 0];
            const one = (bu - au) * (v - av) - (bv - av) * (u - au);
            const two = (cu - bu) * (v - bv) - (cv - bv) * (u - bu);
            const three = (au - cu) * (v - cv) - (av - cv) * (u - cu);
            if ((one >= 0 && two >= 0 && three >= 0) || (one <= 0 && two <= 0 && three <= 0)) {
                return island;
            }
        }
        return null;
    }
}

/** A view of the page: so many screen pixels a page, and where its lower left corner lies. */
export interface View {
    zoom: number;
    x: number;
    y: number;
}

/** The whole page in a window, with a little room around it. */
export function fitted(width: number, height: number): View {
    const zoom = Math.max(40, Math.min(width, height) - 36);
    return { zoom, x: (width - zoom) / 2, y: (height + zoom) / 2 };
}

/** Closer or further about a place of the window that stays where it is. */
export function zoomed(view: View, factor: number, x: number, y: number, least: number): View {
    const zoom = Math.max(least, Math.min(200_000, view.zoom * factor));
    const by = zoom / view.zoom;
    return { zoom, x: x + (view.x - x) * by, y: y + (view.y - y) * by };
}

export const pageAt = (view: View, x: number, y: number): [number, number] => [(x - view.x) / view.zoom, (view.y - y) / view.zoom];
