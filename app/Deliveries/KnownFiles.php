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
        $paths = array_column($files, 'path', 'name');
        $sums = [];
        foreach ($candidates as $id) {
            $delivery = is_int($id) ? Delivery::query()->find($id) : null;
            if ($delivery !== null && self::same($delivery, $paths, $sums)) {
                return $delivery;
            }
        }

        return null;
    }

    /**
     * Whether a delivery has just these files, byte for byte.
     *
     * @param  list<array{name: string, path: string}>  $files
     */
    public static function isOf(Delivery $delivery, array $files): bool
    {
        $sums = [];

        return self::same($delivery, array_column($files, 'path', 'name'), $sums);
    }

    /**
     * Whether a delivery has just these files. Mesh files, side files and textures are compared by their content: a side file may hold all of the geometry.
     *
     * @param  array<string, string>  $paths  by name
     * @param  array<string, string|false>  $sums  hashes of these files, each computed once for all deliveries
     */
    private static function same(Delivery $delivery, array $paths, array &$sums): bool
    {
        $own = $delivery->files->where('kind', '!=', 'map');
        if ($own->count() !== count($paths) || $own->contains(static fn (File $file): bool => ! isset($paths[$file->name]) || filesize($paths[$file->name]) !== $file->bytes)) {
            return false;
        }

        return $own->every(static function (File $file) use ($paths, &$sums): bool {
            $sums[$file->name] ??= hash_file('sha256', $paths[$file->name]);

            return ($file->sha256 ?? hash_file('sha256', Store::local($file->path))) === $sums[$file->name];
        });
    }
}
