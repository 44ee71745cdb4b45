<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\CornerShares;
use Anvil\Sets\BakeSet;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;

/**
 * Which sets' low polys go through each other: two triangles cross where an edge of one goes through the inside of the other.
 */
final class Crossings
{
    /** An edge that only ends at a face touches it. */
    private const TOUCH = 1e-5;

    private const WHERE = 8;

    /**
     * @param  list<BakeSet>  $sets
     * @return list<array{set: string, other: string, count: int, where: list<array{float, float, float}>}> by name
     */
    public static function of(array $sets): array
    {
        $boxes = $surfaces = [];
        foreach ($sets as $i => $set) {
            $box = $set->lowBounds();
            if ($box !== null) {
                $boxes[$i] = $box;
            }
        }
        // Swept along X: only boxes that overlap there are held against each other.
        uasort($boxes, static fn (Bounds $a, Bounds $b): int => $a->min[0] <=> $b->min[0]);
        $open = $out = [];
        foreach ($boxes as $i => $box) {
            foreach ($open as $j => $other) {
                if ($other->max[0] < $box->min[0]) {
                    unset($open[$j]);
                } elseif ($other->meets($box)) {
                    [$a, $b] = strcmp($sets[$i]->name, $sets[$j]->name) < 0 ? [$i, $j] : [$j, $i];
                    $surfaces[$a] ??= self::surface($sets[$a]);
                    $surfaces[$b] ??= self::surface($sets[$b]);
                    [$count, $where] = self::between($surfaces[$a], $surfaces[$b], $boxes[$a], $boxes[$b]);
                    if ($count > 0) {
                        $out[] = ['set' => $sets[$a]->name, 'other' => $sets[$b]->name, 'count' => $count, 'where' => $where];
                    }
                }
            }
            $open[$i] = $box;
        }
        usort($out, static fn (array $a, array $b): int => strcmp($a['set'], $b['set']) ?: strcmp($a['other'], $b['other']));

        return $out;
    }

    private static function surface(BakeSet $set): TriangleTree
    {
        $positions = $triangles = [];
        foreach ($set->low as $part) {
            $base = intdiv(count($positions), 3);
            foreach ($part->part->mesh->positions as $value) {
                $positions[] = $value;
            }
            foreach ($part->part->mesh->triangles as $v) {
                $triangles[] = $base + $v;
            }
        }

        return TriangleTree::of($positions, $triangles);
    }

    /**
     * @return array{int, list<array{float, float, float}>} pairs of triangles, places
     */
    private static function between(TriangleTree $a, TriangleTree $b, Bounds $boxA, Bounds $boxB): array
    {
        $pairs = [];
        $where = [];
        foreach ([[$a, $b, $boxB, false], [$b, $a, $boxA, true]] as [$edges, $faces, $box, $swapped]) {
            $cast = new SegmentCast($faces);
            $p = $edges->positions;
            $tri = $edges->triangles;
            for ($t = 0, $n = count($tri); $t < $n; $t += 3) {
                for ($k = 0; $k < 3; $k++) {
                    $from = 3 * $tri[$t + $k];
                    $to = 3 * $tri[$t + ($k + 1) % 3];
                    [$x, $y, $z] = [$p[$from], $p[$from + 1], $p[$from + 2]];
                    [$dx, $dy, $dz] = [$p[$to] - $x, $p[$to + 1] - $y, $p[$to + 2] - $z];
                    if (max($x, $x + $dx) < $box->min[0] || min($x, $x + $dx) > $box->max[0] || max($y, $y + $dy) < $box->min[1] || min($y, $y + $dy) > $box->max[1] || max($z, $z + $dz) < $box->min[2] || min($z, $z + $dz) > $box->max[2]) {
                        continue;
                    }
                    $hits = $cast->all($x, $y, $z, $dx, $dy, $dz, self::TOUCH, 1.0 - self::TOUCH, 0);
                    for ($h = 0; $h < $hits; $h++) {
                        if (! self::isInside($faces, $cast->triangle[$h], $x + $cast->t[$h] * $dx, $y + $cast->t[$h] * $dy, $z + $cast->t[$h] * $dz)) {
                            continue;
                        }
                        $own = intdiv($t, 3);
                        $key = $swapped ? $cast->triangle[$h].' '.$own : $own.' '.$cast->triangle[$h];
                        if (! isset($pairs[$key])) {
                            $pairs[$key] = true;
                            if (count($where) < self::WHERE) {
                                $where[] = [$x + $cast->t[$h] * $dx, $y + $cast->t[$h] * $dy, $z + $cast->t[$h] * $dz];
                            }
                        }
                    }
                }
            }
        }

        return [count($pairs), $where];
    }

    /** Whether a place in the plane of a triangle lies off its border: what only runs along a border touches. */
    private static function isInside(TriangleTree $tree, int $triangle, float $x, float $y, float $z): bool
    {
        [$a, $b, $c] = CornerShares::of($tree->positions, $tree->triangles, $triangle, $x, $y, $z);

        return $a > self::TOUCH && $b > self::TOUCH && $c > self::TOUCH;
    }
}
