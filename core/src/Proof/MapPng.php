<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Formats\Png\PngWriter;
use Generator;

/**
 * Trial maps as PNG: outside islands filled outward from the nearest texel inside as far as the padding goes, beyond it the map's neutral value.
 */
final class MapPng
{
    /** Bits a channel of the maps that have gradients. */
    private const DEEP = ['normal', 'height'];

    /**
     * @param  float  $padding  px at the maps' own size
     * @param  int  $bits  16: normal and height so; else all 8
     * @return string the file
     */
    public static function of(TrialMaps $maps, string $kind, float $padding, int $bits): string
    {
        $deep = $bits >= 16 && in_array($kind, self::DEEP, true);
        $full = $deep ? 65535 : 255;
        $from = self::nearest($maps->owners, $maps->size, $padding);

        return PngWriter::image($maps->size, $maps->size, match ($kind) {
            'normal' => PngWriter::RGB, 'id' => PngWriter::RGBA, default => PngWriter::GREY,
        }, $deep ? 16 : 8, $kind === 'id', self::rows($maps, $kind, $from, $full));
    }

    /**
     * @param  list<int>  $from
     * @return Generator<string>
     */
    private static function rows(TrialMaps $maps, string $kind, array $from, int $full): Generator
    {
        $code = $full > 255 ? 'n*' : 'C*';
        $half = static fn (float $one): int => (int) round(($one + 1.0) / 2 * $full);
        // 128 of 255, and as 16 bits the same byte twice over.
        $middle = $full > 255 ? 32896 : 128;
        for ($y = 0; $y < $maps->size; $y++) {
            $row = [];
            for ($x = 0; $x < $maps->size; $x++) {
                $at = $from[$y * $maps->size + $x];
                switch ($kind) {
                    case 'normal':
                        $n = $maps->normal[$at] ?? null;
                        if ($n === null) {
                            array_push($row, $middle, $middle, $full);
                        } else {
                            array_push($row, $half($n[0]), $half($n[1]), $half($n[2]));
                        }
                        break;
                    case 'height':
                        $row[] = isset($maps->height[$at]) ? $half(max(-1.0, min(1.0, $maps->height[$at]))) : $middle;
                        break;
                    case 'ao':
                        $row[] = (int) round(($maps->ao[$at] ?? 1.0) * $full);
                        break;
                    case 'id':
                        $hex = $maps->id[$at] ?? null;
                        if ($hex === null) {
                            array_push($row, 0, 0, 0, 0);
                        } else {
                            $rgb = (int) hexdec(substr($hex, 1));
                            array_push($row, $rgb >> 16, $rgb >> 8 & 255, $rgb & 255, 255);
                        }
                        break;
                    default:
                        $row[] = $maps->miss[$at] ?? 0;
                }
            }
            yield pack($code, ...$row);
        }
    }

    /**
     * For each texel the one whose value it shows: its own inside; outside the nearest inside within the padding; −1 beyond.
     *
     * @param  list<int>  $owners
     * @param  float  $padding  px
     * @return list<int>
     */
    public static function nearest(array $owners, int $size, float $padding): array
    {
        $from = [];
        $beside = Outskirts::of($owners, $size, $padding);
        foreach ($owners as $i => $owner) {
            $from[] = $owner >= 0 ? $i : ($beside[$i][1] ?? -1);
        }

        return $from;
    }
}
