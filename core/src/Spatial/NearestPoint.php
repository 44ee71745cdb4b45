<?php

declare(strict_types=1);

namespace Anvil\Spatial;

/**
 * The place on a tree's triangles nearest to a point (point against triangle: C. Ericson, "Real-Time Collision Detection", 2005, 5.1.5).
 */
final class NearestPoint
{
    /** A stack's places: more than the tree's 39 bits of code and what equal codes add. */
    private const DEEP = 128;

    /** @var list<int> a stack that is copied for every question */
    private readonly array $empty;

    /** @var list<float> */
    private readonly array $noDistances;

    public float $x = 0.0;

    public float $y = 0.0;

    public float $z = 0.0;

    /** Squared distance of the last find. */
    public float $squared = INF;

    /** Where on the triangle the last find lies: the weights of its second and third corner. */
    public float $v = 0.0;

    public float $w = 0.0;

    private int $seed = -1;

    public function __construct(private readonly TriangleTree $tree)
    {
        $this->empty = array_fill(0, self::DEEP, 0);
        $this->noDistances = array_fill(0, self::DEEP, 0.0);
    }

    /**
     * The nearest triangle's number, −1 when none is within `within`. The previous find bounds the search from the start, so
     * queries in an order of neighbours are fast.
     */
    public function find(float $px, float $py, float $pz, float $within = INF): int
    {
        $best = $within < INF ? $within * $within : INF;
        $found = -1;
        $bestX = $bestY = $bestZ = $bestV = $bestW = 0.0;
        if ($this->seed >= 0) {
            $squared = $this->toTriangle($this->seed, $px, $py, $pz);
            if ($squared <= $best) {
                $best = $squared;
                $found = $this->seed;
                $bestX = $this->triedX;
                $bestY = $this->triedY;
                $bestZ = $this->triedZ;
                $bestV = $this->triedV;
                $bestW = $this->triedW;
            }
        }
        $tree = $this->tree;
        $positions = $tree->positions;
        $triangles = $tree->triangles;
        $order = $tree->order;
        $first = $tree->first;
        $size = $tree->size;
        $second = $tree->second;
        $minX = $tree->minX;
        $minY = $tree->minY;
        $minZ = $tree->minZ;
        $maxX = $tree->maxX;
        $maxY = $tree->maxY;
        $maxZ = $tree->maxZ;
        // Nodes wait with their boxes' distances, the nearer child on top: the first leaves reached bound the rest.
        $waiting = $this->empty;
        $distances = $this->noDistances;
        $top = count($second) > 0 ? 0 : -1;
        $distances[0] = 0.0;
        while ($top >= 0) {
            if ($distances[$top] > $best) {
                $top--;

                continue;
            }
            $node = $waiting[$top];
            $top--;
            $other = $second[$node];
            if ($other <= 0) {
                for ($k = $first[$node], $end = $k + $size[$node]; $k < $end; $k++) {
                    $triangle = $order[$k];
                    $i = 3 * $triangle;
                    $n = 3 * $triangles[$i];
                    $ax = $positions[$n];
                    $ay = $positions[$n + 1];
                    $az = $positions[$n + 2];
                    $n = 3 * $triangles[$i + 1];
                    $abx = $positions[$n] - $ax;
                    $aby = $positions[$n + 1] - $ay;
                    $abz = $positions[$n + 2] - $az;
                    $n = 3 * $triangles[$i + 2];
                    $acx = $positions[$n] - $ax;
                    $acy = $positions[$n + 1] - $ay;
                    $acz = $positions[$n + 2] - $az;
                    $apx = $px - $ax;
                    $apy = $py - $ay;
                    $apz = $pz - $az;
                    $d1 = $abx * $apx + $aby * $apy + $abz * $apz;
                    $d2 = $acx * $apx + $acy * $apy + $acz * $apz;
                    $v = 0.0;
                    $w = 0.0;
                    if ($d1 > 0.0 || $d2 > 0.0) {
                        $bpx = $apx - $abx;
                        $bpy = $apy - $aby;
                        $bpz = $apz - $abz;
                        $d3 = $abx * $bpx + $aby * $bpy + $abz * $bpz;
                        $d4 = $acx * $bpx + $acy * $bpy + $acz * $bpz;
                        $cpx = $apx - $acx;
                        $cpy = $apy - $acy;
                        $cpz = $apz - $acz;
                        $d5 = $abx * $cpx + $aby * $cpy + $abz * $cpz;
                        $d6 = $acx * $cpx + $acy * $cpy + $acz * $cpz;
                        if ($d3 >= 0.0 && $d4 <= $d3) {
                            $v = 1.0;
                        } elseif ($d6 >= 0.0 && $d5 <= $d6) {
                            $w = 1.0;
                        } else {
                            $vc = $d1 * $d4 - $d3 * $d2;
                            $vb = $d5 * $d2 - $d1 * $d6;
                            $va = $d3 * $d6 - $d5 * $d4;
                            if ($vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0) {
                                $v = $d1 - $d3 !== 0.0 ? $d1 / ($d1 - $d3) : 0.0;
                            } elseif ($vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0) {
                                $w = $d2 - $d6 !== 0.0 ? $d2 / ($d2 - $d6) : 0.0;
                            } elseif ($va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0) {
                                $e = $d4 - $d3 + $d5 - $d6;
                                $w = $e !== 0.0 ? ($d4 - $d3) / $e : 0.0;
                                $v = 1.0 - $w;
                            } else {
                                $e = $va + $vb + $vc;
                                if ($e !== 0.0) {
                                    $v = $vb / $e;
                                    $w = $vc / $e;
                                }
                            }
                        }
                    }
                    $qx = $ax + $v * $abx + $w * $acx;
                    $qy = $ay + $v * $aby + $w * $acy;
                    $qz = $az + $v * $abz + $w * $acz;
                    $ex = $px - $qx;
                    $ey = $py - $qy;
                    $ez = $pz - $qz;
                    $e = $ex * $ex + $ey * $ey + $ez * $ez;
                    if ($e < $best || ($e === $best && ($found < 0 || $triangle < $found))) {
                        $best = $e;
                        $found = $triangle;
                        $bestX = $qx;
                        $bestY = $qy;
                        $bestZ = $qz;
                        $bestV = $v;
                        $bestW = $w;
                    }
                }

                continue;
            }
            $node++;
            $d = 0.0;
            if ($px < $minX[$node]) {
                $e = $minX[$node] - $px;
                $d = $e * $e;
            } elseif ($px > $maxX[$node]) {
                $e = $px - $maxX[$node];
                $d = $e * $e;
            }
            if ($py < $minY[$node]) {
                $e = $minY[$node] - $py;
                $d += $e * $e;
            } elseif ($py > $maxY[$node]) {
                $e = $py - $maxY[$node];
                $d += $e * $e;
            }
            if ($pz < $minZ[$node]) {
                $e = $minZ[$node] - $pz;
                $d += $e * $e;
            } elseif ($pz > $maxZ[$node]) {
                $e = $pz - $maxZ[$node];
                $d += $e * $e;
            }
            $f = 0.0;
            if ($px < $minX[$other]) {
                $e = $minX[$other] - $px;
                $f = $e * $e;
            } elseif ($px > $maxX[$other]) {
                $e = $px - $maxX[$other];
                $f = $e * $e;
            }
            if ($py < $minY[$other]) {
                $e = $minY[$other] - $py;
                $f += $e * $e;
            } elseif ($py > $maxY[$other]) {
                $e = $py - $maxY[$other];
                $f += $e * $e;
            }
            if ($pz < $minZ[$other]) {
                $e = $minZ[$other] - $pz;
                $f += $e * $e;
            } elseif ($pz > $maxZ[$other]) {
                $e = $pz - $maxZ[$other];
                $f += $e * $e;
            }
            if ($d > $f) {
                $e = $d;
                $d = $f;
                $f = $e;
                $k = $node;
                $node = $other;
                $other = $k;
            }
            if ($f <= $best) {
                $top++;
                $waiting[$top] = $other;
                $distances[$top] = $f;
            }
            if ($d <= $best) {
                $top++;
                $waiting[$top] = $node;
                $distances[$top] = $d;
            }
        }
        $this->squared = INF;
        if ($found >= 0) {
            $this->seed = $found;
            $this->x = $bestX;
            $this->y = $bestY;
            $this->z = $bestZ;
            $this->v = $bestV;
            $this->w = $bestW;
            $this->squared = $best;
        }

        return $found;
    }

    /**
     * Whether the triangle that was found last, by any of the questions here, lies nearer to a point than every one of these.
     *
     * @param  list<int>  $triangles
     */
    public function lastIsNearerThan(array $triangles, float $px, float $py, float $pz): bool
    {
        if ($this->seed < 0) {
            return false;
        }
        $own = $this->toTriangle($this->seed, $px, $py, $pz);
        foreach ($triangles as $triangle) {
            if ($this->toTriangle($triangle, $px, $py, $pz) <= $own) {
                return false;
            }
        }

        return true;
    }

    /**
     * Whether a triangle that faces within 60° of a unit normal lies within a distance.
     *
     * @param  list<float>  $normals  unit, xyz a triangle
     */
    public function anyFacingWithin(float $px, float $py, float $pz, float $r, array $normals, float $mx, float $my, float $mz): bool
    {
        $best = $r * $r;
        if ($r <= 0.0) {
            return false;
        }
        $tree = $this->tree;
        if ($this->seed >= 0) {
            $i = 3 * $this->seed;
            if ($normals[$i] * $mx + $normals[$i + 1] * $my + $normals[$i + 2] * $mz >= 0.5 && $this->toTriangle($this->seed, $px, $py, $pz) <= $best) {
                return true;
            }
        }
        $skip = $tree->skip;
        $second = $tree->second;
        $minX = $tree->minX;
        $minY = $tree->minY;
        $minZ = $tree->minZ;
        $maxX = $tree->maxX;
        $maxY = $tree->maxY;
        $maxZ = $tree->maxZ;
        $node = 0;
        $nodes = count($skip);
        while ($node < $nodes) {
            $d = 0.0;
            if ($px < $minX[$node]) {
                $e = $minX[$node] - $px;
                $d = $e * $e;
            } elseif ($px > $maxX[$node]) {
                $e = $px - $maxX[$node];
                $d = $e * $e;
            }
            if ($py < $minY[$node]) {
                $e = $minY[$node] - $py;
                $d += $e * $e;
            } elseif ($py > $maxY[$node]) {
                $e = $py - $maxY[$node];
                $d += $e * $e;
            }
            if ($pz < $minZ[$node]) {
                $e = $minZ[$node] - $pz;
                $d += $e * $e;
            } elseif ($pz > $maxZ[$node]) {
                $e = $pz - $maxZ[$node];
                $d += $e * $e;
            }
            if ($d > $best) {
                $node = $skip[$node];

                continue;
            }
            if ($second[$node] > 0) {
                $node++;

                continue;
            }
            for ($k = $tree->first[$node], $end = $k + $tree->size[$node]; $k < $end; $k++) {
                $triangle = $tree->order[$k];
                $i = 3 * $triangle;
                if ($normals[$i] * $mx + $normals[$i + 1] * $my + $normals[$i + 2] * $mz >= 0.5 && $this->toTriangle($triangle, $px, $py, $pz) <= $best) {
                    $this->seed = $triangle;

                    return true;
                }
            }
            $node = $skip[$node];
        }

        return false;
    }

    /**
     * Whether a triangle lies within its own radius `r·scale[triangle] − less`; no radius reaches past `r − less`.
     *
     * @param  list<float>  $scale  0–1 a triangle, or empty for 1
     */
    public function anyWithin(float $px, float $py, float $pz, float $r, array $scale = [], float $less = 0.0): bool
    {
        $reach = $r - $less;
        if ($reach <= 0.0) {
            return false;
        }
        $best = $reach * $reach;
        $plain = $scale === [];
        if ($this->seed >= 0) {
            $own = $plain ? $reach : $r * $scale[$this->seed] - $less;
            if ($own > 0.0 && $this->toTriangle($this->seed, $px, $py, $pz) <= $own * $own) {
                return true;
            }
        }
        $tree = $this->tree;
        $skip = $tree->skip;
        $second = $tree->second;
        $minX = $tree->minX;
        $minY = $tree->minY;
        $minZ = $tree->minZ;
        $maxX = $tree->maxX;
        $maxY = $tree->maxY;
        $maxZ = $tree->maxZ;
        $node = 0;
        $nodes = count($skip);
        while ($node < $nodes) {
            $d = 0.0;
            if ($px < $minX[$node]) {
                $e = $minX[$node] - $px;
                $d = $e * $e;
            } elseif ($px > $maxX[$node]) {
                $e = $px - $maxX[$node];
                $d = $e * $e;
            }
            if ($py < $minY[$node]) {
                $e = $minY[$node] - $py;
                $d += $e * $e;
            } elseif ($py > $maxY[$node]) {
                $e = $py - $maxY[$node];
                $d += $e * $e;
            }
            if ($pz < $minZ[$node]) {
                $e = $minZ[$node] - $pz;
                $d += $e * $e;
            } elseif ($pz > $maxZ[$node]) {
                $e = $pz - $maxZ[$node];
                $d += $e * $e;
            }
            if ($d > $best) {
                $node = $skip[$node];

                continue;
            }
            if ($second[$node] > 0) {
                $node++;

                continue;
            }
            for ($k = $tree->first[$node], $end = $k + $tree->size[$node]; $k < $end; $k++) {
                $triangle = $tree->order[$k];
                $own = $plain ? $reach : $r * $scale[$triangle] - $less;
                if ($own > 0.0 && $this->toTriangle($triangle, $px, $py, $pz) <= $own * $own) {
                    $this->seed = $triangle;

                    return true;
                }
            }
            $node = $skip[$node];
        }

        return false;
    }

    private float $triedX = 0.0;

    private float $triedY = 0.0;

    private float $triedZ = 0.0;

    private float $triedV = 0.0;

    private float $triedW = 0.0;

    /** Squared distance of a point to one triangle; the place goes into `tried…`. */
    private function toTriangle(int $triangle, float $px, float $py, float $pz): float
    {
        $tree = $this->tree;
        $positions = $tree->positions;
        $i = 3 * $triangle;
        $n = 3 * $tree->triangles[$i];
        $ax = $positions[$n];
        $ay = $positions[$n + 1];
        $az = $positions[$n + 2];
        $n = 3 * $tree->triangles[$i + 1];
        $abx = $positions[$n] - $ax;
        $aby = $positions[$n + 1] - $ay;
        $abz = $positions[$n + 2] - $az;
        $n = 3 * $tree->triangles[$i + 2];
        $acx = $positions[$n] - $ax;
        $acy = $positions[$n + 1] - $ay;
        $acz = $positions[$n + 2] - $az;
        $apx = $px - $ax;
        $apy = $py - $ay;
        $apz = $pz - $az;
        $d1 = $abx * $apx + $aby * $apy + $abz * $apz;
        $d2 = $acx * $apx + $acy * $apy + $acz * $apz;
        $v = 0.0;
        $w = 0.0;
        if ($d1 > 0.0 || $d2 > 0.0) {
            $bpx = $apx - $abx;
            $bpy = $apy - $aby;
            $bpz = $apz - $abz;
            $d3 = $abx * $bpx + $aby * $bpy + $abz * $bpz;
            $d4 = $acx * $bpx + $acy * $bpy + $acz * $bpz;
            $cpx = $apx - $acx;
            $cpy = $apy - $acy;
            $cpz = $apz - $acz;
            $d5 = $abx * $cpx + $aby * $cpy + $abz * $cpz;
            $d6 = $acx * $cpx + $acy * $cpy + $acz * $cpz;
            if ($d3 >= 0.0 && $d4 <= $d3) {
                $v = 1.0;
            } elseif ($d6 >= 0.0 && $d5 <= $d6) {
                $w = 1.0;
            } else {
                $vc = $d1 * $d4 - $d3 * $d2;
                $vb = $d5 * $d2 - $d1 * $d6;
                $va = $d3 * $d6 - $d5 * $d4;
                if ($vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0) {
                    $v = $d1 - $d3 !== 0.0 ? $d1 / ($d1 - $d3) : 0.0;
                } elseif ($vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0) {
                    $w = $d2 - $d6 !== 0.0 ? $d2 / ($d2 - $d6) : 0.0;
                } elseif ($va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0) {
                    $s = $d4 - $d3 + $d5 - $d6;
                    $w = $s !== 0.0 ? ($d4 - $d3) / $s : 0.0;
                    $v = 1.0 - $w;
                } else {
                    $s = $va + $vb + $vc;
                    if ($s !== 0.0) {
                        $v = $vb / $s;
                        $w = $vc / $s;
                    }
                }
            }
        }
        $this->triedV = $v;
        $this->triedW = $w;
        $this->triedX = $ax + $v * $abx + $w * $acx;
        $this->triedY = $ay + $v * $aby + $w * $acy;
        $this->triedZ = $az + $v * $abz + $w * $acz;
        $dx = $px - $this->triedX;
        $dy = $py - $this->triedY;
        $dz = $pz - $this->triedZ;

        return $dx * $dx + $dy * $dy + $dz * $dz;
    }
}
