<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Vertices where fans of faces meet in the vertex only.
 */
final class Fans
{
    /**
     * @param  array<int, true>  $dropped  triangles that take no part
     * @return list<int> welded vertices
     */
    public static function of(HalfEdges $edges, array $dropped): array
    {
        [$tri, $welded, $flat, $more] = [$edges->tri, $edges->welded, $edges->flat, $edges->more];
        // Corners of triangles are joined at a vertex where their triangles share an edge that ends there.
        $parent = range(0, max(0, count($tri) - 1));
        foreach ($edges->halves as $e => $both) {
            if ($both < 0x100000000) {
                continue;
            }
            $g = $both & 0xFFFFFFFF;
            $h = ($both >> 32) - 1;
            $gAfter = $g % 3 === 2 ? $g - 2 : $g + 1;
            foreach (isset($more[$e]) ? [$h, ...$more[$e]] : [$h] as $other) {
                $after = $other % 3 === 2 ? $other - 2 : $other + 1;
                // The two ends of the edge, whichever way round the other face runs along it.
                $isSame = $welded[$tri[$g]] === $welded[$tri[$other]];
                for ($end = 0; $end < 2; $end++) {
                    $a = $end === 0 ? $g : $gAfter;
                    $b = ($end === 0) === $isSame ? $other : $after;
                    while ($parent[$a] !== $a) {
                        $a = $parent[$a] = $parent[$parent[$a]];
                    }
                    while ($parent[$b] !== $b) {
                        $b = $parent[$b] = $parent[$parent[$b]];
                    }
                    if ($a < $b) {
                        $parent[$b] = $a;
                    } elseif ($b < $a) {
                        $parent[$a] = $b;
                    }
                }
            }
        }
        $root = [];
        $split = [];
        foreach ($tri as $c => $v) {
            $t = intdiv($c, 3);
            if ($flat[$t] === '1' || isset($dropped[$t])) {
                continue;
            }
            $vertex = $welded[$v];
            $r = $c;
            while ($parent[$r] !== $r) {
                $r = $parent[$r];
            }
            if (! isset($root[$vertex])) {
                $root[$vertex] = $r;
            } elseif ($root[$vertex] !== $r && ! isset($split[$vertex])) {
                $split[$vertex] = true;
            }
        }

        return array_keys($split);
    }
}
