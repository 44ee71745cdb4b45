<?php

declare(strict_types=1);

namespace Anvil\Cage;

use Anvil\Rays\LowSurface;
use Anvil\Rays\RayField;
use Anvil\Spatial\NearestPoint;

/**
 * Directions in which the vertices of a cage stand so that rays go straight along the faces where details are, and keep to the averaged direction where two such faces meet.
 * Corner order and topology are the low poly's, and vertices that weld stay one: neighbours' cages still meet.
 */
final class StraightCage
{
    /** How far a vertex turns from its averaged direction to the normal of the face with details: all the way, its other faces would lie on the cage. */
    private const SHARE = 0.85;

    /** Faces that turn less are one. */
    private const FLAT = 0.9998;

    /** Samples that are looked at. */
    private const SAMPLES = 8192;

    /**
     * @param  array<int, array{float, float, float}>  $directions  by number of the low surface's, of those that turn; unit
     * @param  array<int, float>  $longer  by what their distances grow, so that over the face with details the cage stands as high as before
     */
    private function __construct(public readonly array $directions, public readonly array $longer)
    {
    }

    /**
     * @param  array<int, float>  $distance  of the cage that is to be straightened, by direction
     * @param  list<array{float, float, float}>  $leaning  places of details that lean
     * @param  float  $least  distance of a vertex over which nothing stands
     */
    public static function of(RayField $field, array $distance, array $leaning, float $least): self
    {
        $low = $field->low;
        $flat = self::flat($low);
        $detailed = self::detailed($field, $flat, $leaning);
        $faces = [];
        foreach ($low->corners as $k => $v) {
            $faces[$v][$flat[intdiv($k, 3)]] = intdiv($k, 3);
        }
        $out = $longer = [];
        foreach ($faces as $v => $around) {
            $own = array_intersect_key($around, $detailed);
            // Between two faces with details, and inside one, it stays as it is.
            if (count($own) !== 1 || count($around) < 2 || ($distance[$v] ?? 0.0) <= $least) {
                continue;
            }
            $f = 3 * reset($own);
            $n = $low->normals;
            $a = [$low->directions[3 * $v], $low->directions[3 * $v + 1], $low->directions[3 * $v + 2]];
            $d = [
                (1 - self::SHARE) * $a[0] + self::SHARE * $n[$f], (1 - self::SHARE) * $a[1] + self::SHARE * $n[$f + 1], (1 - self::SHARE) * $a[2] + self::SHARE * $n[$f + 2],
            ];
            $length = sqrt($d[0] ** 2 + $d[1] ** 2 + $d[2] ** 2);
            $d = [$d[0] / $length, $d[1] / $length, $d[2] / $length];
            $was = $a[0] * $n[$f] + $a[1] * $n[$f + 1] + $a[2] * $n[$f + 2];
            $is = $d[0] * $n[$f] + $d[1] * $n[$f + 1] + $d[2] * $n[$f + 2];
            if ($length < 1e-6 || $was <= 0.05 || $is <= $was) {
                continue;
            }
            foreach ($around as $t) {
                // No other face may come to lie behind the cage.
                if ($d[0] * $n[3 * $t] + $d[1] * $n[3 * $t + 1] + $d[2] * $n[3 * $t + 2] < 0.02) {
                    continue 2;
                }
            }
            $out[$v] = $d;
            $longer[$v] = $was / $is;
        }

        return new self($out, $longer);
    }

    /**
     * How far details move sideways through a cage: over each flat face with details the spread of heights times the mean lean of its rays; the greatest of all.
     *
     * @param  list<float>  $cage  positions side by side with those of the low surface
     * @param  list<array{float, float, float}>  $leaning  places of details that lean
     */
    public static function lean(RayField $field, array $cage, array $leaning): float
    {
        $low = $field->low;
        $flat = self::flat($low);
        $detailed = self::detailed($field, $flat, $leaning);
        $s = $field->samples;
        $sums = [];
        $step = max(1, intdiv($s->count(), self::SAMPLES));
        for ($i = 0, $count = $s->count(); $i < $count; $i += $step) {
            $t = $s->triangle[$i];
            $group = $flat[$t];
            $height = self::own($field, $i);
            if (! isset($detailed[$group]) || $height === null) {
                continue;
            }
            [$u, $v, $w] = $field->corners($i);
            $d = [0.0, 0.0, 0.0];
            foreach ([$u, $v, $w] as $k => $share) {
                $at = 3 * $low->triangles[3 * $t + $k];
                foreach ([0, 1, 2] as $axis) {
                    $d[$axis] += $share * ($cage[$at + $axis] - $low->positions[$at + $axis]);
                }
            }
            $up = $d[0] * $low->normals[3 * $t] + $d[1] * $low->normals[3 * $t + 1] + $d[2] * $low->normals[3 * $t + 2];
            $along = sqrt(max(0.0, $d[0] ** 2 + $d[1] ** 2 + $d[2] ** 2 - $up * $up));
            $rise = $height * ($s->nx[$i] * $low->normals[3 * $t] + $s->ny[$i] * $low->normals[3 * $t + 1] + $s->nz[$i] * $low->normals[3 * $t + 2]);
            $sums[$group] ??= [0.0, 0, $rise, $rise];
            $sums[$group][0] += $up > 1e-12 ? $along / $up : 0.0;
            $sums[$group][1]++;
            $sums[$group][2] = min($sums[$group][2], $rise);
            $sums[$group][3] = max($sums[$group][3], $rise);
        }
        $worst = 0.0;
        foreach ($sums as [$lean, $number, $least, $most]) {
            $worst = max($worst, ($most - $least) * $lean / $number);
        }

        return $worst;
    }

    /** The height at which a sample meets its own surface. */
    private static function own(RayField $field, int $sample): ?float
    {
        for ($h = $field->start[$sample]; $h < $field->start[$sample + 1]; $h++) {
            if ($field->kinds[$h] === 1) {
                return $field->heights[$h];
            }
        }

        return null;
    }

    /**
     * @return list<int> triangle → the first one of those that lie flat together with it
     */
    private static function flat(LowSurface $low): array
    {
        $root = [];
        $n = $low->normals;
        for ($t = 0, $count = $low->triangleCount(); $t < $count; $t++) {
            $root[$t] = $t;
        }
        $find = static function (int $t) use (&$root): int {
            while ($root[$t] !== $t) {
                $t = $root[$t] = $root[$root[$t]];
            }

            return $t;
        };
        for ($t = 0; $t < $count; $t++) {
            foreach ($low->around($t) as $other) {
                if ($n[3 * $t] * $n[3 * $other] + $n[3 * $t + 1] * $n[3 * $other + 1] + $n[3 * $t + 2] * $n[3 * $other + 2] >= self::FLAT) {
                    [$a, $b] = [$find($t), $find($other)];
                    $root[max($a, $b)] = min($a, $b);
                }
            }
        }
        $out = [];
        for ($t = 0; $t < $count; $t++) {
            $out[] = $find($t);
        }

        return $out;
    }

    /**
     * @param  list<int>  $flat
     * @param  list<array{float, float, float}>  $leaning
     * @return array<int, true> flat faces over which details lean
     */
    private static function detailed(RayField $field, array $flat, array $leaning): array
    {
        $nearest = new NearestPoint($field->low->tree());
        $out = [];
        foreach ($leaning as [$x, $y, $z]) {
            $t = $nearest->find($x, $y, $z);
            if ($t >= 0) {
                $out[$flat[$t]] = true;
            }
        }

        return $out;
    }
}
