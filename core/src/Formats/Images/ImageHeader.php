<?php

declare(strict_types=1);

namespace Anvil\Formats\Images;

use Anvil\Unreadable;

/**
 * What an image file says of itself before it is decoded: PNG (ISO/IEC 15948), TGA (Truevision, 1989), TIFF 6.0 (Adobe, 1992). Sizes are bounded by it.
 */
final readonly class ImageHeader
{
    /** No map that bakers write is larger; decoded it takes half a gigabyte. */
    public const MOST = 8192;

    /** Tags of a TIFF. */
    private const MOST_TAGS = 256;

    /** Bytes of a value by its type, TIFF 6.0, page 15. */
    private const TIFF_SIZES = [1 => 1, 2 => 1, 3 => 2, 4 => 4, 5 => 8, 6 => 1, 7 => 1, 8 => 2, 9 => 4, 10 => 8, 11 => 4, 12 => 8, 13 => 4];

    /** A map of fewer px tells nothing. */
    public const LEAST = 16;

    /**
     * @param  string  $format  `png`, `tga` or `tiff`
     * @param  int  $bits  a channel, as stored
     * @param  string|null  $tag  how its values are to be taken, where it says other than plain: `sRGB`, `gamma 0.455`, or a profile's name
     */
    private function __construct(public string $format, public int $width, public int $height, public int $bits, public ?string $tag = null)
    {
    }

    /**
     * @param  string  $bytes  of the whole file
     *
     * @throws Unreadable that says what is wrong, with the byte where it is known
     */
    public static function of(string $bytes): self
    {
        $header = match (true) {
            str_starts_with($bytes, "\x89PNG\r\n\x1a\n") => self::png($bytes),
            str_starts_with($bytes, "II*\0"), str_starts_with($bytes, "MM\0*") => self::tiff($bytes),
            default => self::tga($bytes),
        };
        if ($header->width > self::MOST || $header->height > self::MOST) {
            throw Unreadable::because("it is $header->width × $header->height px; maps over ".self::MOST.' px a side are not read');
        }
        if ($header->width < self::LEAST || $header->height < self::LEAST) {
            throw Unreadable::because("it is $header->width × $header->height px; a map has at least ".self::LEAST.' px a side');
        }

        return $header;
    }

    /**
     * What was read of one before.
     *
     * @param  array{format: string, width: int, height: int, bits: int, tag: string|null}  $stored
     */
    public static function known(array $stored): self
    {
        return new self($stored['format'], $stored['width'], $stored['height'], $stored['bits'], $stored['tag']);
    }

    /** The same once it was turned upright. */
    public function sized(int $width, int $height): self
    {
        return new self($this->format, $width, $height, $this->bits, $this->tag);
    }

    private static function png(string $bytes): self
    {
        $length = strlen($bytes);
        $width = $height = $bits = 0;
        $tag = null;
        $hasData = false;
        for ($at = 8; ; $at += 12 + $size) {
            if ($at + 12 > $length) {
                throw Unreadable::atByte($length, 'the file ends before its last chunk: it is cut short');
            }
            $size = self::big(substr($bytes, $at, 4));
            $type = substr($bytes, $at + 4, 4);
            if ($size > $length - $at - 12) {
                throw Unreadable::atByte($at, 'the chunk '.self::printable($type).' is longer than the file: it is cut short');
            }
            if (crc32(substr($bytes, $at + 4, 4 + $size)) !== self::big(substr($bytes, $at + 8 + $size, 4))) {
                throw Unreadable::atByte($at, 'the chunk '.self::printable($type).' does not match its checksum: the file is damaged');
            }
            if (($type === 'IHDR') !== ($at === 8)) {
                throw Unreadable::atByte($at, 'its first chunk is not IHDR');
            }
            if ($type === 'IHDR') {
                if ($size !== 13) {
                    throw Unreadable::atByte($at, 'its IHDR chunk is not 13 bytes long');
                }
                $width = self::big(substr($bytes, 16, 4));
                $height = self::big(substr($bytes, 20, 4));
                // A palette is of 8 bits a channel, however few its numbers have.
                $bits = ord($bytes[25]) === 3 ? 8 : ord($bytes[24]);
            } elseif ($type === 'acTL') {
                throw Unreadable::atByte($at, 'it is animated; a map is one image');
            } elseif ($type === 'sRGB') {
                $tag = 'sRGB';
            } elseif ($type === 'gAMA' && $size === 4 && $tag !== 'sRGB') {
                $gamma = self::big(substr($bytes, $at + 8, 4)) / 100_000;
                // 1.0 says that the values are plain.
                $tag ??= abs($gamma - 1.0) < 0.005 ? null : 'gamma '.round($gamma, 3);
            } elseif ($type === 'iCCP' && $tag !== 'sRGB') {
                $name = self::printable(substr($bytes, $at + 8, (int) strcspn($bytes, "\0", $at + 8, min(79, $size))));
                $tag = stripos($name, 'linear') !== false ? $tag : ($name === '' ? 'a color profile' : $name);
            } elseif ($type === 'IDAT') {
                $hasData = true;
            } elseif ($type === 'IEND') {
                if (! $hasData) {
                    throw Unreadable::atByte($at, 'it holds no pixels');
                }

                return new self('png', $width, $height, $bits, $tag);
            }
        }
    }

    private static function tga(string $bytes): self
    {
        if (strlen($bytes) < 18) {
            throw Unreadable::because('it is no PNG, TGA or TIFF image');
        }
        $byte = static fn (int $at): int => ord($bytes[$at]);
        $word = static fn (int $at): int => ord($bytes[$at]) | ord($bytes[$at + 1]) << 8;
        [$id, $hasMap, $type, $entries, $entry, $width, $height, $depth] = [$byte(0), $byte(1), $byte(2), $word(5), $byte(7), $word(12), $word(14), $byte(16)];
        $isPalette = $type === 1 || $type === 9;
        if (! in_array($type, [1, 2, 3, 9, 10, 11], true) || $hasMap > 1 || ($isPalette && $hasMap === 0) || $width === 0 || $height === 0
            || ! in_array($depth, $isPalette || $type === 3 || $type === 11 ? [8, 16] : [15, 16, 24, 32], true) || ($byte(17) & 0xC0) !== 0) {
            throw Unreadable::because('it is no PNG, TGA or TIFF image');
        }
        $start = 18 + $id + ($hasMap === 1 ? $entries * intdiv($entry + 7, 8) : 0);
        $least = $type < 9 ? $width * $height * intdiv($depth + 7, 8) : 1;
        if (strlen($bytes) < $start + $least) {
            throw Unreadable::atByte(strlen($bytes), "$width × $height px of $depth bits need ".number_format($least).' bytes, and '.number_format(max(0, strlen($bytes) - $start)).' are there: it is cut short');
        }
        $header = new self('tga', $width, $height, $isPalette || $depth > 16 || $depth === 8 ? 8 : ($type === 3 || $type === 11 ? 16 : 5));
        if ($type >= 9 && $width <= self::MOST && $height <= self::MOST) {
            self::packets($bytes, $start, $width * $height, intdiv($depth + 7, 8));
        }

        return $header;
    }

    /** Whether run-length packets are all there. */
    private static function packets(string $bytes, int $at, int $pixels, int $size): void
    {
        $length = strlen($bytes);
        while ($pixels > 0) {
            if ($at >= $length) {
                throw Unreadable::atByte($length, number_format($pixels).' px are missing at its end: it is cut short');
            }
            $head = ord($bytes[$at]);
            $count = ($head & 127) + 1;
            $at += 1 + ($head > 127 ? $size : $count * $size);
            $pixels -= $count;
        }
        if ($at > $length) {
            throw Unreadable::atByte($length, 'its last pixels are missing: it is cut short');
        }
    }

    private static function tiff(string $bytes): self
    {
        $isBig = $bytes[0] === 'M';
        $length = strlen($bytes);
        $word = static function (int $at, int $size) use ($bytes, $isBig, $length): int {
            if ($at < 0 || $at + $size > $length) {
                throw Unreadable::atByte($at, 'it points past its own end: it is cut short');
            }
            $part = substr($bytes, $at, $size);
            $part = $isBig ? strrev($part) : $part;
            $value = 0;
            for ($i = $size - 1; $i >= 0; $i--) {
                $value = $value << 8 | ord($part[$i]);
            }

            return $value;
        };
        $ifd = $word(4, 4);
        $count = $word($ifd, 2);
        if ($count > self::MOST_TAGS) {
            throw Unreadable::atByte($ifd, "it has $count tags; a map has at most ".self::MOST_TAGS);
        }
        $tags = [];
        $sum = 0;
        for ($i = 0; $i < $count; $i++) {
            $at = $ifd + 2 + 12 * $i;
            $size = self::TIFF_SIZES[$word($at + 2, 2)] ?? 0;
            $many = $word($at + 4, 4);
            $from = $size * $many <= 4 ? $at + 8 : $word($at + 8, 4);
            $sum += $size * $many;
            // A decoder reads them all: each has its bytes in the file, and no byte is of many.
            if ($from + $size * $many > $length || $sum > $length) {
                throw Unreadable::atByte($at, 'one of its tags points past its own end: it is cut short');
            }
            $tag = $word($at, 2);
            // Only strips have a value each; of all other tags the first value counts.
            $needed = match (true) {
                in_array($tag, [273, 279], true) => $many,
                in_array($tag, [256, 257, 258, 259, 262, 339, 34675], true) => min(1, $many),
                default => 0,
            };
            if ($needed > self::MOST) {
                throw Unreadable::atByte($at, "it is cut into $many strips; a map has at most one a row");
            }
            $size = min($size, 4);
            for ($k = 0; $k < $needed; $k++) {
                $tags[$tag][] = $word($from + $size * $k, $size);
            }
        }
        if ($word($ifd + 2 + 12 * $count, 4) !== 0) {
            throw Unreadable::because('it holds several images; a map is one');
        }
        if (! isset($tags[256][0], $tags[257][0])) {
            throw Unreadable::because('it does not say how large it is');
        }
        $bits = $tags[258][0] ?? 1;
        $packing = $tags[259][0] ?? 1;
        if (! in_array($packing, [1, 5, 8, 32946], true)) {
            throw Unreadable::because("it is packed in a way ($packing) that is not read; write it plain, with LZW or with deflate");
        }
        if (($tags[262][0] ?? 1) === 5) {
            throw Unreadable::because('its colors are for print (CMYK); write it as RGB or grey');
        }
        if (! in_array($bits, [8, 16], true) || ($tags[339][0] ?? 1) !== 1) {
            throw Unreadable::because("its channels are of $bits bits".(($tags[339][0] ?? 1) === 3 ? ' with a floating point' : '').'; write 8 or 16 bits without one');
        }
        foreach ($tags[273] ?? [] as $k => $offset) {
            if ($offset + ($tags[279][$k] ?? 0) > $length) {
                throw Unreadable::atByte($length, 'its pixels go on past its end: it is cut short');
            }
        }

        return new self('tiff', $tags[256][0], $tags[257][0], $bits, isset($tags[34675]) ? 'a color profile' : null);
    }

    private static function big(string $four): int
    {
        return ord($four[0]) << 24 | ord($four[1]) << 16 | ord($four[2]) << 8 | ord($four[3]);
    }

    private static function printable(string $text): string
    {
        return preg_replace('/[^\x20-\x7e]/', '?', $text) ?? '';
    }
}
