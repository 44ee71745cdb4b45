<?php

declare(strict_types=1);

namespace Anvil\Formats\Png;

use RuntimeException;

/**
 * Writes PNG images (ISO/IEC 15948): 8 bits a channel, RGB, marked as sRGB, row by row.
 */
final class PngWriter
{
    /**
     * @param  int  $width  pixels
     * @param  iterable<string>  $rows  3 bytes a pixel, from the top
     */
    public static function rgb(int $width, int $height, iterable $rows): string
    {
        $deflate = deflate_init(ZLIB_ENCODING_DEFLATE, ['level' => 9]);
        if ($deflate === false) {
            throw new RuntimeException('the image cannot be compressed');
        }
        $data = '';
        foreach ($rows as $row) {
            $data .= deflate_add($deflate, "\0$row", ZLIB_NO_FLUSH);
        }
        $data .= deflate_add($deflate, '', ZLIB_FINISH);

        return "\x89PNG\r\n\x1a\n".self::chunk('IHDR', pack('NNC5', $width, $height, 8, 2, 0, 0, 0)).self::chunk('sRGB', "\0").self::chunk('IDAT', $data).self::chunk('IEND', '');
    }

    private static function chunk(string $type, string $data): string
    {
        return pack('N', strlen($data)).$type.$data.pack('N', crc32($type.$data));
    }
}
