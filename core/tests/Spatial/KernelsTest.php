<?php

declare(strict_types=1);

namespace Anvil\Tests\Spatial;

use Anvil\ColorId\Palette;
use Anvil\Geometry\Mesh;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Rays\HeightSolver;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\SampleShares;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;
use Anvil\Surface\UvIslands;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * The kernels against themselves done the long way, on even and uneven meshes, and against what holds by construction.
 */
#[Group('matrix')]
final class KernelsTest extends TestCase
{
    /**
     * @return iterable<string, array{Mesh}>
     */
    public static function meshes(): iterable
    {
        yield 'even' => [Shapes::sphere(1, 14, 24)->mesh()];
        yield 'slivers' => [Shapes::cylinder(0.5, 40, 40)->mesh()];
        yield 'many shells and a far outlier' => [Polygons::join([...array_map(static fn (int $i): Polygons => Shapes::box(0.1, 0.1, 0.1)->moved($i % 5, intdiv($i, 5), 0.37 * $i), range(0, 24)), Shapes::box(1, 1, 1)->moved(4000, 0, 0)])->mesh()];
        yield 'doubled faces' => [Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1))->with(Shapes::box(1, 1, 1)->flipped())->mesh()];
        yield 'large among small, held in pieces' => [self::largeAmongSmall()];
        yield 'one triangle' => [(new Polygons([[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]], [[0, 1, 2]]))->mesh()];
    }

    /** A slab, slivers slanting across it, and rivets. */
    private static function largeAmongSmall(): Mesh
    {
        $all = [Shapes::box(4, 0.1, 4), new Polygons([[-2.0, 0.1, -2.0], [2.0, 0.9, 1.9], [2.0, 0.9, 2.0], [-2.0, 0.2, 2.0], [2.0, 1.0, -2.0], [2.0, 1.1, -1.9]], [[0, 1, 2], [3, 4, 5]])];
        for ($i = 0; $i < 12; $i++) {
            $all[] = Shapes::sphere(0.03, 5, 8)->moved(-1.5 + 1.0 * ($i % 4), 0.06, -1.0 + 1.0 * intdiv($i, 4));
        }

        return Polygons::join($all)->mesh();
    }

    public function test_only_what_is_far_larger_than_the_rest_is_held_in_pieces(): void
    {
        $mesh = self::largeAmongSmall();
        self::assertTrue(TriangleTree::of($mesh->positions, $mesh->triangles)->hasPieces);
        $even = Shapes::roundedBox(1, 1, 1, 0.1, 4, 3)->mesh();
        self::assertFalse(TriangleTree::of($even->positions, $even->triangles)->hasPieces);
    }

    /** Every rivet's foot stands on the slab: what is met on the way down is the slab, once. */
    public function test_a_triangle_in_pieces_is_met_once(): void
    {
        $mesh = self::largeAmongSmall();
        $cast = new SegmentCast(TriangleTree::of($mesh->positions, $mesh->triangles));
        for ($i = 0; $i < 200; $i++) {
            [$x, $z] = [-1.9 + 3.8 * fmod(0.618034 * $i, 1.0), -1.9 + 3.8 * fmod(0.754878 * $i, 1.0)];
            $hits = $cast->all($x, -0.3, $z, 0.0, 1.0, 0.0, -1.0, 0.35001, 0);
            self::assertSame(count(array_unique($cast->triangle)), $hits);
            self::assertGreaterThanOrEqual(2, $hits);
        }
    }

    #[DataProvider('meshes')]
    public function test_a_tree_gives_the_hits_that_trying_every_triangle_gives(Mesh $mesh): void
    {
        $tree = TriangleTree::of($mesh->positions, $mesh->triangles);
        $sorted = $tree->order;
        sort($sorted);
        self::assertSame(range(0, $mesh->triangleCount() - 1), array_values(array_unique($sorted)), 'every triangle is in a leaf');
        self::assertSame(count($sorted) > $mesh->triangleCount(), $tree->hasPieces);
        $cast = new SegmentCast($tree);
        $bounds = $mesh->bounds();
        self::assertNotNull($bounds);
        foreach (self::directions(60) as $i => [$dx, $dy, $dz]) {
            $v = 3 * ($i * 7 % $mesh->vertexCount());
            [$x, $y, $z] = [0.9 * $mesh->positions[$v] + 0.01, 0.9 * $mesh->positions[$v + 1] + 0.02, 0.9 * $mesh->positions[$v + 2] - 0.013];
            $long = [];
            for ($t = 0; $t < $mesh->triangleCount(); $t++) {
                $one = new SegmentCast(TriangleTree::of($mesh->positions, array_slice($mesh->triangles, 3 * $t, 3)));
                if ($one->all($x, $y, $z, $dx, $dy, $dz, -3.0, 3.0, 0) > 0) {
                    $long[$t] = $one->t[0];
                }
            }
            $cast->all($x, $y, $z, $dx, $dy, $dz, -3.0, 3.0, 0);
            $found = $cast->triangle === [] ? [] : array_combine($cast->triangle, $cast->t);
            ksort($found);
            self::assertEquals($long, $found);
            self::assertSame($long !== [], $cast->any($x, $y, $z, $dx, $dy, $dz, -3.0, 3.0));
            if ($i > 8) {
                break;
            }
        }
    }

    #[DataProvider('meshes')]
    public function test_the_nearest_point_is_the_nearest_of_all_triangles(Mesh $mesh): void
    {
        $nearest = new NearestPoint(TriangleTree::of($mesh->positions, $mesh->triangles));
        foreach (array_slice(self::directions(30), 0, 8) as [$x, $y, $z]) {
            $best = INF;
            for ($t = 0; $t < $mesh->triangleCount(); $t++) {
                $one = new NearestPoint(TriangleTree::of($mesh->positions, array_slice($mesh->triangles, 3 * $t, 3)));
                $one->find(1.7 * $x, 1.7 * $y, 1.7 * $z);
                $best = min($best, $one->squared);
            }
            $nearest->find(1.7 * $x, 1.7 * $y, 1.7 * $z);
            self::assertEqualsWithDelta($best, $nearest->squared, 1e-12 * max(1.0, $best));
            self::assertTrue($nearest->anyWithin(1.7 * $x, 1.7 * $y, 1.7 * $z, 1.0001 * sqrt($best)));
            self::assertFalse($nearest->anyWithin(1.7 * $x, 1.7 * $y, 1.7 * $z, 0.9999 * sqrt($best)));
        }
    }

    public function test_the_height_of_a_point_made_from_a_place_and_a_height_is_that_height(): void
    {
        foreach ([Shapes::box(2, 1, 1), Shapes::cylinder(1, 2, 16), Shapes::sphere(1, 10, 20)] as $shape) {
            $low = LowSurface::of([$shape->mesh()], true);
            $solver = new HeightSolver($low, true);
            $samples = Samples::of($low, 300, true);
            for ($i = 0; $i < $samples->count(); $i += 7) {
                foreach ([0.08, 0.01, -0.02] as $t) {
                    $height = $solver->height($samples->px[$i] + $t * $samples->nx[$i], $samples->py[$i] + $t * $samples->ny[$i], $samples->pz[$i] + $t * $samples->nz[$i], 1.0);
                    self::assertNotNull($height);
                    self::assertEqualsWithDelta($t, $height, 1e-9);
                }
            }
        }
    }

    public function test_samples_are_spread_by_uv_area_with_at_least_one_a_triangle(): void
    {
        // One face of the box gets all but a hundredth of the page.
        $box = Shapes::box(1, 1, 1);
        foreach ($box->uvs as $f => $face) {
            $box->uvs[$f] = array_map(static fn (array $uv): array => $f === 0 ? $uv : [0.01 * $uv[0], 0.01 * $uv[1]], $face);
        }
        $samples = Samples::of(LowSurface::of([$box->mesh()], true), 1000, true);
        self::assertTrue($samples->byUv);
        self::assertEqualsWithDelta(1.0, array_sum($samples->weight), 1e-9);
        $counts = array_count_values($samples->triangle);
        self::assertCount(12, $counts);
        self::assertGreaterThan(480, $counts[0]);
        $plain = Samples::of(LowSurface::of([(new Polygons($box->points, $box->faces))->mesh()], true), 1200, true);
        self::assertFalse($plain->byUv);
        self::assertEqualsWithDelta(100, array_count_values($plain->triangle)[3], 1.0);
        self::assertGreaterThanOrEqual(64, Samples::of(LowSurface::of([Shapes::sheet(1, 1)->mesh()], true), 1, true)->count());
        self::assertSame(['a' => 800, 'b' => 200], SampleShares::of(['a' => [Shapes::sheet(1, 1)->placed(0, 0, 1.0)->mesh()], 'b' => [Shapes::sheet(1, 1)->placed(0, 0, 0.5)->mesh()]], 1000));
    }

    public function test_directions_at_a_cube_corner_lean_equally_and_keep_the_length_of_interpolation(): void
    {
        $samples = Samples::of(LowSurface::of([Shapes::box(2, 2, 2)->mesh()], true), 600, true);
        for ($i = 0; $i < $samples->count(); $i++) {
            // Linear over a face from (±1, ±1, 1)/√3 at its corners: n = p/√3 everywhere on the cube.
            self::assertEqualsWithDelta($samples->px[$i] / M_SQRT3, $samples->nx[$i], 1e-9);
            self::assertEqualsWithDelta($samples->pz[$i] / M_SQRT3, $samples->nz[$i], 1e-9);
        }
    }

    public function test_what_lies_inside_another_part_is_not_seen(): void
    {
        $sets = new SetSurfaces('a', [Shapes::box(1, 1, 1)->mesh(), Shapes::box(3, 3, 3)->mesh()], [], true);
        $visibility = new Visibility(\Anvil\Rays\Visibility::assembled([$sets]));
        self::assertFalse($visibility->seen(0.5, 0.0, 0.0, 1.0, 0.0, 0.0));
        self::assertTrue($visibility->seen(1.5, 0.0, 0.0, 1.0, 0.0, 0.0));
        self::assertTrue($visibility->seen(0.0, 0.0, -1.5, 0.0, 0.0, -1.0), 'the frame on the normal holds at the pole');
    }

    public function test_islands_are_joined_over_edges_that_are_no_seams(): void
    {
        self::assertCount(6, UvIslands::of(Shapes::box(1, 1, 1, 3)->mesh())->first);
        // The side and both caps.
        self::assertCount(3, UvIslands::of(Shapes::cylinder(1, 2, 12)->mesh())->first);
        self::assertCount(1, UvIslands::of(Shapes::sheet(1, 1, 4, 4)->mesh())->first);
        // Two materials are two pages, and an island lies on one.
        self::assertCount(2, UvIslands::of(Shapes::sheet(1, 1, 2, 1)->mesh(40, [[0, 'one'], [1, 'two']]))->first);
        self::assertSame([], UvIslands::of((new Polygons(Shapes::box(1, 1, 1)->points, Shapes::box(1, 1, 1)->faces))->mesh())->first);
    }

    public function test_a_spread_palette_is_distinct_the_same_every_time_and_keeps_away_from_what_is_kept(): void
    {
        foreach ([2 => 60.0, 8 => 30.0, 20 => 20.0, 60 => 8.0] as $count => $least) {
            $palette = Palette::spread($count);
            self::assertCount($count, array_unique(array_map(static fn ($c): string => $c->hex(), $palette)));
            self::assertGreaterThan($least, Palette::leastDistance($palette));
            self::assertEquals($palette, Palette::spread($count));
        }
        $kept = Palette::spread(4);
        self::assertGreaterThan(25.0, Palette::leastDistance([...$kept, ...Palette::spread(4, $kept)]));
        self::assertCount(300, array_unique(array_map(static fn ($c): string => $c->hex(), Palette::spread(300))));
    }

    /**
     * @return list<array{float, float, float}>
     */
    private static function directions(int $count): array
    {
        $out = [];
        for ($i = 0; $i < $count; $i++) {
            $z = 2 * ($i + 0.5) / $count - 1;
            $r = sqrt(1 - $z * $z);
            $out[] = [$r * cos(2.399963 * $i), $r * sin(2.399963 * $i), $z];
        }

        return $out;
    }
}
