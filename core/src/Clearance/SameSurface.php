<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\HighSurface;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Spatial\NearestPoint;

/**
 * Whether a set's low and high are one surface: a low poly that was exported twice.
 */
final class SameSurface
{
    /** Whether both surfaces lie within 1e-4 d of each other, both ways. */
    public static function holds(LowSurface $low, HighSurface $high, Samples $samples, float $d): bool
    {
        $within = 1e-4 * $d;
        $a = $low->tree()->bounds();
        $b = $high->tree()->bounds();
        if ($a === null || $b === null) {
            return false;
        }
        for ($k = 0; $k < 3; $k++) {
            if (abs($a->min[$k] - $b->min[$k]) > $within || abs($a->max[$k] - $b->max[$k]) > $within) {
                return false;
            }
        }
        $toHigh = new NearestPoint($high->tree());
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            if (! $toHigh->anyWithin($samples->px[$i], $samples->py[$i], $samples->pz[$i], $within)) {
                return false;
            }
        }
        $toLow = new NearestPoint($low->tree());
        $p = $high->positions;
        foreach (array_chunk($high->triangles, 3) as [$a, $b, $c]) {
            foreach ([[$p[3 * $a], $p[3 * $a + 1], $p[3 * $a + 2]], [
                ($p[3 * $a] + $p[3 * $b] + $p[3 * $c]) / 3,
                ($p[3 * $a + 1] + $p[3 * $b + 1] + $p[3 * $c + 1]) / 3,
                ($p[3 * $a + 2] + $p[3 * $b + 2] + $p[3 * $c + 2]) / 3,
            ]] as [$x, $y, $z]) {
                if (! $toLow->anyWithin($x, $y, $z, $within)) {
                    return false;
                }
            }
        }

        return true;
    }
}
