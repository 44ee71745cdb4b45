<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;

/**
 * Which ID gets which color of a palette: those that touch, the ones that lie furthest apart. Two colors are exchanged as long as that makes
 * the nearest pair that touches further, or the force between all that touch less.
 */
final class Assignment
{
    private const POWER = 16;

    private const ROUNDS = 12;

    /** Rounds times IDs: so many that 500 take no more than some seconds. */
    private const WORK = 1800;

    /** To so many IDs, two whose blend is a third are kept from touching, too: as if they were ΔE00 28 apart. */
    private const MIXED = 150;

    private const MIX = (10 / 28) ** self::POWER;

    /** ΔE00 of a blend from a third color; and how far in Lab that can be at most. */
    private const BLEND = [10.0, 60.0];

    /**
     * @param  list<Color>  $colors  one for each ID
     * @param  array<int, true>  $fixed  IDs that keep theirs
     * @param  list<array{int, int}>  $touching  IDs
     * @return list<Color> in the order of the IDs
     */
    public static function apart(array $colors, array $fixed, array $touching, bool $allEyes): array
    {
        $n = count($colors);
        $neighbors = array_fill(0, max(1, $n), []);
        foreach ($touching as [$one, $two]) {
            $neighbors[$one][] = $two;
            $neighbors[$two][] = $one;
        }
        $eyes = $allEyes ? Vision::cases() : [Vision::Usual];
        $force = [];
        $seen = array_map(static fn (Vision $eye): array => array_map($eye->of(...), $colors), $eyes);
        $labs = array_map(static fn (Color $color): array => $color->lab(), $colors);
        // Between colors, by the numbers that they had at first.
        $between = static function (int $a, int $b) use (&$force, $seen, $n, $colors, $labs): float {
            return $force[min($a, $b) * $n + max($a, $b)] ??= (10.0 / max(1e-3, min(array_map(static fn (array $one): float => $one[$a]->deltaE($one[$b]), $seen)))) ** self::POWER
                + ($n <= self::MIXED && self::isMixed($colors[$a]->midway($colors[$b])->lab(), $labs, $a, $b) ? self::MIX : 0.0);
        };
        $wears = $n === 0 ? [] : range(0, $n - 1);
        $of = static function (int $id, int $color, int $other, int $otherColor) use (&$wears, $neighbors, $between): float {
            $sum = 0.0;
            foreach ($neighbors[$id] as $near) {
                $sum += $between($color, $near === $other ? $otherColor : $wears[$near]);
            }

            return $sum;
        };
        $rounds = 0;
        do {
            $isBetter = false;
            for ($i = 0; $i < $n; $i++) {
                if (isset($fixed[$i]) || $neighbors[$i] === []) {
                    continue;
                }
                for ($j = 0; $j < $n; $j++) {
                    if ($j === $i || isset($fixed[$j])) {
                        continue;
                    }
                    $before = $of($i, $wears[$i], $j, $wears[$j]) + $of($j, $wears[$j], $i, $wears[$i]);
                    $after = $of($i, $wears[$j], $j, $wears[$i]) + $of($j, $wears[$i], $i, $wears[$j]);
                    if ($after < $before * (1 - 1e-9)) {
                        [$wears[$i], $wears[$j]] = [$wears[$j], $wears[$i]];
                        $isBetter = true;
                    }
                }
            }
        } while ($isBetter && ++$rounds < min(self::ROUNDS, max(2, intdiv(self::WORK, $n))));

        return array_map(static fn (int $color): Color => $colors[$color], array_values($wears));
    }

    /**
     * Whether a blend of two colors is taken for a third.
     *
     * @param  array{float, float, float}  $blend
     * @param  list<array{float, float, float}>  $labs
     */
    private static function isMixed(array $blend, array $labs, int $one, int $two): bool
    {
        [$near, $far] = self::BLEND;
        foreach ($labs as $k => $lab) {
            if ($k !== $one && $k !== $two && abs($lab[0] - $blend[0]) < $far && abs($lab[1] - $blend[1]) < $far && abs($lab[2] - $blend[2]) < $far && DeltaE00::of($blend, $lab) < $near) {
                return true;
            }
        }

        return false;
    }

    /**
     * The least ΔE00 between two that touch; INF where none do.
     *
     * @param  list<Color>  $colors
     * @param  list<array{int, int}>  $touching
     */
    public static function leastTouching(array $colors, array $touching): float
    {
        $least = INF;
        foreach ($touching as [$one, $two]) {
            $least = min($least, $colors[$one]->deltaE($colors[$two]));
        }

        return $least;
    }
}
