<?php

declare(strict_types=1);

namespace App\Watch;

use Anvil\Formats\FormatCatalogue;
use Anvil\Inspection\FolderOfAssets;
use Anvil\Standard\Standard;
use RuntimeException;
use UnexpectedValueException;

/**
 * What lies in a watched folder now. Nothing in it is changed, but the reports.
 */
final class WatchedFolder
{
    public function __construct(public readonly string $path, private readonly Standard $standard)
    {
    }

    /**
     * @return array<string, WatchedAsset> by name, in order
     *
     * @throws RuntimeException when the folder is not there: its disk or network may come again
     */
    public function assets(): array
    {
        clearstatcache();
        if (! is_dir($this->path) || ! is_readable($this->path)) {
            throw new RuntimeException("$this->path is not there, or may not be read");
        }
        try {
            $found = FolderOfAssets::of($this->path, $this->standard);
        } catch (UnexpectedValueException $error) {
            throw new RuntimeException($error->getMessage(), 0, $error);
        }
        $inFolder = array_count_values(array_map(static fn (string $name): string => dirname("/$name"), array_keys($found)));
        $out = [];
        foreach ($found as $name => $meshes) {
            $folder = dirname($meshes[0]);
            $isAlone = $inFolder[dirname("/$name")] === 1;
            $files = [];
            foreach ([...$meshes, ...array_filter(self::sides($folder, $isAlone ? null : $meshes), fn (string $path): bool => str_starts_with((string) realpath($path), rtrim((string) realpath($this->path), '/').'/'))] as $path) {
                $files[basename($path)] = $path;
            }
            ksort($files, SORT_STRING);
            $out[$name] = new WatchedAsset($name, $files, $folder.'/'.($isAlone ? '' : basename($name).'.').'report', self::mark($files));
        }

        return $out;
    }

    /**
     * What lies beside the meshes and may be named by them. Where several assets share a folder, only files that are called as one of the meshes is.
     *
     * @param  list<string>|null  $meshes
     * @return list<string>
     */
    private static function sides(string $folder, ?array $meshes): array
    {
        $stems = $meshes === null ? null : array_map(static fn (string $path): string => mb_strtolower(pathinfo($path, PATHINFO_FILENAME)), $meshes);
        $out = [];
        foreach (@scandir($folder) ?: [] as $name) {
            $isSide = in_array(strtolower(pathinfo($name, PATHINFO_EXTENSION)), FormatCatalogue::SIDE_ENDINGS, true) || FormatCatalogue::isExplodePlan($name);
            if ($isSide && ! str_starts_with($name, '.') && is_file("$folder/$name") && ($stems === null || in_array(mb_strtolower(pathinfo($name, PATHINFO_FILENAME)), $stems, true))) {
                $out[] = "$folder/$name";
            }
        }

        return $out;
    }

    /**
     * @param  array<string, string>  $files
     */
    private static function mark(array $files): string
    {
        $out = [];
        foreach ($files as $name => $path) {
            $stat = @stat($path);
            $out[] = [$name, $stat === false ? null : [$stat['size'], $stat['mtime'], $stat['ino']]];
        }

        return hash('sha256', (string) json_encode($out, JSON_INVALID_UTF8_SUBSTITUTE));
    }

    /** Puts a report where it goes, whole: who reads it finds the old one or the new one. */
    public static function put(string $path, string $text): bool
    {
        $temporary = dirname($path).'/.'.basename($path).'.'.bin2hex(random_bytes(4));
        if (@file_put_contents($temporary, $text) === strlen($text) && @rename($temporary, $path)) {
            return true;
        }
        @unlink($temporary);

        return false;
    }
}
