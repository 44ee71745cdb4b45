<?php

declare(strict_types=1);

namespace Anvil\Inspection;

use Anvil\Formats\FormatCatalogue;
use Anvil\Pairing\NameReading;
use Anvil\Standard\Standard;
use FilesystemIterator;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;

/**
 * The assets that lie in a folder and those beneath it: mesh files of one folder whose names have one base, less their role suffixes, are one asset.
 */
final class FolderOfAssets
{
    /** Folders in folders; links to folders are not followed, nor links to files elsewhere. */
    private const DEEPEST = 24;

    /**
     * @return array<string, list<string>> name of the asset, by the folder it lies in → paths of its files; both in order
     */
    public static function of(string $folder, Standard $standard): array
    {
        $groups = [];
        $files = new RecursiveIteratorIterator(new RecursiveDirectoryIterator($folder, FilesystemIterator::SKIP_DOTS), RecursiveIteratorIterator::LEAVES_ONLY, RecursiveIteratorIterator::CATCH_GET_CHILD);
        $files->setMaxDepth(self::DEEPEST);
        $root = rtrim((string) realpath($folder), '/').'/';
        foreach ($files as $file) {
            if (! $file instanceof SplFileInfo || ! $file->isFile() || ! str_starts_with((string) $file->getRealPath(), $root) || str_starts_with($file->getFilename(), '.') || ! FormatCatalogue::isMesh($file->getFilename())) {
                continue;
            }
            $path = $file->getPathname();
            $inside = ltrim(substr(dirname($path), strlen(rtrim($folder, '/'))), '/');
            $base = NameReading::of(pathinfo($path, PATHINFO_FILENAME), $standard)->base;
            $key = mb_strtolower($base);
            $groups[$inside][$key]['names'][] = $base;
            $groups[$inside][$key]['paths'][] = $path;
        }
        $out = [];
        foreach ($groups as $inside => $assets) {
            foreach ($assets as ['names' => $names, 'paths' => $paths]) {
                sort($names);
                sort($paths);
                $out[($inside === '' ? '' : "$inside/").$names[0]] = $paths;
            }
        }
        ksort($out, SORT_STRING);

        return $out;
    }
}
