/** A part's light mesh as the server sends it. */
export interface DisplayPart {
    name: string;
    file: string;
    set: string | null;
    colors: [number, string | null][];
    vertices: number;
    triangles: number;
    all: number;
    positions: Float32Array;
    indices: Uint32Array;
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
