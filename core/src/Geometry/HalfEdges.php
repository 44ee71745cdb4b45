<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * The edges of a triangle mesh with the faces at them, on welded vertices; triangles without area have none. A half-edge is 3·triangle + corner.
 *
 * Edges are kept in lists that hang on their smaller vertex: for meshes of millions of triangles that is several times faster and
 * smaller than a table by key.
 */
final readonly class HalfEdges
{
    /**
     * @param  list<int>  $tri  three vertices a triangle
     * @param  list<int>  $welded  of each vertex the first in its place
     * @param  string  $flat  a character a triangle, 1 for one without area
     * @param  array<int|string, int>  $first  of each edge, in order of first use
     * @param  array<int|string, int>  $second  −1 for none
     * @param  array<int|string, list<int>>  $more  edge → half-edges after the second
     */
    private function __construct(public array $tri, public array $welded, public string $flat, public array $first, public array $second, public array $more)
    {
    }

    /**
     * @param  list<int>  $tri
     * @param  list<int>  $welded
     */
    public static function of(array $tri, array $welded, string $flat): self
    {
        $count = count($tri);
        $head = array_fill(0, max(1, count($welded)), -1);
        // Of each edge, in order of first use: larger vertex, next edge of the smaller one, its half-edges 3·triangle + corner.
        $far = $next = $first = $second = [];
        $more = [];
        $edges = 0;
        for ($t = 0; $t < $count; $t += 3) {
            if ($flat[intdiv($t, 3)] === '1') {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                $from = $welded[$tri[$t + $k]];
                $to = $welded[$tri[$t + ($k === 2 ? 0 : $k + 1)]];
                if ($from < $to) {
                    $low = $from;
                    $high = $to;
                } else {
                    $low = $to;
                    $high = $from;
                }
                $e = $head[$low];
                while ($e >= 0 && $far[$e] !== $high) {
                    $e = $next[$e];
                }
                if ($e < 0) {
                    $far[] = $high;
                    $next[] = $head[$low];
                    $first[] = $t + $k;
                    $second[] = -1;
                    $head[$low] = $edges++;
                } elseif ($second[$e] < 0) {
                    $second[$e] = $t + $k;
                } else {
                    $more[$e][] = $t + $k;
                }
            }
        }

        return new self($tri, $welded, $flat, $first, $second, $more);
    }

    /**
     * Triangles on an earlier one with the same three places, either way round.
     *
     * @return array<int, true>
     */
    public function doubles(): array
    {
        [$tri, $welded, $first, $more] = [$this->tri, $this->welded, $this->first, $this->more];
        $dropped = [];
        foreach ($this->second as $e => $h) {
            if ($h < 0) {
                continue;
            }
            $g = $first[$e];
            $opposite = $welded[$tri[$g - $g % 3 + ($g + 2) % 3]];
            if (! isset($more[$e])) {
                if ($welded[$tri[$h - $h % 3 + ($h + 2) % 3]] === $opposite) {
                    $dropped[intdiv($h, 3)] = true;
                }

                continue;
            }
            $seen = [$opposite => true];
            foreach ([$h, ...$more[$e]] as $other) {
                $far = $welded[$tri[self::opposite($other)]];
                if (isset($seen[$far])) {
                    $dropped[intdiv($other, 3)] = true;
                }
                $seen[$far] = true;
            }
        }

        return $dropped;
    }

    /** The corner of a half-edge's triangle that the edge does not touch. */
    private static function opposite(int $half): int
    {
        return $half - $half % 3 + ($half + 2) % 3;
    }
}
