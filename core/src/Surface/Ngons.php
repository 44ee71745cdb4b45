<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;

/**
 * Faces that a baker may cut another way than the engine does: over four corners, or four and bent over 5°; not those that are flat, have
 * one normal, and lie flat in UV as well, since any cut of these is the same.
 */
final class Ngons
{
    /** Degrees that the halves of a quad may lean from each other. */
    public const BENT = 5.0;

    /** Corners closer than this to the face's plane, as a share of its size, are on it. */
    private const FLAT = 1e-3;

    private const SAME_NORMAL = 1.0;

    /** UVs this close to the flat picture of a face are on it. */
    private const AFFINE = 1e-4;

    private const WHERE = 40;

    public int $count = 0;

    /** Corners of the largest. */
    public int $most = 0;

    /** @var list<array{float, float, float}> */
    public array $where = [];

    /**
     * @param  array<mixed>  $stored
     */
    public static function kept(array $stored): self
    {
        /** @var array{count: int, most: int, where: list<array{float, float, float}>} $stored */
        $out = new self;
        [$out->count, $out->most, $out->where] = [$stored['count'], $stored['most'], $stored['where']];

        return $out;
    }

    public static function of(Mesh $mesh): self
    {
        $out = new self;
        if ($mesh->faces === []) {
            return $out;
        }
        $count = $mesh->triangleCount();
        for ($t = 0; $t < $count;) {
            $last = $t;
            while ($last + 1 < $count && $mesh->faces[$last + 1] === $mesh->faces[$t]) {
                $last++;
            }
            $corners = $last - $t + 3;
            if ($corners > 4 || ($corners === 4 && self::bend($mesh, $t) > self::BENT)) {
                if (! self::isPlain($mesh, $t, $last)) {
                    $out->count++;
                    $out->most = max($out->most, $corners);
                    if (count($out->where) < self::WHERE) {
                        $v = 3 * $mesh->triangles[3 * $t];
                        $out->where[] = [$mesh->positions[$v], $mesh->positions[$v + 1], $mesh->positions[$v + 2]];
                    }
                }
            }
            $t = $last + 1;
        }

        return $out;
    }

    /** Degrees between the two halves of a quad, the worse of its two cuts. */
    private static function bend(Mesh $mesh, int $t): float
    {
        $one = array_slice($mesh->triangles, 3 * $t, 3);
        $two = array_slice($mesh->triangles, 3 * $t + 3, 3);
        $shared = array_values(array_intersect($one, $two));
        if (count($shared) < 2) {
            return 0.0;
        }
        $a = self::cross($mesh, $one[0], $one[1], $one[2]);
        $b = self::cross($mesh, $two[0], $two[1], $two[2]);
        $tipA = array_values(array_diff($one, $shared))[0] ?? $one[0];
        $tipB = array_values(array_diff($two, $shared))[0] ?? $two[0];
        // The corners in order: tip, next, other tip, previous.
        $at = (int) array_search($tipA, $one, true);
        $next = $one[($at + 1) % 3];
        $previous = $one[($at + 2) % 3];
        $c = self::cross($mesh, $tipA, $next, $tipB);
        $d = self::cross($mesh, $tipA, $tipB, $previous);

        return max(self::angle($a, $b), self::angle($c, $d));
    }

    private static function isPlain(Mesh $mesh, int $first, int $last): bool
    {
        $normal = [0.0, 0.0, 0.0];
        $corners = [];
        for ($t = $first; $t <= $last; $t++) {
            $n = self::cross($mesh, $mesh->triangles[3 * $t], $mesh->triangles[3 * $t + 1], $mesh->triangles[3 * $t + 2]);
            for ($k = 0; $k < 3; $k++) {
                $normal[$k] += $n[$k];
                $corners[$mesh->triangles[3 * $t + $k]] ??= 3 * $t + $k;
            }
        }
        $length = sqrt($normal[0] ** 2 + $normal[1] ** 2 + $normal[2] ** 2);
        if ($length <= 0.0) {
            return true;
        }
        $normal = [$normal[0] / $length, $normal[1] / $length, $normal[2] / $length];
        // Flat: no corner stands off the plane.
        $p = $mesh->positions;
        $places = [];
        $size = 0.0;
        $origin = null;
        foreach ($corners as $v => $corner) {
            $origin ??= 3 * $v;
            $place = [$p[3 * $v] - $p[$origin], $p[3 * $v + 1] - $p[$origin + 1], $p[3 * $v + 2] - $p[$origin + 2]];
            $size = max($size, sqrt($place[0] ** 2 + $place[1] ** 2 + $place[2] ** 2));
            $places[$corner] = $place;
        }
        foreach ($places as $place) {
            if (abs($place[0] * $normal[0] + $place[1] * $normal[1] + $place[2] * $normal[2]) > self::FLAT * $size) {
                return false;
            }
        }

        return self::hasOneNormal($mesh, array_keys($places)) && self::isAffine($mesh, $places, $normal);
    }

    /**
     * @param  list<int>  $corners
     */
    private static function hasOneNormal(Mesh $mesh, array $corners): bool
    {
        if ($mesh->triNormals === []) {
            return true;
        }
        $seen = null;
        foreach ($corners as $corner) {
            $n = $mesh->triNormals[$corner];
            if ($n < 0) {
                continue;
            }
            $own = [$mesh->normals[3 * $n], $mesh->normals[3 * $n + 1], $mesh->normals[3 * $n + 2]];
            $seen ??= $own;
            if (self::angle($seen, $own) > self::SAME_NORMAL) {
                return false;
            }
        }

        return true;
    }

    /**
     * Whether the UVs are the face seen straight on, sheared and scaled as may be: three corners set the map, the others must keep to it.
     *
     * @param  array<int, array{float, float, float}>  $places  corner → place
     * @param  array{float, float, float}  $normal
     */
    private static function isAffine(Mesh $mesh, array $places, array $normal): bool
    {
        if ($mesh->triUvs === []) {
            return true;
        }
        // Flat coordinates on two axes in the plane.
        $axis = abs($normal[0]) < 0.9 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0];
        $x = [$normal[1] * $axis[2] - $normal[2] * $axis[1], $normal[2] * $axis[0] - $normal[0] * $axis[2], $normal[0] * $axis[1] - $normal[1] * $axis[0]];
        $y = [$normal[1] * $x[2] - $normal[2] * $x[1], $normal[2] * $x[0] - $normal[0] * $x[2], $normal[0] * $x[1] - $normal[1] * $x[0]];
        $flat = [];
        foreach ($places as $corner => $place) {
            $uv = $mesh->triUvs[$corner];
            if ($uv < 0) {
                return true;
            }
            $flat[] = [$place[0] * $x[0] + $place[1] * $x[1] + $place[2] * $x[2], $place[0] * $y[0] + $place[1] * $y[1] + $place[2] * $y[2], $mesh->uvs[2 * $uv], $mesh->uvs[2 * $uv + 1]];
        }
        // The widest triangle of the first corner with two others sets the map.
        $n = count($flat);
        $best = [0, 1, 2];
        $widest = 0.0;
        for ($i = 1; $i < $n; $i++) {
            for ($j = $i + 1; $j < min($n, $i + 24); $j++) {
                $area = abs(($flat[$i][0] - $flat[0][0]) * ($flat[$j][1] - $flat[0][1]) - ($flat[$j][0] - $flat[0][0]) * ($flat[$i][1] - $flat[0][1]));
                if ($area > $widest) {
                    $widest = $area;
                    $best = [0, $i, $j];
                }
            }
        }
        if ($widest <= 0.0) {
            return true;
        }
        [$a, $b, $c] = [$flat[$best[0]], $flat[$best[1]], $flat[$best[2]]];
        $det = ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($c[0] - $a[0]) * ($b[1] - $a[1]);
        foreach ($flat as $point) {
            $s = (($point[0] - $a[0]) * ($c[1] - $a[1]) - ($c[0] - $a[0]) * ($point[1] - $a[1])) / $det;
            $t = (($b[0] - $a[0]) * ($point[1] - $a[1]) - ($point[0] - $a[0]) * ($b[1] - $a[1])) / $det;
            for ($k = 2; $k < 4; $k++) {
                if (abs($a[$k] + $s * ($b[$k] - $a[$k]) + $t * ($c[$k] - $a[$k]) - $point[$k]) > self::AFFINE) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * @return array{float, float, float}
     */
    private static function cross(Mesh $mesh, int $a, int $b, int $c): array
    {
        $p = $mesh->positions;
        $u = [$p[3 * $b] - $p[3 * $a], $p[3 * $b + 1] - $p[3 * $a + 1], $p[3 * $b + 2] - $p[3 * $a + 2]];
        $v = [$p[3 * $c] - $p[3 * $a], $p[3 * $c + 1] - $p[3 * $a + 1], $p[3 * $c + 2] - $p[3 * $a + 2]];

        return [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private static function angle(array $a, array $b): float
    {
        $la = sqrt($a[0] ** 2 + $a[1] ** 2 + $a[2] ** 2);
        $lb = sqrt($b[0] ** 2 + $b[1] ** 2 + $b[2] ** 2);

        return $la <= 0.0 || $lb <= 0.0 ? 0.0 : rad2deg(acos(max(-1.0, min(1.0, ($a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2]) / $la / $lb))));
    }
}
