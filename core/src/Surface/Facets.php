<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;

/**
 * Share of a high part's area in large faces that will show as facets: its corner normals all lean over 10° from the face (where some do not,
 * as beside the rim of a thin leaf, the face is flat and its border rounded), or two or more of its edges are hard and turn by 3–30°.
 */
final readonly class Facets
{
    /** A face of less than this share of the part's area is fine enough. */
    private const LARGE = 0.0005;

    private const LEAN = 10.0;

    private const TURN = [3.0, 30.0];

    /**
     * @param  float|null  $share  null where the file says nothing of how the part is shaded
     * @param  list<array{float, float, float}>  $where
     */
    private function __construct(public ?float $share, public array $where)
    {
    }

    public static function of(Mesh $mesh): self
    {
        if ($mesh->triNormals === [] && $mesh->smoothing === []) {
            return new self(null, []);
        }
        [$areas, $starts] = self::faces($mesh);
        $total = array_sum($areas);
        if ($total <= 0.0) {
            return new self(0.0, []);
        }
        $large = array_filter($areas, static fn (float $area): bool => $area > self::LARGE * $total);
        if ($large === []) {
            return new self(0.0, []);
        }
        $found = [];
        foreach (array_keys($large) as $face) {
            if ($mesh->triNormals !== [] && self::lean($mesh, self::normal($mesh, $starts, $face), $starts[$face], $starts[$face + 1] ?? $mesh->triangleCount()) > self::LEAN) {
                $found[$face] = true;
            }
        }
        foreach (self::hardEdges($mesh, $large, $starts) as $face => $edges) {
            if ($edges >= 2) {
                $found[$face] = true;
            }
        }
        $share = 0.0;
        $where = [];
        foreach (array_keys($found) as $face) {
            $share += $areas[$face] / $total;
            if (count($where) < 40) {
                $v = 3 * $mesh->triangles[3 * $starts[$face]];
                $where[] = [$mesh->positions[$v], $mesh->positions[$v + 1], $mesh->positions[$v + 2]];
            }
        }

        return new self($share, $where);
    }

    /**
     * @param  array<mixed>  $stored
     */
    public static function kept(array $stored): self
    {
        /** @var array{share: float|null, where: list<array{float, float, float}>} $stored */
        return new self($stored['share'], $stored['where']);
    }

    /**
     * @return array{list<float>, list<int>} area and first triangle of each face
     */
    private static function faces(Mesh $mesh): array
    {
        $p = $mesh->positions;
        $tri = $mesh->triangles;
        $faces = $mesh->faces;
        $areas = $starts = [];
        $count = $mesh->triangleCount();
        $sx = $sy = $sz = 0.0;
        for ($t = 0; $t < $count; $t++) {
            if ($t === 0 || $faces === [] || $faces[$t] !== $faces[$t - 1]) {
                $starts[] = $t;
                $sx = $sy = $sz = 0.0;
            }
            $a = 3 * $tri[3 * $t];
            $b = 3 * $tri[3 * $t + 1];
            $c = 3 * $tri[3 * $t + 2];
            $ux = $p[$b] - $p[$a];
            $uy = $p[$b + 1] - $p[$a + 1];
            $uz = $p[$b + 2] - $p[$a + 2];
            $vx = $p[$c] - $p[$a];
            $vy = $p[$c + 1] - $p[$a + 1];
            $vz = $p[$c + 2] - $p[$a + 2];
            $sx += $uy * $vz - $uz * $vy;
            $sy += $uz * $vx - $ux * $vz;
            $sz += $ux * $vy - $uy * $vx;
            if ($t + 1 === $count || $faces === [] || $faces[$t + 1] !== $faces[$t]) {
                $areas[] = sqrt($sx * $sx + $sy * $sy + $sz * $sz) / 2;
            }
        }

        return [$areas, $starts];
    }

    /**
     * @param  list<int>  $starts
     * @return array{float, float, float} unit; zero where the face has no area
     */
    private static function normal(Mesh $mesh, array $starts, int $face): array
    {
        $p = $mesh->positions;
        $sum = [0.0, 0.0, 0.0];
        for ($t = $starts[$face], $end = $starts[$face + 1] ?? $mesh->triangleCount(); $t < $end; $t++) {
            [$a, $b, $c] = [3 * $mesh->triangles[3 * $t], 3 * $mesh->triangles[3 * $t + 1], 3 * $mesh->triangles[3 * $t + 2]];
            $u = [$p[$b] - $p[$a], $p[$b + 1] - $p[$a + 1], $p[$b + 2] - $p[$a + 2]];
            $v = [$p[$c] - $p[$a], $p[$c + 1] - $p[$a + 1], $p[$c + 2] - $p[$a + 2]];
            $sum[0] += $u[1] * $v[2] - $u[2] * $v[1];
            $sum[1] += $u[2] * $v[0] - $u[0] * $v[2];
            $sum[2] += $u[0] * $v[1] - $u[1] * $v[0];
        }
        $length = sqrt($sum[0] * $sum[0] + $sum[1] * $sum[1] + $sum[2] * $sum[2]);

        return $length > 0.0 ? [$sum[0] / $length, $sum[1] / $length, $sum[2] / $length] : [0.0, 0.0, 0.0];
    }

    /**
     * Least angle of a face's corner normals from the face, in degrees.
     *
     * @param  array{float, float, float}  $normal
     */
    private static function lean(Mesh $mesh, array $normal, int $from, int $to): float
    {
        $least = 180.0;
        $seen = [];
        for ($c = 3 * $from; $c < 3 * $to; $c++) {
            $n = $mesh->triNormals[$c];
            $v = $mesh->triangles[$c];
            if ($n < 0 || isset($seen[$v])) {
                continue;
            }
            $seen[$v] = true;
            [$x, $y, $z] = [$mesh->normals[3 * $n], $mesh->normals[3 * $n + 1], $mesh->normals[3 * $n + 2]];
            $length = sqrt($x * $x + $y * $y + $z * $z);
            $least = min($least, $length > 0.0 ? rad2deg(acos(max(-1.0, min(1.0, ($x * $normal[0] + $y * $normal[1] + $z * $normal[2]) / $length)))) : 0.0);
        }

        return $seen === [] ? 0.0 : $least;
    }

    /**
     * How many edges of each large face are hard and turn by 3–30°.
     *
     * @param  array<int, float>  $large  by face
     * @param  list<int>  $starts
     * @return array<int, int>
     */
    private static function hardEdges(Mesh $mesh, array $large, array $starts): array
    {
        $welded = Weld::ofMesh($mesh);
        $count = $mesh->triangleCount();
        $of = [];
        $wanted = [];
        foreach ($large as $face => $_) {
            for ($t = $starts[$face]; $t < ($starts[$face + 1] ?? $count); $t++) {
                $of[$t] = $face;
                for ($k = 0; $k < 3; $k++) {
                    $wanted[self::key($mesh, $welded, 3 * $t + $k)] = [];
                }
            }
        }
        $face = -1;
        for ($t = 0; $t < $count; $t++) {
            if (isset($starts[$face + 1]) && $starts[$face + 1] === $t) {
                $face++;
            }
            for ($k = 0; $k < 3; $k++) {
                $key = self::key($mesh, $welded, 3 * $t + $k);
                if (isset($wanted[$key])) {
                    $wanted[$key][] = [$face, 3 * $t + $k];
                }
            }
        }
        $out = [];
        foreach ($wanted as $halves) {
            if (count($halves) !== 2 || $halves[0][0] === $halves[1][0]) {
                continue;
            }
            $one = self::normal($mesh, $starts, $halves[0][0]);
            $two = self::normal($mesh, $starts, $halves[1][0]);
            $dot = $one[0] * $two[0] + $one[1] * $two[1] + $one[2] * $two[2];
            $turn = rad2deg(acos(max(-1.0, min(1.0, $dot))));
            if ($turn < self::TURN[0] || $turn > self::TURN[1] || ! self::isHard($mesh, $welded, $halves[0][1], $halves[1][1])) {
                continue;
            }
            foreach ($halves as [$at]) {
                if (isset($large[$at])) {
                    $out[$at] = ($out[$at] ?? 0) + 1;
                }
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $welded
     */
    private static function key(Mesh $mesh, array $welded, int $half): int
    {
        $a = $welded[$mesh->triangles[$half]];
        $b = $welded[$mesh->triangles[LowEdges::after($half)]];

        return $a < $b ? ($a << 32) | $b : ($b << 32) | $a;
    }

    /**
     * @param  list<int>  $welded
     */
    private static function isHard(Mesh $mesh, array $welded, int $one, int $two): bool
    {
        $next = LowEdges::after($two);
        [$atFrom, $atTo] = $welded[$mesh->triangles[$one]] === $welded[$mesh->triangles[$two]] ? [$two, $next] : [$next, $two];

        return LowEdges::isHard($mesh, $one, LowEdges::after($one), $atFrom, $atTo);
    }
}
