<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Models\Asset;
use App\Models\Delivery;
use Closure;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Throwable;

/**
 * Takes deliveries and assets away with their files. Both go under the asset's lock: files are set aside, rows go, then the files go. A number that
 * comes free may be given to the next delivery at once, whose folder is then its own. In a shared store nothing can be set aside at once: the files
 * that were there go by their names, which no other delivery has.
 */
final class Deletion
{
    public function ofDelivery(Delivery $delivery): void
    {
        $this->away($delivery->asset_id, $delivery->folder(), static function () use ($delivery): void {
            Delivery::query()->where('exploded_from', $delivery->id)->update(['exploded_from' => null]);
            Delivery::query()->whereKey($delivery->id)->delete();
            if (Delivery::query()->where('asset_id', $delivery->asset_id)->doesntExist()) {
                Asset::query()->whereKey($delivery->asset_id)->delete();
            }
        });
    }

    public function ofAsset(Asset $asset): void
    {
        $this->away($asset->id, "assets/$asset->id", static function () use ($asset): void {
            Delivery::query()->where('asset_id', $asset->id)->delete();
            Asset::query()->whereKey($asset->id)->delete();
        });
    }

    private function away(int $asset, string $folder, Closure $rows): void
    {
        if (Store::isShared()) {
            $files = DB::transaction(static function () use ($asset, $folder, $rows): array {
                Asset::query()->whereKey($asset)->lockForUpdate()->first();
                $files = Store::files($folder);
                $rows();

                return $files;
            });
            array_map(Store::dropFile(...), $files);

            return;
        }
        $aside = 'work/deleted-'.bin2hex(random_bytes(8));
        Storage::makeDirectory('work');
        $isAside = false;
        try {
            DB::transaction(static function () use ($asset, $folder, $rows, $aside, &$isAside): void {
                Asset::query()->whereKey($asset)->lockForUpdate()->first();
                $rows();
                $isAside = Storage::exists($folder) && rename(Storage::path($folder), Storage::path($aside));
            });
        } catch (Throwable $error) {
            if ($isAside) {
                rename(Storage::path($aside), Storage::path($folder));
            }
            throw $error;
        }
        Storage::deleteDirectory($aside);
    }
}
