<?php

declare(strict_types=1);

namespace Anvil\Tests\Formats;

use Anvil\Formats\Images\Image;
use Anvil\Formats\Images\ImageHeader;
use Anvil\Formats\Png\PngWriter;
use Anvil\Unreadable;
use Imagick;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Images that come back from bakers, in every form that they have, and such as are none.
 */
final class ImagesTest extends TestCase
{
    /** A gradient of 16 bits, 20 × 18 px, another value in every pixel and channel. */
    private static function gradient(int $color = PngWriter::RGB, int $bits = 16): string
    {
        $channels = [PngWriter::GREY => 1, PngWriter::RGB => 3, PngWriter::RGBA => 4][$color];
        $rows = [];
        for ($y = 0; $y < 18; $y++) {
            $row = [];
            for ($x = 0; $x < 20; $x++) {
                for ($c = 0; $c < $channels; $c++) {
                    $row[] = ($x * 3000 + $y * 301 + $c * 77) % 65536 >> ($bits === 8 ? 8 : 0);
                }
            }
            $rows[] = pack($bits === 8 ? 'C*' : 'n*', ...$row);
        }

        return PngWriter::image(20, 18, $color, $bits, false, $rows);
    }

    /** @param  array<string, mixed>  $set */
    private static function written(string $format, array $set = [], int $depth = 16): string
    {
        $image = new Imagick;
        $image->readImageBlob(self::gradient());
        $image->setImageDepth($depth);
        foreach ($set as $method => $value) {
            $image->{$method}($value);
        }
        // Rows are written from the top: a TGA has to say so.
        $image->setImageOrientation(Imagick::ORIENTATION_TOPLEFT);
        $image->setImageFormat($format);

        return $image->getImageBlob();
    }

    /**
     * @return iterable<string, array{string, string, int, int}>
     */
    public static function forms(): iterable
    {
        yield 'PNG of 16 bits' => [self::gradient(), 'png', 16, 1];
        yield 'PNG of 8 bits' => [self::gradient(PngWriter::RGB, 8), 'png', 8, 260];
        yield 'PNG, interlaced' => [self::written('png', ['setInterlaceScheme' => Imagick::INTERLACE_PNG]), 'png', 16, 1];
        yield 'TIFF, plain' => [self::written('tiff', ['setImageCompression' => Imagick::COMPRESSION_NO]), 'tiff', 16, 1];
        yield 'TIFF, LZW' => [self::written('tiff', ['setImageCompression' => Imagick::COMPRESSION_LZW]), 'tiff', 16, 1];
        yield 'TIFF, deflate' => [self::written('tiff', ['setImageCompression' => Imagick::COMPRESSION_ZIP]), 'tiff', 16, 1];
        yield 'TIFF of 8 bits' => [self::written('tiff', ['setImageCompression' => Imagick::COMPRESSION_LZW], 8), 'tiff', 8, 260];
        yield 'TGA, raw' => [self::written('tga', ['setImageCompression' => Imagick::COMPRESSION_NO], 8), 'tga', 8, 260];
        yield 'TGA, run-length' => [self::written('tga', ['setImageCompression' => Imagick::COMPRESSION_RLE], 8), 'tga', 8, 260];
    }

    #[DataProvider('forms')]
    public function test_pixels_are_those_that_were_written(string $bytes, string $format, int $bits, int $off): void
    {
        $header = ImageHeader::of($bytes);
        self::assertSame([$format, 20, 18, $bits], [$header->format, $header->width, $header->height, $header->bits]);
        $image = Image::decode($bytes, $header);
        for ($y = 0; $y < 18; $y++) {
            foreach (array_chunk($image->row($y), 4) as $x => [$r, $g, $b, $a]) {
                foreach ([$r, $g, $b] as $c => $value) {
                    self::assertEqualsWithDelta(($x * 3000 + $y * 301 + $c * 77) % 65536, $value, $off, "$x $y $c");
                }
                self::assertSame(65535, $a);
            }
        }
    }

    /** The mean over each texel's square, in whole pixels and in parts of them; what is transparent does not count. */
    public function test_an_image_is_reduced_by_means(): void
    {
        $rows = [];
        for ($y = 0; $y < 16; $y++) {
            $row = [];
            for ($x = 0; $x < 24; $x++) {
                array_push($row, 10 * $x, 10 * $y, 200, $x < 12 ? 255 : 0);
            }
            $rows[] = pack('C*', ...$row);
        }
        $bytes = PngWriter::image(24, 16, PngWriter::RGBA, 8, false, $rows);
        [$color, $cover] = Image::decode($bytes, ImageHeader::of($bytes))->reduced(8);
        self::assertEqualsWithDelta(10 / 255, $color[0], 1e-4, 'columns 0 to 2');
        self::assertEqualsWithDelta(5 / 255, $color[1], 1e-4, 'rows 0 and 1');
        self::assertEqualsWithDelta([1.0, 0.0], [$cover[0], $cover[7]], 1e-9);
        [$color] = Image::decode($bytes, ImageHeader::of($bytes))->reduced(5);
        // 4.8 columns a texel: 0 to 3 whole, 0.8 of the fourth.
        self::assertEqualsWithDelta((0 + 10 + 20 + 30 + 0.8 * 40) / 4.8 / 255, $color[0], 1e-4);
    }

    /** TGA: bits 4 and 5 of the descriptor say at which corner the pixels begin (Truevision TGA File Format Specification 2.0, field 5.6); 0 is the bottom left. */
    public function test_a_tga_is_turned_upright_by_the_corner_it_begins_at(): void
    {
        foreach ([0x00 => [240, 0], 0x10 => [240, 240], 0x20 => [0, 0], 0x30 => [0, 240]] as $descriptor => $first) {
            $pixels = '';
            for ($y = 0; $y < 16; $y++) {
                for ($x = 0; $x < 16; $x++) {
                    $pixels .= chr(0).chr(16 * $x).chr(16 * $y);
                }
            }
            $bytes = pack('C3v2Cv4C2', 0, 0, 2, 0, 0, 0, 0, 0, 16, 16, 24, $descriptor).$pixels;
            $row = Image::decode($bytes, ImageHeader::of($bytes))->row(0);
            self::assertSame($first, [$row[0] >> 8, $row[1] >> 8], sprintf('descriptor %02X', $descriptor));
        }
    }

    private static function chunk(string $type, string $data): string
    {
        return pack('N', strlen($data)).$type.$data.pack('N', crc32($type.$data));
    }

    /**
     * @return iterable<string, array{string, string}>
     */
    public static function broken(): iterable
    {
        $png = self::gradient();
        $large = static fn (int $width, int $height): string => "\x89PNG\r\n\x1a\n".self::chunk('IHDR', pack('NNC5', $width, $height, 8, 2, 0, 0, 0)).self::chunk('IDAT', 'x').self::chunk('IEND', '');
        yield 'nothing' => ['', 'no PNG, TGA or TIFF'];
        yield 'text' => [str_repeat('these are words ', 20), 'no PNG, TGA or TIFF'];
        yield 'JPEG' => ["\xff\xd8\xff\xe0".str_repeat("\0", 40), 'no PNG, TGA or TIFF'];
        yield '30,000 px' => [$large(30_000, 30_000), '30000 × 30000 px'];
        yield '1 px' => [$large(1, 1), 'at least 16 px'];
        yield 'a PNG cut short' => [substr($png, 0, -30), 'cut short'];
        yield 'a PNG with a turned bit' => [substr($png, 0, 60).chr(ord($png[60]) ^ 1).substr($png, 61), 'does not match its checksum'];
        yield 'an animated PNG' => [substr($png, 0, 33).self::chunk('acTL', pack('NN', 2, 0)).substr($png, 33), 'animated'];
        yield 'pixels that do not unpack' => [$large(64, 64), 'cannot be decoded'];
        yield 'a TGA cut short' => [substr(self::written('tga', ['setImageCompression' => Imagick::COMPRESSION_NO], 8), 0, 400), 'cut short'];
        yield 'a TGA of runs cut short' => [substr(self::written('tga', ['setImageCompression' => Imagick::COMPRESSION_RLE], 8), 0, 200), 'cut short'];
        yield 'a TIFF cut short' => [substr(self::written('tiff', ['setImageCompression' => Imagick::COMPRESSION_NO]), 0, 300), 'cut short'];
        $cmyk = new Imagick;
        $cmyk->readImageBlob($png);
        $cmyk->transformImageColorspace(Imagick::COLORSPACE_CMYK);
        $cmyk->setImageFormat('tiff');
        yield 'a TIFF of very many tags' => [self::tags(array_fill(0, 60_000, [65000, 4, 1_000_000, 8])), '60000 tags; a map has at most 256'];
        yield 'a TIFF of tags that are larger than it' => [self::tags(array_fill(0, 200, [65000, 4, 1_000_000, 8])), 'past its own end'];
        yield 'a TIFF whose tags are all the same bytes' => [self::tags(array_fill(0, 200, [65000, 12, 20, 8])), 'past its own end'];
        yield 'a TIFF of more strips than rows' => [self::tags([[273, 3, 9000, 8]], 20_000), '9000 strips'];
        yield 'a TIFF for print' => [$cmyk->getImageBlob(), 'CMYK'];
        $two = new Imagick;
        $two->readImageBlob($png);
        $two->readImageBlob($png);
        $two->setFormat('tiff');
        yield 'a TIFF of two images' => [$two->getImagesBlob(), 'several images'];
    }

    #[DataProvider('broken')]
    public function test_what_is_no_map_is_refused_in_words(string $bytes, string $words): void
    {
        try {
            Image::decode($bytes, ImageHeader::of($bytes));
            self::fail('it was read');
        } catch (Unreadable $error) {
            self::assertStringContainsString($words, $error->getMessage());
        }
    }

    /** Whatever is done to an image, it is read or refused. */
    public function test_changed_images_are_read_or_refused(): void
    {
        mt_srand(14);
        $all = [self::gradient(), self::written('tga', [], 8), self::written('tiff', ['setImageCompression' => Imagick::COMPRESSION_LZW])];
        $refused = 0;
        for ($i = 0; $i < 600; $i++) {
            $bytes = $all[$i % 3];
            for ($k = 0, $n = mt_rand(1, 6); $k < $n; $k++) {
                $bytes[mt_rand(0, strlen($bytes) - 1)] = chr(mt_rand(0, 255));
            }
            try {
                Image::decode($bytes, ImageHeader::of($bytes));
            } catch (Unreadable) {
                $refused++;
            }
        }
        self::assertGreaterThan(200, $refused);
    }

    /**
     * A TIFF of nothing but tags.
     *
     * @param  list<array{int, int, int, int}>  $tags  tag, type, count, offset
     */
    private static function tags(array $tags, int $bytes = 0): string
    {
        return "II*\0".pack('V', 8).pack('v', count($tags)).implode('', array_map(static fn (array $tag): string => pack('vvVV', ...$tag), $tags)).pack('V', 0).str_repeat("\0", $bytes);
    }
}
