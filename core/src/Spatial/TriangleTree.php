<?php

declare(strict_types=1);

namespace Anvil\Spatial;

use Anvil\Geometry\Bounds;

/**
 * A bounding-volume tree over triangles: a binary radix tree on 39-bit Morton codes of the triangles' centres (T. Karras,
 * "Maximizing Parallelism in the Construction of BVHs, Octrees, and k-d Trees", 2012), up to four triangles a leaf.
 *
 * Nodes lie in depth-first order: the first child of node i is i+1, `skip[i]` is the node after all below i. A walk needs no stack.
 *
 * Triangles whose boxes are far larger than most (slivers across the shape, a slab under rivets) are held in pieces, a box each, so that
 * they do not blow up the boxes of all that lies around them (M. Ernst, G. Greiner, "Early Split Clipping for Bounding Volume
 * Hierarchies", 2007). Such a triangle stands in `order` more than once, and `hasPieces` says so.
 *
 * Measured on 500,000 triangles: 0.5 s to build. A surface-area build takes several times that and pays only beyond millions of rays.
 */
final class TriangleTree
{
    private const LEAF = 4;

    /** From so many triangles on a leaf holds twice as many: half the boxes take half the memory, and the tree is there sooner than lines are slower. */
    private const MANY = 1_000_000;

    /** A triangle is cut while the side of its box, as the root of half its surface, is over this many times the mean. */
    private const LARGE = 8.0;

    /** Pieces of one triangle, as a power of two. */
    private const CUTS = 12;

    /**
     * @param  list<float>  $positions  xyz, n×3
     * @param  list<int>  $triangles  three position numbers a triangle
     * @param  list<int>  $order  triangle numbers, leaf by leaf
     * @param  list<int>  $skip
     * @param  list<int>  $second  second child, 0 in leaves
     * @param  list<int>  $first  first place in `order`
     * @param  list<int>  $size  triangles below
     * @param  list<float>  $minX
     * @param  list<float>  $minY
     * @param  list<float>  $minZ
     * @param  list<float>  $maxX
     * @param  list<float>  $maxY
     * @param  list<float>  $maxZ
     */
    private function __construct(
        public readonly array $positions,
        public readonly array $triangles,
        public readonly array $order,
        public readonly array $skip,
        public readonly array $second,
        public readonly array $first,
        public readonly array $size,
        public readonly array $minX,
        public readonly array $minY,
        public readonly array $minZ,
        public readonly array $maxX,
        public readonly array $maxY,
        public readonly array $maxZ,
        public readonly bool $hasPieces = false,
    ) {
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles  under 16.7 million
     */
    public static function of(array $positions, array $triangles): self
    {
        $count = intdiv(count($triangles), 3);
        $pieces = self::pieces($positions, $triangles, $count);
        $keys = self::sorted($positions, $triangles, $count, $pieces);
        $count = count($keys);
        $leaf = $count < self::MANY ? self::LEAF : 2 * self::LEAF;
        $skip = $second = $first = $size = [];
        // Ranges wait on a stack of fixed arrays with an explicit top: pushing and popping a list went wrong under the tracing JIT.
        $from = array_fill(0, 128, 0);
        $to = array_fill(0, 128, 0);
        $above = array_fill(0, 128, 0);
        $top = -1;
        if ($count > 0) {
            $top = 0;
            $from[0] = 0;
            $to[0] = $count;
            $above[0] = -1;
        }
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
            if ($b - $a <= $leaf) {
                continue;
            }
            $low = $keys[$a] >> 24;
            $high = $keys[$b - 1] >> 24;
            $middle = ($a + $b) >> 1;
            if ($low !== $high) {
                $bit = 1;
                for ($differ = ($low ^ $high) >> 1; $differ > 0; $differ >>= 1) {
                    $bit <<= 1;
                }
                // The first place whose code has the highest differing bit.
                $l = $a;
                $r = $b - 1;
                while ($l < $r) {
                    $m = ($l + $r) >> 1;
                    if (($keys[$m] >> 24 & $bit) !== 0) {
                        $r = $m;
                    } else {
                        $l = $m + 1;
                    }
                }
                $middle = $l;
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
        // The codes are done with: the keys become the order in their own place.
        for ($k = 0; $k < $count; $k++) {
            $keys[$k] &= 0xFFFFFF;
        }
        $order = array_values($keys);
        unset($keys);
        for ($i = 0; $i < $nodes; $i++) {
            $skip[] = $nodes;
        }
        for ($i = 0; $i < $nodes; $i++) {
            if ($second[$i] > 0) {
                $skip[$i + 1] = $second[$i];
                $skip[$second[$i]] = $skip[$i];
            }
        }
        $boxes = self::boxes($positions, $triangles, $order, array_values($second), $first, $size, $nodes, $pieces);
        if ($pieces !== []) {
            $whole = intdiv(count($triangles), 3);
            foreach ($order as $k => $piece) {
                if ($piece >= $whole) {
                    $order[$k] = $pieces[$piece - $whole][0];
                }
            }
        }

        return new self($positions, $triangles, $order, array_values($skip), array_values($second), $first, $size, ...[...$boxes, $pieces !== []]);
    }

    /**
     * The same over few triangles that many long lines are held against: split where the surface-area heuristic (I. Wald, "On fast Construction
     * of SAH-based Bounding Volume Hierarchies", 2007, 16 bins on the widest axis) says, which takes longer to build and is crossed faster.
     *
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     */
    public static function fine(array $positions, array $triangles): self
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
        $skip = $second = $first = $size = $minX = $minY = $minZ = $maxX = $maxY = $maxZ = [];
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
        for ($i = 0; $i < $nodes; $i++) {
            $skip[] = $nodes;
        }
        for ($i = 0; $i < $nodes; $i++) {
            if ($second[$i] > 0) {
                $skip[$i + 1] = $second[$i];
                $skip[$second[$i]] = $skip[$i];
            }
        }

        return new self($positions, $triangles, array_values($order), array_values($skip), array_values($second), $first, $size, $minX, $minY, $minZ, $maxX, $maxY, $maxZ);
    }

    public function nodeCount(): int
    {
        return count($this->skip);
    }

    public function bounds(): ?Bounds
    {
        return $this->skip === [] ? null : Bounds::of([$this->minX[0], $this->minY[0], $this->minZ[0]], [$this->maxX[0], $this->maxY[0], $this->maxZ[0]]);
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @param  list<array{int, float, float, float, float, float, float}>  $pieces  numbered on from the triangles
     * @return list<int> of each triangle 2^24 times its code and its number, ascending
     */
    private static function sorted(array $positions, array $triangles, int $count, array $pieces): array
    {
        $bounds = Bounds::ofPositions($positions);
        if ($bounds === null) {
            return [];
        }
        [$x0, $y0, $z0] = $bounds->min;
        $extent = max($bounds->max[0] - $x0, $bounds->max[1] - $y0, $bounds->max[2] - $z0);
        $scale = $extent > 0.0 ? 8191.0 / ($extent * 3.0) : 0.0;
        $x0 *= 3.0;
        $y0 *= 3.0;
        $z0 *= 3.0;
        $spread = [];
        for ($i = 0; $i < 8192; $i++) {
            $s = 0;
            for ($b = 0; $b < 13; $b++) {
                $s |= (($i >> $b) & 1) << (3 * $b);
            }
            $spread[] = $s;
        }
        $keys = array_fill(0, $count, 0);
        for ($t = 0, $k = 0; $t < $count; $t++, $k += 3) {
            $a = 3 * $triangles[$k];
            $b = 3 * $triangles[$k + 1];
            $c = 3 * $triangles[$k + 2];
            $x = (int) (($positions[$a] + $positions[$b] + $positions[$c] - $x0) * $scale);
            $y = (int) (($positions[$a + 1] + $positions[$b + 1] + $positions[$c + 1] - $y0) * $scale);
            $z = (int) (($positions[$a + 2] + $positions[$b + 2] + $positions[$c + 2] - $z0) * $scale);
            $keys[$t] = (($spread[$x & 8191] | $spread[$y & 8191] << 1 | $spread[$z & 8191] << 2) << 24) | $t;
        }
        foreach ($pieces as $i => [$t, $minX, $minY, $minZ, $maxX, $maxY, $maxZ]) {
            $x = (int) ((1.5 * ($minX + $maxX) - $x0) * $scale);
            $y = (int) ((1.5 * ($minY + $maxY) - $y0) * $scale);
            $z = (int) ((1.5 * ($minZ + $maxZ) - $z0) * $scale);
            $key = ($spread[$x & 8191] | $spread[$y & 8191] << 1 | $spread[$z & 8191] << 2) << 24;
            // The triangle's own number is no longer used: its first piece takes the place.
            if ($i === 0 || $pieces[$i - 1][0] !== $t) {
                $keys[$t] = $key | ($count + $i);
            } else {
                $keys[] = $key | ($count + $i);
            }
        }
        // By the codes alone, 13 bits at a time: those of one code stay as they were.
        foreach ([24, 37, 50] as $shift) {
            $start = array_fill(0, 8193, 0);
            foreach ($keys as $key) {
                $start[(($key >> $shift) & 8191) + 1]++;
            }
            for ($i = 1; $i < 8192; $i++) {
                $start[$i] += $start[$i - 1];
            }
            $sorted = $keys;
            foreach ($keys as $key) {
                $sorted[$start[($key >> $shift) & 8191]++] = $key;
            }
            $keys = $sorted;
        }

        return array_values($keys);
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @param  list<int>  $order
     * @param  list<int>  $second
     * @param  list<int>  $first
     * @param  list<int>  $size
     * @param  list<array{int, float, float, float, float, float, float}>  $pieces
     * @return array{list<float>, list<float>, list<float>, list<float>, list<float>, list<float>}
     */
    private static function boxes(array $positions, array $triangles, array $order, array $second, array $first, array $size, int $nodes, array $pieces): array
    {
        $whole = intdiv(count($triangles), 3);
        $minX = $minY = $minZ = $maxX = $maxY = $maxZ = $nodes === 0 ? [] : array_fill(0, $nodes, 0.0);
        for ($i = $nodes - 1; $i >= 0; $i--) {
            $right = $second[$i];
            if ($right > 0) {
                $left = $i + 1;
                $minX[$i] = $minX[$left] < $minX[$right] ? $minX[$left] : $minX[$right];
                $minY[$i] = $minY[$left] < $minY[$right] ? $minY[$left] : $minY[$right];
                $minZ[$i] = $minZ[$left] < $minZ[$right] ? $minZ[$left] : $minZ[$right];
                $maxX[$i] = $maxX[$left] > $maxX[$right] ? $maxX[$left] : $maxX[$right];
                $maxY[$i] = $maxY[$left] > $maxY[$right] ? $maxY[$left] : $maxY[$right];
                $maxZ[$i] = $maxZ[$left] > $maxZ[$right] ? $maxZ[$left] : $maxZ[$right];

                continue;
            }
            $x0 = $y0 = $z0 = INF;
            $x1 = $y1 = $z1 = -INF;
            for ($k = $first[$i], $end = $k + $size[$i]; $k < $end; $k++) {
                $t = 3 * $order[$k];
                if ($order[$k] >= $whole) {
                    [, $x, $y, $z, $xx, $yy, $zz] = $pieces[$order[$k] - $whole];
                    $x0 = $x < $x0 ? $x : $x0;
                    $x1 = $xx > $x1 ? $xx : $x1;
                    $y0 = $y < $y0 ? $y : $y0;
                    $y1 = $yy > $y1 ? $yy : $y1;
                    $z0 = $z < $z0 ? $z : $z0;
                    $z1 = $zz > $z1 ? $zz : $z1;

                    continue;
                }
                for ($c = 0; $c < 3; $c++) {
                    $p = 3 * $triangles[$t + $c];
                    $x = $positions[$p];
                    $y = $positions[$p + 1];
                    $z = $positions[$p + 2];
                    $x0 = $x < $x0 ? $x : $x0;
                    $x1 = $x > $x1 ? $x : $x1;
                    $y0 = $y < $y0 ? $y : $y0;
                    $y1 = $y > $y1 ? $y : $y1;
                    $z0 = $z < $z0 ? $z : $z0;
                    $z1 = $z > $z1 ? $z : $z1;
                }
            }
            $minX[$i] = $x0;
            $minY[$i] = $y0;
            $minZ[$i] = $z0;
            $maxX[$i] = $x1;
            $maxY[$i] = $y1;
            $maxZ[$i] = $z1;
        }

        return [array_values($minX), array_values($minY), array_values($minZ), array_values($maxX), array_values($maxY), array_values($maxZ)];
    }

    /**
     * Boxes of the pieces of every triangle that is far larger than most, triangle by triangle.
     *
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @return list<array{int, float, float, float, float, float, float}> triangle, least and greatest corner
     */
    private static function pieces(array $positions, array $triangles, int $count): array
    {
        // Sides of boxes, as the root of half their surface: their mean first, from at most some thousands.
        $step = max(1, intdiv($count, 8192));
        $sum = 0.0;
        $taken = 0;
        for ($t = 0; $t < $count; $t += $step) {
            [$x0, $y0, $z0, $x1, $y1, $z1] = self::boxOf($positions, $triangles, $t);
            $sum += sqrt(($x1 - $x0) * ($y1 - $y0) + ($y1 - $y0) * ($z1 - $z0) + ($z1 - $z0) * ($x1 - $x0));
            $taken++;
        }
        $limit = $taken > 0 ? (self::LARGE * $sum / $taken) ** 2 : 0.0;
        if ($limit <= 0.0) {
            return [];
        }
        $out = [];
        $most = min(0xFFFFFF - $count, intdiv($count, 4) + 64);
        for ($t = 0, $k = 0; $t < $count; $t++, $k += 3) {
            $a = 3 * $triangles[$k];
            $b = 3 * $triangles[$k + 1];
            $c = 3 * $triangles[$k + 2];
            $x = abs($positions[$a] - $positions[$b]);
            $y = abs($positions[$a + 1] - $positions[$b + 1]);
            $z = abs($positions[$a + 2] - $positions[$b + 2]);
            $e = abs($positions[$a] - $positions[$c]);
            $x = $e > $x ? $e : $x;
            $e = abs($positions[$a + 1] - $positions[$c + 1]);
            $y = $e > $y ? $e : $y;
            $e = abs($positions[$a + 2] - $positions[$c + 2]);
            $z = $e > $z ? $e : $z;
            // At least a half of each true side: what passes is measured in cutting.
            if (4.0 * ($x * $y + $y * $z + $z * $x) > $limit && count($out) < $most) {
                $boxes = self::cut([
                    [$positions[$a], $positions[$a + 1], $positions[$a + 2]], [$positions[$b], $positions[$b + 1], $positions[$b + 2]], [$positions[$c], $positions[$c + 1], $positions[$c + 2]],
                ], $limit);
                foreach (count($boxes) > 1 ? $boxes : [] as $box) {
                    $out[] = [$t, ...$box];
                }
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @return array{float, float, float, float, float, float}
     */
    private static function boxOf(array $positions, array $triangles, int $t): array
    {
        $a = 3 * $triangles[3 * $t];
        $b = 3 * $triangles[3 * $t + 1];
        $c = 3 * $triangles[3 * $t + 2];

        return [
            min($positions[$a], $positions[$b], $positions[$c]), min($positions[$a + 1], $positions[$b + 1], $positions[$c + 1]), min($positions[$a + 2], $positions[$b + 2], $positions[$c + 2]),
            max($positions[$a], $positions[$b], $positions[$c]), max($positions[$a + 1], $positions[$b + 1], $positions[$c + 1]), max($positions[$a + 2], $positions[$b + 2], $positions[$c + 2]),
        ];
    }

    /**
     * A triangle cut across the longest side of its box, and again, until half the surface of each box is under the limit. Boxes overlap by
     * a hair, so that no line slips between two.
     *
     * @param  list<array{float, float, float}>  $corners
     * @return list<array{float, float, float, float, float, float}>
     */
    private static function cut(array $corners, float $limit): array
    {
        $out = [];
        $stack = [[$corners, 0]];
        while ($stack !== []) {
            [$polygon, $depth] = array_pop($stack);
            [$x0, $y0, $z0] = [$x1, $y1, $z1] = $polygon[0];
            foreach ($polygon as [$x, $y, $z]) {
                $x0 = $x < $x0 ? $x : $x0;
                $x1 = $x > $x1 ? $x : $x1;
                $y0 = $y < $y0 ? $y : $y0;
                $y1 = $y > $y1 ? $y : $y1;
                $z0 = $z < $z0 ? $z : $z0;
                $z1 = $z > $z1 ? $z : $z1;
            }
            $sides = [$x1 - $x0, $y1 - $y0, $z1 - $z0];
            if ($depth >= self::CUTS || $limit >= $sides[0] * $sides[1] + $sides[1] * $sides[2] + $sides[2] * $sides[0]) {
                $hair = 1e-12 * ($sides[0] + $sides[1] + $sides[2] + abs($x0) + abs($y0) + abs($z0));
                $out[] = [$x0 - $hair, $y0 - $hair, $z0 - $hair, $x1 + $hair, $y1 + $hair, $z1 + $hair];

                continue;
            }
            $axis = $sides[0] >= $sides[1] && $sides[0] >= $sides[2] ? 0 : ($sides[1] >= $sides[2] ? 1 : 2);
            $at = [$x0, $y0, $z0][$axis] + $sides[$axis] / 2;
            $below = $above = [];
            $last = $polygon[count($polygon) - 1];
            foreach ($polygon as $corner) {
                if (($last[$axis] < $at && $corner[$axis] > $at) || ($last[$axis] > $at && $corner[$axis] < $at)) {
                    $f = ($at - $last[$axis]) / ($corner[$axis] - $last[$axis]);
                    $on = [$last[0] + $f * ($corner[0] - $last[0]), $last[1] + $f * ($corner[1] - $last[1]), $last[2] + $f * ($corner[2] - $last[2])];
                    $on[$axis] = $at;
                    $below[] = $on;
                    $above[] = $on;
                }
                if ($corner[$axis] <= $at) {
                    $below[] = $corner;
                }
                if ($corner[$axis] >= $at) {
                    $above[] = $corner;
                }
                $last = $corner;
            }
            foreach ([$above, $below] as $half) {
                if ($half !== []) {
                    $stack[] = [$half, $depth + 1];
                }
            }
        }

        return $out;
    }
}
