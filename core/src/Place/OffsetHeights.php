<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Geometry\SurfacePoints;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;

/**
 * How high the high surface that faces them stands over points of a low poly that is moved, along its face normals.
 */
final class OffsetHeights
{
    /** A side with less than this share of the points says nothing. */
    private const LEAST = 0.015;

    /** @var list<float|null> of each point; null where nothing is met */
    public array $heights = [];

    /** The motion that they were measured under. */
    public Motion $motion;

    private readonly SegmentCast $cast;

    /**
     * @param  array{float, float, float}  $centre  about which motions turn and scale
     * @param  float  $d  diagonal of the low poly
     */
    public function __construct(public readonly SurfacePoints $points, TriangleTree $high, public readonly array $centre, public readonly float $d)
    {
        $this->cast = new SegmentCast($high);
        $this->motion = new Motion;
    }

    /**
     * Heights of all points, nearest surface either way within a share of d; the mean of their sizes, a miss counted as that share.
     */
    public function measure(Motion $motion, float $within): float
    {
        $reach = $within * $this->d;
        $this->motion = $motion;
        $this->heights = [];
        $cast = $this->cast;
        [$cx, $cy, $cz] = $this->centre;
        [$sx, $sy, $sz] = $motion->shift;
        $m = $motion->turn;
        $factor = $motion->factor;
        $at = $this->points->at;
        $normals = $this->points->normals;
        for ($i = 0, $n = 3 * $this->points->count(); $i < $n; $i += 3) {
            $x = $factor * ($at[$i] - $cx);
            $y = $factor * ($at[$i + 1] - $cy);
            $z = $factor * ($at[$i + 2] - $cz);
            $nx = $m[0] * $normals[$i] + $m[1] * $normals[$i + 1] + $m[2] * $normals[$i + 2];
            $ny = $m[3] * $normals[$i] + $m[4] * $normals[$i + 1] + $m[5] * $normals[$i + 2];
            $nz = $m[6] * $normals[$i] + $m[7] * $normals[$i + 1] + $m[8] * $normals[$i + 2];
            $hits = $cast->all(
                $m[0] * $x + $m[1] * $y + $m[2] * $z + $cx + $sx, $m[3] * $x + $m[4] * $y + $m[5] * $z + $cy + $sy, $m[6] * $x + $m[7] * $y + $m[8] * $z + $cz + $sz,
                $nx, $ny, $nz, -$reach, $reach, 1,
            );
            $best = null;
            for ($k = 0; $k < $hits; $k++) {
                if ($best === null || abs($cast->t[$k]) < abs($best)) {
                    $best = $cast->t[$k];
                }
            }
            $this->heights[] = $best;
        }

        return $this->cost($within);
    }

    private function cost(float $cap): float
    {
        $cap *= $this->d;
        $sum = 0.0;
        foreach ($this->heights as $height) {
            $sum += $height === null ? $cap : min($cap, abs($height));
        }

        return $sum / max(1, count($this->heights));
    }

    /** How many points meet something. */
    public function met(): int
    {
        return count(array_filter($this->heights, static fn (?float $height): bool => $height !== null));
    }

    /** A side with fewer points says nothing. */
    public function least(): float
    {
        return max(4, self::LEAST * $this->points->count());
    }

    /**
     * @param  list<int>  $points
     */
    public function medianDistance(array $points): float
    {
        return self::median(array_map(fn (int $i): float => abs($this->heights[$i] ?? $this->d), $points));
    }

    /**
     * @param  array{float, float, float}  $axis
     * @return list<float> each point's normal along the axis, as the turn has it
     */
    public function leans(array $axis): array
    {
        $m = $this->motion->turn;
        $x = $m[0] * $axis[0] + $m[3] * $axis[1] + $m[6] * $axis[2];
        $y = $m[1] * $axis[0] + $m[4] * $axis[1] + $m[7] * $axis[2];
        $z = $m[2] * $axis[0] + $m[5] * $axis[1] + $m[8] * $axis[2];
        $n = $this->points->normals;
        $out = [];
        for ($i = 0, $count = count($n); $i < $count; $i += 3) {
            $out[] = $n[$i] * $x + $n[$i + 1] * $y + $n[$i + 2] * $z;
        }

        return $out;
    }

    /**
     * @param  list<float>  $values
     */
    public static function median(array $values): float
    {
        sort($values);
        $count = count($values);
        if ($count === 0) {
            return 0.0;
        }
        $middle = intdiv($count, 2);

        return $count % 2 === 1 ? $values[$middle] : ($values[$middle - 1] + $values[$middle]) / 2;
    }
}
