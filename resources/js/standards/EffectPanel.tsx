import { Link } from 'react-router';
import type { Effect } from '../api/client';
import { plural, whole } from '../frame/format';
import { Mark } from '../frame/marks';
import { Failure } from '../frame/sheet';
import { inWords } from './rules';

const more = (value: number, kind: 'blocker' | 'caution' | 'note') =>
    value === 0 ? null : (
        <span key={kind} style={{ whiteSpace: 'nowrap', marginRight: 10 }}>
            <Mark kind={kind} /> {value > 0 ? '+' : '−'}
            {whole(Math.abs(value))} {kind}
            {Math.abs(value) === 1 ? '' : 's'}
        </span>
    );

/** What a change would do to the assets at hand, before it is saved. */
export function EffectPanel({ effect, error, isWhole, isChanged, assets }: { effect: Effect | null; error: string | null; isWhole: boolean; isChanged: boolean; assets: number }) {
    if (error !== null) {
        return <Failure>{error}</Failure>;
    }
    if (!isChanged) {
        return (
            <p className="soft">
                Change something on the left: what it would do to {assets === 1 ? 'the asset that is' : `the ${whole(assets)} assets that are`} held to this standard stands here
                before it is saved.
            </p>
        );
    }
    if (effect === null) {
        return <p className="soft">Weighing…</p>;
    }
    const known = effect.foretold + effect.judged;
    const toCome = effect.assets - known;
    return (
        <div role="status" aria-label="effect">
            <h2 style={{ marginTop: 0 }}>{inWords(effect)}</h2>
            <p className="soft" style={{ margin: '2px 0 8px' }}>
                {effect.assets === 0
                    ? 'No asset is held to this standard yet.'
                    : isWhole
                      ? `Told of ${whole(known)} of ${plural(effect.assets, 'asset')}, from what was measured.`
                      : `So far: ${whole(known)} of ${plural(effect.assets, 'asset')}, ${whole(toCome)} to come.`}
            </p>
            {effect.unknownChecks.length > 0 && (
                <p className="caution" style={{ margin: '0 0 8px' }} title={effect.unknownChecks.join(', ')}>
                    {plural(effect.unknownChecks.length, 'check needs', 'checks need')} new measures on {plural(effect.unknown, 'asset')}: what they find is known once you save and
                    check again ({effect.unknownChecks.slice(0, 3).join(', ')}
                    {effect.unknownChecks.length > 3 && ', …'}).
                </p>
            )}
            {(effect.nowBlocked > 0 || effect.nowReady > 0) && (
                <p style={{ margin: '0 0 8px' }}>
                    {effect.nowBlocked > 0 && (
                        <b className="blocker">
                            {plural(effect.nowBlocked, 'asset')} that {effect.nowBlocked === 1 ? 'is' : 'are'} ready would be blocked.{' '}
                        </b>
                    )}
                    {effect.nowReady > 0 && (
                        <b>
                            {plural(effect.nowReady, 'asset')} that {effect.nowReady === 1 ? 'is' : 'are'} blocked would be ready.
                        </b>
                    )}
                </p>
            )}
            {effect.waiversIdle > 0 && (
                <p className="soft" style={{ margin: '0 0 8px' }}>
                    {plural(effect.waiversIdle, 'waived finding')} would not be found any more: {effect.waiversIdle === 1 ? 'its waiver has' : 'their waivers have'} nothing left to
                    hold.
                </p>
            )}
            {effect.rows.map((row) => (
                <div key={row.assetId} style={{ borderTop: '1px solid var(--rule)', padding: '6px 0' }}>
                    <Link to={`/assets/${row.assetId}/deliveries/${row.deliveryId}/hand-off`}>{row.name}</Link>{' '}
                    <span className={row.isReady ? 'soft' : row.wasReady ? 'blocker' : 'soft'}>
                        {row.wasReady === row.isReady ? (row.isReady ? 'stays ready' : 'stays blocked') : row.isReady ? 'becomes ready' : 'becomes blocked'}
                    </span>
                    {row.codes.map((one) => (
                        <div key={one.code} style={{ paddingLeft: 12 }}>
                            <span className="mono">{one.code}</span> {more(one.blockers, 'blocker')}
                            {more(one.cautions, 'caution')}
                            {more(one.notes, 'note')}
                        </div>
                    ))}
                </div>
            ))}
            {effect.changed > effect.rows.length && <p className="soft">and {plural(effect.changed - effect.rows.length, 'more asset')}</p>}
        </div>
    );
}
