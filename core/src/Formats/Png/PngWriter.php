<?php

declare(strict_types=1);

namespace Anvil\Formats\Png;

use RuntimeException;

/**
 * Writes PNG images (ISO/IEC 15948), row by row.
 */
final class PngWriter
{
    public const GREY = 0;

    public const RGB = 2;

    public const RGBA = 6;

    private const CHANNELS = [self::GREY => 1, self::RGB => 3, self::RGBA => 4];

    /**
     * 8 bits a channel, marked as sRGB.
     *
     * @param  int  $width  pixels
     * @param  iterable<string>  $rows  3 bytes a pixel, from the top
     */
    public static function rgb(int $width, int $height, iterable $rows): string
    {
        return self::image($width, $height, self::RGB, 8, true, $rows);
    }

    /**
     * @param  int  $width  pixels
     * @param  int  $color  GREY, RGB or RGBA
     * @param  int  $bits  a channel, 8 or 16 (most significant byte first)
     * @param  bool  $srgb  false: data, without a word on its color space
     * @param  iterable<string>  $rows  from the top
     */
    public static function image(int $width, int $height, int $color, int $bits, bool $srgb, iterable $rows): string
    {
        $deflate = deflate_init(ZLIB_ENCODING_DEFLATE, ['level' => $bits === 16 ? 6 : 9]);
        if ($deflate === false) {
            throw new RuntimeException('the image cannot be compressed');
        }
        $data = '';
        $step = self::CHANNELS[$color] * intdiv($bits, 8);
        foreach ($rows as $row) {
            // Neighbours are alike: with the difference to the pixel before, gradients are packed well.
            $data .= deflate_add($deflate, $bits === 16 ? "\1".self::differences($row, $step) : "\0$row", ZLIB_NO_FLUSH);
        }
        $data .= deflate_add($deflate, '', ZLIB_FINISH);

        return "\x89PNG\r\n\x1a\n".self::chunk('IHDR', pack('NNC5', $width, $height, $bits, $color, 0, 0, 0)).($srgb ? self::chunk('sRGB', "\0") : '').self::chunk('IDAT', $data).self::chunk('IEND', '');
    }

    private static function differences(string $row, int $step): string
    {
        /** @var list<int> $bytes */
        $bytes = array_values((array) unpack('C*', $row));
        $out = [];
        foreach ($bytes as $i => $byte) {
            $out[] = ($byte - ($bytes[$i - $step] ?? 0)) & 255;
        }

        return pack('C*', ...$out);
    }

    private static function chunk(string $type, string $data): string
    {
        return pack('N', strlen($data)).$type.$data.pack('N', crc32($type.$data));
    }
}
