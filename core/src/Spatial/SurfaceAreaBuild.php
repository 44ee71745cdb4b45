<?php

declare(strict_types=1);

namespace Anvil\Spatial;

/**
 * Builds a tree that is split where the surface-area heuristic says (I. Wald, "On fast Construction of SAH-based Bounding Volume Hierarchies", 2007, 16 bins
 * on the widest axis): it takes longer to build and is crossed faster. One loop, since a call in it costs a third.
 */
final class SurfaceAreaBuild
{
    private const LEAF = 4;

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @return array{list<float>, list<int>, list<int>, list<int>, list<int>, list<int>, list<int>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>, bool} what `TriangleTree` is made of
     */
    public static function of(array $positions, array $triangles): array
    {
        $count = intdiv(count($triangles), 3);
        $x0 = $y0 = $z0 = $x1 = $y1 = $z1 = $cx = $cy = $cz = [];
        for ($k = 0; $k < 3 * $count; $k += 3) {
            $a = 3 * $triangles[$k];
            $b = 3 * $triangles[$k + 1];
            $c = 3 * $triangles[$k + 2];
            $x0[] = min($positions[$a], $positions[$b], $positions[$c]);
            $x1[] = max($positions[$a], $positions[$b], $positions[$c]);
            $y0[] = min($positions[$a + 1], $positions[$b + 1], $positions[$c + 1]);
            $y1[] = max($positions[$a + 1], $positions[$b + 1], $positions[$c + 1]);
            $z0[] = min($positions[$a + 2], $positions[$b + 2], $positions[$c + 2]);
            $z1[] = max($positions[$a + 2], $positions[$b + 2], $positions[$c + 2]);
        }
        for ($t = 0; $t < $count; $t++) {
            $cx[] = $x0[$t] + $x1[$t];
            $cy[] = $y0[$t] + $y1[$t];
            $cz[] = $z0[$t] + $z1[$t];
        }
        $order = $count === 0 ? [] : range(0, $count - 1);
        $second = $first = $size = $minX = $minY = $minZ = $maxX = $maxY = $maxZ = [];
        $from = array_fill(0, 256, 0);
        $to = array_fill(0, 256, 0);
        $above = array_fill(0, 256, -1);
        $top = $count > 0 ? 0 : -1;
        $to[0] = $count;
        $nodes = 0;
        while ($top >= 0) {
            $a = $from[$top];
            $b = $to[$top];
            $parent = $above[$top];
            $top--;
            $node = $nodes++;
            if ($parent >= 0) {
                $second[$parent] = $node;
            }
            $first[] = $a;
            $size[] = $b - $a;
            $second[] = 0;
            $bx0 = $by0 = $bz0 = $mx0 = $my0 = $mz0 = INF;
            $bx1 = $by1 = $bz1 = $mx1 = $my1 = $mz1 = -INF;
            for ($k = $a; $k < $b; $k++) {
                $t = $order[$k];
                $bx0 = $x0[$t] < $bx0 ? $x0[$t] : $bx0;
                $bx1 = $x1[$t] > $bx1 ? $x1[$t] : $bx1;
                $by0 = $y0[$t] < $by0 ? $y0[$t] : $by0;
                $by1 = $y1[$t] > $by1 ? $y1[$t] : $by1;
                $bz0 = $z0[$t] < $bz0 ? $z0[$t] : $bz0;
                $bz1 = $z1[$t] > $bz1 ? $z1[$t] : $bz1;
                $mx0 = $cx[$t] < $mx0 ? $cx[$t] : $mx0;
                $mx1 = $cx[$t] > $mx1 ? $cx[$t] : $mx1;
                $my0 = $cy[$t] < $my0 ? $cy[$t] : $my0;
                $my1 = $cy[$t] > $my1 ? $cy[$t] : $my1;
                $mz0 = $cz[$t] < $mz0 ? $cz[$t] : $mz0;
                $mz1 = $cz[$t] > $mz1 ? $cz[$t] : $mz1;
            }
            $minX[] = $bx0;
            $minY[] = $by0;
            $minZ[] = $bz0;
            $maxX[] = $bx1;
            $maxY[] = $by1;
            $maxZ[] = $bz1;
            if ($b - $a <= self::LEAF) {
                continue;
            }
            if ($mx1 - $mx0 >= $my1 - $my0 && $mx1 - $mx0 >= $mz1 - $mz0) {
                $key = $cx;
                $low = $mx0;
                $width = $mx1 - $mx0;
            } elseif ($my1 - $my0 >= $mz1 - $mz0) {
                $key = $cy;
                $low = $my0;
                $width = $my1 - $my0;
            } else {
                $key = $cz;
                $low = $mz0;
                $width = $mz1 - $mz0;
            }
            $middle = ($a + $b) >> 1;
            if ($width > 0.0) {
                $scale = 15.999 / $width;
                $number = $n0 = array_fill(0, 16, 0);
                $lx0 = $ly0 = $lz0 = array_fill(0, 16, INF);
                $lx1 = $ly1 = $lz1 = array_fill(0, 16, -INF);
                for ($k = $a; $k < $b; $k++) {
                    $t = $order[$k];
                    $i = (int) (($key[$t] - $low) * $scale);
                    $number[$i]++;
                    $lx0[$i] = $x0[$t] < $lx0[$i] ? $x0[$t] : $lx0[$i];
                    $lx1[$i] = $x1[$t] > $lx1[$i] ? $x1[$t] : $lx1[$i];
                    $ly0[$i] = $y0[$t] < $ly0[$i] ? $y0[$t] : $ly0[$i];
                    $ly1[$i] = $y1[$t] > $ly1[$i] ? $y1[$t] : $ly1[$i];
                    $lz0[$i] = $z0[$t] < $lz0[$i] ? $z0[$t] : $lz0[$i];
                    $lz1[$i] = $z1[$t] > $lz1[$i] ? $z1[$t] : $lz1[$i];
                }
                // What stands right of each place, from the right; then the left side grows over it.
                $right = array_fill(0, 16, 0.0);
                $n = 0;
                $ex0 = $ey0 = $ez0 = INF;
                $ex1 = $ey1 = $ez1 = -INF;
                for ($i = 15; $i > 0; $i--) {
                    $n += $number[$i];
                    $ex0 = min($ex0, $lx0[$i]);
                    $ex1 = max($ex1, $lx1[$i]);
                    $ey0 = min($ey0, $ly0[$i]);
                    $ey1 = max($ey1, $ly1[$i]);
                    $ez0 = min($ez0, $lz0[$i]);
                    $ez1 = max($ez1, $lz1[$i]);
                    $right[$i] = $n === 0 ? 0.0 : $n * (($ex1 - $ex0) * ($ey1 - $ey0) + ($ey1 - $ey0) * ($ez1 - $ez0) + ($ez1 - $ez0) * ($ex1 - $ex0));
                    $n0[$i] = $n;
                }
                $n = 0;
                $ex0 = $ey0 = $ez0 = INF;
                $ex1 = $ey1 = $ez1 = -INF;
                $least = INF;
                $at = 0;
                for ($i = 0; $i < 15; $i++) {
                    $n += $number[$i];
                    $ex0 = min($ex0, $lx0[$i]);
                    $ex1 = max($ex1, $lx1[$i]);
                    $ey0 = min($ey0, $ly0[$i]);
                    $ey1 = max($ey1, $ly1[$i]);
                    $ez0 = min($ez0, $lz0[$i]);
                    $ez1 = max($ez1, $lz1[$i]);
                    if ($n === 0 || $n0[$i + 1] === 0) {
                        continue;
                    }
                    $cost = $right[$i + 1] + $n * (($ex1 - $ex0) * ($ey1 - $ey0) + ($ey1 - $ey0) * ($ez1 - $ez0) + ($ez1 - $ez0) * ($ex1 - $ex0));
                    if ($cost < $least) {
                        $least = $cost;
                        $at = $i;
                    }
                }
                if ($least < INF) {
                    $left = $other = [];
                    for ($k = $a; $k < $b; $k++) {
                        $t = $order[$k];
                        if ((int) (($key[$t] - $low) * $scale) <= $at) {
                            $left[] = $t;
                        } else {
                            $other[] = $t;
                        }
                    }
                    $k = $a;
                    foreach ($left as $t) {
                        $order[$k++] = $t;
                    }
                    $middle = $k;
                    foreach ($other as $t) {
                        $order[$k++] = $t;
                    }
                }
            }
            $top++;
            $from[$top] = $middle;
            $to[$top] = $b;
            $above[$top] = $node;
            $top++;
            $from[$top] = $a;
            $to[$top] = $middle;
            $above[$top] = -1;
        }
        $second = array_values($second);

        return [$positions, $triangles, array_values($order), TriangleTree::skips($second), $second, $first, $size, $minX, $minY, $minZ, $maxX, $maxY, $maxZ, false];
    }
}
