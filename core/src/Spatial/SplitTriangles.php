<?php

declare(strict_types=1);

namespace Anvil\Spatial;

/**
 * Triangles whose boxes are far larger than most, cut into pieces with a box each (M. Ernst, G. Greiner, "Early Split Clipping for Bounding Volume Hierarchies", 2007).
 */
final class SplitTriangles
{
    /** A triangle is cut while the side of its box, as the root of half its surface, is over this many times the mean. */
    private const LARGE = 8.0;

    /** Pieces of one triangle, as a power of two. */
    private const CUTS = 12;

    /**
     * Boxes of the pieces of every triangle that is far larger than most, triangle by triangle.
     *
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @return list<array{int, float, float, float, float, float, float}> triangle, least and greatest corner
     */
    public static function of(array $positions, array $triangles, int $count): array
    {
        // Sides of boxes, as the root of half their surface: their mean first, from at most some thousands.
        $step = max(1, intdiv($count, 8192));
        $sum = 0.0;
        $taken = 0;
        for ($t = 0; $t < $count; $t += $step) {
            [$x0, $y0, $z0, $x1, $y1, $z1] = self::boxOf($positions, $triangles, $t);
            $sum += sqrt(($x1 - $x0) * ($y1 - $y0) + ($y1 - $y0) * ($z1 - $z0) + ($z1 - $z0) * ($x1 - $x0));
            $taken++;
        }
        $limit = $taken > 0 ? (self::LARGE * $sum / $taken) ** 2 : 0.0;
        if ($limit <= 0.0) {
            return [];
        }
        $out = [];
        $most = min(0xFFFFFF - $count, intdiv($count, 4) + 64);
        for ($t = 0, $k = 0; $t < $count; $t++, $k += 3) {
            $a = 3 * $triangles[$k];
            $b = 3 * $triangles[$k + 1];
            $c = 3 * $triangles[$k + 2];
            $x = abs($positions[$a] - $positions[$b]);
            $y = abs($positions[$a + 1] - $positions[$b + 1]);
            $z = abs($positions[$a + 2] - $positions[$b + 2]);
            $e = abs($positions[$a] - $positions[$c]);
            $x = $e > $x ? $e : $x;
            $e = abs($positions[$a + 1] - $positions[$c + 1]);
            $y = $e > $y ? $e : $y;
            $e = abs($positions[$a + 2] - $positions[$c + 2]);
            $z = $e > $z ? $e : $z;
            // At least a half of each true side: what passes is measured in cutting.
            if (4.0 * ($x * $y + $y * $z + $z * $x) > $limit && count($out) < $most) {
                $boxes = self::cut([
                    [$positions[$a], $positions[$a + 1], $positions[$a + 2]], [$positions[$b], $positions[$b + 1], $positions[$b + 2]], [$positions[$c], $positions[$c + 1], $positions[$c + 2]],
                ], $limit);
                foreach (count($boxes) > 1 ? $boxes : [] as $box) {
                    $out[] = [$t, ...$box];
                }
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @return array{float, float, float, float, float, float}
     */
    private static function boxOf(array $positions, array $triangles, int $t): array
    {
        $a = 3 * $triangles[3 * $t];
        $b = 3 * $triangles[3 * $t + 1];
        $c = 3 * $triangles[3 * $t + 2];

        return [
            min($positions[$a], $positions[$b], $positions[$c]), min($positions[$a + 1], $positions[$b + 1], $positions[$c + 1]), min($positions[$a + 2], $positions[$b + 2], $positions[$c + 2]),
            max($positions[$a], $positions[$b], $positions[$c]), max($positions[$a + 1], $positions[$b + 1], $positions[$c + 1]), max($positions[$a + 2], $positions[$b + 2], $positions[$c + 2]),
        ];
    }

    /**
     * A triangle cut across the longest side of its box, and again, until half the surface of each box is under the limit. Boxes overlap by
     * a hair, so that no line slips between two.
     *
     * @param  list<array{float, float, float}>  $corners
     * @return list<array{float, float, float, float, float, float}>
     */
    private static function cut(array $corners, float $limit): array
    {
        $out = [];
        $stack = [[$corners, 0]];
        while ($stack !== []) {
            [$polygon, $depth] = array_pop($stack);
            [$x0, $y0, $z0] = [$x1, $y1, $z1] = $polygon[0];
            foreach ($polygon as [$x, $y, $z]) {
                $x0 = $x < $x0 ? $x : $x0;
                $x1 = $x > $x1 ? $x : $x1;
                $y0 = $y < $y0 ? $y : $y0;
                $y1 = $y > $y1 ? $y : $y1;
                $z0 = $z < $z0 ? $z : $z0;
                $z1 = $z > $z1 ? $z : $z1;
            }
            $sides = [$x1 - $x0, $y1 - $y0, $z1 - $z0];
            if ($depth >= self::CUTS || $limit >= $sides[0] * $sides[1] + $sides[1] * $sides[2] + $sides[2] * $sides[0]) {
                $hair = 1e-12 * ($sides[0] + $sides[1] + $sides[2] + abs($x0) + abs($y0) + abs($z0));
                $out[] = [$x0 - $hair, $y0 - $hair, $z0 - $hair, $x1 + $hair, $y1 + $hair, $z1 + $hair];

                continue;
            }
            $axis = $sides[0] >= $sides[1] && $sides[0] >= $sides[2] ? 0 : ($sides[1] >= $sides[2] ? 1 : 2);
            $at = [$x0, $y0, $z0][$axis] + $sides[$axis] / 2;
            $below = $above = [];
            $last = $polygon[count($polygon) - 1];
            foreach ($polygon as $corner) {
                if (($last[$axis] < $at && $corner[$axis] > $at) || ($last[$axis] > $at && $corner[$axis] < $at)) {
                    $f = ($at - $last[$axis]) / ($corner[$axis] - $last[$axis]);
                    $on = [$last[0] + $f * ($corner[0] - $last[0]), $last[1] + $f * ($corner[1] - $last[1]), $last[2] + $f * ($corner[2] - $last[2])];
                    $on[$axis] = $at;
                    $below[] = $on;
                    $above[] = $on;
                }
                if ($corner[$axis] <= $at) {
                    $below[] = $corner;
                }
                if ($corner[$axis] >= $at) {
                    $above[] = $corner;
                }
                $last = $corner;
            }
            foreach ([$above, $below] as $half) {
                if ($half !== []) {
                    $stack[] = [$half, $depth + 1];
                }
            }
        }

        return $out;
    }
}
