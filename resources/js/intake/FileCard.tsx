import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { ApiError, useAct, useRolePreview, type DeliveredFile, type Delivery } from '../api/client';
import { bytes, digits, plural, scaleFor, whole } from '../frame/format';
import { Mark } from '../frame/marks';
import { Choice, Offer } from '../frame/sheet';
import { edgeOf, roleOf } from './Boxes';
import { Card } from './looks';

const roles = ['low', 'high', 'id', 'cage', 'pose'] as const;
const words: Record<string, string> = { low: 'low poly', high: 'high poly', id: 'ID copy', cage: 'cage', pose: 'low that ships', none: 'no role' };

const sizeOf = (box: DeliveredFile['bounds']): number[] => (box ? box.max.map((max, axis) => max - (box.min[axis] ?? 0)) : []);
const diagonal = (box: DeliveredFile['bounds']): number => Math.hypot(...sizeOf(box));

function RoleChange({ file, delivery, asked, onDone }: { file: DeliveredFile; delivery: Delivery; asked: string; onDone: () => void }) {
    const set = useAct<string>(
        delivery.id,
        () => `files/${file.id}/role`,
        (role) => ({ role: role === '' ? null : role }),
    );
    const { data, error } = useRolePreview(delivery.id, file.id, asked);
    const would = !data
        ? 'Looking what it would do…'
        : [
              data.pairedAfter === data.pairedBefore && data.basesAfter === data.basesBefore
                  ? `${data.pairedAfter} of ${data.basesAfter} pair, as now`
                  : `${data.pairedBefore} of ${data.basesBefore} pair now, ${data.pairedAfter} of ${data.basesAfter} would`,
              data.mixed > 0 ? `${plural(data.mixed, 'part')} would contradict it by their own suffix` : null,
              data.unknown > 0 ? `${plural(data.unknown, 'part')} would have no role` : null,
          ]
              .filter(Boolean)
              .join('; ');
    return (
        <Offer
            acts={
                <>
                    <Button variant="contained" disabled={set.isPending} onClick={() => set.mutate(asked, { onSuccess: onDone })}>
                        Change
                    </Button>
                    <Button onClick={onDone}>Leave</Button>
                </>
            }
        >
            <b>{asked === '' ? 'Names tell the role' : `All ${plural(file.parts, 'part')} ${words[asked]}`}</b>: {error ? error.message : would}. Everything is checked again.
            {set.error instanceof ApiError && <span className="blocker"> {set.error.message}</span>}
        </Offer>
    );
}

/** What one file is, against the others, and what its format cannot carry. */
export function FileCard({ file, delivery, reference }: { file: DeliveredFile; delivery: Delivery; reference: DeliveredFile | undefined }) {
    const [asked, setAsked] = useState<string | null>(null);
    const scale = scaleFor(file.unit ?? delivery.unit, diagonal(file.bounds));
    const ratio = reference && reference.id !== file.id && diagonal(reference.inFrame) > 0 ? diagonal(file.inFrame) / diagonal(reference.inFrame) : null;
    const byParts = file.rolesOfParts.map((role) => words[role] ?? role).join(' and ');
    const few = file.cannotCarry.slice(0, 5);
    const notes = [...file.extras, ...file.remarks];
    return (
        <Card style={{ borderLeftColor: edgeOf(roleOf(file)) }} aria-label={file.name}>
            <div style={{ display: 'flex', justifyContent: 'space-between', gap: 12, alignItems: 'center' }}>
                <b className="mono ellipsis" title={file.name}>
                    {file.name}
                </b>
                <Choice
                    label={`role of ${file.name}`}
                    value={asked ?? (file.roleBy === 'chosen' ? (file.role ?? '') : '')}
                    disabled={file.state !== 'read'}
                    empty={file.role && file.roleBy !== 'chosen' ? `${words[file.role]} (by its name)` : byParts ? `${byParts} (by its parts)` : 'as its names say'}
                    onChoose={setAsked}
                    options={[
                        ['', 'as its names say'],
                        ...roles.map((role) => [role, `${words[role] ?? role}${file.roleBy === 'chosen' && file.role === role ? ' (chosen)' : ''}`] as const),
                    ]}
                />
            </div>
            {asked !== null && <RoleChange file={file} delivery={delivery} asked={asked} onDone={() => setAsked(null)} />}
            {file.error ? (
                <p className="blocker" style={{ margin: '8px 0 0' }}>
                    <Mark kind="blocker" /> cannot be read: {file.error}{' '}
                    <Link to="/formats" style={{ color: 'var(--ink)' }}>
                        what each format carries
                    </Link>
                </p>
            ) : (
                <div className="facts">
                    <div>
                        <span>format</span>
                        {file.format ?? (file.state === 'read' ? '–' : 'reading…')} · {bytes(file.bytes)}
                    </div>
                    <div>
                        <span>parts · triangles</span>
                        <b className="mono">
                            {whole(file.parts)} · {whole(file.triangles)}
                        </b>
                    </div>
                    <div>
                        <span>size, {scale.unit}</span>
                        {file.bounds
                            ? sizeOf(file.bounds)
                                  .map((one) => digits(one * scale.factor, 3))
                                  .join(' × ')
                            : '–'}
                    </div>
                    <div>
                        <span>{ratio === null ? 'compared' : `of ${reference?.name ?? ''}`}</span>
                        {ratio === null ? (
                            'the measure of the rest'
                        ) : (
                            <b className={ratio > 2 || ratio < 0.5 ? 'blocker' : ''}>
                                {ratio > 10 ? `${digits(ratio)} ×` : ratio < 0.1 ? `1/${digits(1 / ratio)}` : `${(100 * ratio).toFixed(1)} %`}
                            </b>
                        )}
                    </div>
                    <div>
                        <span>unit · up axis</span>
                        {file.unit ?? 'says none'} · {file.upAxis ?? 'says none'}
                    </div>
                    <div>
                        <span>materials</span>
                        <div className="ellipsis" title={file.materials.join(', ')}>
                            {file.materials.length === 0 ? 'none' : file.materials.length <= 2 ? file.materials.join(', ') : whole(file.materials.length)}
                        </div>
                    </div>
                    <div style={{ gridColumn: 'span 2' }}>
                        <span>{file.cannotCarry.length > 0 ? `.${file.format ?? ''} cannot carry` : 'carries'}</span>
                        {file.cannotCarry.length > 0 ? (
                            <Link to="/formats" title={file.cannotCarry.join(', ')} style={{ textDecorationColor: 'var(--rule-strong)' }}>
                                {few.join(', ')}
                                {file.cannotCarry.length > few.length && ` and ${file.cannotCarry.length - few.length} more`}
                            </Link>
                        ) : (
                            'all that a bake needs'
                        )}
                    </div>
                    {notes.length > 0 && (
                        <div style={{ gridColumn: '1 / -1' }}>
                            <span>beside its meshes</span>
                            <div className="ellipsis" title={notes.join('\n')}>
                                {notes.slice(0, 3).join('; ')}
                                {notes.length > 3 && ` and ${notes.length - 3} more`}
                            </div>
                        </div>
                    )}
                </div>
            )}
        </Card>
    );
}
