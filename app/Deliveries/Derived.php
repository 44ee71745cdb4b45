<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\Changes;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\Step;
use App\People\Decisions;
use App\People\Who;
use Illuminate\Support\Facades\DB;

/**
 * A delivery made of another one with something mended in its files; the old one stays as it is. The files are written by a job (WriteFiles).
 */
final class Derived
{
    /**
     * The same asked for twice makes one delivery.
     *
     * @param  array<int, Changes>  $changes  mesh file number → what changes in it
     * @param  string  $because  what was mended, in words
     * @param  bool  $exploded  whether a layout that was exploded still is
     * @param  WrittenIds|null  $ids  how the asset's IDs are written into it, too
     */
    public static function deliver(Delivery $from, array $changes, string $because, bool $exploded = true, ?WrittenIds $ids = null): Delivery
    {
        return DB::transaction(static function () use ($from, $changes, $because, $exploded, $ids): Delivery {
            $asset = Asset::query()->whereKey($from->asset_id)->lockForUpdate()->firstOrFail();
            $what = [
                'files' => array_map(static fn (Changes $one): array => $one->toArray(), $changes), 'exploded' => $exploded,
                // The sheet is read when the files are written: with another one it is not the same.
                ...($ids === null ? [] : ['ids' => $ids->toArray(), 'sheet' => $asset->color_ids_version]),
            ];
            $newest = $asset->deliveries()->reorder('number', 'desc')->first();
            if ($newest !== null && $newest->derived_from === $from->id && ! in_array($newest->state, [DeliveryState::Failed, DeliveryState::Cancelled], true) && json_encode($newest->changes) === json_encode($what)) {
                $newest->wasKnown = true;

                return $newest;
            }
            Decisions::record($asset, $from, ['files' => "wrote files as a new delivery: $because"]);
            $delivery = HandIn::next($asset, ['state' => DeliveryState::Writing, 'step' => Step::Write, 'derived_from' => $from->id, 'made_by_words' => $because, 'changes' => $what]);
            $asset->update(['changed_by' => Who::name()]);
            $delivery->refresh();
            Steps::send($delivery);

            return $delivery;
        }, 5);
    }
}
