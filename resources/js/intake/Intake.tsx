import Button from '@mui/material/Button';
import { useDeferredValue, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ApiError, useAct, type At } from '../api/client';
import { plural, whole } from '../frame/format';
import { Rows } from '../frame/Rows';
import { Field, Foot, Head, Scroll } from '../frame/sheet';
import { chosenParts, useSelection } from '../frame/selection';
import { Boxes } from './Boxes';
import { FileCard } from './FileCard';
import { SuffixOffer } from './SuffixOffer';

const columns = { gridTemplateColumns: 'minmax(0,2fr) 64px minmax(0,1fr) 90px 100px' };

/** Are these the same thing, in the same place, at the same size, and usable. */
export function Intake({ delivery }: { delivery: At<'intake'> }) {
    const selection = useSelection();
    const navigate = useNavigate();
    const chosen = chosenParts(delivery, selection);
    const [find, setFind] = useState('');
    const [at, setAt] = useState(-1);
    const mend = useAct<void, { assetId: number; deliveryId: number }>(delivery.id, () => 'place');
    const meshes = delivery.files.filter((file) => file.kind === 'mesh');
    const sides = delivery.files.filter((file) => file.kind === 'side');
    const broken = meshes.filter((file) => file.state === 'unreadable');
    const reference = meshes.find((file) => file.rolesOfParts.includes('low') && file.bounds) ?? meshes.find((file) => file.bounds);
    const wanted = useDeferredValue(find.toLowerCase());
    const parts = delivery.parts.filter((part) => part.name.toLowerCase().includes(wanted));
    const count = (role: string | null): number => delivery.parts.filter((part) => part.role === role).length;
    const found = (code: string): boolean => delivery.findings.some((finding) => finding.code === code && !finding.waived);
    const blockers = delivery.stations.find((one) => one.key === 'intake')?.blockers ?? 0;
    const { place } = delivery;
    const headline =
        meshes.length === 0
            ? delivery.state === 'writing'
                ? 'Writing the mended files'
                : 'The mended files were not written'
            : broken.length > 0
              ? `${plural(broken.length, 'file')} cannot be read`
              : found('unit-mismatch')
                ? found('axis-mismatch')
                    ? 'High and low poly differ in size and are turned against each other'
                    : 'High and low poly differ in size'
                : found('axis-mismatch')
                  ? 'The high poly is turned against the low poly'
                  : delivery.state !== 'done'
                    ? `Taking in ${plural(meshes.length, 'file')}`
                    : count('low') === 0 && count('high') === 0
                      ? 'Nothing says which parts are low and which are high poly'
                      : found('off-alignment')
                        ? 'Low and high poly do not lie on each other everywhere'
                        : blockers > 0
                          ? `${plural(blockers, 'blocker')} on the way in`
                          : delivery.verdict === 'waiting' && count('low') === 0
                            ? 'The high poly is usable; the low poly is still to be handed in'
                            : count('high') === 0
                              ? delivery.verdict === 'waiting'
                                  ? 'The low poly is usable; the high poly is still to be handed in'
                                  : 'The files are usable; there is no high poly'
                              : 'Same thing, same place, same size: all files are usable';
    const counts = [
        plural(count('low'), 'low part'),
        plural(count('high'), 'high part'),
        count('id') > 0 ? `${count('id')} ID` : null,
        count('cage') > 0 ? plural(count('cage'), 'cage') : null,
        count('pose') > 0 ? `${count('pose')} that ship` : null,
        count(null) > 0 ? `${count(null)} with no role` : null,
    ];
    const pick = (index: number): void => {
        setAt(index);
        const part = parts[index];
        if (part) {
            selection.select({ part: part.name });
        }
    };

    return (
        <>
            <Scroll>
                <Head title={headline} acts={<Boxes files={meshes} place={place} />}>
                    {meshes.length === 0 ? (
                        <>{delivery.madeByWords ?? 'mended'}. That delivery stays as it is.</>
                    ) : (
                        <>
                            {counts.filter(Boolean).join(', ')}
                            {sides.length > 0 && `; with ${sides.length <= 3 ? sides.map((side) => side.name).join(', ') : plural(sides.length, 'side file')}`}. The originals are
                            kept as they came.
                            {delivery.verdict === 'waiting' && (
                                <>
                                    {' '}
                                    <b>
                                        Hand in {delivery.progress.waitsFor} on the <Link to="/">rack</Link>
                                    </b>
                                    : its files complete this delivery.
                                </>
                            )}
                        </>
                    )}
                </Head>
                <SuffixOffer delivery={delivery} />
                {meshes.map((file) => (
                    <FileCard key={file.id} file={file} delivery={delivery} reference={reference} />
                ))}
                {delivery.parts.length > 0 && (
                    <>
                        <div style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', margin: '6px 0' }}>
                            <h2>{plural(delivery.parts.length, 'part')}</h2>
                            <Field type="search" label="find a part" placeholder="find a part" value={find} onText={setFind} />
                        </div>
                        <div className="tie-row soft" aria-hidden="true" style={{ ...columns, cursor: 'default', height: 26, flex: 'none' }}>
                            <span>part</span>
                            <span>role</span>
                            <span>set</span>
                            <span style={{ textAlign: 'right' }}>triangles</span>
                            <span style={{ textAlign: 'right' }}>carries</span>
                        </div>
                        <Rows
                            count={parts.length}
                            current={at}
                            onMove={pick}
                            label="parts"
                            style={{ height: Math.max(160, Math.min(10, parts.length) * 32) }}
                            render={(index, spot) => {
                                const part = parts[index];
                                return (
                                    part && (
                                        <div
                                            role="option"
                                            aria-selected={chosen.has(part.name)}
                                            key={`${part.fileId} ${index}`}
                                            className={`tie-row${chosen.has(part.name) ? ' chosen' : ''}`}
                                            style={{ ...columns, ...spot }}
                                            onClick={() => pick(index)}
                                        >
                                            <span className="mono ellipsis" title={`${part.name} in ${part.file}`}>
                                                {part.name}
                                            </span>
                                            <span className={part.role === 'high' ? 'high' : part.role === 'low' ? 'low' : part.role === null ? 'blocker' : ''}>
                                                {part.role ?? 'none'}
                                            </span>
                                            <span className="mono ellipsis soft">{part.set ?? '–'}</span>
                                            <span className="num">{whole(part.triangles)}</span>
                                            <span className="num soft" style={{ fontFamily: 'inherit' }}>
                                                {[part.hasUvs ? 'UV' : null, part.hasNormals ? 'normals' : null].filter(Boolean).join(' ') || 'shape only'}
                                            </span>
                                        </div>
                                    )
                                );
                            }}
                        />
                    </>
                )}
            </Scroll>
            {place && (
                <Foot>
                    <span style={{ flex: 1 }}>
                        The high poly {place.words} fits the low poly.{' '}
                        <span className="soft">{place.stuck ?? 'It is written as a new delivery; names, UVs and all else stay, and this delivery is kept.'}</span>
                        {mend.error instanceof ApiError && (
                            <span className="blocker" role="alert">
                                {' '}
                                {mend.error.message}
                            </span>
                        )}
                    </span>
                    <Button
                        variant="contained"
                        disabled={place.stuck !== null || mend.isPending || delivery.state !== 'done'}
                        onClick={() => mend.mutate(undefined, { onSuccess: (made) => void navigate(`/assets/${made.assetId}/deliveries/${made.deliveryId}/intake`) })}
                    >
                        {mend.isPending ? 'Writing…' : 'Write mended high poly'}
                    </Button>
                </Foot>
            )}
        </>
    );
}
