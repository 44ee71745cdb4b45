<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Formats\Png\PngWriter;
use Anvil\Geometry\Color;
use Generator;

/**
 * A picture of swatches with their names and colors in letters, to print and to pick from: each swatch is one flat color to its border.
 */
final class LegendSheet
{
    private const MARGIN = 24;

    /** Pixels of a swatch and what stands under it: to 100 IDs, and above. */
    private const LARGE = [4, 298, 64];

    private const SMALL = [6, 198, 36];

    /** Two lines of letters and what is free around them. */
    private const TEXT = 48;

    /** Pixels of a letter's dot. */
    private const DOT = 2;

    /** Five columns of seven dots for each of the letters from blank to `~`, the lowest bit on top. */
    private const LETTERS = '0000000000'.'00005f0000'.'0007000700'.'147f147f14'.'242a7f2a12'.'2313086462'.'3649552250'.'0005030000'.'001c224100'.'0041221c00'.'14083e0814'.'08083e0808'.'0050300000'.'0808080808'.'0060600000'.'2010080402'
        .'3e5149453e'.'00427f4000'.'4261514946'.'2141454b31'.'1814127f10'.'2745454539'.'3c4a494930'.'0171090503'.'3649494936'.'064949291e'.'0036360000'.'0056360000'.'0814224100'.'1414141414'.'0041221408'.'0201510906'
        .'324979413e'.'7e1111117e'.'7f49494936'.'3e41414122'.'7f4141221c'.'7f49494941'.'7f09090901'.'3e4149497a'.'7f0808087f'.'00417f4100'.'2040413f01'.'7f08142241'.'7f40404040'.'7f020c027f'.'7f0408107f'.'3e4141413e'
        .'7f09090906'.'3e4151215e'.'7f09192946'.'4649494931'.'01017f0101'.'3f4040403f'.'1f2040201f'.'3f4038403f'.'6314081463'.'0708700807'.'6151494543'.'007f414100'.'0204081020'.'0041417f00'.'0402010204'.'4040404040'
        .'0001020400'.'2054545478'.'7f48444438'.'3844444420'.'384444487f'.'3854545418'.'087e090102'.'0c5252523e'.'7f08040478'.'00447d4000'.'2040443d00'.'7f10284400'.'00417f4000'.'7c04180478'.'7c08040478'.'3844444438'
        .'7c14141408'.'081414187c'.'7c08040408'.'4854545420'.'043f444020'.'3c4040207c'.'1c2040201c'.'3c4030403c'.'4428102844'.'0c5050503c'.'4464544c44'.'0008364100'.'00007f0000'.'0041360800'.'0804081008';

    /**
     * @param  list<array{Color, string, string}>  $swatches  color, name, parts
     * @return string a PNG
     */
    public static function of(array $swatches): string
    {
        [$columns, $width, $height] = count($swatches) > 100 ? self::SMALL : self::LARGE;
        $columns = max(1, min($columns, count($swatches)));
        $rows = max(1, (int) ceil(count($swatches) / $columns));

        return PngWriter::rgb(2 * self::MARGIN + $columns * $width, 2 * self::MARGIN + $rows * ($height + self::TEXT), self::rows($swatches, $columns, $width, $height));
    }

    /**
     * @param  list<array{Color, string, string}>  $swatches
     * @param  positive-int  $columns
     * @return Generator<string>
     */
    private static function rows(array $swatches, int $columns, int $width, int $height): Generator
    {
        $white = "\xFF\xFF\xFF";
        $empty = str_repeat($white, 2 * self::MARGIN + $columns * $width);
        $side = str_repeat($white, self::MARGIN);
        for ($y = 0; $y < self::MARGIN; $y++) {
            yield $empty;
        }
        foreach ($swatches === [] ? [[]] : array_chunk($swatches, $columns) as $row) {
            $free = str_repeat($white, ($columns - count($row)) * $width);
            for ($y = 0; $y < $height; $y++) {
                $line = '';
                foreach ($row as [$color]) {
                    // A line of grey around, so that white is seen on paper.
                    $isBorder = $y === 0 || $y === $height - 1;
                    $edge = "\x66\x66\x66";
                    $line .= ($isBorder ? str_repeat($edge, $width - 14) : $edge.str_repeat(chr($color->red).chr($color->green).chr($color->blue), $width - 16).$edge).str_repeat($white, 14);
                }
                yield $side.$line.$free.$side;
            }
            for ($y = 0; $y < self::TEXT; $y++) {
                $line = '';
                foreach ($row as [$color, $name, $parts]) {
                    $most = intdiv($width - 14, 6 * self::DOT);
                    $text = $y < 24 ? self::fitted($name, $most - 8).' '.$color->hex() : self::fitted($parts, $most);
                    $line .= self::letters($text, intdiv($y % 24 - 5, self::DOT), $y % 24 >= 5, $width);
                }
                yield $side.$line.$free.$side;
            }
        }
        for ($y = 0; $y < self::MARGIN; $y++) {
            yield $empty;
        }
    }

    private static function fitted(string $text, int $most): string
    {
        $plain = (string) preg_replace('/[^\x20-\x7e]/u', '?', mb_scrub($text));

        return strlen($plain) > $most ? substr($plain, 0, max(0, $most - 2)).'..' : str_pad($plain, strlen($plain));
    }

    /** One row of pixels of a text. */
    private static function letters(string $text, int $row, bool $isIn, int $width): string
    {
        $line = '';
        if ($isIn && $row < 7) {
            for ($i = 0, $n = strlen($text); $i < $n; $i++) {
                for ($column = 0; $column < 5; $column++) {
                    $bits = (int) hexdec(substr(self::LETTERS, 10 * (ord($text[$i]) - 32) + 2 * $column, 2));
                    $line .= str_repeat(($bits >> $row & 1) === 1 ? "\x11\x11\x11" : "\xFF\xFF\xFF", self::DOT);
                }
                $line .= str_repeat("\xFF\xFF\xFF", self::DOT);
            }
        }

        return str_pad(substr($line, 0, 3 * $width), 3 * $width, "\xFF");
    }
}
