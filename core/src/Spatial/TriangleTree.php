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
 * Measured on 500,000 triangles: 0.5 s to build. A surface-area build takes several times that and pays only beyond millions of rays.
 */
final class TriangleTree
{
    private const LEAF = 4;

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
    ) {
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles  under 16.7 million
     */
    public static function of(array $positions, array $triangles): self
    {
        $count = intdiv(count($triangles), 3);
        [$order, $codes] = self::sorted($positions, $triangles, $count);
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
            if ($b - $a <= self::LEAF) {
                continue;
            }
            $low = $codes[$a];
            $high = $codes[$b - 1];
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
                    if (($codes[$m] & $bit) !== 0) {
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
        for ($i = 0; $i < $nodes; $i++) {
            $skip[] = $nodes;
        }
        for ($i = 0; $i < $nodes; $i++) {
            if ($second[$i] > 0) {
                $skip[$i + 1] = $second[$i];
                $skip[$second[$i]] = $skip[$i];
            }
        }
        $boxes = self::boxes($positions, $triangles, $order, array_values($second), $first, $size, $nodes);

        return new self($positions, $triangles, $order, array_values($skip), array_values($second), $first, $size, ...$boxes);
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
     * @return array{list<int>, list<int>} triangle numbers and their codes, by code
     */
    private static function sorted(array $positions, array $triangles, int $count): array
    {
        $bounds = Bounds::ofPositions($positions);
        if ($bounds === null) {
            return [[], []];
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
        $keys = [];
        for ($t = 0, $k = 0; $t < $count; $t++, $k += 3) {
            $a = 3 * $triangles[$k];
            $b = 3 * $triangles[$k + 1];
            $c = 3 * $triangles[$k + 2];
            $x = (int) (($positions[$a] + $positions[$b] + $positions[$c] - $x0) * $scale);
            $y = (int) (($positions[$a + 1] + $positions[$b + 1] + $positions[$c + 1] - $y0) * $scale);
            $z = (int) (($positions[$a + 2] + $positions[$b + 2] + $positions[$c + 2] - $z0) * $scale);
            $keys[] = (($spread[$x & 8191] | $spread[$y & 8191] << 1 | $spread[$z & 8191] << 2) << 24) | $t;
        }
        sort($keys);
        $order = [];
        $codes = [];
        foreach ($keys as $key) {
            $order[] = $key & 0xFFFFFF;
            $codes[] = $key >> 24;
        }

        return [$order, $codes];
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @param  list<int>  $order
     * @param  list<int>  $second
     * @param  list<int>  $first
     * @param  list<int>  $size
     * @return array{list<float>, list<float>, list<float>, list<float>, list<float>, list<float>}
     */
    private static function boxes(array $positions, array $triangles, array $order, array $second, array $first, array $size, int $nodes): array
    {
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
}
