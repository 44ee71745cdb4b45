<?php

declare(strict_types=1);

namespace Anvil\Tests\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Modelling\Shapes;
use Anvil\Surface\LowEdges;
use Anvil\Surface\UvIslands;
use PHPUnit\Framework\TestCase;

/**
 * Islands, seams and edges of a low poly, against a plain search over all pairs of triangles.
 */
final class UvIslandsTest extends TestCase
{
    public function test_islands_are_those_of_a_search_over_all_pairs(): void
    {
        mt_srand(27);
        foreach ([Shapes::box(1, 1, 1, 2), Shapes::cylinder(1, 2, 9), Shapes::roundedBox(1, 1, 1, 0.2, 2, 1), Shapes::sheet(1, 1, 3, 4), Shapes::torus(2, 0.5, 8, 5)] as $shape) {
            $mesh = $shape->mesh();
            $islands = UvIslands::of($mesh);
            self::assertSame(self::searched($mesh), $islands->of);
            self::assertCount(max($islands->of) + 1, $islands->first);
            foreach ($islands->first as $island => $triangle) {
                self::assertSame(array_search($island, $islands->of, true), $triangle);
            }
        }
    }

    /** Signed areas are those of the shoelace formula; their sum is that of the outline. */
    public function test_areas_in_uv_are_signed_and_add_up(): void
    {
        $sheet = Shapes::sheet(1, 1, 5, 3)->mesh();
        self::assertEqualsWithDelta(0.92 ** 2, abs(array_sum(UvIslands::of($sheet)->uvAreas)), 1e-9);
        self::assertEqualsWithDelta(-array_sum(UvIslands::of($sheet)->uvAreas), array_sum(UvIslands::of(self::mirrored($sheet))->uvAreas), 1e-12);
    }

    public function test_a_triangle_that_is_flat_in_uv_has_no_area_and_one_without_uvs_no_island(): void
    {
        $positions = [0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 1.0, 1.0, 0.0];
        $uvs = [0.0, 0.0, 0.5, 0.0, 1.0, 0.0, 0.3, 0.7];
        $mesh = new Mesh($positions, [0, 1, 2, 1, 3, 2], $uvs, [0, 1, 2, -1, -1, -1], [], [], [], [0, 1], ['plain'], [[0, 0]], []);
        $islands = UvIslands::of($mesh);
        self::assertSame([0, -1], $islands->of);
        self::assertSame([0.0, 0.0], $islands->uvAreas);
        self::assertSame([-1, -1], UvIslands::of(new Mesh($positions, [0, 1, 2, 1, 3, 2], [], [], [], [], [], [0, 1], ['plain'], [[0, 0]], []))->of);
    }

    /** A box has twelve edges of 90° and six that cut its faces; each of its 36 half-edges has its twin. */
    public function test_edges_of_a_box(): void
    {
        $mesh = Shapes::box(1, 2, 3)->mesh();
        $edges = LowEdges::of($mesh);
        $turns = [];
        foreach ($edges->twins as $half => $twin) {
            self::assertGreaterThanOrEqual(0, $twin);
            self::assertSame($half, $edges->twins[$twin]);
            self::assertNotSame(intdiv($half, 3), intdiv($twin, 3));
            $turns[] = round($edges->turn($half) ?? -1.0, 6);
        }
        self::assertSame(['0' => 12, '90' => 24], array_map(intval(...), array_count_values(array_map(static fn (float $turn): string => (string) $turn, self::ascending($turns)))));
        self::assertEqualsWithDelta(2 * (2 + 3 + 6), array_sum($edges->areas), 1e-12);
        self::assertSame([1, 2, 0], array_map(LowEdges::after(...), [0, 1, 2]));
    }

    /** The border of an open sheet has no twin, and nothing turns there. */
    public function test_borders_turn_nothing(): void
    {
        $edges = LowEdges::of(Shapes::sheet(1, 1, 4, 3)->mesh());
        $borders = array_keys($edges->twins, -1, true);
        self::assertCount(2 * (4 + 3), $borders);
        foreach ($borders as $half) {
            self::assertNull($edges->turn($half));
            self::assertTrue($edges->seams[$half]);
        }
    }

    /** A regular prism turns by 360° over its number of sides. */
    public function test_sides_of_a_prism_turn_by_their_share_of_a_circle(): void
    {
        foreach ([3, 5, 12, 40] as $sides) {
            $mesh = Shapes::cylinder(1, 2, $sides)->mesh();
            $edges = LowEdges::of($mesh);
            $turns = array_filter(array_map(static fn (int $half): float => $edges->turn($half) ?? 0.0, array_keys($edges->twins)), static fn (float $turn): bool => $turn > 1e-3 && abs($turn - 90.0) > 1e-3);
            self::assertGreaterThanOrEqual(2 * $sides, count($turns));
            foreach ($turns as $turn) {
                self::assertEqualsWithDelta(360 / $sides, $turn, 1e-4);
            }
        }
    }

    /**
     * @param  list<float>  $list
     * @return list<float>
     */
    private static function ascending(array $list): array
    {
        sort($list);

        return $list;
    }

    private static function mirrored(Mesh $mesh): Mesh
    {
        $uvs = $mesh->uvs;
        for ($i = 0; $i < count($uvs); $i += 2) {
            $uvs[$i] = 1.0 - $uvs[$i];
        }

        return new Mesh($mesh->positions, $mesh->triangles, $uvs, $mesh->triUvs, $mesh->normals, $mesh->triNormals, $mesh->colors, $mesh->faces, $mesh->materials, $mesh->materialRuns, $mesh->smoothing);
    }

    /**
     * Islands by joining any two triangles that share an edge in space whose ends have the same UVs on both.
     *
     * @return list<int>
     */
    private static function searched(Mesh $mesh): array
    {
        $count = $mesh->triangleCount();
        $corner = static function (int $k) use ($mesh): array {
            [$v, $u] = [3 * $mesh->triangles[$k], 2 * $mesh->triUvs[$k]];

            return [sprintf('%.6f %.6f %.6f', $mesh->positions[$v] + 0.0, $mesh->positions[$v + 1] + 0.0, $mesh->positions[$v + 2] + 0.0), sprintf('%.6f %.6f', $mesh->uvs[$u], $mesh->uvs[$u + 1])];
        };
        $joined = static function (int $a, int $b) use ($corner): bool {
            $same = 0;
            for ($i = 0; $i < 3; $i++) {
                for ($j = 0; $j < 3; $j++) {
                    [$p, $s] = $corner(3 * $a + $i);
                    [$q, $t] = $corner(3 * $b + $j);
                    $same += str_replace('-0.000000', '0.000000', $p) === str_replace('-0.000000', '0.000000', $q) && $s === $t ? 1 : 0;
                }
            }

            return $same === 2;
        };
        $of = array_fill(0, $count, -1);
        $next = 0;
        for ($t = 0; $t < $count; $t++) {
            if ($of[$t] >= 0) {
                continue;
            }
            $of[$t] = $next;
            for ($queue = [$t]; $queue !== [];) {
                $a = array_pop($queue);
                for ($b = 0; $b < $count; $b++) {
                    if ($of[$b] < 0 && $joined($a, $b)) {
                        $of[$b] = $next;
                        $queue[] = $b;
                    }
                }
            }
            $next++;
        }

        return array_values($of);
    }
}
