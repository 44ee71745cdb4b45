<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Rays\Visibility;
use Anvil\Spatial\TriangleTree;

/**
 * How much of each UV island is seen on the assembled low poly (METHODS, "Seen"), and how much is not only because of another part of its own page.
 */
final class IslandSights
{
    /** Places looked from, on all islands together, and on one. */
    private const PLACES = 8192;

    private const OF_ONE = 256;

    /**
     * @param  list<Mesh>  $meshes
     * @param  list<Islands>  $islands  of each
     * @param  list<bool>  $allSeen  of each: whether all of it counts as seen
     * @param  TriangleTree  $assembled  all that hides
     * @param  list<bool>  $hides  of each: whether it is in `assembled`
     * @return list<array{seen: list<float>, behind: list<float>}> of each, shares of each island's area
     */
    public static function of(array $meshes, array $islands, array $allSeen, TriangleTree $assembled, array $hides): array
    {
        $all = max(1, array_sum(array_map(static fn (Islands $one): int => $one->count(), $islands)));
        $each = max(1, min(self::OF_ONE, intdiv(self::PLACES, $all)));
        $pages = [];
        foreach ($islands as $part => $facts) {
            foreach ($facts->page as $page) {
                $pages[$page][$part] = true;
            }
        }
        $visibility = new Visibility($assembled);
        $beyond = [];
        $out = [];
        foreach ($meshes as $part => $mesh) {
            $count = $islands[$part]->count();
            $seen = $behind = $count === 0 ? [] : array_fill(0, $count, 0.0);
            if ($allSeen[$part]) {
                $out[] = ['seen' => $count === 0 ? [] : array_fill(0, $count, 1.0), 'behind' => $behind];

                continue;
            }
            $own = null;
            foreach (self::places($mesh, $each) as $i => $places) {
                $page = $islands[$part]->page[$i];
                $sees = $hidden = 0;
                foreach ($places as [$x, $y, $z, $nx, $ny, $nz]) {
                    if ($visibility->seen($x, $y, $z, $nx, $ny, $nz)) {
                        $sees++;
                    } elseif (count($pages[$page]) > 1) {
                        $own ??= new Visibility(TriangleTree::of($mesh->positions, $mesh->triangles), $assembled->bounds()?->diagonal());
                        $beyond[$page] ??= self::without($meshes, $pages[$page], $hides, $assembled->bounds()?->diagonal());
                        $hidden += $own->seenWith($beyond[$page], $x, $y, $z, $nx, $ny, $nz) ? 1 : 0;
                    }
                }
                $seen[$i] = (float) ($sees / count($places));
                $behind[$i] = (float) ($hidden / count($places));
            }
            $out[] = ['seen' => array_values($seen), 'behind' => array_values($behind)];
        }

        return $out;
    }

    /**
     * What hides beside the parts of a page.
     *
     * @param  list<Mesh>  $meshes
     * @param  array<int, true>  $parts
     * @param  list<bool>  $hides
     */
    private static function without(array $meshes, array $parts, array $hides, ?float $diagonal): ?Visibility
    {
        $positions = $triangles = [];
        foreach ($meshes as $part => $mesh) {
            if (isset($parts[$part]) || ! $hides[$part]) {
                continue;
            }
            $base = intdiv(count($positions), 3);
            array_push($positions, ...$mesh->positions);
            foreach ($mesh->triangles as $v) {
                $triangles[] = $base + $v;
            }
        }

        return $triangles === [] ? null : new Visibility(TriangleTree::of($positions, $triangles), $diagonal);
    }

    /**
     * Places spread evenly over each island's area.
     *
     * @return array<int, list<array{float, float, float, float, float, float}>> island → place and unit face normal
     */
    private static function places(Mesh $mesh, int $each): array
    {
        $islands = UvIslands::of($mesh);
        $edges = LowEdges::of($mesh);
        $areas = $islands->count() === 0 ? [] : array_fill(0, $islands->count(), 0.0);
        foreach ($islands->of as $t => $i) {
            if ($i >= 0) {
                $areas[$i] += $edges->areas[$t];
            }
        }
        $sums = $areas === [] ? [] : array_fill(0, count($areas), 0.0);
        $out = [];
        $k = 0;
        $p = $mesh->positions;
        foreach ($islands->of as $t => $i) {
            if ($i < 0 || $edges->areas[$t] === 0.0) {
                continue;
            }
            $before = (int) floor($sums[$i] / $areas[$i] * $each + 0.5);
            $sums[$i] += $edges->areas[$t];
            $until = (int) floor($sums[$i] / $areas[$i] * $each + 0.5);
            [$a, $b, $c] = [3 * $mesh->triangles[3 * $t], 3 * $mesh->triangles[3 * $t + 1], 3 * $mesh->triangles[3 * $t + 2]];
            for (; $before < $until; $before++) {
                // M. Roberts' R2, as samples are spread.
                $k++;
                $v = 0.5 + $k * 0.7548776662466927;
                $v -= floor($v);
                $w = 0.5 + $k * 0.5698402909980532;
                $w -= floor($w);
                if ($v + $w > 1.0) {
                    [$v, $w] = [1.0 - $v, 1.0 - $w];
                }
                $u = 1.0 - $v - $w;
                $out[$i][] = [
                    $u * $p[$a] + $v * $p[$b] + $w * $p[$c], $u * $p[$a + 1] + $v * $p[$b + 1] + $w * $p[$c + 1], $u * $p[$a + 2] + $v * $p[$b + 2] + $w * $p[$c + 2],
                    $edges->normals[3 * $t], $edges->normals[3 * $t + 1], $edges->normals[3 * $t + 2],
                ];
            }
        }

        return $out;
    }
}
