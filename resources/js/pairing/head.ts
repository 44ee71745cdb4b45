import type { At, DeliveredFile, Tie } from '../api/client';
import { plural } from '../frame/format';
import { isBroken } from './ledger';

/** What the ledger says in a sentence, and what breaks its ties. */
export function headOf(delivery: At<'pairing'>, unread: DeliveredFile[], tied: Tie[], alone: Tie[]): { headline: string; troubles: string[] } {
    const broken = tied.filter(isBroken);
    const exact = tied.filter((tie) => !isBroken(tie)).length;
    const crossed = broken.filter((tie) => tie.kind === 'crossed').length;
    const apart = broken.filter((tie) => tie.gap !== null).length;
    const named = broken.length - crossed - apart;
    const noRole = delivery.parts.filter((part) => part.role === null).length;
    const headline =
        unread[0] !== undefined
            ? `${unread[0].name} is being read`
            : delivery.verdict === 'waiting'
              ? `Waiting for ${delivery.progress.waitsFor ?? 'the other side'}`
              : delivery.ties.length === 0
                ? noRole > 0
                    ? `No part says whether it is low or high poly`
                    : 'There are no parts to pair'
                : exact === delivery.ties.length
                  ? `All ${exact === 1 ? 'parts tie' : `${exact} ties hold`} exactly`
                  : `${exact} of ${delivery.ties.length} parts tie exactly`;
    const troubles = [
        named > 0 ? `${plural(named, 'tie breaks', 'ties break')} on a name` : null,
        crossed > 0 ? `${plural(crossed, 'name leads', 'names lead')} to a part that stands elsewhere` : null,
        apart > 0 ? `${plural(apart, 'pair lies', 'pairs lie')} apart` : null,
        alone.length > 0 && delivery.verdict !== 'waiting' ? `${plural(alone.length, 'part has', 'parts have')} no partner` : null,
    ].filter((one) => one !== null);
    return { headline, troubles };
}
