import type { At, DeliveredFile } from '../api/client';
import { BoxesBox } from './looks';

type Box = { min: number[]; max: number[] };

export const edgeOf = (role: string | null): string => (role === 'low' ? 'var(--low)' : role === 'high' ? 'var(--high)' : role === 'cage' ? 'var(--cage)' : 'var(--rule-strong)');

/** A box under a matrix (column by column), as a box again. */
export function placed(box: Box, matrix: number[]): Box {
    const out: Box = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
    for (let corner = 0; corner < 8; corner += 1) {
        const p = [0, 1, 2].map((axis) => ((corner >> axis) & 1 ? box.max[axis] : box.min[axis]) ?? 0);
        for (let row = 0; row < 3; row += 1) {
            const value = (matrix[row] ?? 0) * (p[0] ?? 0) + (matrix[4 + row] ?? 0) * (p[1] ?? 0) + (matrix[8 + row] ?? 0) * (p[2] ?? 0) + (matrix[12 + row] ?? 0);
            out.min[row] = Math.min(out.min[row] ?? Infinity, value);
            out.max[row] = Math.max(out.max[row] ?? -Infinity, value);
        }
    }
    return out;
}

const PIXELS = 96;

function View({ boxes, across, label }: { boxes: { box: Box; stroke: string; dashed: boolean; key: string }[]; across: 0 | 2; label: string }) {
    const min = [across, 1].map((axis) => Math.min(...boxes.map(({ box }) => box.min[axis] ?? 0)));
    const max = [across, 1].map((axis) => Math.max(...boxes.map(({ box }) => box.max[axis] ?? 0)));
    const span = Math.max((max[0] ?? 0) - (min[0] ?? 0), (max[1] ?? 0) - (min[1] ?? 0)) || 1;
    const px = span / PIXELS;
    const centre = [0, 1].map((i) => ((min[i] ?? 0) + (max[i] ?? 0)) / 2);
    const half = span / 2 + 5 * px;
    return (
        <figure>
            <svg
                viewBox={`${(centre[0] ?? 0) - half} ${-(centre[1] ?? 0) - half} ${2 * half} ${2 * half}`}
                role="img"
                aria-label={`bounds of all files from the ${label}, to one scale`}
            >
                {boxes.map(({ box, stroke, dashed, key }) => {
                    // A box of another unit is still to be seen: never under three pixels.
                    const [w, h] = [across, 1].map((axis) => Math.max(3 * px, (box.max[axis] ?? 0) - (box.min[axis] ?? 0)));
                    return (
                        <rect
                            key={key}
                            x={((box.min[across] ?? 0) + (box.max[across] ?? 0)) / 2 - (w ?? 0) / 2}
                            y={-((box.min[1] ?? 0) + (box.max[1] ?? 0)) / 2 - (h ?? 0) / 2}
                            width={w}
                            height={h}
                            fill="none"
                            stroke={stroke}
                            strokeWidth={1.6 * px}
                            strokeDasharray={dashed ? `${5 * px} ${3 * px}` : undefined}
                        />
                    );
                })}
            </svg>
            <figcaption>{label}</figcaption>
        </figure>
    );
}

/** All files' boxes from the front and the side, to one scale, and where the high poly would come with the factor or turn that fits. */
export function Boxes({ files, place }: { files: DeliveredFile[]; place: At<'intake'>['place'] }) {
    const shown = files.filter((file) => file.inFrame);
    if (shown.length < 2) {
        return null;
    }
    const boxes = shown.flatMap((file) => (file.inFrame ? [{ box: file.inFrame, stroke: edgeOf(roleOf(file)), dashed: roleOf(file) === 'high', key: String(file.id) }] : []));
    const mended = place
        ? shown.flatMap((file) =>
              file.inFrame && roleOf(file) === 'high' ? [{ box: placed(file.inFrame, place.matrix), stroke: 'var(--trouble)', dashed: true, key: `mended ${file.id}` }] : [],
          )
        : [];
    return (
        <BoxesBox>
            <View boxes={[...boxes, ...mended]} across={0} label="front" />
            <View boxes={[...boxes, ...mended]} across={2} label="side" />
            {mended.length > 0 && place && <span className="trouble">{place.words}</span>}
        </BoxesBox>
    );
}

/** A file's role, or that of its parts where they all agree. */
export const roleOf = (file: DeliveredFile): string | null =>
    file.role ?? (file.rolesOfParts.length === 1 && file.rolesOfParts[0] !== 'none' ? (file.rolesOfParts[0] ?? null) : null);
