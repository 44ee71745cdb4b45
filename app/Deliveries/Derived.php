<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\Changes;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\Step;
use App\People\Who;
use Illuminate\Support\Facades\DB;

/**
 * A delivery made of another one with something mended in its files; the old one stays as it is. The files are written by a job (WriteFiles).
 */
final class Derived
{
    /**
     * @param  array<int, Changes>  $changes  mesh file number → what changes in it
     * @param  string  $because  what was mended, in words
     * @param  bool  $exploded  whether a layout that was exploded still is
     * @param  WrittenIds|null  $ids  how the asset's IDs are written into it, too
     */
    public static function deliver(Delivery $from, array $changes, string $because, bool $exploded = true, ?WrittenIds $ids = null): Delivery
    {
        return DB::transaction(static function () use ($from, $changes, $because, $exploded, $ids): Delivery {
            $delivery = HandIn::next($from->asset, [
                'state' => DeliveryState::Writing, 'step' => Step::Write, 'derived_from' => $from->id, 'made_by_words' => $because,
                'changes' => ['files' => array_map(static fn (Changes $one): array => $one->toArray(), $changes), 'exploded' => $exploded, ...($ids === null ? [] : ['ids' => $ids->toArray()])],
            ]);
            $from->asset->update(['changed_by' => Who::name()]);
            $delivery->refresh();
            Steps::send($delivery);

            return $delivery;
        }, 5);
    }
}
