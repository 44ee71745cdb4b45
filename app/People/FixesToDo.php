<?php

declare(strict_types=1);

namespace App\People;

use App\Deliveries\FixLists;
use App\Http\Data\FixListData;
use App\Models\FixList;
use App\Models\Person;

/**
 * What was sent back to somebody and is not mended yet: the last list of each asset.
 */
final class FixesToDo
{
    /**
     * @return list<FixListData>
     */
    public static function of(Person $person): array
    {
        $newest = FixList::query()->selectRaw('max(id)')->groupBy('asset_id');
        $out = [];
        foreach (FixList::query()->whereIn('id', $newest)->where('person_id', $person->id)->with('delivery.asset')->orderByDesc('id')->limit(50)->get() as $list) {
            $data = FixLists::of($list);
            if ($data->mended + $data->waived < count($data->causes)) {
                $out[] = $data;
            }
        }

        return $out;
    }
}
