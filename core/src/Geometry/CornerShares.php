<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Where in a triangle a place on it lies.
 */
final class CornerShares
{
    /**
     * @param  list<float>  $p  positions
     * @param  list<int>  $triangles
     * @return array{float, float, float} shares of the three corners, 1 in all; a third each where it has no area
     */
    public static function of(array $p, array $triangles, int $triangle, float $x, float $y, float $z): array
    {
        $a = 3 * $triangles[3 * $triangle];
        $b = 3 * $triangles[3 * $triangle + 1];
        $c = 3 * $triangles[3 * $triangle + 2];
        [$ux, $uy, $uz] = [$p[$b] - $p[$a], $p[$b + 1] - $p[$a + 1], $p[$b + 2] - $p[$a + 2]];
        [$vx, $vy, $vz] = [$p[$c] - $p[$a], $p[$c + 1] - $p[$a + 1], $p[$c + 2] - $p[$a + 2]];
        [$wx, $wy, $wz] = [$x - $p[$a], $y - $p[$a + 1], $z - $p[$a + 2]];
        $uu = $ux * $ux + $uy * $uy + $uz * $uz;
        $uv = $ux * $vx + $uy * $vy + $uz * $vz;
        $vv = $vx * $vx + $vy * $vy + $vz * $vz;
        $wu = $wx * $ux + $wy * $uy + $wz * $uz;
        $wv = $wx * $vx + $wy * $vy + $wz * $vz;
        $den = $uu * $vv - $uv * $uv;
        if ($den <= 0.0) {
            return [1 / 3, 1 / 3, 1 / 3];
        }
        $s = ($vv * $wu - $uv * $wv) / $den;
        $r = ($uu * $wv - $uv * $wu) / $den;

        return [1.0 - $s - $r, $s, $r];
    }
}
