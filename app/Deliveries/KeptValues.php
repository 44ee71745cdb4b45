<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Report\LimitValues;
use Illuminate\Support\Facades\DB;

/**
 * What the checks measured on a delivery, kept to be held against other limits.
 *
 * @phpstan-import-type Kept from LimitValues
 */
final class KeptValues
{
    public static function keep(int $deliveryId, LimitValues $values): void
    {
        DB::table('limit_values')->upsert([['delivery_id' => $deliveryId, 'kept' => json_encode($values->toArray(), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)]], ['delivery_id'], ['kept']);
    }

    /**
     * @param  list<int>  $deliveries
     * @return array<int, LimitValues> by delivery; none of one that was judged by an earlier version
     */
    public static function of(array $deliveries): array
    {
        $out = [];
        foreach (DB::table('limit_values')->whereIn('delivery_id', $deliveries)->get(['delivery_id', 'kept']) as $row) {
            if (is_int($row->delivery_id) && is_string($row->kept)) {
                /** @var array<string, Kept> $kept */
                $kept = json_decode($row->kept, true, 16, JSON_THROW_ON_ERROR);
                $out[$row->delivery_id] = LimitValues::ofArray($kept);
            }
        }

        return $out;
    }
}
