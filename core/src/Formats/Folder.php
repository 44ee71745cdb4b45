<?php

declare(strict_types=1);

namespace Anvil\Formats;

use FilesystemIterator;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;

/**
 * Folders on a local disk.
 */
final class Folder
{
    /** Removes a folder with all that is in it; one that is not there is no error. Links are removed, not followed. */
    public static function remove(string $folder): void
    {
        if (! is_dir($folder)) {
            return;
        }
        foreach (array_diff(scandir($folder) ?: [], ['.', '..']) as $name) {
            is_dir("$folder/$name") && ! is_link("$folder/$name") ? self::remove("$folder/$name") : unlink("$folder/$name");
        }
        rmdir($folder);
    }

    /**
     * @return list<string> names of all files below it, in order
     */
    public static function files(string $folder): array
    {
        $out = [];
        foreach (is_dir($folder) ? new RecursiveIteratorIterator(new RecursiveDirectoryIterator($folder, FilesystemIterator::SKIP_DOTS)) : [] as $file) {
            if ($file instanceof SplFileInfo) {
                $out[] = substr($file->getPathname(), strlen($folder) + 1);
            }
        }
        sort($out, SORT_STRING);

        return $out;
    }
}
