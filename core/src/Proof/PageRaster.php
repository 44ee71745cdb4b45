<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Closure;

/**
 * Which triangle of a page the centre of each texel lies in: on an edge, and where triangles overlap, the lowest number. Row 0 is on top, where v is 1.
 *
 * An edge is judged in one way by both triangles that share it, so that no texel falls between them.
 */
final class PageRaster
{
    /**
     * @param  list<float>  $uvs  u v of three corners, six a triangle
     * @param  int  $size  texels a side
     * @return list<int> size×size triangle numbers, −1 outside
     */
    public static function owners(array $uvs, int $size): array
    {
        $owners = array_fill(0, $size * $size, -1);
        self::spans($uvs, $size, static function (int $y, int $from, int $to, int $t) use (&$owners, $size): void {
            for ($k = $y * $size + $from, $last = $y * $size + $to; $k <= $last; $k++) {
                if ($owners[$k] < 0) {
                    $owners[$k] = $t;
                }
            }
        });

        return $owners;
    }

    /**
     * The runs of texels in each row whose centres lie in each triangle, the lowest triangle first.
     *
     * @param  list<float>  $uvs
     * @param  Closure(int, int, int, int): void  $fill  row, first and last column, triangle
     */
    public static function spans(array $uvs, int $size, Closure $fill): void
    {
        for ($t = 0, $i = 0, $n = count($uvs); $i < $n; $i += 6, $t++) {
            $ax = $uvs[$i];
            $ay = $uvs[$i + 1];
            $bx = $uvs[$i + 2];
            $by = $uvs[$i + 3];
            $cx = $uvs[$i + 4];
            $cy = $uvs[$i + 5];
            $turn = ($bx - $ax) * ($cy - $ay) - ($by - $ay) * ($cx - $ax);
            if ($turn === 0.0) {
                continue;
            }
            if ($turn < 0.0) {
                [$bx, $by, $cx, $cy] = [$cx, $cy, $bx, $by];
            }
            // Each edge from its lesser end; `side` says whether that turned it round.
            $edges = [self::edge($ax, $ay, $bx, $by), self::edge($bx, $by, $cx, $cy), self::edge($cx, $cy, $ax, $ay)];
            [[$ex, $ey, $eu, $ev, $es], [$fx, $fy, $fu, $fv, $fs], [$gx, $gy, $gu, $gv, $gs]] = $edges;
            $top = max(0, (int) floor((1.0 - max($ay, $by, $cy)) * $size - 0.5));
            $bottom = min($size - 1, (int) ceil((1.0 - min($ay, $by, $cy)) * $size - 0.5));
            $left = min($ax, $bx, $cx);
            $right = max($ax, $bx, $cx);
            for ($y = $top; $y <= $bottom; $y++) {
                $v = 1.0 - ($y + 0.5) / $size;
                // Where the three edges cross the row bounds the span; its ends are found exactly.
                $from = $left;
                $to = $right;
                foreach ($edges as [$x0, $y0, $dx, $dy, $s]) {
                    $a = -$s * $dy;
                    if ($a > 1e-300) {
                        $from = max($from, $x0 + $dx * ($v - $y0) / $dy);
                    } elseif ($a < -1e-300) {
                        $to = min($to, $x0 + $dx * ($v - $y0) / $dy);
                    }
                }
                $x = max(0, (int) floor($from * $size - 0.5) - 1);
                $end = min($size - 1, (int) ceil($to * $size - 0.5) + 1);
                while ($x <= $end) {
                    $u = ($x + 0.5) / $size;
                    if ($es * ($eu * ($v - $ey) - $ev * ($u - $ex)) >= 0.0 && $fs * ($fu * ($v - $fy) - $fv * ($u - $fx)) >= 0.0 && $gs * ($gu * ($v - $gy) - $gv * ($u - $gx)) >= 0.0) {
                        break;
                    }
                    $x++;
                }
                while ($end >= $x) {
                    $u = ($end + 0.5) / $size;
                    if ($es * ($eu * ($v - $ey) - $ev * ($u - $ex)) >= 0.0 && $fs * ($fu * ($v - $fy) - $fv * ($u - $fx)) >= 0.0 && $gs * ($gu * ($v - $gy) - $gv * ($u - $gx)) >= 0.0) {
                        break;
                    }
                    $end--;
                }
                if ($x <= $end) {
                    $fill($y, $x, $end, $t);
                }
            }
        }
    }

    /**
     * @return array{float, float, float, float, float} its lesser end, the way to the other, and 1 or −1 where it was turned round
     */
    private static function edge(float $ax, float $ay, float $bx, float $by): array
    {
        return $ax < $bx || ($ax === $bx && $ay <= $by) ? [$ax, $ay, $bx - $ax, $by - $ay, 1.0] : [$bx, $by, $ax - $bx, $ay - $by, -1.0];
    }
}
