<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Geometry\Bounds;

/**
 * How badly two boxes agree in place and size (METHODS, "Place and size").
 */
final class PlaceCost
{
    /** A share of the low box's diagonal; 0 for equal boxes. */
    public static function of(Bounds $low, Bounds $high): float
    {
        $apart = 0.0;
        $sizes = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $apart += (($low->min[$k] + $low->max[$k] - $high->min[$k] - $high->max[$k]) / 2) ** 2;
            $sizes += abs(($low->max[$k] - $low->min[$k]) - ($high->max[$k] - $high->min[$k]));
        }
        $diagonal = $low->diagonal();

        return $diagonal > 0.0 ? (sqrt($apart) + $sizes / 2) / $diagonal : INF;
    }
}
