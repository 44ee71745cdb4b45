<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Models\Asset;
use App\Models\Delivery;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/**
 * Takes deliveries and assets away with their files. Rows first, in one transaction; files that a kill leaves behind go with the next cleaning.
 */
final class Deletion
{
    public function ofDelivery(Delivery $delivery): void
    {
        $folder = $delivery->folder();
        DB::transaction(static function () use ($delivery): void {
            $locked = Delivery::query()->whereKey($delivery->id)->lockForUpdate()->first();
            Delivery::query()->where('exploded_from', $delivery->id)->update(['exploded_from' => null]);
            $locked?->delete();
            if (Delivery::query()->where('asset_id', $delivery->asset_id)->doesntExist()) {
                Asset::query()->whereKey($delivery->asset_id)->delete();
            }
        });
        Storage::deleteDirectory($folder);
    }

    public function ofAsset(Asset $asset): void
    {
        DB::transaction(static function () use ($asset): void {
            Asset::query()->whereKey($asset->id)->lockForUpdate()->first();
            Delivery::query()->where('asset_id', $asset->id)->delete();
            Asset::query()->whereKey($asset->id)->delete();
        });
        Storage::deleteDirectory("assets/$asset->id");
    }
}
