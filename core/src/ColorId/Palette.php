<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;

/**
 * The most distinct colours for a number of IDs: greedy farthest point in ΔE00 over a fixed grid of vivid colours with black and
 * white, then exchanged one by one as long as the least distance grows. No random seed: the same number gives the same colours.
 */
final class Palette
{
    /** Least OKLCH chroma of a candidate. Common practice, no published source: IDs are vivid. */
    private const VIVID = 0.12;

    private const EXCHANGE_UP_TO = 40;

    /**
     * @param  list<Color>  $kept  colours that stay and must be kept away from
     * @return list<Color> `count` new ones
     */
    public static function spread(int $count, array $kept = []): array
    {
        $candidates = self::candidates();
        $labs = array_map(static fn (Color $color): array => $color->lab(), $candidates);
        $keptLabs = array_map(static fn (Color $color): array => $color->lab(), $kept);
        $n = count($candidates);
        $nearest = array_fill(0, $n, INF);
        foreach ($keptLabs as $lab) {
            foreach ($labs as $i => $other) {
                $nearest[$i] = min($nearest[$i], DeltaE00::of($lab, $other));
            }
        }
        $chosen = [];
        for ($k = 0; $k < min($count, $n); $k++) {
            // The first of all is a pure red, so that small palettes look alike.
            $best = $k === 0 && $kept === [] ? (int) array_search('#FF0000', array_map(static fn (Color $c): string => $c->hex(), $candidates), true) : 0;
            if ($k > 0 || $kept !== []) {
                for ($i = 1; $i < $n; $i++) {
                    if ($nearest[$i] > $nearest[$best]) {
                        $best = $i;
                    }
                }
            }
            $chosen[] = $best;
            foreach ($labs as $i => $lab) {
                $nearest[$i] = min($nearest[$i], DeltaE00::of($labs[$best], $lab));
            }
        }
        if ($count <= self::EXCHANGE_UP_TO) {
            $chosen = self::exchanged($chosen, $labs, $keptLabs);
        }
        $out = array_map(static fn (int $i): Color => $candidates[$i], $chosen);
        // More IDs than candidates: steps in between, still all different.
        for ($k = count($out); $k < $count; $k++) {
            $out[] = Color::of(($k * 67) % 256, ($k * 149) % 256, intdiv($k, 7) * 31 % 256);
        }

        return $out;
    }

    /**
     * The least ΔE00 between any two; INF for fewer than two.
     *
     * @param  list<Color>  $colors
     */
    public static function leastDistance(array $colors): float
    {
        $least = INF;
        $labs = array_map(static fn (Color $color): array => $color->lab(), $colors);
        foreach ($labs as $i => $one) {
            for ($j = 0; $j < $i; $j++) {
                $least = min($least, DeltaE00::of($one, $labs[$j]));
            }
        }

        return $least;
    }

    /**
     * @param  list<int>  $chosen
     * @param  list<array{float, float, float}>  $labs
     * @param  list<array{float, float, float}>  $kept
     * @return list<int>
     */
    private static function exchanged(array $chosen, array $labs, array $kept): array
    {
        for ($round = 0; $round < 3; $round++) {
            $changed = false;
            foreach ($chosen as $k => $own) {
                $others = $kept;
                foreach ($chosen as $j => $other) {
                    if ($j !== $k) {
                        $others[] = $labs[$other];
                    }
                }
                if ($others === []) {
                    continue;
                }
                $best = $own;
                $bestDistance = self::toNearest($labs[$own], $others, 0.0);
                foreach ($labs as $i => $lab) {
                    $distance = self::toNearest($lab, $others, $bestDistance);
                    if ($distance > $bestDistance + 1e-9) {
                        $best = $i;
                        $bestDistance = $distance;
                    }
                }
                if ($best !== $own) {
                    $chosen[$k] = $best;
                    $changed = true;
                }
            }
            if (! $changed) {
                break;
            }
        }

        return array_values($chosen);
    }

    /**
     * @param  array{float, float, float}  $lab
     * @param  list<array{float, float, float}>  $others
     */
    private static function toNearest(array $lab, array $others, float $giveUpUnder): float
    {
        $least = INF;
        foreach ($others as $other) {
            $least = min($least, DeltaE00::of($lab, $other));
            if ($least < $giveUpUnder) {
                return $least;
            }
        }

        return $least;
    }

    /**
     * @return list<Color>
     */
    private static function candidates(): array
    {
        $steps = [0, 48, 96, 144, 192, 255];
        $out = [];
        foreach ($steps as $r) {
            foreach ($steps as $g) {
                foreach ($steps as $b) {
                    $color = Color::of($r, $g, $b);
                    if ($color->chroma() >= self::VIVID) {
                        $out[] = $color;
                    }
                }
            }
        }
        $out[] = Color::of(255, 255, 255);
        $out[] = Color::of(0, 0, 0);

        return $out;
    }
}
