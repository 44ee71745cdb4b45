<?php

declare(strict_types=1);

namespace Anvil\Occlusion;

use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\SegmentCast;

/**
 * How much of what a set would be shaded by comes from other sets: the share of directions over its faces in which another set's
 * high poly stands. Directions are a cosine-weighted Fibonacci spread of 16 over each of some sample points.
 */
final class Occlusion
{
    private const DIRECTIONS = 16;

    /**
     * @param  list<SetSurfaces>  $others
     */
    public static function of(LowSurface $low, array $others, int $points): float
    {
        $samples = Samples::of($low, $points, true);
        $casts = [];
        $far = 0.0;
        foreach ($others as $other) {
            if ($other->hasHigh()) {
                $casts[] = new SegmentCast($other->high()->tree());
                $far = max($far, $other->highBounds()?->with($low->tree()->bounds() ?? $other->highBounds())->diagonal() ?? 0.0);
            }
        }
        $step = max(1, intdiv($samples->count(), $points));
        $met = $all = 0.0;
        for ($i = 0, $count = $samples->count(); $i < $count; $i += $step) {
            $f = 3 * $samples->triangle[$i];
            [$fx, $fy, $fz] = [$low->normals[$f], $low->normals[$f + 1], $low->normals[$f + 2]];
            foreach (self::directions($fx, $fy, $fz, self::DIRECTIONS, $i) as [$dx, $dy, $dz]) {
                $all += 1.0;
                foreach ($casts as $cast) {
                    if ($cast->any($samples->px[$i], $samples->py[$i], $samples->pz[$i], $dx, $dy, $dz, 1e-6 * $far, $far)) {
                        $met += 1.0;
                        break;
                    }
                }
            }
        }

        return $all > 0.0 ? $met / $all : 0.0;
    }

    /**
     * A cosine-weighted Fibonacci spread over a face, turned by a number so that no two places share their gaps.
     *
     * @param  float  $fx  unit face normal
     * @return list<array{float, float, float}> unit
     */
    public static function directions(float $fx, float $fy, float $fz, int $count, int $turn): array
    {
        $sign = $fz >= 0.0 ? 1.0 : -1.0;
        $a = -1.0 / ($sign + $fz);
        $b = $fx * $fy * $a;
        $out = [];
        for ($k = 0; $k < $count; $k++) {
            $r2 = ($k + 0.5) / $count;
            $angle = deg2rad(137.508 * ($k + $turn));
            $x = sqrt($r2) * cos($angle);
            $y = sqrt($r2) * sin($angle);
            $z = sqrt(1 - $r2);
            $out[] = [
                $x * (1.0 + $sign * $fx * $fx * $a) + $y * $b + $z * $fx,
                $x * $sign * $b + $y * ($sign + $fy * $fy * $a) + $z * $fy,
                -$x * $sign * $fx - $y * $fy + $z * $fz,
            ];
        }

        return $out;
    }
}
