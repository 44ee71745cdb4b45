<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Spatial\SegmentCast;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Reach;
use Closure;

/**
 * Meets the lines of a set's samples with the high poly, its own and, where sets are not kept apart, the others'.
 */
final class Shooting
{
    /**
     * Every own hit, and whether it belongs.
     */
    public static function own(LowSurface $low, HighSurface $high, Samples $s, RaySettings $rays, float $d): Hits
    {
        $cast = new SegmentCast($high->treeFor($s->count()));
        $belonging = new Belonging($low, $d);
        $facing = $rays->backFaces ? 0 : 1;
        $p = $high->positions;
        $triangles = $high->triangles;
        $start = $heights = $kinds = $faces = [];
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $start[] = count($heights);
            $px = $s->px[$i];
            $py = $s->py[$i];
            $pz = $s->pz[$i];
            $nx = $s->nx[$i];
            $ny = $s->ny[$i];
            $nz = $s->nz[$i];
            $hits = $cast->all($px, $py, $pz, $nx, $ny, $nz, -$d, $d, $facing);
            if ($hits === 0) {
                continue;
            }
            $order = $cast->t;
            $numbers = $cast->triangle;
            if ($hits > 1) {
                array_multisort($order, SORT_DESC, $numbers);
            }
            $found = false;
            for ($h = 0; $h < $hits; $h++) {
                $t = $order[$h];
                if ($found) {
                    $heights[] = $t;
                    $faces[] = $numbers[$h];
                    $kinds[] = Hits::UNKNOWN;

                    continue;
                }
                $k = 3 * $numbers[$h];
                $a = 3 * $triangles[$k];
                $b = 3 * $triangles[$k + 1];
                $c = 3 * $triangles[$k + 2];
                $ux = $p[$b] - $p[$a];
                $uy = $p[$b + 1] - $p[$a + 1];
                $uz = $p[$b + 2] - $p[$a + 2];
                $vx = $p[$c] - $p[$a];
                $vy = $p[$c + 1] - $p[$a + 1];
                $vz = $p[$c + 2] - $p[$a + 2];
                $mx = $uy * $vz - $uz * $vy;
                $my = $uz * $vx - $ux * $vz;
                $mz = $ux * $vy - $uy * $vx;
                $m = sqrt($mx * $mx + $my * $my + $mz * $mz);
                $m = $m > 0.0 ? 1.0 / $m : 0.0;
                $heights[] = $t;
                $faces[] = $numbers[$h];
                $found = $belonging->holds($s->triangle[$i], $px, $py, $pz, $px + $t * $nx, $py + $t * $ny, $pz + $t * $nz, $mx * $m, $my * $m, $mz * $m, $mx * $nx + $my * $ny + $mz * $nz > 0.0);
                $kinds[] = $found ? 1 : 0;
            }
        }
        $start[] = count($heights);

        return new Hits($start, $heights, $kinds, $faces, self::belongs($s, $high, $belonging));
    }

    /**
     * The hit that each sample takes at a reach, and of samples that take none all that their lines meet: short lines cost little.
     */
    public static function taken(LowSurface $low, HighSurface $high, Samples $s, RaySettings $rays, float $d, Reach $reach): Hits
    {
        $cast = new SegmentCast($high->treeFor($s->count()));
        $facing = $rays->backFaces ? 0 : 1;
        $start = $heights = $faces = [];
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $start[] = count($heights);
            $first = $cast->first($s->px[$i], $s->py[$i], $s->pz[$i], $s->nx[$i], $s->ny[$i], $s->nz[$i], -$reach->in, $reach->out, $facing);
            if ($first < 0) {
                $cast->all($s->px[$i], $s->py[$i], $s->pz[$i], $s->nx[$i], $s->ny[$i], $s->nz[$i], -$d, $d, $facing);
            }
            $order = $cast->t;
            $numbers = $cast->triangle;
            array_multisort($order, SORT_DESC, $numbers);
            foreach ($order as $h => $t) {
                $heights[] = $t;
                $faces[] = $numbers[$h];
            }
        }
        $start[] = count($heights);

        return new Hits($start, $heights, array_fill(0, count($heights), Hits::UNKNOWN), $faces, self::belongs($s, $high, new Belonging($low, $d)));
    }

    /**
     * @return Closure(int, float, int): bool whether what a sample meets at a height, a high triangle, belongs to it
     */
    private static function belongs(Samples $s, HighSurface $high, Belonging $belonging): Closure
    {
        return static function (int $i, float $t, int $face) use ($s, $high, $belonging): bool {
            [$mx, $my, $mz] = $high->normal($face);

            return $belonging->holds($s->triangle[$i], $s->px[$i], $s->py[$i], $s->pz[$i], $s->px[$i] + $t * $s->nx[$i], $s->py[$i] + $t * $s->ny[$i], $s->pz[$i] + $t * $s->nz[$i], $mx, $my, $mz, $mx * $s->nx[$i] + $my * $s->ny[$i] + $mz * $s->nz[$i] > 0.0);
        };
    }

    /**
     * Where sets are not kept apart, the others' high poly stands in the way at any reach: its hits join the lists.
     *
     * @param  list<SetSurfaces>  $others
     */
    public static function withOthers(Hits $own, LowSurface $low, Samples $s, array $others, RaySettings $rays, float $d): Hits
    {
        $near = $low->tree()->bounds()?->grown($d);
        $casts = [];
        foreach ($others as $other) {
            if ($near !== null && $other->hasHigh() && $other->highBounds()?->meets($near) === true) {
                $casts[] = new SegmentCast($other->high()->tree());
            }
        }
        if ($casts === []) {
            return $own;
        }
        $facing = $rays->backFaces ? 0 : 1;
        $start = $heights = $kinds = $faces = [];
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $start[] = count($heights);
            $all = [];
            foreach ($casts as $cast) {
                if ($cast->all($s->px[$i], $s->py[$i], $s->pz[$i], $s->nx[$i], $s->ny[$i], $s->nz[$i], -$d, $d, $facing) > 0) {
                    foreach ($cast->t as $t) {
                        $all[] = [$t, -1, -1];
                    }
                }
            }
            $isMixed = $all !== [];
            for ($h = $own->start[$i]; $h < $own->start[$i + 1]; $h++) {
                $all[] = [$own->heights[$h], $own->kinds[$h], $own->faces[$h]];
            }
            if ($isMixed) {
                // At equal height the set's own counts first.
                usort($all, static fn (array $a, array $b): int => [$b[0], $b[1]] <=> [$a[0], $a[1]]);
            }
            foreach ($all as [$t, $kind, $face]) {
                $heights[] = $t;
                $kinds[] = $kind;
                $faces[] = $face;
            }
        }
        $start[] = count($heights);

        return new Hits($start, $heights, $kinds, $faces, $own->belongs);
    }
}
