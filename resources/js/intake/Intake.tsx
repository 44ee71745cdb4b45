import Button from '@mui/material/Button';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import { useAct, type Delivery, type DeliveredFile } from '../api/client';
import { bytes, length, plural, scaleFor, whole } from '../frame/format';
import { Mark } from '../frame/marks';
import { chosenParts, useSelection } from '../frame/selection';

const roles = ['low', 'high', 'id', 'cage', 'pose'] as const;
const words: Record<string, string> = { low: 'low poly', high: 'high poly', id: 'ID copy', cage: 'cage', pose: 'low that ships' };
const edge = (role: string | null): string => (role === 'low' ? 'var(--low)' : role === 'high' ? 'var(--high)' : role === 'cage' ? 'var(--cage)' : 'var(--rule-strong)');

const sizeOf = (file: DeliveredFile): number[] => (file.bounds ? file.bounds.max.map((max, axis) => max - (file.bounds?.min[axis] ?? 0)) : []);
const diagonal = (file: DeliveredFile): number => Math.hypot(...sizeOf(file));

/** Both boxes from the front, to one scale: a wrong unit or place is seen at once. */
function Boxes({ files }: { files: DeliveredFile[] }) {
    const shown = files.filter((file) => file.bounds);
    if (shown.length < 2) {
        return null;
    }
    const min = [0, 1].map((axis) => Math.min(...shown.map((file) => file.bounds?.min[axis] ?? 0)));
    const max = [0, 1].map((axis) => Math.max(...shown.map((file) => file.bounds?.max[axis] ?? 0)));
    const w = (max[0] ?? 1) - (min[0] ?? 0) || 1;
    const h = (max[1] ?? 1) - (min[1] ?? 0) || 1;
    const pad = 0.05 * Math.max(w, h);
    const line = Math.max(w, h) / 90;
    return (
        <svg
            viewBox={`${(min[0] ?? 0) - pad} ${-(max[1] ?? 0) - pad} ${w + 2 * pad} ${h + 2 * pad}`}
            style={{ width: 110, height: 84, flex: 'none' }}
            role="img"
            aria-label="bounds of all files from the front, to one scale"
        >
            {shown.map((file) => (
                <rect
                    key={file.id}
                    x={file.bounds?.min[0]}
                    y={-(file.bounds?.max[1] ?? 0)}
                    width={sizeOf(file)[0]}
                    height={sizeOf(file)[1]}
                    fill="none"
                    stroke={edge(file.role)}
                    strokeWidth={line}
                    strokeDasharray={file.role === 'high' ? `${3 * line} ${2 * line}` : undefined}
                />
            ))}
        </svg>
    );
}

function FileCard({ file, delivery, reference }: { file: DeliveredFile; delivery: Delivery; reference: DeliveredFile | undefined }) {
    const setRole = useAct<string>(
        delivery.id,
        () => `files/${file.id}/role`,
        (role) => ({ role: role === '' ? null : role }),
    );
    const [asked, setAsked] = useState<string | null>(null);
    const scale = scaleFor(file.unit, diagonal(file));
    const ratio = reference && reference.id !== file.id && diagonal(reference) > 0 ? diagonal(file) / diagonal(reference) : null;
    const settled = ['done', 'failed', 'cancelled'].includes(delivery.state);
    return (
        <section className="file-card" style={{ borderLeftColor: edge(file.role) }} aria-label={file.name}>
            <div style={{ display: 'flex', justifyContent: 'space-between', gap: 12, alignItems: 'center' }}>
                <b className="mono ellipsis" title={file.name}>
                    {file.name}
                </b>
                <span style={{ display: 'flex', gap: 8, alignItems: 'center', flex: 'none' }}>
                    <select
                        aria-label={`role of ${file.name}`}
                        value={file.roleBy === 'chosen' ? (file.role ?? '') : ''}
                        disabled={!settled}
                        onChange={(event) => setAsked(event.target.value)}
                    >
                        <option value="">{file.role ? `${words[file.role]} (by name)` : 'as its parts say'}</option>
                        {roles.map((role) => (
                            <option key={role} value={role}>
                                {words[role]}
                            </option>
                        ))}
                    </select>
                </span>
            </div>
            {asked !== null && (
                <p style={{ display: 'flex', gap: 10, alignItems: 'center', margin: '8px 0 0' }}>
                    {asked === '' ? 'Names will tell the role again' : `All ${plural(file.parts, 'part')} will be ${words[asked]}; one whose own suffix says otherwise is told`}.
                    Everything is checked again.
                    <Button
                        variant="contained"
                        onClick={() => {
                            setRole.mutate(asked);
                            setAsked(null);
                        }}
                    >
                        Change
                    </Button>
                    <Button onClick={() => setAsked(null)}>Leave</Button>
                </p>
            )}
            {file.error ? (
                <p className="blocker" style={{ margin: '8px 0 0' }}>
                    <Mark kind="blocker" /> cannot be read: {file.error}
                </p>
            ) : (
                <div className="facts">
                    <div>
                        <span>format</span>
                        {file.format ?? (file.state === 'read' ? '–' : 'reading…')} · {bytes(file.bytes)}
                    </div>
                    <div>
                        <span>parts</span>
                        <span className="mono" style={{ color: 'inherit', fontSize: 'inherit' }}>
                            {whole(file.parts)}
                        </span>
                    </div>
                    <div>
                        <span>triangles</span>
                        <b className="mono">{whole(file.triangles)}</b>
                    </div>
                    <div>
                        <span>size</span>
                        {file.bounds
                            ? sizeOf(file)
                                  .map((one) => length(one, { ...scale, unit: '' }))
                                  .join(' × ')
                            : '–'}{' '}
                        {scale.unit}
                    </div>
                    <div>
                        <span>{ratio === null ? 'compared' : `of ${reference?.name ?? ''}`}</span>
                        {ratio === null ? 'reference' : <b className={ratio > 2 || ratio < 0.5 ? 'blocker' : ''}>{(100 * ratio).toFixed(ratio > 10 || ratio < 0.1 ? 2 : 1)} %</b>}
                    </div>
                    <div>
                        <span>unit · up axis</span>
                        {file.unit ?? 'none'} · {file.upAxis ?? 'none'}
                    </div>
                    <div>
                        <span>materials</span>
                        <span title={file.materials.join(', ')} style={{ color: 'inherit', fontSize: 'inherit' }}>
                            {file.materials.length === 0 ? 'none' : file.materials.length <= 2 ? file.materials.join(', ') : file.materials.length}
                        </span>
                    </div>
                    {file.cannotCarry.length > 0 && (
                        <div>
                            <span>cannot carry</span>
                            {file.cannotCarry.join(', ')}
                        </div>
                    )}
                </div>
            )}
        </section>
    );
}

/** Are these the same thing, in the same place, and usable. */
export function Intake({ delivery }: { delivery: Delivery }) {
    const selection = useSelection();
    const chosen = chosenParts(delivery, selection);
    const [find, setFind] = useState('');
    const scroll = useRef<HTMLDivElement>(null);
    const meshes = delivery.files.filter((file) => file.kind === 'mesh');
    const sides = delivery.files.filter((file) => file.kind === 'side');
    const broken = meshes.filter((file) => file.state === 'unreadable');
    const reference = meshes.find((file) => file.role === 'low' && file.bounds) ?? meshes.find((file) => file.bounds);
    const parts = delivery.parts.filter((part) => part.name.toLowerCase().includes(find.toLowerCase()));
    const count = (role: string): number => delivery.parts.filter((part) => part.role === role).length;
    // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer's own way; nothing here is memoised
    const rows = useVirtualizer({ count: parts.length, getScrollElement: () => scroll.current, estimateSize: () => 32, overscan: 12 });
    const mismatch = delivery.findings.find((finding) => finding.code === 'unit-mismatch');
    const blockers = delivery.findings.filter((finding) => finding.station === 'intake' && finding.severity === 'blocker').length;

    return (
        <>
            <div className="scroll" style={{ display: 'flex', flexDirection: 'column' }}>
                <div className="head">
                    <div>
                        <h1>
                            {broken.length > 0
                                ? `${plural(broken.length, 'file')} cannot be read`
                                : mismatch
                                  ? 'High and low poly differ in size'
                                  : delivery.state !== 'done'
                                    ? `Taking in ${plural(meshes.length, 'file')}`
                                    : blockers > 0
                                      ? `${plural(blockers, 'blocker')} on the way in`
                                      : 'All files are usable, at one size'}
                        </h1>
                        <p>
                            {count('low')} low and {plural(count('high'), 'high part')}
                            {count('id') > 0 && `, ${count('id')} ID`}
                            {sides.length > 0 && `; with ${sides.map((side) => side.name).join(', ')}`}. The originals are kept as they came.
                        </p>
                    </div>
                    <Boxes files={meshes} />
                </div>
                {meshes.map((file) => (
                    <FileCard key={file.id} file={file} delivery={delivery} reference={reference} />
                ))}
                {delivery.parts.length > 0 && (
                    <>
                        <div style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', margin: '6px 0' }}>
                            <h2>{plural(delivery.parts.length, 'part')}</h2>
                            <input type="search" value={find} onChange={(event) => setFind(event.target.value)} placeholder="find a part  /" aria-label="find a part" />
                        </div>
                        <div role="table" aria-label="parts" style={{ flex: 1, minHeight: 160, display: 'flex', flexDirection: 'column' }}>
                            <div role="row" className="tie-row soft" style={{ gridTemplateColumns: 'minmax(0,2fr) 64px minmax(0,1fr) 90px 90px', cursor: 'default', height: 26 }}>
                                <span role="columnheader">part</span>
                                <span role="columnheader">role</span>
                                <span role="columnheader">set</span>
                                <span role="columnheader" className="num" style={{ fontFamily: 'inherit' }}>
                                    triangles
                                </span>
                                <span role="columnheader" className="num" style={{ fontFamily: 'inherit' }}>
                                    carries
                                </span>
                            </div>
                            <div ref={scroll} role="rowgroup" tabIndex={0} aria-label="part rows" style={{ flex: 1, overflowY: 'auto', minHeight: 120 }}>
                                <div role="presentation" style={{ height: rows.getTotalSize(), position: 'relative' }}>
                                    {rows.getVirtualItems().map((row) => {
                                        const part = parts[row.index];
                                        return (
                                            part && (
                                                <div
                                                    role="row"
                                                    key={row.key}
                                                    className={`tie-row${chosen.has(part.name) ? ' chosen' : ''}`}
                                                    style={{
                                                        gridTemplateColumns: 'minmax(0,2fr) 64px minmax(0,1fr) 90px 90px',
                                                        position: 'absolute',
                                                        top: row.start,
                                                        left: 0,
                                                        right: 0,
                                                    }}
                                                    onClick={() => selection.select({ part: part.name })}
                                                >
                                                    <span role="cell" className="mono ellipsis">
                                                        {part.name}
                                                    </span>
                                                    <span role="cell" className={part.role === 'high' ? 'high' : part.role === 'low' ? 'low' : part.role === null ? 'blocker' : ''}>
                                                        {part.role ?? 'none'}
                                                    </span>
                                                    <span role="cell" className="mono ellipsis soft">
                                                        {part.set ?? '–'}
                                                    </span>
                                                    <span role="cell" className="num">
                                                        {whole(part.triangles)}
                                                    </span>
                                                    <span role="cell" className="num soft" style={{ fontFamily: 'inherit' }}>
                                                        {[part.hasUvs ? 'UV' : null, part.hasNormals ? 'normals' : null].filter(Boolean).join(' ') || 'shape only'}
                                                    </span>
                                                </div>
                                            )
                                        );
                                    })}
                                </div>
                            </div>
                        </div>
                    </>
                )}
            </div>
        </>
    );
}
