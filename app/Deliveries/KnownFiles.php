<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\FormatCatalogue;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\File;
use App\Models\State\DeliveryState;
use App\Models\State\MakingState;
use ZipArchive;

/**
 * Files that went out from here and come back: those of a delivery that was sealed, mended or put together here, byte for byte.
 */
final class KnownFiles
{
    /** Whether a zip is a hand-off package, sound or not. */
    public static function isPackage(string $path): bool
    {
        $zip = new ZipArchive;
        if ($zip->open($path, ZipArchive::RDONLY) !== true) {
            return false;
        }
        $is = $zip->locateName('ticket.json') !== false && $zip->locateName('SHA256SUMS') !== false;
        $zip->close();

        return $is;
    }

    /**
     * The newest delivery that has just these files, under these names, byte for byte.
     *
     * @param  list<array{name: string, path: string}>  $files
     * @param  Asset|null  $asset  only of this one
     * @param  bool  $isPackage  they came as a package: that of any sealed delivery; else those of one that was mended or exploded
     */
    public static function of(array $files, ?Asset $asset, bool $isPackage): ?Delivery
    {
        $meshes = array_values(array_filter($files, static fn (array $file): bool => FormatCatalogue::isMesh($file['name'])));
        $first = $meshes[0] ?? null;
        if ($first === null) {
            return null;
        }
        // Few files have the size of one that was written here: only those are read through.
        $candidates = File::query()->where('name', $first['name'])->where('bytes', filesize($first['path']))->whereNotNull('sha256')
            ->whereHas('delivery', static fn ($deliveries) => $deliveries->where('state', DeliveryState::Done)->when($asset !== null, static fn ($own) => $own->where('asset_id', $asset?->id))
                ->where(static fn ($went) => $isPackage ? $went->whereHas('packages', static fn ($packages) => $packages->where('state', MakingState::Done)) : $went->whereNotNull('derived_from')->orWhereNotNull('exploded_from')))
            ->orderByDesc('delivery_id')->limit(20)->pluck('delivery_id');
        foreach ($candidates as $id) {
            $delivery = is_int($id) ? Delivery::query()->find($id) : null;
            if ($delivery !== null && self::same($delivery, array_column($files, 'path', 'name'))) {
                return $delivery;
            }
        }

        return null;
    }

    /**
     * @param  array<string, string>  $paths  by name
     */
    private static function same(Delivery $delivery, array $paths): bool
    {
        $own = $delivery->files->where('kind', '!=', 'map');
        if ($own->count() !== count($paths) || $own->contains(static fn (File $file): bool => ! isset($paths[$file->name]) || filesize($paths[$file->name]) !== $file->bytes)) {
            return false;
        }

        // What a mesh file names lies beside it, and may hold all of its geometry: no file is known by its size.
        return $own->every(static fn (File $file): bool => ($file->kind === 'mesh' && $file->sha256 !== null ? $file->sha256 : hash_file('sha256', Store::local($file->path))) === hash_file('sha256', $paths[$file->name]));
    }
}
