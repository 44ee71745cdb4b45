<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;

/**
 * The color nearest to one that would pass: vivid, ΔE00 20 and RGB 32 from all others, 30 from those that it touches. Looked for on a grid of
 * sRGB, then around the best of it.
 */
final class NearestPassing
{
    private const STEP = 15;

    /** @var array<int, array{float, float, float}>|null color → its Lab */
    private static ?array $grid = null;

    /**
     * @param  list<Color>  $colors
     * @param  int  $at  which of them is to move
     * @param  list<int>  $touching  which of them it touches
     * @return array{string, float}|null its hex, and the least ΔE00 to any other; null where there is none
     */
    public static function to(array $colors, int $at, array $touching): ?array
    {
        $labs = array_map(static fn (Color $color): array => $color->lab(), $colors);
        $touches = array_flip($touching);
        $own = $labs[$at];
        $candidates = array_map(static fn (array $lab): float => DeltaE00::of($own, $lab), self::$grid ??= self::grid());
        asort($candidates);
        foreach (array_keys($candidates) as $number) {
            $found = Color::of($number >> 16, ($number >> 8) & 255, $number & 255);
            $far = self::far($found, $colors, $labs, $at, $touches);
            if ($far === null) {
                continue;
            }
            $best = [$found, $far, $candidates[$number]];
            // Half the step, a quarter, an eighth: as near as it gets.
            for ($step = intdiv(self::STEP, 2); $step >= 1; $step = intdiv($step, 2)) {
                foreach (self::around($best[0], $step) as $near) {
                    $distance = DeltaE00::of($own, $near->lab());
                    if ($distance < $best[2] && $near->chroma() >= PaletteSearch::VIVID) {
                        $far = self::far($near, $colors, $labs, $at, $touches);
                        $best = $far === null ? $best : [$near, $far, $distance];
                    }
                }
            }

            return [$best[0]->hex(), $best[1]];
        }

        return null;
    }

    /**
     * @return array<int, array{float, float, float}> the vivid colors of a grid
     */
    private static function grid(): array
    {
        $out = [];
        for ($r = 0; $r <= 255; $r += self::STEP) {
            for ($g = 0; $g <= 255; $g += self::STEP) {
                for ($b = 0; $b <= 255; $b += self::STEP) {
                    $color = Color::of($r, $g, $b);
                    if ($color->chroma() >= PaletteSearch::VIVID) {
                        $out[($r << 16) | ($g << 8) | $b] = $color->lab();
                    }
                }
            }
        }

        return $out;
    }

    /**
     * @return iterable<Color>
     */
    private static function around(Color $color, int $step): iterable
    {
        foreach ([-$step, 0, $step] as $r) {
            foreach ([-$step, 0, $step] as $g) {
                foreach ([-$step, 0, $step] as $b) {
                    yield Color::of($color->red + $r, $color->green + $g, $color->blue + $b);
                }
            }
        }
    }

    /**
     * The least distance to any other; null where one is too near.
     *
     * @param  list<Color>  $colors
     * @param  list<array{float, float, float}>  $labs
     * @param  array<int, int>  $touches
     */
    private static function far(Color $color, array $colors, array $labs, int $at, array $touches): ?float
    {
        $lab = $color->lab();
        $least = INF;
        foreach ($labs as $i => $other) {
            if ($i === $at) {
                continue;
            }
            $delta = DeltaE00::of($lab, $other);
            if ($delta < (isset($touches[$i]) ? ClosePairs::TOUCHING : ClosePairs::APART) || $color->rgbDistance($colors[$i]) < ClosePairs::RGB) {
                return null;
            }
            $least = min($least, $delta);
        }

        return $least;
    }
}
