/** A part's light mesh as the server sends it. */
export interface DisplayPart {
    name: string;
    colors: [number, string | null][];
    vertices: number;
    triangles: number;
    all: number;
    positions: Float32Array;
    indices: Uint32Array;
    /** Of the high poly cut for IDs: the number of the piece. */
    piece?: number;
}

export type Role = 'low' | 'high' | 'id' | 'cage' | 'pose';

/** A part as the stand shows it. */
export interface ShownPart extends DisplayPart {
    /** The same for as long as its file is. */
    key: string;
    role: Role | null;
    set: string | null;
    /** As it was in the delivery before. */
    ghost?: true;
}

/** The length of a JSON header, the header, then each part's positions and triangles. */
export function parseDisplay(buffer: ArrayBuffer): DisplayPart[] {
    const length = new DataView(buffer).getUint32(0, true);
    const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))) as { parts: Omit<DisplayPart, 'positions' | 'indices'>[] };
    let at = 4 + length;
    return head.parts.map((part) => {
        const positions = new Float32Array(buffer, at, 3 * part.vertices);
        at += 12 * part.vertices;
        const indices = new Uint32Array(buffer, at, 3 * part.triangles);
        at += 12 * part.triangles;
        return { ...part, positions, indices };
    });
}

/** Points under a matrix (column by column), as new ones. */
export function placedBy(positions: Float32Array, matrix: number[] | null): Float32Array {
    if (matrix === null) {
        return positions;
    }
    const m = (i: number): number => matrix[i] ?? 0;
    const out = new Float32Array(positions.length);
    for (let i = 0; i + 2 < positions.length; i += 3) {
        const [x, y, z] = [positions[i] ?? 0, positions[i + 1] ?? 0, positions[i + 2] ?? 0];
        for (let row = 0; row < 3; row += 1) {
            out[i + row] = m(row) * x + m(4 + row) * y + m(8 + row) * z + m(12 + row);
        }
    }
    return out;
}
