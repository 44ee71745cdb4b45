<?php

declare(strict_types=1);

namespace Anvil\Spatial;

/**
 * Straight lines against a tree of triangles (T. Möller, B. Trumbore, "Fast, Minimum Storage Ray/Triangle Intersection", 1997).
 *
 * A line is `p + t·n` for `from ≤ t ≤ to`; `n` need not be unit. A triangle faces the ray, which travels along −n, when its normal
 * leans to `n`. Edges count to both of their triangles.
 */
final class SegmentCast
{
    /** Slack on barycentric coordinates, so that a line through a shared edge meets one of the two. */
    private const EDGE = 1e-9;

    /** @var list<float> heights of the last `all`, unordered */
    public array $t = [];

    /** @var list<int> triangle numbers of the last `all` */
    public array $triangle = [];

    /** The leaf of the tree in which `any` met something last. */
    public int $leaf = -1;

    public function __construct(private readonly TriangleTree $tree)
    {
    }

    /**
     * Every triangle that the line meets, into `t` and `triangle`.
     *
     * @param  int  $facing  1: only those facing the ray, 0: both sides
     */
    public function all(float $px, float $py, float $pz, float $nx, float $ny, float $nz, float $from, float $to, int $facing): int
    {
        $tree = $this->tree;
        $skip = $tree->skip;
        $second = $tree->second;
        $first = $tree->first;
        $size = $tree->size;
        $order = $tree->order;
        $triangles = $tree->triangles;
        $positions = $tree->positions;
        $hasPieces = $tree->hasPieces;
        $ix = $nx > 1e-30 || $nx < -1e-30 ? 1.0 / $nx : 1e30;
        $iy = $ny > 1e-30 || $ny < -1e-30 ? 1.0 / $ny : 1e30;
        $iz = $nz > 1e-30 || $nz < -1e-30 ? 1.0 / $nz : 1e30;
        if ($ix >= 0.0) {
            $nearX = $tree->minX;
            $farX = $tree->maxX;
        } else {
            $nearX = $tree->maxX;
            $farX = $tree->minX;
        }
        if ($iy >= 0.0) {
            $nearY = $tree->minY;
            $farY = $tree->maxY;
        } else {
            $nearY = $tree->maxY;
            $farY = $tree->minY;
        }
        if ($iz >= 0.0) {
            $nearZ = $tree->minZ;
            $farZ = $tree->maxZ;
        } else {
            $nearZ = $tree->maxZ;
            $farZ = $tree->minZ;
        }
        $foundT = [];
        $foundTriangle = [];
        $count = 0;
        $node = 0;
        $nodes = count($skip);
        // Boxes are met with a hair's slack: a flat box has no inside.
        $slack = 1e-12 * ($to - $from);
        while ($node < $nodes) {
            $enter = $from;
            $leave = $to;
            $a = ($nearX[$node] - $px) * $ix;
            $b = ($farX[$node] - $px) * $ix;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            $a = ($nearY[$node] - $py) * $iy;
            $b = ($farY[$node] - $py) * $iy;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            $a = ($nearZ[$node] - $pz) * $iz;
            $b = ($farZ[$node] - $pz) * $iz;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            if ($enter > $leave + $slack) {
                $node = $skip[$node];

                continue;
            }
            if ($second[$node] > 0) {
                $node++;

                continue;
            }
            for ($k = $first[$node], $end = $k + $size[$node]; $k < $end; $k++) {
                $triangle = $order[$k];
                $i = 3 * $triangle;
                $v = 3 * $triangles[$i];
                $ax = $positions[$v];
                $ay = $positions[$v + 1];
                $az = $positions[$v + 2];
                $v = 3 * $triangles[$i + 1];
                $e1x = $positions[$v] - $ax;
                $e1y = $positions[$v + 1] - $ay;
                $e1z = $positions[$v + 2] - $az;
                $v = 3 * $triangles[$i + 2];
                $e2x = $positions[$v] - $ax;
                $e2y = $positions[$v + 1] - $ay;
                $e2z = $positions[$v + 2] - $az;
                $hx = $ny * $e2z - $nz * $e2y;
                $hy = $nz * $e2x - $nx * $e2z;
                $hz = $nx * $e2y - $ny * $e2x;
                $det = $e1x * $hx + $e1y * $hy + $e1z * $hz;
                // det = −n·(e1×e2): negative where the triangle faces the ray.
                if ($det >= 0.0 && ($facing === 1 || $det === 0.0)) {
                    continue;
                }
                $f = 1.0 / $det;
                $sx = $px - $ax;
                $sy = $py - $ay;
                $sz = $pz - $az;
                $u = $f * ($sx * $hx + $sy * $hy + $sz * $hz);
                if ($u < -self::EDGE || $u > 1.0 + self::EDGE) {
                    continue;
                }
                $qx = $sy * $e1z - $sz * $e1y;
                $qy = $sz * $e1x - $sx * $e1z;
                $qz = $sx * $e1y - $sy * $e1x;
                $w = $f * ($nx * $qx + $ny * $qy + $nz * $qz);
                if ($w < -self::EDGE || $u + $w > 1.0 + self::EDGE) {
                    continue;
                }
                $t = $f * ($e2x * $qx + $e2y * $qy + $e2z * $qz);
                if ($t >= $from && $t <= $to) {
                    // A triangle held in pieces may be come upon more than once.
                    if ($hasPieces) {
                        for ($found = 0; $found < $count; $found++) {
                            if ($foundTriangle[$found] === $triangle) {
                                continue 2;
                            }
                        }
                    }
                    $foundT[] = $t;
                    $foundTriangle[] = $triangle;
                    $count++;
                }
            }
            $node = $skip[$node];
        }
        $this->t = $foundT;
        $this->triangle = $foundTriangle;

        return $count;
    }

    /**
     * The triangle met first by a ray from `to` down to `from`; −1 for none. Its height is `t[0]`. Equal heights go to the lowest number.
     */
    public function first(float $px, float $py, float $pz, float $nx, float $ny, float $nz, float $from, float $to, int $facing): int
    {
        $tree = $this->tree;
        $skip = $tree->skip;
        $second = $tree->second;
        $first = $tree->first;
        $size = $tree->size;
        $order = $tree->order;
        $triangles = $tree->triangles;
        $positions = $tree->positions;
        $ix = $nx > 1e-30 || $nx < -1e-30 ? 1.0 / $nx : 1e30;
        $iy = $ny > 1e-30 || $ny < -1e-30 ? 1.0 / $ny : 1e30;
        $iz = $nz > 1e-30 || $nz < -1e-30 ? 1.0 / $nz : 1e30;
        if ($ix >= 0.0) {
            $nearX = $tree->minX;
            $farX = $tree->maxX;
        } else {
            $nearX = $tree->maxX;
            $farX = $tree->minX;
        }
        if ($iy >= 0.0) {
            $nearY = $tree->minY;
            $farY = $tree->maxY;
        } else {
            $nearY = $tree->maxY;
            $farY = $tree->minY;
        }
        if ($iz >= 0.0) {
            $nearZ = $tree->minZ;
            $farZ = $tree->maxZ;
        } else {
            $nearZ = $tree->maxZ;
            $farZ = $tree->minZ;
        }
        $best = -1;
        $node = 0;
        $nodes = count($skip);
        // Boxes are met with a hair's slack: a flat box has no inside.
        $slack = 1e-12 * ($to - $from);
        while ($node < $nodes) {
            $enter = $from;
            $leave = $to;
            $a = ($nearX[$node] - $px) * $ix;
            $b = ($farX[$node] - $px) * $ix;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            $a = ($nearY[$node] - $py) * $iy;
            $b = ($farY[$node] - $py) * $iy;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            $a = ($nearZ[$node] - $pz) * $iz;
            $b = ($farZ[$node] - $pz) * $iz;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            if ($enter > $leave + $slack) {
                $node = $skip[$node];

                continue;
            }
            if ($second[$node] > 0) {
                $node++;

                continue;
            }
            for ($k = $first[$node], $end = $k + $size[$node]; $k < $end; $k++) {
                $triangle = $order[$k];
                $i = 3 * $triangle;
                $v = 3 * $triangles[$i];
                $ax = $positions[$v];
                $ay = $positions[$v + 1];
                $az = $positions[$v + 2];
                $v = 3 * $triangles[$i + 1];
                $e1x = $positions[$v] - $ax;
                $e1y = $positions[$v + 1] - $ay;
                $e1z = $positions[$v + 2] - $az;
                $v = 3 * $triangles[$i + 2];
                $e2x = $positions[$v] - $ax;
                $e2y = $positions[$v + 1] - $ay;
                $e2z = $positions[$v + 2] - $az;
                $hx = $ny * $e2z - $nz * $e2y;
                $hy = $nz * $e2x - $nx * $e2z;
                $hz = $nx * $e2y - $ny * $e2x;
                $det = $e1x * $hx + $e1y * $hy + $e1z * $hz;
                // det = −n·(e1×e2): negative where the triangle faces the ray.
                if ($det >= 0.0 && ($facing === 1 || $det === 0.0)) {
                    continue;
                }
                $f = 1.0 / $det;
                $sx = $px - $ax;
                $sy = $py - $ay;
                $sz = $pz - $az;
                $u = $f * ($sx * $hx + $sy * $hy + $sz * $hz);
                if ($u < -self::EDGE || $u > 1.0 + self::EDGE) {
                    continue;
                }
                $qx = $sy * $e1z - $sz * $e1y;
                $qy = $sz * $e1x - $sx * $e1z;
                $qz = $sx * $e1y - $sy * $e1x;
                $w = $f * ($nx * $qx + $ny * $qy + $nz * $qz);
                if ($w < -self::EDGE || $u + $w > 1.0 + self::EDGE) {
                    continue;
                }
                $t = $f * ($e2x * $qx + $e2y * $qy + $e2z * $qz);
                // What is met raises the end that the line goes down to: boxes beneath it are not looked into any more.
                if ($t <= $to && ($t > $from || ($t === $from && ($best < 0 || $triangle < $best)))) {
                    $from = $t;
                    $best = $triangle;
                }
            }
            $node = $skip[$node];
        }
        $this->t = $best < 0 ? [] : [$from];
        $this->triangle = $best < 0 ? [] : [$best];

        return $best;
    }

    /**
     * Whether anything, either side, stands on the line between `from` and `to`; which leaf holds it, `leaf` tells.
     *
     * @param  int  $try  a leaf that is looked into first, since it was in the way of a line like this one; -1: none
     */
    public function any(float $px, float $py, float $pz, float $nx, float $ny, float $nz, float $from, float $to, int $try = -1): bool
    {
        return ($try >= 0 && $this->anyBelow($px, $py, $pz, $nx, $ny, $nz, $from, $to, $try, $try + 1)) || $this->anyBelow($px, $py, $pz, $nx, $ny, $nz, $from, $to, 0, count($this->tree->skip));
    }

    /**
     * The same, of a part of the tree: its nodes from one up to another.
     */
    public function anyBelow(float $px, float $py, float $pz, float $nx, float $ny, float $nz, float $from, float $to, int $node, int $nodes): bool
    {
        $tree = $this->tree;
        $skip = $tree->skip;
        $second = $tree->second;
        $order = $tree->order;
        $triangles = $tree->triangles;
        $positions = $tree->positions;
        $ix = $nx > 1e-30 || $nx < -1e-30 ? 1.0 / $nx : 1e30;
        $iy = $ny > 1e-30 || $ny < -1e-30 ? 1.0 / $ny : 1e30;
        $iz = $nz > 1e-30 || $nz < -1e-30 ? 1.0 / $nz : 1e30;
        $nearX = $ix >= 0.0 ? $tree->minX : $tree->maxX;
        $farX = $ix >= 0.0 ? $tree->maxX : $tree->minX;
        $nearY = $iy >= 0.0 ? $tree->minY : $tree->maxY;
        $farY = $iy >= 0.0 ? $tree->maxY : $tree->minY;
        $nearZ = $iz >= 0.0 ? $tree->minZ : $tree->maxZ;
        $farZ = $iz >= 0.0 ? $tree->maxZ : $tree->minZ;
        $first = $tree->first;
        $size = $tree->size;
        $slack = 1e-12 * ($to - $from);
        while ($node < $nodes) {
            $enter = $from;
            $leave = $to;
            $a = ($nearX[$node] - $px) * $ix;
            $b = ($farX[$node] - $px) * $ix;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            $a = ($nearY[$node] - $py) * $iy;
            $b = ($farY[$node] - $py) * $iy;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            $a = ($nearZ[$node] - $pz) * $iz;
            $b = ($farZ[$node] - $pz) * $iz;
            if ($a > $enter) {
                $enter = $a;
            }
            if ($b < $leave) {
                $leave = $b;
            }
            if ($enter > $leave + $slack) {
                $node = $skip[$node];

                continue;
            }
            if ($second[$node] > 0) {
                $node++;

                continue;
            }
            for ($k = $first[$node], $end = $k + $size[$node]; $k < $end; $k++) {
                $i = 3 * $order[$k];
                $v = 3 * $triangles[$i];
                $ax = $positions[$v];
                $ay = $positions[$v + 1];
                $az = $positions[$v + 2];
                $v = 3 * $triangles[$i + 1];
                $e1x = $positions[$v] - $ax;
                $e1y = $positions[$v + 1] - $ay;
                $e1z = $positions[$v + 2] - $az;
                $v = 3 * $triangles[$i + 2];
                $e2x = $positions[$v] - $ax;
                $e2y = $positions[$v + 1] - $ay;
                $e2z = $positions[$v + 2] - $az;
                $hx = $ny * $e2z - $nz * $e2y;
                $hy = $nz * $e2x - $nx * $e2z;
                $hz = $nx * $e2y - $ny * $e2x;
                $det = $e1x * $hx + $e1y * $hy + $e1z * $hz;
                if ($det === 0.0) {
                    continue;
                }
                $f = 1.0 / $det;
                $sx = $px - $ax;
                $sy = $py - $ay;
                $sz = $pz - $az;
                $u = $f * ($sx * $hx + $sy * $hy + $sz * $hz);
                if ($u < -self::EDGE || $u > 1.0 + self::EDGE) {
                    continue;
                }
                $qx = $sy * $e1z - $sz * $e1y;
                $qy = $sz * $e1x - $sx * $e1z;
                $qz = $sx * $e1y - $sy * $e1x;
                $w = $f * ($nx * $qx + $ny * $qy + $nz * $qz);
                if ($w < -self::EDGE || $u + $w > 1.0 + self::EDGE) {
                    continue;
                }
                $t = $f * ($e2x * $qx + $e2y * $qy + $e2z * $qz);
                if ($t >= $from && $t <= $to) {
                    $this->leaf = $node;

                    return true;
                }
            }
            $node = $skip[$node];
        }

        return false;
    }
}
