<?php

declare(strict_types=1);

namespace Anvil\Formats\Images;

use Anvil\Unreadable;
use Imagick;
use ImagickException;

/**
 * An image decoded: red, green, blue and alpha of 16 bits, as stored, whatever tags say of them.
 */
final class Image
{
    /** Rows that are decoded at once. */
    private const BAND = 64;

    /** Bytes that the decoder may take: the pixels of the largest map, twice. The machine's own policy may be narrower. */
    private const BOUNDS = [Imagick::RESOURCETYPE_MEMORY => 1 << 30, Imagick::RESOURCETYPE_MAP => 1 << 30, Imagick::RESOURCETYPE_DISK => 1 << 30];

    /**
     * @param  list<string>  $rows  from the top; 8 bytes a pixel, in the machine's order
     */
    private function __construct(public readonly ImageHeader $header, private readonly array $rows)
    {
    }

    /**
     * @throws Unreadable where it cannot be decoded
     */
    public static function decode(string $bytes, ImageHeader $header): self
    {
        foreach (self::BOUNDS as $what => $most) {
            Imagick::setResourceLimit($what, $most);
        }
        $magick = new Imagick;
        try {
            // The coder is named, so that nothing else than what the header says is ever tried.
            $magick->setFormat($header->format);
            $magick->readImageBlob($bytes, "$header->format:map");
            if ($magick->getNumberImages() !== 1) {
                throw Unreadable::because('it holds several images; a map is one');
            }
            if ($magick->getImageColorspace() === Imagick::COLORSPACE_CMYK) {
                throw Unreadable::because('its colors are for print (CMYK); write it as RGB or grey');
            }
            if (! $magick->getImageAlphaChannel()) {
                // What has none is opaque; the decoder leaves whatever was there.
                $magick->setImageAlphaChannel(Imagick::ALPHACHANNEL_OPAQUE);
            }
            if ($header->format !== 'png') {
                // A TGA begins at the bottom unless it says otherwise; a TIFF may begin at any corner.
                $magick->autoOrient();
                $header = $header->sized($magick->getImageWidth(), $magick->getImageHeight());
            }
            $rows = [];
            for ($y = 0; $y < $header->height; $y += self::BAND) {
                $height = min(self::BAND, $header->height - $y);
                /** @var list<int> $pixels */
                $pixels = $magick->exportImagePixels(0, $y, $header->width, $height, 'RGBA', Imagick::PIXEL_SHORT);
                array_push($rows, ...str_split(pack('S*', ...$pixels), max(1, 8 * $header->width)));
            }

            return new self($header, $rows);
        } catch (ImagickException $error) {
            throw Unreadable::because('it cannot be decoded: '.preg_replace('/[^\x20-\x7e]/', '?', $error->getMessage()));
        } finally {
            $magick->clear();
        }
    }

    public function width(): int
    {
        return $this->header->width;
    }

    public function height(): int
    {
        return $this->header->height;
    }

    /**
     * @return list<int> red, green, blue and alpha of each pixel of a row, 0–65535
     */
    public function row(int $y): array
    {
        /** @var list<int> */
        return array_values((array) unpack('S*', $this->rows[$y]));
    }

    /**
     * The mean over the square of each texel of a smaller (or larger) grid; what is transparent counts as little as it covers.
     *
     * @return array{list<float>, list<float>} red, green and blue of each texel, 0–1; and how much of it is covered
     */
    public function reduced(int $size): array
    {
        [$w, $h] = [$this->width(), $this->height()];
        $color = array_fill(0, 3 * $size * $size, 0.0);
        $cover = array_fill(0, $size * $size, 0.0);
        $across = self::spans($w, $size);
        foreach (self::spans($h, $size) as $y => $rows) {
            foreach ($rows as [$row, $heavy]) {
                $pixels = $this->row($row);
                foreach ($across as $x => $columns) {
                    $at = $y * $size + $x;
                    foreach ($columns as [$column, $weight]) {
                        $i = 4 * $column;
                        $a = $heavy * $weight * $pixels[$i + 3] / 65535;
                        $color[3 * $at] += $a * $pixels[$i];
                        $color[3 * $at + 1] += $a * $pixels[$i + 1];
                        $color[3 * $at + 2] += $a * $pixels[$i + 2];
                        $cover[$at] += $a;
                    }
                }
            }
        }
        foreach ($cover as $at => $sum) {
            $scale = $sum > 0.0 ? 1 / ($sum * 65535) : 0.0;
            $color[3 * $at] *= $scale;
            $color[3 * $at + 1] *= $scale;
            $color[3 * $at + 2] *= $scale;
        }

        return [array_values($color), array_values($cover)];
    }

    /**
     * Which pixels a texel covers along one side, and how much of it each is.
     *
     * @return list<list<array{int, float}>>
     */
    private static function spans(int $pixels, int $size): array
    {
        $out = [];
        for ($i = 0; $i < $size; $i++) {
            $from = $i * $pixels / $size;
            $to = ($i + 1) * $pixels / $size;
            $span = [];
            for ($p = (int) floor($from); $p < $to && $p < $pixels; $p++) {
                $share = (min($to, $p + 1) - max($from, $p)) / ($to - $from);
                if ($share > 1e-9) {
                    $span[] = [$p, $share];
                }
            }
            $out[] = $span;
        }

        return $out;
    }
}
