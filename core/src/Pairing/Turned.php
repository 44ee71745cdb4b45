<?php

declare(strict_types=1);

namespace Anvil\Pairing;

/**
 * Whether the high parts stand as if turned by quarters against the low ones, by their boxes alone: then place says nothing of names.
 */
final class Turned
{
    private const AXES = [[0, 1, 2], [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0]];

    /**
     * @param  list<Tie>  $ties
     */
    public static function bounds(array $ties): bool
    {
        $pairs = [];
        foreach ($ties as $tie) {
            $low = RoledPart::boundsOf($tie->low);
            $high = RoledPart::boundsOf($tie->high);
            if ($low !== null && $high !== null && $low->diagonal() > 0.0) {
                $pairs[] = [$low->centre(), [$low->max[0] - $low->min[0], $low->max[1] - $low->min[1], $low->max[2] - $low->min[2]], $high->centre(), [$high->max[0] - $high->min[0], $high->max[1] - $high->min[1], $high->max[2] - $high->min[2]], $low->diagonal()];
            }
        }
        if ($pairs === []) {
            return false;
        }
        $now = $best = INF;
        foreach (self::AXES as $k => $axes) {
            for ($signs = 0; $signs < 8; $signs++) {
                $swap = ($axes === [0, 1, 2] || $axes === [1, 2, 0] || $axes === [2, 0, 1]) ? 0 : 1;
                $flips = ($signs & 1) + ($signs >> 1 & 1) + ($signs >> 2 & 1);
                if (($flips + $swap) % 2 === 1) {
                    continue;
                }
                $sum = 0.0;
                foreach ($pairs as [$centre, $size, $otherCentre, $otherSize, $diagonal]) {
                    $apart = $sizes = 0.0;
                    for ($i = 0; $i < 3; $i++) {
                        $apart += ($centre[$i] - ($signs >> $i & 1 ? -1 : 1) * $otherCentre[$axes[$i]]) ** 2;
                        $sizes += abs($size[$i] - $otherSize[$axes[$i]]);
                    }
                    $sum += min(1.0, (sqrt($apart) + $sizes / 2) / $diagonal);
                }
                $cost = $sum / count($pairs);
                if ($k === 0 && $signs === 0) {
                    $now = $cost;
                } else {
                    $best = min($best, $cost);
                }
            }
        }

        return $now > 0.1 && $best < 0.5 * $now && $best < 0.1;
    }
}
