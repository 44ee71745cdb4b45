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
     * @param  list<int>  $halves  of each edge, in order of first use: its first half-edge, and 2^32 times its second one, counted from 1; 0 for none
     * @param  array<int, list<int>>  $more  edge → half-edges after the second
     */
    private function __construct(public array $tri, public array $welded, public string $flat, public array $halves, public array $more)
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
        // Of each edge: its larger vertex, and 2^32 times the next edge of the smaller one, counted from 1. Two numbers in one take half the memory.
        $links = $halves = [];
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
                while ($e >= 0 && ($links[$e] & 0xFFFFFFFF) !== $high) {
                    $e = ($links[$e] >> 32) - 1;
                }
                if ($e < 0) {
                    $links[] = ($head[$low] + 1) << 32 | $high;
                    $halves[] = $t + $k;
                    $head[$low] = $edges++;
                } elseif ($halves[$e] < 0x100000000) {
                    $halves[$e] |= ($t + $k + 1) << 32;
                } else {
                    $more[$e][] = $t + $k;
                }
            }
        }

        return new self($tri, $welded, $flat, array_values($halves), $more);
    }

    /**
     * Triangles on an earlier one with the same three places, either way round.
     *
     * @return array<int, true>
     */
    public function doubles(): array
    {
        [$tri, $welded, $more] = [$this->tri, $this->welded, $this->more];
        $dropped = [];
        foreach ($this->halves as $e => $both) {
            if ($both < 0x100000000) {
                continue;
            }
            $g = $both & 0xFFFFFFFF;
            $h = ($both >> 32) - 1;
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
