<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Cuts a face with more than three corners into triangles: ear clipping in the face's own plane, so that concave faces come out right.
 */
final class Triangulation
{
    /**
     * @param  list<float>  $xyz  the corners in order, n×3
     * @return list<int> three corner numbers a triangle; n−2 triangles
     */
    public static function of(array $xyz): array
    {
        $n = intdiv(count($xyz), 3);
        if ($n < 3) {
            return [];
        }
        if ($n === 3) {
            return [0, 1, 2];
        }
        // Newell's normal: right for concave and slightly bent faces.
        $nx = $ny = $nz = 0.0;
        for ($i = 0, $j = $n - 1; $i < $n; $j = $i++) {
            $ax = $xyz[3 * $j];
            $ay = $xyz[3 * $j + 1];
            $az = $xyz[3 * $j + 2];
            $bx = $xyz[3 * $i];
            $by = $xyz[3 * $i + 1];
            $bz = $xyz[3 * $i + 2];
            $nx += ($ay - $by) * ($az + $bz);
            $ny += ($az - $bz) * ($ax + $bx);
            $nz += ($ax - $bx) * ($ay + $by);
        }
        $x = abs($nx);
        $y = abs($ny);
        $z = abs($nz);
        if ($x === 0.0 && $y === 0.0 && $z === 0.0) {
            return self::fan($n);
        }
        // Flat picture on the two axes that the normal leans on least, kept counter-clockwise.
        [$u, $v] = $z >= $x && $z >= $y ? ($nz > 0 ? [0, 1] : [1, 0])
            : ($x >= $y ? ($nx > 0 ? [1, 2] : [2, 1]) : ($ny > 0 ? [2, 0] : [0, 2]));
        $flat = [];
        for ($i = 0; $i < $n; $i++) {
            $flat[] = [$xyz[3 * $i + $u], $xyz[3 * $i + $v]];
        }

        return self::isConvex($flat) ? self::fan($n) : self::clip($flat);
    }

    /**
     * @return list<int>
     */
    private static function fan(int $n): array
    {
        $out = [];
        for ($i = 1; $i + 1 < $n; $i++) {
            $out[] = 0;
            $out[] = $i;
            $out[] = $i + 1;
        }

        return $out;
    }

    /**
     * @param  list<array{float, float}>  $flat
     */
    private static function isConvex(array $flat): bool
    {
        $n = count($flat);
        for ($i = 0; $i < $n; $i++) {
            if (self::turn($flat[$i], $flat[($i + 1) % $n], $flat[($i + 2) % $n]) < 0.0) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  list<array{float, float}>  $flat
     * @return list<int>
     */
    private static function clip(array $flat): array
    {
        $left = range(0, count($flat) - 1);
        $out = [];
        while (count($left) > 3) {
            $n = count($left);
            $cut = null;
            for ($i = 0; $i < $n && $cut === null; $i++) {
                $a = $left[($i + $n - 1) % $n];
                $b = $left[$i];
                $c = $left[($i + 1) % $n];
                if (self::turn($flat[$a], $flat[$b], $flat[$c]) <= 0.0) {
                    continue;
                }
                $free = true;
                foreach ($left as $p) {
                    if ($p !== $a && $p !== $b && $p !== $c
                        && self::turn($flat[$a], $flat[$b], $flat[$p]) >= 0.0
                        && self::turn($flat[$b], $flat[$c], $flat[$p]) >= 0.0
                        && self::turn($flat[$c], $flat[$a], $flat[$p]) >= 0.0) {
                        $free = false;
                        break;
                    }
                }
                if ($free) {
                    $cut = $i;
                }
            }
            // A face that crosses itself has no ear left: cut on, so that nothing is lost.
            $cut ??= 1;
            $out[] = $left[($cut + $n - 1) % $n];
            $out[] = $left[$cut];
            $out[] = $left[($cut + 1) % $n];
            array_splice($left, $cut, 1);
        }

        return [...$out, ...$left];
    }

    /**
     * @param  array{float, float}  $a
     * @param  array{float, float}  $b
     * @param  array{float, float}  $c
     */
    private static function turn(array $a, array $b, array $c): float
    {
        return ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($b[1] - $a[1]) * ($c[0] - $a[0]);
    }
}
