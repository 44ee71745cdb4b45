<?php

declare(strict_types=1);

namespace App\Deliveries;

use RuntimeException;

/**
 * Files as one zip, sent as they are read: nothing is packed before, and nothing lies on the disk. Not compressed; with the ZIP64 fields where a file or
 * the whole is 4 GiB or more (PKWARE, "APPNOTE.TXT – .ZIP File Format Specification", 6.3.10, 4.3–4.5).
 */
final class StreamedZip
{
    private const PIECE = 1 << 20;

    /** What does not fit into 32 and 16 bits stands in the ZIP64 fields, and these in its place. */
    private const FULL_32 = 0xFFFFFFFF;

    private const FULL_16 = 0xFFFF;

    /** Names are UTF-8. */
    private const FLAGS = 0x0800;

    /** 1980-01-01, so that the same files give the same bytes. */
    private const DATE = 0x21;

    /**
     * @param  iterable<string, string>  $files  name in the zip → path
     * @param  callable(string): void  $send  takes what is to be sent next
     * @param  int  $large  bytes from which on ZIP64 fields are used
     *
     * @throws RuntimeException where a file cannot be read, or changes while it is sent
     */
    public static function send(iterable $files, callable $send, int $large = self::FULL_32): void
    {
        $at = 0;
        $directory = '';
        $count = 0;
        foreach ($files as $name => $path) {
            $bytes = filesize($path);
            $crc = hash_file('crc32b', $path, true);
            $stream = fopen($path, 'rb');
            if ($bytes === false || $crc === false || $stream === false) {
                throw new RuntimeException('a file of the delivery cannot be read');
            }
            $crc = strrev($crc);
            $isLarge = $bytes >= $large;
            $size = pack('V', $isLarge ? self::FULL_32 : $bytes);
            $extra = $isLarge ? pack('vvPP', 1, 16, $bytes, $bytes) : '';
            $head = pack('Vvvvvv', 0x04034B50, $isLarge ? 45 : 20, self::FLAGS, 0, 0, self::DATE).$crc.$size.$size.pack('vv', strlen($name), strlen($extra)).$name.$extra;
            $send($head);
            $sent = 0;
            while (! feof($stream)) {
                $piece = (string) fread($stream, self::PIECE);
                $sent += strlen($piece);
                $send($piece);
            }
            fclose($stream);
            if ($sent !== $bytes) {
                throw new RuntimeException('a file of the delivery was cut short while it was sent');
            }
            $isFar = $at >= $large;
            $more = ($isLarge ? pack('PP', $bytes, $bytes) : '').($isFar ? pack('P', $at) : '');
            $extra = $more === '' ? '' : pack('vv', 1, strlen($more)).$more;
            $directory .= pack('Vvvvvvv', 0x02014B50, 45, $more === '' ? 20 : 45, self::FLAGS, 0, 0, self::DATE).$crc.$size.$size
                .pack('vvvvvVV', strlen($name), strlen($extra), 0, 0, 0, 0, $isFar ? self::FULL_32 : $at).$name.$extra;
            $at += strlen($head) + $bytes;
            $count++;
        }
        $send($directory);
        $length = strlen($directory);
        $isLarge = $at >= $large || $length >= $large || $count >= self::FULL_16;
        if ($isLarge) {
            $send(pack('VPvvVVPPPP', 0x06064B50, 44, 45, 45, 0, 0, $count, $count, $length, $at).pack('VVPV', 0x07064B50, 0, $at + $length, 1));
        }
        [$count, $length, $at] = $isLarge ? [self::FULL_16, self::FULL_32, self::FULL_32] : [$count, $length, $at];
        $send(pack('VvvvvVVv', 0x06054B50, 0, 0, $count, $count, $length, $at, 0));
    }
}
