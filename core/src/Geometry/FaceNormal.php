<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * The normal of a triangle. Where millions are looked at in one loop it is written out there: a call costs several times what it computes (GEOMETRY).
 */
final class FaceNormal
{
    /**
     * As long as twice the triangle's area.
     *
     * @param  list<float>  $p  positions, xyz
     * @param  list<int>  $triangles  three position numbers a triangle
     * @return array{float, float, float}
     */
    public static function long(array $p, array $triangles, int $triangle): array
    {
        $a = 3 * $triangles[3 * $triangle];
        $b = 3 * $triangles[3 * $triangle + 1];
        $c = 3 * $triangles[3 * $triangle + 2];
        $ux = $p[$b] - $p[$a];
        $uy = $p[$b + 1] - $p[$a + 1];
        $uz = $p[$b + 2] - $p[$a + 2];
        $vx = $p[$c] - $p[$a];
        $vy = $p[$c + 1] - $p[$a + 1];
        $vz = $p[$c + 2] - $p[$a + 2];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }

    /**
     * @param  list<float>  $p  positions, xyz
     * @param  list<int>  $triangles  three position numbers a triangle
     * @return array{float, float, float} unit; zero where it has no area
     */
    public static function unit(array $p, array $triangles, int $triangle): array
    {
        [$x, $y, $z] = self::long($p, $triangles, $triangle);
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? [$x / $length, $y / $length, $z / $length] : [0.0, 0.0, 0.0];
    }
}
