<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\HalfEdges;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;

/**
 * A mesh cut into regions: faces that share an edge are in one region while they turn less than an angle there.
 *
 * Where that cuts a surface into more than 200 regions (sculpted or scanned ones turn at every face), it is cut on a coarser shape: the
 * vertices of each cell of a grid become one, put where the planes of their faces meet best (P. Lindstrom, "Out-of-core simplification of large
 * polygonal models", 2000), regions under a thousandth of the area join the one that they share most edges with, and each face takes the region
 * of the coarse face that it became part of. The grid has 96 cells along the longest side, or 48, 24, 12: the first with a quarter of the triangles at
 * most that gives no more than 200.
 */
final readonly class RegionCut
{
    /** More regions than this in one part are too many to be meant. */
    public const MANY = 200;

    private const GRIDS = [96, 48, 24, 12];

    /**
     * @param  list<int>  $of  the region of each triangle, numbered from 0 in order of their first triangles
     * @param  int  $count  regions
     * @param  int  $cells  along the longest side of the coarser shape; 0 where the mesh itself was cut
     */
    private function __construct(public array $of, public int $count, public int $cells)
    {
    }

    public static function of(Mesh $mesh, float $degrees): self
    {
        [$of, $count] = self::cut($mesh->positions, $mesh->triangles, Weld::ofMesh($mesh), $degrees);
        if ($count <= self::MANY) {
            return new self($of, $count, 0);
        }
        foreach (self::GRIDS as $cells) {
            $coarse = CoarseShape::of($mesh, $cells);
            $isLast = $cells === self::GRIDS[count(self::GRIDS) - 1];
            // A grid as fine as the mesh smooths nothing.
            if (! $isLast && 4 * count($coarse->triangles) > count($mesh->triangles)) {
                continue;
            }
            [$regions] = self::cut($coarse->positions, $coarse->triangles, range(0, max(0, intdiv(count($coarse->positions), 3) - 1)), $degrees);
            $coarser = $coarse->labels($mesh, self::withoutSmall($coarse, $regions));
            [$of, $count] = self::numbered($coarser);
            if ($count <= self::MANY || $isLast) {
                return new self($of, $count, $cells);
            }
        }

        return new self($of, $count, 0);
    }

    /**
     * @param  list<float>  $p  positions
     * @param  list<int>  $tri
     * @param  list<int>  $welded
     * @return array{list<int>, int}
     */
    private static function cut(array $p, array $tri, array $welded, float $degrees): array
    {
        $total = intdiv(count($tri), 3);
        $flat = str_repeat('0', $total);
        $nx = $ny = $nz = [];
        // The normal is written out: a call costs several times what it computes.
        for ($t = 0; $t < $total; $t++) {
            $a = 3 * $tri[3 * $t];
            $b = 3 * $tri[3 * $t + 1];
            $c = 3 * $tri[3 * $t + 2];
            $ux = $p[$b] - $p[$a];
            $uy = $p[$b + 1] - $p[$a + 1];
            $uz = $p[$b + 2] - $p[$a + 2];
            $vx = $p[$c] - $p[$a];
            $vy = $p[$c + 1] - $p[$a + 1];
            $vz = $p[$c + 2] - $p[$a + 2];
            $x = $uy * $vz - $uz * $vy;
            $y = $uz * $vx - $ux * $vz;
            $z = $ux * $vy - $uy * $vx;
            $length = sqrt($x * $x + $y * $y + $z * $z);
            if ($length <= 0.0) {
                $flat[$t] = '1';
                $length = 1.0;
            }
            $nx[] = $x / $length;
            $ny[] = $y / $length;
            $nz[] = $z / $length;
        }
        $edges = HalfEdges::of($tri, $welded, $flat);
        $least = cos(deg2rad($degrees)) + 1e-6;
        $parent = $total === 0 ? [] : range(0, $total - 1);
        foreach ($edges->halves as $e => $both) {
            $g = $both & 0xFFFFFFFF;
            $h = ($both >> 32) - 1;
            while ($h >= 0) {
                $a = intdiv($g, 3);
                $b = intdiv($h, 3);
                $dot = $nx[$a] * $nx[$b] + $ny[$a] * $ny[$b] + $nz[$a] * $nz[$b];
                // Both run the edge the same way: one of them is wound the other way round.
                if ($welded[$tri[$g]] === $welded[$tri[$h]]) {
                    $dot = -$dot;
                }
                if ($dot > $least) {
                    while ($parent[$a] !== $a) {
                        $a = $parent[$a] = $parent[$parent[$a]];
                    }
                    while ($parent[$b] !== $b) {
                        $b = $parent[$b] = $parent[$parent[$b]];
                    }
                    if ($a < $b) {
                        $parent[$b] = $a;
                    } elseif ($b < $a) {
                        $parent[$a] = $b;
                    }
                }
                $h = isset($edges->more[$e]) ? self::next($edges->more[$e], $h) : -1;
            }
        }
        $of = [];
        for ($t = 0; $t < $total; $t++) {
            $a = $t;
            while ($parent[$a] !== $a) {
                $a = $parent[$a] = $parent[$parent[$a]];
            }
            $of[] = $a;
        }

        return self::numbered(self::flatOnes($of, $tri, $welded, $flat));
    }

    /**
     * @param  list<int>  $more
     */
    private static function next(array $more, int $after): int
    {
        foreach ($more as $half) {
            if ($half > $after) {
                return $half;
            }
        }

        return -1;
    }

    /**
     * Triangles without area are in the region of a neighbor.
     *
     * @param  list<int>  $of
     * @param  list<int>  $tri
     * @param  list<int>  $welded
     * @return list<int>
     */
    private static function flatOnes(array $of, array $tri, array $welded, string $flat): array
    {
        if (! str_contains($flat, '1')) {
            return $of;
        }
        $at = [];
        foreach ($of as $t => $region) {
            if ($flat[$t] === '0') {
                $at[$welded[$tri[3 * $t]]] = $at[$welded[$tri[3 * $t + 1]]] = $at[$welded[$tri[3 * $t + 2]]] = $region;
            }
        }
        foreach ($of as $t => $region) {
            if ($flat[$t] === '1') {
                $of[$t] = $at[$welded[$tri[3 * $t]]] ?? $at[$welded[$tri[3 * $t + 1]]] ?? $at[$welded[$tri[3 * $t + 2]]] ?? $region;
            }
        }

        return array_values($of);
    }

    /**
     * @param  list<int>  $of
     * @return array{list<int>, int}
     */
    private static function numbered(array $of): array
    {
        $number = $out = [];
        foreach ($of as $region) {
            $number[$region] ??= count($number);
            $out[] = $number[$region];
        }

        return [$out, count($number)];
    }

    /**
     * The regions of a coarse shape, small ones joined to the one that they share most edges with; the smallest first.
     *
     * @param  list<int>  $of
     * @return list<int>
     */
    private static function withoutSmall(CoarseShape $shape, array $of): array
    {
        $areas = (new Mesh($shape->positions, $shape->triangles))->triangleAreas();
        $area = [];
        foreach ($of as $t => $region) {
            $area[$region] = ($area[$region] ?? 0.0) + $areas[$t];
        }
        $shared = [];
        $edges = HalfEdges::of($shape->triangles, range(0, max(0, intdiv(count($shape->positions), 3) - 1)), str_repeat('0', count($of)));
        foreach ($edges->halves as $both) {
            $h = ($both >> 32) - 1;
            if ($h >= 0) {
                $a = $of[intdiv($both & 0xFFFFFFFF, 3)];
                $b = $of[intdiv($h, 3)];
                if ($a !== $b) {
                    $shared[$a][$b] = ($shared[$a][$b] ?? 0) + 1;
                    $shared[$b][$a] = ($shared[$b][$a] ?? 0) + 1;
                }
            }
        }
        $small = 1e-3 * array_sum($area);
        $into = [];
        asort($area);
        foreach (array_keys($area) as $region) {
            if ($area[$region] >= $small || ($shared[$region] ?? []) === []) {
                continue;
            }
            arsort($shared[$region]);
            $to = array_key_first($shared[$region]);
            $into[$region] = $to;
            $area[$to] += $area[$region];
            foreach ($shared[$region] as $other => $count) {
                unset($shared[$other][$region]);
                if ($other !== $to) {
                    $shared[$to][$other] = ($shared[$to][$other] ?? 0) + $count;
                    $shared[$other][$to] = ($shared[$other][$to] ?? 0) + $count;
                }
            }
            unset($shared[$region]);
        }

        return array_map(static function (int $region) use ($into): int {
            while (isset($into[$region])) {
                $region = $into[$region];
            }

            return $region;
        }, $of);
    }
}
