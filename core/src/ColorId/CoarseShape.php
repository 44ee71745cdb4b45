<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\FaceNormal;
use Anvil\Geometry\Mesh;

/**
 * A coarser shape of a mesh: one vertex a cell of a grid, where the planes of the faces in it meet best (P. Lindstrom, "Out-of-core
 * simplification of large polygonal models", 2000), and the triangles whose corners lie in three cells.
 */
final readonly class CoarseShape
{
    /**
     * @param  list<float>  $positions  xyz, n×3
     * @param  list<int>  $triangles  three a triangle
     * @param  list<int>  $cellOf  the vertex that each vertex of the mesh became
     * @param  array<int, int>  $became  triangle of the mesh → triangle of this, for those that are left
     */
    private function __construct(public array $positions, public array $triangles, private array $cellOf, private array $became)
    {
    }

    /** @param  int  $cells  along the longest side */
    public static function of(Mesh $mesh, int $cells): self
    {
        $bounds = $mesh->bounds();
        if ($bounds === null) {
            return new self([], [], [], []);
        }
        [$ox, $oy, $oz] = $bounds->min;
        $size = max(1e-30, $bounds->max[0] - $ox, $bounds->max[1] - $oy, $bounds->max[2] - $oz) / $cells;
        $row = $cells + 1;
        $p = $mesh->positions;
        $number = $cellOf = $mean = $count = [];
        for ($i = 0, $n = count($p); $i < $n; $i += 3) {
            $key = ((int) (($p[$i] - $ox) / $size) * $row + (int) (($p[$i + 1] - $oy) / $size)) * $row + (int) (($p[$i + 2] - $oz) / $size);
            $at = $number[$key] ??= count($number);
            $cellOf[] = $at;
            $mean[3 * $at] = ($mean[3 * $at] ?? 0.0) + $p[$i];
            $mean[3 * $at + 1] = ($mean[3 * $at + 1] ?? 0.0) + $p[$i + 1];
            $mean[3 * $at + 2] = ($mean[3 * $at + 2] ?? 0.0) + $p[$i + 2];
            $count[$at] = ($count[$at] ?? 0) + 1;
        }
        $q = array_fill(0, 9 * count($count), 0.0);
        $triangles = $became = $seen = [];
        $tri = $mesh->triangles;
        for ($t = 0, $n = intdiv(count($tri), 3); $t < $n; $t++) {
            $a = $cellOf[$tri[3 * $t]];
            $b = $cellOf[$tri[3 * $t + 1]];
            $c = $cellOf[$tri[3 * $t + 2]];
            // The normal is written out: a call costs several times what it computes.
            $u = 3 * $tri[3 * $t];
            $v = 3 * $tri[3 * $t + 1];
            $w = 3 * $tri[3 * $t + 2];
            $ux = $p[$v] - $p[$u];
            $uy = $p[$v + 1] - $p[$u + 1];
            $uz = $p[$v + 2] - $p[$u + 2];
            $vx = $p[$w] - $p[$u];
            $vy = $p[$w + 1] - $p[$u + 1];
            $vz = $p[$w + 2] - $p[$u + 2];
            // Weighed by the square of the area, as the normal's length does.
            $x = $uy * $vz - $uz * $vy;
            $y = $uz * $vx - $ux * $vz;
            $z = $ux * $vy - $uy * $vx;
            $d = $x * $p[$u] + $y * $p[$u + 1] + $z * $p[$u + 2];
            for ($k = 0; $k < 3; $k++) {
                $cell = $k === 0 ? $a : ($k === 1 ? $b : $c);
                if (($k > 0 && $cell === $a) || ($k === 2 && $cell === $b)) {
                    continue;
                }
                $at = 9 * $cell;
                $q[$at] += $x * $x;
                $q[$at + 1] += $x * $y;
                $q[$at + 2] += $x * $z;
                $q[$at + 3] += $y * $y;
                $q[$at + 4] += $y * $z;
                $q[$at + 5] += $z * $z;
                $q[$at + 6] += $x * $d;
                $q[$at + 7] += $y * $d;
                $q[$at + 8] += $z * $d;
            }
            if ($a !== $b && $b !== $c && $c !== $a) {
                $low = min($a, $b, $c);
                $high = max($a, $b, $c);
                $key = ($low << 42) | (($a + $b + $c - $low - $high) << 21) | $high;
                if (! isset($seen[$key])) {
                    $seen[$key] = intdiv(count($triangles), 3);
                    array_push($triangles, $a, $b, $c);
                }
                $became[$t] = $seen[$key];
            }
        }
        $positions = [];
        foreach ($count as $cell => $many) {
            $at = [$mean[3 * $cell] / $many, $mean[3 * $cell + 1] / $many, $mean[3 * $cell + 2] / $many];
            array_push($positions, ...self::met(array_slice($q, 9 * $cell, 9), $at, $size));
        }

        return new self($positions, $triangles, $cellOf, $became);
    }

    /**
     * The region of each triangle of the mesh: of the coarse triangle that it became part of; else, of those around it, of the one that
     * faces most as it does.
     *
     * @param  list<int>  $regions  of each triangle of this
     * @return list<int>
     */
    public function labels(Mesh $mesh, array $regions): array
    {
        $around = [];
        foreach ($this->triangles as $k => $cell) {
            $around[$cell][] = intdiv($k, 3);
        }
        $normals = [];
        foreach ($regions as $t => $_) {
            $normals[] = FaceNormal::unit($this->positions, $this->triangles, $t);
        }
        $p = $mesh->positions;
        $tri = $mesh->triangles;
        $out = [];
        $next = max(0, ...$regions ?: [0]) + 1;
        $alone = [];
        for ($t = 0, $n = $mesh->triangleCount(); $t < $n; $t++) {
            if (isset($this->became[$t])) {
                $out[] = $regions[$this->became[$t]];

                continue;
            }
            [$x, $y, $z] = FaceNormal::long($p, $tri, $t);
            $best = -INF;
            $region = -1;
            $last = -1;
            for ($k = 0; $k < 3; $k++) {
                $cell = $this->cellOf[$tri[3 * $t + $k]];
                if ($cell === $last) {
                    continue;
                }
                $last = $cell;
                foreach ($around[$cell] ?? [] as $coarse) {
                    [$u, $v, $w] = $normals[$coarse];
                    $dot = $x * $u + $y * $v + $z * $w;
                    if ($dot > $best) {
                        $best = $dot;
                        $region = $regions[$coarse];
                    }
                }
            }
            // What lies in cells of its own with nothing around is a region by itself.
            $out[] = $region >= 0 ? $region : ($alone[$last] ??= $next++);
        }

        return $out;
    }

    /**
     * Where planes meet best near a place: the least of their squared distances, held to the place where they leave a direction open.
     *
     * @param  list<float>  $q  xx, xy, xz, yy, yz, zz, then each times the planes' distance
     * @param  array{float, float, float}  $at
     * @return array{float, float, float}
     */
    private static function met(array $q, array $at, float $size): array
    {
        $hold = 1e-3 * ($q[0] + $q[3] + $q[5]) + 1e-300;
        [$a, $b, $c, $d, $e, $f] = [$q[0] + $hold, $q[1], $q[2], $q[3] + $hold, $q[4], $q[5] + $hold];
        $r = [$q[6] - $q[0] * $at[0] - $q[1] * $at[1] - $q[2] * $at[2], $q[7] - $q[1] * $at[0] - $q[3] * $at[1] - $q[4] * $at[2], $q[8] - $q[2] * $at[0] - $q[4] * $at[1] - $q[5] * $at[2]];
        $i = $d * $f - $e * $e;
        $j = $c * $e - $b * $f;
        $k = $b * $e - $c * $d;
        $det = $a * $i + $b * $j + $c * $k;
        if ($det <= 0.0 || ! is_finite($det)) {
            return $at;
        }
        $by = [
            ($i * $r[0] + $j * $r[1] + $k * $r[2]) / $det,
            ($j * $r[0] + ($a * $f - $c * $c) * $r[1] + ($b * $c - $a * $e) * $r[2]) / $det,
            ($k * $r[0] + ($b * $c - $a * $e) * $r[1] + ($a * $d - $b * $b) * $r[2]) / $det,
        ];
        foreach ($by as $one) {
            if (! is_finite($one) || abs($one) > $size) {
                return $at;
            }
        }

        return [$at[0] + $by[0], $at[1] + $by[1], $at[2] + $by[2]];
    }
}
