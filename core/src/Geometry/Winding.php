<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Which way round triangles are wound: against their neighbours, or a whole closed shell inside out.
 */
final class Winding
{
    /**
     * Walks every shell over its edges of two faces: the smaller of the two sides that disagree.
     *
     * @param  array<int, true>  $dropped  triangles that take no part
     * @return array<int, true> triangles to turn
     */
    public static function against(HalfEdges $edges, array $dropped): array
    {
        [$tri, $welded, $flat, $more] = [$edges->tri, $edges->welded, $edges->flat, $edges->more];
        $links = [];
        foreach ($edges->halves as $e => $both) {
            if ($both < 0x100000000 || isset($more[$e])) {
                continue;
            }
            $g = $both & 0xFFFFFFFF;
            $h = ($both >> 32) - 1;
            $a = intdiv($g, 3);
            $b = intdiv($h, 3);
            if (isset($dropped[$a]) || isset($dropped[$b])) {
                continue;
            }
            $agree = $welded[$tri[$g]] !== $welded[$tri[$h]];
            $links[$a][] = $agree ? $b : -$b - 1;
            $links[$b][] = $agree ? $a : -$a - 1;
        }
        $turned = [];
        $side = [];
        for ($t = 0, $n = intdiv(count($tri), 3); $t < $n; $t++) {
            if (isset($side[$t]) || $flat[$t] === '1' || isset($dropped[$t])) {
                continue;
            }
            $side[$t] = 1;
            $groups = [1 => [$t], -1 => []];
            $stack = [$t];
            $sp = 1;
            while ($sp > 0) {
                $at = $stack[--$sp];
                foreach ($links[$at] ?? [] as $link) {
                    $other = $link >= 0 ? $link : -$link - 1;
                    if (! isset($side[$other])) {
                        $side[$other] = $link >= 0 ? $side[$at] : -$side[$at];
                        $groups[$side[$other]][] = $other;
                        $stack[$sp++] = $other;
                    }
                }
            }
            if ($groups[-1] === []) {
                continue;
            }
            foreach (count($groups[-1]) <= count($groups[1]) ? $groups[-1] : $groups[1] as $wrong) {
                $turned[$wrong] = true;
            }
        }

        return $turned;
    }

    /**
     * Closed shells of negative volume that lie in no other shell.
     *
     * @param  list<int>  $tri
     * @param  list<float>  $p
     * @param  list<int>  $shells  of each triangle
     * @param  array<int, int>  $open  shell → open edges
     * @param  array<int, true>  $turned  triangles counted already, taken the other way round
     * @param  array<int, true>  $dropped
     * @return array<int, int> shell → where its first vertex begins among the positions
     */
    public static function insideOut(array $tri, array $p, array $shells, array $open, array $turned, array $dropped): array
    {
        $volumes = $boxes = $origins = [];
        foreach ($shells as $t => $shell) {
            if (isset($open[$shell]) || isset($dropped[$t])) {
                continue;
            }
            $a = 3 * $tri[3 * $t];
            $b = 3 * $tri[3 * $t + 1];
            $c = 3 * $tri[3 * $t + 2];
            // About a corner of its own, so that a part far out keeps its digits.
            $origins[$shell] ??= $a;
            $o = $origins[$shell];
            $ax = $p[$a] - $p[$o];
            $ay = $p[$a + 1] - $p[$o + 1];
            $az = $p[$a + 2] - $p[$o + 2];
            $bx = $p[$b] - $p[$o];
            $by = $p[$b + 1] - $p[$o + 1];
            $bz = $p[$b + 2] - $p[$o + 2];
            $cx = $p[$c] - $p[$o];
            $cy = $p[$c + 1] - $p[$o + 1];
            $cz = $p[$c + 2] - $p[$o + 2];
            $six = $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
            $volumes[$shell] = ($volumes[$shell] ?? 0.0) + (isset($turned[$t]) ? -$six : $six);
        }
        $negative = array_filter($volumes, static fn (float $six): bool => $six < 0.0);
        if ($negative === []) {
            return [];
        }
        foreach ($shells as $t => $shell) {
            if (! isset($volumes[$shell])) {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $tri[3 * $t + $k];
                $boxes[$shell] ??= [$p[$v], $p[$v + 1], $p[$v + 2], $p[$v], $p[$v + 1], $p[$v + 2]];
                for ($i = 0; $i < 3; $i++) {
                    $boxes[$shell][$i] = min($boxes[$shell][$i], $p[$v + $i]);
                    $boxes[$shell][3 + $i] = max($boxes[$shell][3 + $i], $p[$v + $i]);
                }
            }
        }
        $out = [];
        foreach ($negative as $shell => $six) {
            $box = $boxes[$shell];
            $size = ($box[3] - $box[0]) ** 2 + ($box[4] - $box[1]) ** 2 + ($box[5] - $box[2]) ** 2;
            // A sheet with two sides encloses nothing.
            if (-$six / 6 <= 1e-7 * $size ** 1.5) {
                continue;
            }
            foreach ($boxes as $other => $outer) {
                if ($other !== $shell && $outer[0] < $box[0] && $outer[1] < $box[1] && $outer[2] < $box[2] && $outer[3] > $box[3] && $outer[4] > $box[4] && $outer[5] > $box[5]
                    && self::encloses($tri, $p, $shells, $other, $origins[$shell])) {
                    continue 2;
                }
            }
            $out[$shell] = $origins[$shell];
        }

        return $out;
    }

    /**
     * Whether a shell goes round a place: its solid angles there add up to 4π (A. van Oosterom, J. Strackee, "The Solid Angle of a
     * Plane Triangle", 1983).
     *
     * @param  list<int>  $tri
     * @param  list<float>  $p
     * @param  list<int>  $shells
     */
    private static function encloses(array $tri, array $p, array $shells, int $shell, int $place): bool
    {
        $sum = 0.0;
        foreach ($shells as $t => $of) {
            if ($of !== $shell) {
                continue;
            }
            $v = [];
            for ($k = 0; $k < 3; $k++) {
                $c = 3 * $tri[3 * $t + $k];
                $v[] = [$p[$c] - $p[$place], $p[$c + 1] - $p[$place + 1], $p[$c + 2] - $p[$place + 2]];
            }
            [$a, $b, $c] = $v;
            $la = sqrt($a[0] ** 2 + $a[1] ** 2 + $a[2] ** 2);
            $lb = sqrt($b[0] ** 2 + $b[1] ** 2 + $b[2] ** 2);
            $lc = sqrt($c[0] ** 2 + $c[1] ** 2 + $c[2] ** 2);
            $det = $a[0] * ($b[1] * $c[2] - $b[2] * $c[1]) + $a[1] * ($b[2] * $c[0] - $b[0] * $c[2]) + $a[2] * ($b[0] * $c[1] - $b[1] * $c[0]);
            $ab = $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
            $bc = $b[0] * $c[0] + $b[1] * $c[1] + $b[2] * $c[2];
            $ca = $c[0] * $a[0] + $c[1] * $a[1] + $c[2] * $a[2];
            $sum += 2 * atan2($det, $la * $lb * $lc + $ab * $lc + $bc * $la + $ca * $lb);
        }

        return abs($sum) > 2 * M_PI;
    }
}
