<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use RuntimeException;
use ZipArchive;

/**
 * The SHA-256 of all bytes of a package before it, at its very end: in the comment of the zip archive (PKWARE's APPNOTE 6.3.10, 4.3.16). What the checksums inside do not cover,
 * the container itself, is covered by it: names of folders, times, how a file was packed.
 */
final class PackageSeal
{
    private const WORDS = 'sealed by yellow-anvil, sha256 ';

    private const HEX = 64;

    /** The comment that an archive is written with, before it is known. */
    public static function blank(): string
    {
        return self::WORDS.str_repeat('0', self::HEX);
    }

    /**
     * Puts it onto an archive that was written with the blank one.
     *
     * @throws RuntimeException when it cannot be written
     */
    public static function put(string $path): void
    {
        $sum = self::sum($path);
        $file = fopen($path, 'r+b');
        if ($file === false || fseek($file, -self::HEX, SEEK_END) !== 0 || fwrite($file, $sum) !== self::HEX || ! fclose($file)) {
            throw new RuntimeException("$path cannot be sealed");
        }
    }

    /**
     * @return string|null what is wrong with it; null where nothing is
     */
    public static function trouble(string $path, ZipArchive $zip): ?string
    {
        $comment = (string) $zip->getArchiveComment();
        if (! str_starts_with($comment, self::WORDS) || strlen($comment) !== strlen(self::WORDS) + self::HEX) {
            return 'it bears no seal';
        }

        return substr($comment, -self::HEX) === self::sum($path) ? null : 'its bytes are not those that were sealed';
    }

    /** Of all but the sum itself. */
    private static function sum(string $path): string
    {
        $file = fopen($path, 'rb');
        if ($file === false) {
            throw new RuntimeException("$path cannot be read");
        }
        $hash = hash_init('sha256');
        hash_update_stream($hash, $file, max(0, (int) filesize($path) - self::HEX));
        fclose($file);

        return hash_final($hash);
    }
}
