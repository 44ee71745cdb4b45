<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\TriangleTree;

/**
 * Misses of an open low poly that are joined over its faces to its border: it reaches past the outline of its high there, as a card does
 * past its leaf (METHODS, "Margin"). Samples are joined where they lie no further apart than one and a half times their spacing on the
 * surface, on one shell and one side of it.
 */
final class Margins
{
    /** Of their spacing: places no further apart than this are joined, and no further from a border lie at it. */
    public const JOINED = 1.5;

    /**
     * @param  list<int>  $misses  numbers of samples that meet nothing
     * @param  array<int, true>  $free  low shells on which all misses are margin: cards, and those that loose shells alone stand over
     * @return array<int, true> those of them that are margin
     */
    public static function of(LowSurface $low, Samples $samples, array $misses, array $free = []): array
    {
        $here = [];
        foreach ($free === [] ? [] : $misses as $k => $i) {
            if (isset($free[$low->shells[$samples->triangle[$i]]])) {
                $here[$i] = true;
                unset($misses[$k]);
            }
        }

        return $here + self::joined($low, $samples, array_values($misses));
    }

    /**
     * @param  list<int>  $misses
     * @return array<int, true>
     */
    private static function joined(LowSurface $low, Samples $samples, array $misses): array
    {
        $borders = self::borderTree($low);
        if ($misses === [] || $borders === null) {
            return [];
        }
        $here = array_count_values($samples->triangle);
        $spacing = [];
        foreach ($misses as $i) {
            $t = $samples->triangle[$i];
            $spacing[] = sqrt($low->areas[$t] / $here[$t]);
        }
        // Where a triangle is larger than its share of samples, they lie closer; the wide ones decide.
        $sorted = $spacing;
        sort($sorted);
        $r = self::JOINED * $sorted[(int) floor(0.95 * (count($sorted) - 1))];
        if ($r <= 0.0) {
            return [];
        }
        $cells = [];
        foreach ($misses as $i) {
            $cells[self::cell($samples, $i, $r, 0, 0, 0)][] = $i;
        }
        $nearest = new NearestPoint($borders);
        $out = [];
        $queue = [];
        foreach ($misses as $k => $i) {
            if ($nearest->anyWithin($samples->px[$i], $samples->py[$i], $samples->pz[$i], max($r, self::JOINED * $spacing[$k]))) {
                $out[$i] = true;
                $queue[] = $i;
            }
        }
        $n = $low->normals;
        for ($head = 0; $head < count($queue); $head++) {
            $i = $queue[$head];
            $t = $samples->triangle[$i];
            for ($dx = -1; $dx <= 1; $dx++) {
                for ($dy = -1; $dy <= 1; $dy++) {
                    for ($dz = -1; $dz <= 1; $dz++) {
                        $key = self::cell($samples, $i, $r, $dx, $dy, $dz);
                        foreach ($cells[$key] ?? [] as $place => $j) {
                            if (isset($out[$j])) {
                                unset($cells[$key][$place]);

                                continue;
                            }
                            $u = $samples->triangle[$j];
                            $square = ($samples->px[$i] - $samples->px[$j]) ** 2 + ($samples->py[$i] - $samples->py[$j]) ** 2 + ($samples->pz[$i] - $samples->pz[$j]) ** 2;
                            if ($square <= $r * $r && ($t === $u || ($low->shells[$t] === $low->shells[$u] && $n[3 * $t] * $n[3 * $u] + $n[3 * $t + 1] * $n[3 * $u + 1] + $n[3 * $t + 2] * $n[3 * $u + 2] > 0.0))) {
                                $out[$j] = true;
                                $queue[] = $j;
                                unset($cells[$key][$place]);
                            }
                        }
                    }
                }
            }
        }

        return $out;
    }

    private static function cell(Samples $samples, int $i, float $r, int $dx, int $dy, int $dz): string
    {
        return ((int) floor($samples->px[$i] / $r) + $dx).' '.((int) floor($samples->py[$i] / $r) + $dy).' '.((int) floor($samples->pz[$i] / $r) + $dz);
    }

    /** The border edges as triangles without width; null where there are none. */
    public static function borderTree(LowSurface $low): ?TriangleTree
    {
        $triangles = [];
        foreach ($low->borders as $half => $isBorder) {
            if ($isBorder) {
                $t = $half - $half % 3;
                array_push($triangles, $low->triangles[$half], $low->triangles[$t + ($half + 1) % 3], $low->triangles[$t + ($half + 1) % 3]);
            }
        }

        return $triangles === [] ? null : TriangleTree::of($low->positions, $triangles);
    }
}
