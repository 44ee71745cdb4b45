<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Geometry\Bounds;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;

/**
 * How much of the sky a place sees: the share of fixed directions over it in which nothing stands, weighted by their cosine (METHODS, "Proof": the Fibonacci
 * hemisphere z = (k+½)/n, azimuth k·137.508° from a×n, a = +Y, or +X where |n·Y| > 0.9).
 */
final class Sky
{
    /** A box that is further than half its diagonal is one. */
    private const FAR = 0.1;

    /** @var list<float> */
    private array $x = [];

    /** @var list<float> */
    private array $y = [];

    /** @var list<float> */
    private array $z = [];

    /** @var list<array{SegmentCast, TriangleTree, array{float, float, float}}> */
    private readonly array $casters;

    private readonly float $far;

    private readonly float $all;

    /**
     * @param  list<array{TriangleTree, array{float, float, float}}>  $shading  what shades, and how far each stands from where its tree says
     * @param  Bounds|null  $bounds  of all that shades, where it stands
     */
    public function __construct(array $shading, ?Bounds $bounds, private readonly int $directions = 64)
    {
        $this->casters = array_map(static fn (array $one): array => [new SegmentCast($one[0]), ...$one], $shading);
        $sum = 0.0;
        for ($k = 0; $k < $directions; $k++) {
            $z = ($k + 0.5) / $directions;
            $angle = deg2rad(137.508 * $k);
            $r = sqrt(1 - $z * $z);
            $this->x[] = $r * cos($angle);
            $this->y[] = $r * sin($angle);
            $this->z[] = $z;
            $sum += $z;
        }
        $this->all = $sum;
        $this->far = 2 * ($bounds?->diagonal() ?? 0.0) + 1e-30;
    }

    /**
     * @param  float  $px  the place, off the surface already
     * @param  float  $nx  unit normal there
     * @return float 0 nothing, 1 all
     */
    public function seen(float $px, float $py, float $pz, float $nx, float $ny, float $nz): float
    {
        // a×n for a = +Y, or +X.
        [$ux, $uy, $uz] = abs($ny) > 0.9 ? [0.0, -$nz, $ny] : [$nz, 0.0, -$nx];
        $length = sqrt($ux * $ux + $uy * $uy + $uz * $uz);
        [$ux, $uy, $uz] = [$ux / $length, $uy / $length, $uz / $length];
        [$vx, $vy, $vz] = [$ny * $uz - $nz * $uy, $nz * $ux - $nx * $uz, $nx * $uy - $ny * $ux];
        $count = $this->directions;
        $dx = $dy = $dz = $ix = $iy = $iz = [];
        for ($k = 0; $k < $count; $k++) {
            $x = $this->x[$k];
            $y = $this->y[$k];
            $z = $this->z[$k];
            $dx[] = $one = $x * $ux + $y * $vx + $z * $nx;
            $ix[] = $one > 1e-30 || $one < -1e-30 ? 1.0 / $one : 1e30;
            $dy[] = $one = $x * $uy + $y * $vy + $z * $ny;
            $iy[] = $one > 1e-30 || $one < -1e-30 ? 1.0 / $one : 1e30;
            $dz[] = $one = $x * $uz + $y * $vz + $z * $nz;
            $iz[] = $one > 1e-30 || $one < -1e-30 ? 1.0 / $one : 1e30;
        }
        $far = $this->far;
        $slack = 1e-12 * $far;
        $heights = $this->z;
        // Directions that are still free, from the lowest over the surface.
        $open = range(0, $count - 1);
        foreach ($this->casters as [$cast, $tree, $at]) {
            [$ox, $oy, $oz] = [$px - $at[0], $py - $at[1], $pz - $at[2]];
            [$nearby, $shares] = self::over($tree, $ox, $oy, $oz, $nx, $ny, $nz);
            foreach ($nearby as $i => $node) {
                // Above this share of the normal no direction reaches what lies below the node.
                $highest = $shares[$i];
                $end = $tree->skip[$node];
                $minX = $tree->minX[$node] - $ox;
                $minY = $tree->minY[$node] - $oy;
                $minZ = $tree->minZ[$node] - $oz;
                $maxX = $tree->maxX[$node] - $ox;
                $maxY = $tree->maxY[$node] - $oy;
                $maxZ = $tree->maxZ[$node] - $oz;
                $left = [];
                foreach ($open as $k) {
                    if ($heights[$k] > $highest) {
                        $left[] = $k;

                        continue;
                    }
                    // The line through the box: where it enters and leaves it.
                    $x = $ix[$k];
                    $enter = 0.0;
                    $leave = $far;
                    if ($x >= 0.0) {
                        $a = $minX * $x;
                        $b = $maxX * $x;
                    } else {
                        $a = $maxX * $x;
                        $b = $minX * $x;
                    }
                    if ($a > $enter) {
                        $enter = $a;
                    }
                    if ($b < $leave) {
                        $leave = $b;
                    }
                    $x = $iy[$k];
                    if ($x >= 0.0) {
                        $a = $minY * $x;
                        $b = $maxY * $x;
                    } else {
                        $a = $maxY * $x;
                        $b = $minY * $x;
                    }
                    if ($a > $enter) {
                        $enter = $a;
                    }
                    if ($b < $leave) {
                        $leave = $b;
                    }
                    $x = $iz[$k];
                    if ($x >= 0.0) {
                        $a = $minZ * $x;
                        $b = $maxZ * $x;
                    } else {
                        $a = $maxZ * $x;
                        $b = $minZ * $x;
                    }
                    if ($a > $enter) {
                        $enter = $a;
                    }
                    if ($b < $leave) {
                        $leave = $b;
                    }
                    if ($enter > $leave + $slack || ! $cast->anyBelow($ox, $oy, $oz, $dx[$k], $dy[$k], $dz[$k], 0.0, $far, $node, $end)) {
                        $left[] = $k;
                    }
                }
                $open = $left;
            }
        }
        $free = 0.0;
        foreach ($open as $k) {
            $free += $this->z[$k];
        }

        return $free / $this->all;
    }

    /**
     * What of a tree stands over the plane of a place: nodes that together hold all of it, the nearest ones down to their leaves, each with the greatest
     * share of the normal that a direction towards it can have.
     *
     * @return array{list<int>, list<float>} nodes, and the share of each
     */
    private static function over(TriangleTree $tree, float $px, float $py, float $pz, float $nx, float $ny, float $nz): array
    {
        $topX = $nx >= 0.0 ? $tree->maxX : $tree->minX;
        $topY = $ny >= 0.0 ? $tree->maxY : $tree->minY;
        $topZ = $nz >= 0.0 ? $tree->maxZ : $tree->minZ;
        $minX = $tree->minX;
        $minY = $tree->minY;
        $minZ = $tree->minZ;
        $maxX = $tree->maxX;
        $maxY = $tree->maxY;
        $maxZ = $tree->maxZ;
        $skip = $tree->skip;
        $second = $tree->second;
        $first = $tree->first;
        $size = $tree->size;
        $order = $tree->order;
        $triangles = $tree->triangles;
        $p = $tree->positions;
        $level = $px * $nx + $py * $ny + $pz * $nz;
        $out = $shares = [];
        $node = 0;
        $nodes = count($skip);
        while ($node < $nodes) {
            $top = $topX[$node] * $nx + $topY[$node] * $ny + $topZ[$node] * $nz - $level;
            if ($top <= 0.0) {
                $node = $skip[$node];

                continue;
            }
            // The distance to the box: from afar it is not cut up.
            $x = $px < $minX[$node] ? $minX[$node] - $px : ($px > $maxX[$node] ? $px - $maxX[$node] : 0.0);
            $y = $py < $minY[$node] ? $minY[$node] - $py : ($py > $maxY[$node] ? $py - $maxY[$node] : 0.0);
            $z = $pz < $minZ[$node] ? $minZ[$node] - $pz : ($pz > $maxZ[$node] ? $pz - $maxZ[$node] : 0.0);
            $square = $x * $x + $y * $y + $z * $z;
            if ($second[$node] > 0) {
                $sx = $maxX[$node] - $minX[$node];
                $sy = $maxY[$node] - $minY[$node];
                $sz = $maxZ[$node] - $minZ[$node];
                if (self::FAR * ($sx * $sx + $sy * $sy + $sz * $sz) > $square) {
                    $node++;

                    continue;
                }
            } else {
                $top = 0.0;
                for ($k = $first[$node], $end = $k + $size[$node]; $k < $end; $k++) {
                    $i = 3 * $order[$k];
                    for ($c = $i; $c < $i + 3; $c++) {
                        $v = 3 * $triangles[$c];
                        $height = $p[$v] * $nx + $p[$v + 1] * $ny + $p[$v + 2] * $nz - $level;
                        if ($height > $top) {
                            $top = $height;
                        }
                    }
                }
                if ($top <= 0.0) {
                    $node = $skip[$node];

                    continue;
                }
            }
            $out[] = $node;
            $shares[] = $square > $top * $top ? $top / sqrt($square) : 1.0;
            $node = $skip[$node];
        }

        return [$out, $shares];
    }
}
