<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Zip\ZippedFiles;
use Anvil\Handoff\Verification;
use Anvil\Pairing\NameReading;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Standard as Rules;
use Anvil\Unreadable;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Standard;
use App\Models\State\DeliveryState;
use App\Models\State\FileState;
use App\Models\State\Step;
use App\Models\Upload;
use App\People\History;
use App\People\Who;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use Throwable;

/**
 * Makes a delivery of files that have come in: all of them or nothing.
 */
final class HandIn
{
    /**
     * @param  list<Upload>  $uploads  complete ones
     * @param  bool  $asNew  makes a delivery even where one that was written here has the same files. Otherwise that one is returned, and the uploads stay for a while
     * @param  bool  $once  where the asset's newest delivery has the same files, that one is returned: of two watches of one folder the second makes none
     */
    public function deliver(array $uploads, ?Asset $asset = null, ?string $name = null, ?Standard $standard = null, bool $asNew = false, bool $once = false): Delivery
    {
        $user = Who::name();
        $folder = null;
        $unpacked = sys_get_temp_dir().'/anvil-'.bin2hex(random_bytes(8));
        try {
            $files = self::files($uploads, $unpacked);
            $isPackage = count($uploads) === 1 && KnownFiles::isPackage(Store::here()->path($uploads[0]->path()));
            $known = $asNew ? null : KnownFiles::of($files, $asset, $isPackage);
            if ($known !== null) {
                History::tell($known->asset, $known, 'uploaded the same files again');
                $known->wasKnown = true;

                return $known;
            }
            // Each upload is taken once: of two who hand in the same, one is told.
            $delivery = DB::transaction(function () use ($uploads, $files, $asset, $name, $standard, $user, $once, &$folder): Delivery {
                $ids = array_map(static fn (Upload $upload): string => $upload->id, $uploads);
                if (Upload::query()->whereIn('id', $ids)->lockForUpdate()->count() !== count($ids)) {
                    throw ValidationException::withMessages(['uploads' => 'these files were handed in already, a moment ago']);
                }
                $asset ??= $this->assetFor(array_column($files, 'name'), $name, $standard, $user);
                Asset::query()->whereKey($asset->id)->lockForUpdate()->first();
                $newest = $once ? $asset->deliveries()->reorder('number', 'desc')->first() : null;
                if ($newest !== null && $newest->state !== DeliveryState::Writing && KnownFiles::isOf($newest, $files)) {
                    $newest->wasKnown = true;

                    return $newest;
                }
                $joined = self::joined($asset, array_column($files, 'name'));
                if ($joined !== null) {
                    $added = self::stored($joined, $files);
                    $delivery = self::completed($joined, $added);
                    $asset->update(['changed_by' => $user]);
                    History::tell($asset, $delivery, 'handed in the other side');
                    Upload::query()->whereIn('id', $ids)->delete();

                    return $delivery;
                }
                $delivery = self::next($asset, ['state' => DeliveryState::Reading, 'step' => Step::Read]);
                // A transaction that is begun anew begins with an empty folder.
                if ($folder !== null) {
                    Store::drop($folder);
                }
                $folder = $delivery->folder();
                $delivery->files()->createMany(self::stored($delivery, $files));
                $asset->update(['changed_by' => $user]);
                History::tell($asset, $delivery, 'handed in '.(count($files) === 1 ? '1 file' : count($files).' files'));
                $delivery->refresh();
                Steps::send($delivery);
                Upload::query()->whereIn('id', $ids)->delete();

                return $delivery;
            }, 5);
        } catch (Throwable $error) {
            if ($folder !== null) {
                Store::drop($folder);
            }
            throw $error;
        } finally {
            Folder::remove($unpacked);
        }
        foreach ($delivery->wasKnown ? [] : $uploads as $upload) {
            Store::here()->delete($upload->path());
        }

        return $delivery;
    }

    /**
     * The newest delivery of an asset, where it has one side only and these files may be the other one: it is not whole yet, and they complete it. With the asset's row locked.
     *
     * @param  list<string>  $names
     */
    private static function joined(Asset $asset, array $names): ?Delivery
    {
        $id = $asset->deliveries()->max('id');
        $newest = Delivery::query()->whereKey($id)->lockForUpdate()->first();
        if ($newest === null || $newest->derived_from !== null || $newest->state === DeliveryState::Writing) {
            return null;
        }
        // One that is judged to its end never changes, unless it waits for its other side.
        if ($newest->isOver() && ($newest->state !== DeliveryState::Done || $newest->waits_for === null)) {
            return null;
        }
        $rules = $asset->rules();
        $roles = [];
        $there = [];
        foreach ($newest->files as $file) {
            $there[mb_strtolower($file->name)] = true;
            if ($file->kind === 'mesh') {
                $roles[$file->role ?? RoledPart::roleOfFile($file->name, $rules)->value ?? ''] = true;
            }
        }
        $hasLow = isset($roles['low']);
        // Its parts may say what the name of its file does not; then it is known once it is judged.
        if (($hasLow === isset($roles['high']) || isset($roles[''])) && $newest->waits_for === null) {
            return null;
        }
        $lacks = $newest->waits_for ?? ($hasLow ? 'high' : 'low');
        foreach ($names as $name) {
            $role = RoledPart::roleOfFile($name, $rules)?->value;
            if (isset($there[mb_strtolower($name)]) || ($role !== null && $role !== $lacks && isset($roles[$role]))) {
                return null;
            }
        }

        return $newest;
    }

    /**
     * A delivery that gets the files that it lacked, and is read and judged on.
     *
     * @param  list<array{position: int, name: string, path: string, kind: string, role: string|null, bytes: int, state: FileState}>  $rows
     */
    private static function completed(Delivery $delivery, array $rows): Delivery
    {
        $last = $delivery->files()->max('position');
        $next = is_numeric($last) ? (int) $last + 1 : 0;
        $delivery->files()->createMany(array_map(static fn (array $row): array => [...$row, 'position' => $next + $row['position']], $rows));
        $delivery->update(['waits_for' => null]);
        Steps::begin($delivery);

        return $delivery->refresh();
    }

    /**
     * A delivery of the number after the last, under the asset's lock. In a transaction.
     *
     * @param  array<string, mixed>  $columns
     */
    public static function next(Asset $asset, array $columns): Delivery
    {
        Asset::query()->whereKey($asset->id)->lockForUpdate()->first();
        $last = $asset->deliveries()->max('number');

        return $asset->deliveries()->create([...$columns, 'number' => (is_numeric($last) ? (int) $last : 0) + 1, 'handed_in_by' => Who::name()]);
    }

    /**
     * Puts files into the store, for a delivery.
     *
     * @param  list<array{name: string, path: string}>  $files
     * @param  Delivery|null  $from  whose files of the same names had roles that these have, too
     * @return list<array{position: int, name: string, path: string, kind: string, role: string|null, bytes: int, state: FileState}> their rows
     */
    public static function stored(Delivery $delivery, array $files, ?Delivery $from = null): array
    {
        $rows = [];
        foreach ($files as $position => $file) {
            $path = $delivery->folder().'/original/'.Str::uuid()->toString();
            // A link or a move would leave one of the two without its bytes when the other is undone.
            Store::copy($file['path'], $path);
            $kind = FormatCatalogue::isExplodePlan($file['name']) ? 'plan' : (in_array(strtolower(pathinfo($file['name'], PATHINFO_EXTENSION)), FormatCatalogue::SIDE_ENDINGS, true) ? 'side' : 'mesh');
            $role = $from?->files->firstWhere('name', $file['name'])?->role;
            $rows[] = ['position' => $position, 'name' => $file['name'], 'path' => $path, 'kind' => $kind, 'role' => $role, 'bytes' => (int) filesize($file['path']), 'state' => $kind === 'mesh' ? FileState::Waiting : FileState::Read];
        }

        return $rows;
    }

    /** What the names of an asset's files have in common: the first mesh file's, less its role suffix, in lower case. */
    public static function keyOf(string $fileName): string
    {
        $stem = NameReading::of(pathinfo($fileName, PATHINFO_FILENAME), Rules::builtIn())->base;

        return Str::limit(mb_strtolower($stem), 180, '');
    }

    /**
     * @return string the folder in the package where its files lie
     *
     * @throws ValidationException where it is not as it was sealed
     */
    private static function sealed(string $path, string $name): string
    {
        $verification = Verification::of($path);
        if (! $verification->isSound()) {
            throw ValidationException::withMessages(['uploads' => "$name is a sealed package, and not as it was sealed: {$verification->findings[0]->message}. Ask for it again"]);
        }

        return 'files/';
    }

    /**
     * The files that came, those of a zip each by itself; a zip that cannot be unpacked stays as it is and is told of on reading.
     *
     * @param  list<Upload>  $uploads
     * @return list<array{name: string, path: string}>
     */
    private static function files(array $uploads, string $unpacked): array
    {
        $out = [];
        $unpacks = 0;
        foreach ($uploads as $i => $upload) {
            $path = Store::here()->path($upload->path());
            if (strtolower(pathinfo($upload->name, PATHINFO_EXTENSION)) === 'zip') {
                try {
                    mkdir("$unpacked/$i", 0o700, true);
                    $within = KnownFiles::isPackage($path) ? self::sealed($path, $upload->name) : null;
                    $needs = static function (int $bytes) use (&$unpacks, $upload): void {
                        // All zips are copied into the store when they are unpacked.
                        $unpacks += $bytes;
                        Store::needsRoom($unpacks + $bytes, $upload->name);
                    };
                    foreach (ZippedFiles::extract($path, "$unpacked/$i", $needs) as $name) {
                        // Of a package, what was sealed as the delivery: not what was written from it.
                        if ($within === null || str_starts_with($name, $within)) {
                            $out[] = ['name' => substr($name, strlen($within ?? '')), 'path' => "$unpacked/$i/$name"];
                        }
                    }

                    continue;
                } catch (Unreadable) {
                    Folder::remove("$unpacked/$i");
                }
            }
            $out[] = ['name' => $upload->name, 'path' => $path];
        }
        $names = array_map(mb_strtolower(...), array_column($out, 'name'));
        foreach (array_count_values($names) as $name => $count) {
            if ($count > 1) {
                throw ValidationException::withMessages(['name' => "$name is handed in twice, once in a zip; hand in each file once"]);
            }
        }

        return $out;
    }

    /**
     * @param  list<string>  $names  of the files
     */
    private function assetFor(array $names, ?string $name, ?Standard $standard, string $user): Asset
    {
        $first = $names[0];
        foreach ($names as $candidate) {
            if (FormatCatalogue::isMesh($candidate)) {
                $first = $candidate;
                break;
            }
        }
        $first = basename($first);
        $key = self::keyOf($first);
        $found = Asset::query()->where('key', $key)->first();
        if ($found !== null) {
            return $found;
        }
        $standard ??= Standard::query()->orderBy('id')->first() ?? Standard::query()->create(['name' => 'built-in', 'rules' => '{"name":"built-in"}', 'changed_by' => $user]);

        // Two who hand in the first files of one asset at the same moment make one asset.
        Asset::query()->insertOrIgnore([[
            'name' => $name ?? Str::ucfirst(str_replace('_', ' ', $key)),
            'key' => $key,
            'standard_id' => $standard->id,
            'choices' => '[]',
            'changed_by' => $user,
            'created_at' => now(),
            'updated_at' => now(),
        ]]);

        return Asset::query()->where('key', $key)->firstOrFail();
    }
}
