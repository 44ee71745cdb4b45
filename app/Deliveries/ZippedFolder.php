<?php

declare(strict_types=1);

namespace App\Deliveries;

use FilesystemIterator;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use RuntimeException;
use SplFileInfo;
use ZipArchive;

/**
 * A folder as one zip: files by name, no times, so that the same files give the same bytes.
 */
final class ZippedFolder
{
    private const TIME = 946728000;

    public static function write(string $folder, string $path): void
    {
        $names = [];
        /** @var SplFileInfo $file */
        foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator($folder, FilesystemIterator::SKIP_DOTS)) as $file) {
            $names[] = substr($file->getPathname(), strlen($folder) + 1);
        }
        sort($names, SORT_STRING);
        $temporary = "$path.part";
        $zip = new ZipArchive;
        if ($zip->open($temporary, ZipArchive::CREATE | ZipArchive::OVERWRITE) !== true) {
            throw new RuntimeException('the zip cannot be written');
        }
        foreach ($names as $name) {
            $zip->addFile("$folder/$name", $name);
            $zip->setMtimeName($name, self::TIME);
        }
        if (! $zip->close()) {
            throw new RuntimeException('the zip cannot be written');
        }
        rename($temporary, $path);
    }
}
