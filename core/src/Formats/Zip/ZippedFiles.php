<?php

declare(strict_types=1);

namespace Anvil\Formats\Zip;

use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\PlainName;
use Anvil\Unreadable;
use Closure;
use ZipArchive;

/**
 * The mesh files and side files of a zip, unpacked into a folder. What is no such file is left in the zip.
 *
 * An archive is hostile until read: no entry leaves the folder, none is a link, and what it says it unpacks to is held against limits
 * before anything is written and again while it is written.
 */
final class ZippedFiles
{
    private const MOST_ENTRIES = 20_000;

    private const MOST_BYTES = 16 << 30;

    /** Text meshes shrink to a tenth; a hundredth is no mesh any more, where it would be large. */
    private const MOST_RATIO = 200;

    private const SMALL = 64 << 20;

    /** Bytes of one name in a path, as file systems allow them, and folders in folders. */
    private const LONGEST_NAME = 240;

    private const DEEPEST = 24;

    /**
     * @param  string  $folder  an empty one
     * @param  (Closure(int): void)|null  $needs  gets the bytes that it unpacks to, before the first is written; may refuse them
     * @return list<string> names below the folder, in order: mesh files first, then their side files
     *
     * @throws Unreadable with what is wrong; the folder may then hold part of it
     */
    public static function extract(string $path, string $folder, ?Closure $needs = null): array
    {
        $zip = new ZipArchive;
        $opened = $zip->open($path, ZipArchive::RDONLY);
        if ($opened !== true) {
            throw Unreadable::because(match ($opened) {
                ZipArchive::ER_NOZIP => 'the file is no zip archive',
                ZipArchive::ER_INCONS, ZipArchive::ER_CRC => 'the zip archive contradicts itself; it is damaged',
                default => 'the zip archive cannot be opened; it is damaged or cut short',
            });
        }
        try {
            return self::unpack($zip, $folder, (int) filesize($path), $needs);
        } finally {
            $zip->close();
        }
    }

    /**
     * @param  (Closure(int): void)|null  $needs
     * @return list<string>
     */
    private static function unpack(ZipArchive $zip, string $folder, int $packed, ?Closure $needs): array
    {
        if ($zip->numFiles > self::MOST_ENTRIES) {
            throw Unreadable::because("the zip has $zip->numFiles entries; at most ".number_format(self::MOST_ENTRIES).' are taken');
        }
        $meshes = $sides = $folded = $folders = [];
        $total = 0;
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $entry = $zip->statIndex($i);
            if ($entry === false) {
                throw Unreadable::because("entry $i of the zip cannot be read; the archive is damaged");
            }
            $name = str_replace('\\', '/', $entry['name']);
            $shown = mb_strimwidth(mb_scrub((string) preg_replace('/[\x00-\x1f]/', '?', $name)), 0, 80, '…');
            if (str_ends_with($name, '/') || str_starts_with(basename($name), '.') || str_contains($name, '__MACOSX/')) {
                continue;
            }
            if (str_starts_with($name, '/') || preg_match('#^[a-zA-Z]:|\0#', $name) === 1 || in_array('..', explode('/', $name), true) || ! mb_check_encoding($name, 'UTF-8')) {
                throw Unreadable::because("the zip holds an entry that would leave its folder: \"$shown\"; pack it again without such paths");
            }
            if (! PlainName::is($name)) {
                throw Unreadable::because("the zip holds a name with a line break or another control character: \"$shown\"; rename the file and pack it again");
            }
            $path = explode('/', $name);
            if (count($path) > self::DEEPEST || max(array_map(strlen(...), $path)) > self::LONGEST_NAME) {
                throw Unreadable::because("the zip holds a name that is longer or deeper than file systems take: \"$shown\"; rename it and pack it again");
            }
            $system = $attributes = 0;
            if ($zip->getExternalAttributesIndex($i, $system, $attributes) && $system === ZipArchive::OPSYS_UNIX && (((is_int($attributes) ? $attributes : 0) >> 16) & 0xF000) === 0xA000) {
                throw Unreadable::because("the zip holds a link: \"$shown\"; pack the file itself");
            }
            $ending = strtolower(pathinfo($name, PATHINFO_EXTENSION));
            $isSide = in_array($ending, FormatCatalogue::SIDE_ENDINGS, true) || FormatCatalogue::isExplodePlan($name);
            if ($ending === 'zip' || (! $isSide && ! in_array($ending, FormatCatalogue::endings(), true))) {
                continue;
            }
            if (($entry['encryption_method'] ?? 0) !== 0) {
                throw Unreadable::because("\"$shown\" in the zip is locked with a password; pack it without");
            }
            if ($entry['size'] > self::SMALL && $entry['size'] > self::MOST_RATIO * max(1, $entry['comp_size'])) {
                throw Unreadable::because("\"$shown\" in the zip unpacks to ".number_format($entry['size']).' bytes from '.number_format($entry['comp_size']).': over '.self::MOST_RATIO.' times, which no mesh does');
            }
            $total += $entry['size'];
            if ($total > self::MOST_BYTES) {
                throw Unreadable::because('the zip unpacks to over 16 GiB; hand the files in one by one');
            }
            if (isset($folded[mb_strtolower($name)])) {
                throw Unreadable::because("the zip holds \"$shown\" twice");
            }
            $folded[mb_strtolower($name)] = true;
            for ($k = count($path) - 1; $k > 0; $k--) {
                $folders[mb_strtolower(implode('/', array_slice($path, 0, $k)))] = $shown;
            }
            $isSide ? $sides[$name] = $i : $meshes[$name] = $i;
        }
        // Many entries that are small each may be a flood together.
        if ($total > self::SMALL && $total > self::MOST_RATIO * max(1, $packed)) {
            throw Unreadable::because('the zip unpacks to '.number_format($total).' bytes from '.number_format($packed).': over '.self::MOST_RATIO.' times, which no meshes do');
        }
        foreach (array_intersect_key($folders, $folded) as $shown) {
            throw Unreadable::because("the zip holds a file and a folder of one name: the folder of \"$shown\"; rename one and pack it again");
        }
        if ($meshes === []) {
            throw Unreadable::because('the zip holds no mesh file that is read here (.glb, .gltf, .obj, .dae, .usda, .ply, .stl)');
        }
        $needs?->__invoke($total);
        ksort($meshes, SORT_STRING);
        ksort($sides, SORT_STRING);
        foreach ([...$meshes, ...$sides] as $name => $i) {
            self::write($zip, $i, (string) $name, $folder);
        }

        return array_map(strval(...), [...array_keys($meshes), ...array_keys($sides)]);
    }

    private static function write(ZipArchive $zip, int $number, string $name, string $folder): void
    {
        $entry = $zip->statIndex($number);
        $size = $entry['size'] ?? 0;
        $in = $zip->getStreamIndex($number);
        if ($in === false) {
            throw Unreadable::because("\"$name\" in the zip cannot be unpacked: it is damaged, or packed in a way that is not read");
        }
        $to = "$folder/$name";
        if (! is_dir(dirname($to))) {
            mkdir(dirname($to), 0o777, true);
        }
        $out = fopen($to, 'wb');
        $written = 0;
        $isBroken = false;
        $sum = hash_init('crc32b');
        while ($out !== false && ! feof($in)) {
            // A damaged stream warns beside giving false.
            $bytes = @fread($in, 1 << 20);
            $isBroken = $bytes === false;
            if ($bytes === false || $bytes === '') {
                break;
            }
            $written += strlen($bytes);
            if ($written > $size) {
                break;
            }
            hash_update($sum, $bytes);
            fwrite($out, $bytes);
        }
        fclose($in);
        if ($out !== false) {
            fclose($out);
        }
        if ($isBroken || $written !== $size) {
            throw Unreadable::because("\"$name\" in the zip does not unpack to the $size bytes that it says; the archive is damaged");
        }
        // What is stored is not held against its checksum by the library.
        if (hexdec(hash_final($sum)) !== (($entry['crc'] ?? 0) & 0xFFFFFFFF)) {
            throw Unreadable::because("\"$name\" in the zip does not fit its checksum; the archive is damaged, pack it again");
        }
    }
}
