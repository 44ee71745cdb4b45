<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Shells;
use Anvil\Geometry\SurfacePoints;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Rays\Belonging;
use Anvil\Rays\LowSurface;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;

/**
 * Measures how the ties of one set lie. Uses the set's own tree of the high poly where the set is one tie.
 */
final class TiePlaces
{
    /** Points of a tie, fewer in assets of many ties. */
    private const MOST_POINTS = 720;

    private const LEAST_POINTS = 160;

    private const ALL_POINTS = 240_000;

    /** For the share that is hidden, once the high poly is known to hold a copy of the low one. */
    private const FINE_POINTS = 8192;

    private const DOUBLED_POINTS = 256;

    /** Surfaces closer than this share of d are one. */
    private const SAME = 1e-4;

    /** Old and new delivery of one part differ a little. */
    private const ALIKE = 1e-3;

    /**
     * @param  list<Tie>  $ties  of the set, those with low and high
     * @param  int  $all  how many ties the asset has
     * @return list<TiePlace>
     */
    public static function of(array $ties, SetSurfaces $surfaces, int $all): array
    {
        $out = [];
        $points = self::pointsEach($all);
        $mesh = static fn (RoledPart $part): Mesh => $part->part->mesh;
        foreach ($ties as $tie) {
            if ($tie->low === [] || $tie->high === []) {
                continue;
            }
            $own = count($ties) === 1 ? $surfaces : new SetSurfaces($tie->base, array_map($mesh, $tie->low), array_map($mesh, $tie->high), true);
            $d = $own->lowBounds()?->diagonal() ?? 0.0;
            if ($d <= 0.0 || $own->high()->triangles === []) {
                continue;
            }
            $tree = $own->high()->tree();
            [$covered, $where] = self::covered($own, $tree, $d, $points);
            $out[] = new TiePlace(
                $tie->base, $tie->low[0]->part->name, $tie->high[0]->part->name, $tie->low[0]->path,
                OffsetSearch::of(array_map($mesh, $tie->low), $tree, $points),
                self::doubled($tie, $d), $covered, $where,
            );
        }

        return $out;
    }

    /** Points looked at a tie, by how many ties there are in all: the same for about as many. */
    public static function pointsEach(int $all): int
    {
        return max(self::LEAST_POINTS, min(self::MOST_POINTS, intdiv(self::ALL_POINTS, 2 ** (int) ceil(log(max(1, $all), 2)))));
    }

    /**
     * High parts of one base that lie on each other over a good part of both.
     *
     * @return list<array{first: string, second: string, file: string, share: float, where: array{float, float, float}|null}>
     */
    private static function doubled(Tie $tie, float $d): array
    {
        $out = [];
        $trees = [];
        $count = count($tie->high);
        for ($i = 0; $i < $count; $i++) {
            for ($j = $i + 1; $j < $count; $j++) {
                $a = $tie->high[$i]->part;
                $b = $tie->high[$j]->part;
                if ($a->bounds() === null || $b->bounds() === null || ! self::overlap($a->bounds(), $b->bounds())) {
                    continue;
                }
                $share = 1.0;
                $where = null;
                foreach ([[$i, $j], [$j, $i]] as [$from, $to]) {
                    $trees[$to] ??= TriangleTree::of($tie->high[$to]->part->mesh->positions, $tie->high[$to]->part->mesh->triangles);
                    [$one, $at] = self::on($tie->high[$from]->part->mesh, $trees[$to], self::ALIKE * $d);
                    $share = min($share, $one);
                    $where ??= $at;
                }
                if ($share > 0.0) {
                    $out[] = ['first' => $a->name, 'second' => $b->name, 'file' => $tie->high[$j]->path, 'share' => $share, 'where' => $where];
                }
            }
        }

        return $out;
    }

    private static function overlap(Bounds $a, Bounds $b): bool
    {
        $shared = 1.0;
        for ($k = 0; $k < 3; $k++) {
            $least = max($a->min[$k], $b->min[$k]);
            $most = min($a->max[$k], $b->max[$k]);
            $span = max($a->max[$k], $b->max[$k]) - min($a->min[$k], $b->min[$k]);
            if ($most < $least || ($span > 0.0 && ($most - $least) < 0.3 * $span)) {
                return false;
            }
            $shared *= $span > 0.0 ? ($most - $least) / $span : 1.0;
        }

        return $shared > 0.0;
    }

    /**
     * Share of a mesh that lies on another surface, facing alike, and a place where it does.
     *
     * @return array{float, array{float, float, float}|null}
     */
    private static function on(Mesh $mesh, TriangleTree $tree, float $within): array
    {
        $points = SurfacePoints::of([$mesh], self::DOUBLED_POINTS);
        $nearest = new NearestPoint($tree);
        $on = 0;
        $where = null;
        for ($i = 0, $n = $points->count(); $i < $n; $i++) {
            [$x, $y, $z] = [$points->at[3 * $i], $points->at[3 * $i + 1], $points->at[3 * $i + 2]];
            $triangle = $nearest->find($x, $y, $z, $within);
            if ($triangle >= 0) {
                $normal = self::normal($tree, $triangle);
                if ($normal[0] * $points->normals[3 * $i] + $normal[1] * $points->normals[3 * $i + 1] + $normal[2] * $points->normals[3 * $i + 2] > 0.8) {
                    $on++;
                    $where ??= [$x, $y, $z];
                }
            }
        }

        return [$points->count() === 0 ? 0.0 : $on / $points->count(), $where];
    }

    /**
     * Share of the low where its own copy in the high, triangles that lie on it, is met first and other high surface that belongs there lies
     * under it.
     *
     * @return array{float, list<array{float, float, float}>}
     */
    private static function covered(SetSurfaces $own, TriangleTree $tree, float $d, int $count): array
    {
        $low = $own->low();
        $points = SurfacePoints::of($own->lowMeshes(), $count);
        $cast = new SegmentCast($tree);
        $nearest = new NearestPoint($low->tree());
        $same = self::SAME * $d;
        $on = 0;
        $under = $overs = $lies = [];
        for ($i = 0, $n = $points->count(); $i < $n; $i++) {
            [$x, $y, $z] = [$points->at[3 * $i], $points->at[3 * $i + 1], $points->at[3 * $i + 2]];
            [$nx, $ny, $nz] = [$points->normals[3 * $i], $points->normals[3 * $i + 1], $points->normals[3 * $i + 2]];
            $hits = $cast->all($x, $y, $z, $nx, $ny, $nz, -0.1 * $d, 0.1 * $d, 1);
            $here = $over = -1;
            $deeper = [];
            for ($k = 0; $k < $hits; $k++) {
                $t = $cast->t[$k];
                $triangle = $cast->triangle[$k];
                if (abs($t) <= $same && ($lies[$triangle] ??= self::liesOn($tree, $triangle, $nearest, $same))) {
                    $here = $triangle;
                } elseif ($t > $same) {
                    $over = $triangle;
                } elseif ($t < -10 * $same && ! ($lies[$triangle] ??= self::liesOn($tree, $triangle, $nearest, $same))) {
                    $deeper[] = [$t, $triangle];
                }
            }
            $on += $here >= 0 ? 1 : 0;
            if ($over >= 0) {
                $overs[] = $over;
            }
            if ($here >= 0 && $over < 0 && $deeper !== []) {
                $under[] = [$i, $here, $deeper];
            }
        }
        // Only a copy of the whole low part is one; a high poly that touches its low in places is not.
        if ($on < 0.95 * $points->count() || $points->count() === 0) {
            return [0.0, []];
        }
        if ($count < self::FINE_POINTS) {
            return self::covered($own, $tree, $d, self::FINE_POINTS);
        }
        if ($under === []) {
            return [0.0, []];
        }

        return self::hidden($low, $points, $tree, $under, $overs, $d);
    }

    /** Whether a high triangle is a piece of a copy of the low: its corners and its middle lie on it. */
    private static function liesOn(TriangleTree $tree, int $triangle, NearestPoint $nearest, float $within): bool
    {
        $p = $tree->positions;
        $x = $y = $z = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $v = 3 * $tree->triangles[3 * $triangle + $k];
            if (! $nearest->anyWithin($p[$v], $p[$v + 1], $p[$v + 2], $within)) {
                return false;
            }
            $x += $p[$v] / 3;
            $y += $p[$v + 1] / 3;
            $z += $p[$v + 2] / 3;
        }

        return $nearest->anyWithin($x, $y, $z, $within);
    }

    /**
     * A shell that stands out over the copy more than it lies under it is a boss or a bolt let into the surface: its foot is meant to
     * be hidden. What hangs together with the copy itself, a groove that shares its corners, is no such shell.
     *
     * @param  list<array{int, int, list<array{float, int}>}>  $under  point, triangle of the copy, heights and triangles below
     * @param  list<int>  $overs  triangles met over the copy
     * @return array{float, list<array{float, float, float}>}
     */
    private static function hidden(LowSurface $low, SurfacePoints $points, TriangleTree $tree, array $under, array $overs, float $d): array
    {
        $shells = Shells::of($tree->positions, $tree->triangles);
        $belonging = new Belonging($low, $d);
        $nearest = new NearestPoint($low->tree());
        $found = $where = [];
        foreach ($under as [$i, $here, $deeper]) {
            [$x, $y, $z] = [$points->at[3 * $i], $points->at[3 * $i + 1], $points->at[3 * $i + 2]];
            [$nx, $ny, $nz] = [$points->normals[3 * $i], $points->normals[3 * $i + 1], $points->normals[3 * $i + 2]];
            foreach ($deeper as [$t, $triangle]) {
                $m = self::normal($tree, $triangle);
                // What has a low place of its own nearer by is that one's; what faces elsewhere is a rounding, not a floor.
                $height = abs($t) * 0.9;
                if ($m[0] * $nx + $m[1] * $ny + $m[2] * $nz < 0.8 || $nearest->anyFacingWithin($x + $t * $nx, $y + $t * $ny, $z + $t * $nz, $height, $low->normals, $m[0], $m[1], $m[2])) {
                    continue;
                }
                if ($belonging->holds($points->triangles[$i], $x, $y, $z, $x + $t * $nx, $y + $t * $ny, $z + $t * $nz, $m[0], $m[1], $m[2])) {
                    if ($shells[$triangle] === $shells[$here]) {
                        $where[] = [$x, $y, $z];
                    } else {
                        $found[$shells[$triangle]][] = [$x, $y, $z];
                    }
                    break;
                }
            }
        }
        $over = array_count_values(array_map(static fn (int $triangle): int => $shells[$triangle], $overs));
        foreach ($found as $shell => $places) {
            if (count($places) > ($over[$shell] ?? 0)) {
                array_push($where, ...$places);
            }
        }

        return [count($where) / $points->count(), array_slice($where, 0, 40)];
    }

    /**
     * @return array{float, float, float}
     */
    private static function normal(TriangleTree $tree, int $triangle): array
    {
        $p = $tree->positions;
        [$a, $b, $c] = [3 * $tree->triangles[3 * $triangle], 3 * $tree->triangles[3 * $triangle + 1], 3 * $tree->triangles[3 * $triangle + 2]];
        $u = [$p[$b] - $p[$a], $p[$b + 1] - $p[$a + 1], $p[$b + 2] - $p[$a + 2]];
        $v = [$p[$c] - $p[$a], $p[$c + 1] - $p[$a + 1], $p[$c + 2] - $p[$a + 2]];
        $n = [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];
        $length = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);

        return $length > 0.0 ? [$n[0] / $length, $n[1] / $length, $n[2] / $length] : [0.0, 0.0, 0.0];
    }
}
