<?php

declare(strict_types=1);

namespace App\Deliveries;

use Closure;
use Illuminate\Contracts\Filesystem\Filesystem;
use Illuminate\Support\Facades\File;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Number;
use Illuminate\Support\Sleep;
use League\Flysystem\FilesystemException;
use RuntimeException;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\HttpException;

/**
 * Where deliveries and all that is made of them are kept: a folder of this machine, or a store that all machines share (docs/deploy.md).
 *
 * What programs read lies on this machine: of a shared store's files there are copies in a folder that does not grow past its bound. A store
 * that refuses is asked again for a while, by a worker for two minutes, by a request for a few seconds.
 */
final class Store
{
    /** Seconds that a store may refuse in a request. */
    private const REQUEST_WAITS = 6;

    /** A copy that was asked for within so many seconds may be in use. */
    private const IN_USE = 3600;

    /**
     * Refuses what the disk has no room for: so many bytes, and what the machine itself needs.
     *
     * @throws HttpException 507
     */
    public static function needsRoom(int $bytes, string $what): void
    {
        self::here()->makeDirectory('uploads');
        $free = disk_free_space(self::here()->path('uploads'));
        $needed = $bytes + config()->integer('anvil.spare_disk');
        if ($free !== false && $free < $needed) {
            throw new HttpException(507, 'the disk has '.Number::fileSize($free)." left, and $what needs ".Number::fileSize($needed).' with what is made of it; free some space and hand it in again');
        }
    }

    public static function isShared(): bool
    {
        return config()->string('filesystems.disks.anvil.driver') !== 'local';
    }

    /** This machine's own folder: uploads that come in, what is being made, copies of what is stored. */
    public static function here(): Filesystem
    {
        return Storage::disk('here');
    }

    /** A path on this machine for something that is being made; what is left there is cleared away after an hour. */
    public static function work(string $name): string
    {
        self::here()->makeDirectory('work');

        return self::here()->path('work/'.bin2hex(random_bytes(8)).$name);
    }

    /** A stored file as one of this machine: itself, or a copy of it. Stored files never change, but for those for the stand. */
    public static function local(string $path): string
    {
        if (! self::isShared()) {
            return Storage::path($path);
        }
        $copy = 'copies/'.hash('sha256', $path);
        $file = self::here()->path($copy);
        if (is_file($file)) {
            touch($file);

            return $file;
        }
        self::here()->makeDirectory('copies');
        $part = $file.'.'.bin2hex(random_bytes(6));
        self::patiently(static function () use ($path, $part): void {
            $from = Storage::readStream($path) ?? throw new RuntimeException('a stored file is gone');
            $to = fopen($part, 'wb');
            if ($to === false || stream_copy_to_stream($from, $to) === false || ! fclose($to)) {
                throw new RuntimeException('the disk is full, or cannot be written to');
            }
            if (filesize($part) !== Storage::size($path)) {
                throw new RuntimeException('a stored file came only in part');
            }
        });
        rename($part, $file);
        self::bound($file);

        return $file;
    }

    /** Puts a file of this machine into the store; it is gone here then. */
    public static function take(string $file, string $path): void
    {
        if (! self::isShared()) {
            Storage::makeDirectory(dirname($path));
            rename($file, Storage::path($path)) ?: throw new RuntimeException('the disk is full, or cannot be written to');

            return;
        }
        self::copy($file, $path);
        File::delete($file);
    }

    /** Puts a copy of a file of this machine into the store. */
    public static function copy(string $file, string $path): void
    {
        self::patiently(static function () use ($file, $path): void {
            $stream = fopen($file, 'rb');
            if ($stream === false || ! Storage::writeStream($path, $stream)) {
                throw new RuntimeException('a file could not be stored');
            }
            if (is_resource($stream)) {
                fclose($stream);
            }
        });
    }

    public static function put(string $path, string $bytes): void
    {
        self::patiently(static fn (): bool => Storage::put($path, $bytes));
    }

    public static function get(string $path): ?string
    {
        return self::patiently(static fn (): ?string => Storage::get($path));
    }

    public static function has(string $path): bool
    {
        return self::patiently(static fn (): bool => Storage::exists($path));
    }

    public static function drop(string $folder): void
    {
        if (self::isShared()) {
            // One by one: not every server takes many names at once.
            array_map(self::dropFile(...), self::files($folder));

            return;
        }
        Storage::deleteDirectory($folder);
    }

    public static function dropFile(string $path): void
    {
        self::patiently(static fn (): bool => Storage::delete($path));
    }

    /**
     * The files of a folder, those first whose names a delivery of the same number would use again.
     *
     * @return list<string>
     */
    public static function files(string $folder): array
    {
        /** @var list<string> $files */
        $files = self::patiently(static fn (): array => Storage::allFiles($folder));
        usort($files, static fn (string $a, string $b): int => [! str_contains($a, '/display/'), $a] <=> [! str_contains($b, '/display/'), $b]);

        return $files;
    }

    /** When the newest of a folder was written, as seconds since 1970; 0 for an empty one. */
    public static function writtenAt(string $folder): int
    {
        if (! self::isShared()) {
            return (int) filemtime(Storage::path($folder));
        }

        return max([0, ...array_map(static fn (string $path): int => Storage::lastModified($path), Storage::allFiles($folder))]);
    }

    /**
     * A stored file as an answer.
     *
     * @param  string|null  $name  to be saved under; null: to be shown
     * @param  array<string, string>  $headers
     */
    public static function answer(string $path, ?string $name, array $headers = []): Response
    {
        if (! self::isShared()) {
            return $name === null ? response()->file(Storage::path($path), $headers) : response()->download(Storage::path($path), $name, $headers);
        }

        return self::patiently(static fn (): Response => $name === null ? Storage::response($path, basename($path), $headers) : Storage::download($path, self::plain($name), $headers));
    }

    /** A name that every header can carry. */
    private static function plain(string $name): string
    {
        return str_replace(['/', '\\', '%'], '-', $name);
    }

    /**
     * @template T
     *
     * @param  Closure(): T  $do
     * @return T
     */
    private static function patiently(Closure $do): mixed
    {
        $end = time() + (app()->runningInConsole() ? config()->integer('anvil.store_waits') : self::REQUEST_WAITS);
        for ($wait = 250; ; $wait = min(5000, 2 * $wait)) {
            try {
                return $do();
            } catch (FilesystemException|RuntimeException $error) {
                if (! self::isShared() || time() >= $end) {
                    throw $error;
                }
            }
            Sleep::for($wait)->milliseconds();
        }
    }

    /** Drops the copies that were not asked for longest, until all are within the bound. */
    private static function bound(string $keep): void
    {
        $most = config()->integer('anvil.copies');
        $copies = [];
        $all = 0;
        foreach (glob(dirname($keep).'/*') ?: [] as $file) {
            $size = (int) @filesize($file);
            $all += $size;
            $copies[] = [(int) @filemtime($file), $size, $file];
        }
        sort($copies);
        foreach ($copies as [$asked, $size, $file]) {
            if ($all <= $most || $asked > time() - self::IN_USE) {
                return;
            }
            if ($file !== $keep) {
                File::delete($file);
                $all -= $size;
            }
        }
    }
}
