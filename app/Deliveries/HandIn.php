<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\FormatCatalogue;
use Anvil\Pairing\NameReading;
use Anvil\Standard\Standard as Rules;
use App\Jobs\ReadFile;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Standard;
use App\Models\Upload;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;
use Throwable;

/**
 * Makes a delivery of files that have come in: all of them or nothing.
 */
final class HandIn
{
    /**
     * @param  list<Upload>  $uploads  complete ones
     * @param  string|null  $derivedBecause  why it was made from another delivery
     */
    public function deliver(array $uploads, ?Asset $asset = null, ?string $name = null, ?Delivery $from = null, ?string $derivedBecause = null, ?Standard $standard = null): Delivery
    {
        $user = (string) config()->string('anvil.user');
        $folder = null;
        try {
            $delivery = DB::transaction(function () use ($uploads, $asset, $name, $from, $derivedBecause, $standard, $user, &$folder): Delivery {
                $asset ??= $this->assetFor($uploads, $name, $standard, $user);
                Asset::query()->whereKey($asset->id)->lockForUpdate()->first();
                $last = $asset->deliveries()->max('number');
                $number = (is_numeric($last) ? (int) $last : 0) + 1;
                $delivery = $asset->deliveries()->create(['number' => $number, 'state' => 'reading', 'handed_in_by' => $user, 'derived_from' => $from?->id, 'made_by_words' => $derivedBecause]);
                $folder = $delivery->folder();
                foreach ($uploads as $position => $upload) {
                    $path = "$folder/original/".Str::uuid()->toString();
                    Storage::makeDirectory("$folder/original");
                    // A link or a move would leave one of the two without its bytes when the other is undone.
                    Storage::copy($upload->path(), $path);
                    $kind = in_array(strtolower(pathinfo($upload->name, PATHINFO_EXTENSION)), FormatCatalogue::SIDE_ENDINGS, true) ? 'side' : 'mesh';
                    $role = $from?->files->firstWhere('name', $upload->name)?->role;
                    $delivery->files()->create(['position' => $position, 'name' => $upload->name, 'path' => $path, 'kind' => $kind, 'role' => $role, 'bytes' => $upload->bytes, 'state' => $kind === 'mesh' ? 'waiting' : 'read']);
                }
                $asset->update(['changed_by' => $user]);

                return $delivery;
            });
        } catch (Throwable $error) {
            if ($folder !== null) {
                Storage::deleteDirectory($folder);
            }
            throw $error;
        }
        foreach ($uploads as $upload) {
            Storage::delete($upload->path());
            $upload->delete();
        }
        ReadFile::dispatchAll($delivery);

        return $delivery;
    }

    /** What the names of an asset's files have in common: the first mesh file's, less its role suffix, in lower case. */
    public static function keyOf(string $fileName): string
    {
        $stem = NameReading::of(pathinfo($fileName, PATHINFO_FILENAME), Rules::builtIn())->base;

        return Str::limit(mb_strtolower($stem), 180, '');
    }

    /**
     * @param  list<Upload>  $uploads
     */
    private function assetFor(array $uploads, ?string $name, ?Standard $standard, string $user): Asset
    {
        $first = $uploads[0];
        foreach ($uploads as $upload) {
            if (in_array(strtolower(pathinfo($upload->name, PATHINFO_EXTENSION)), FormatCatalogue::endings(), true)) {
                $first = $upload;
                break;
            }
        }
        $key = self::keyOf($first->name);
        $found = Asset::query()->where('key', $key)->first();
        if ($found !== null) {
            return $found;
        }
        $standard ??= Standard::query()->orderBy('id')->first() ?? Standard::query()->create(['name' => 'built-in', 'rules' => '{"name":"built-in"}', 'changed_by' => $user]);

        return Asset::query()->create([
            'name' => $name ?? Str::ucfirst(str_replace('_', ' ', $key)),
            'key' => $key,
            'standard_id' => $standard->id,
            'choices' => [],
            'changed_by' => $user,
        ]);
    }
}
