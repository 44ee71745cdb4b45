<?php

declare(strict_types=1);

namespace Anvil\Tests\Geometry;

use Anvil\Geometry\CornerShares;
use Anvil\Geometry\FaceNormal;
use Anvil\Geometry\Fans;
use Anvil\Geometry\HalfEdges;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\MeshContents;
use Anvil\Geometry\MeshFaults;
use Anvil\Geometry\MeshHealth;
use Anvil\Geometry\Normals;
use Anvil\Geometry\Shells;
use Anvil\Geometry\SurfacePoints;
use Anvil\Geometry\Triangulation;
use Anvil\Geometry\Weld;
use Anvil\Geometry\Winding;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Edges, fans, shells and windings counted by hand: Euler's formula (V − E + F = 2 for each closed shell without holes) and the shoelace formula stand beside.
 */
final class TopologyRulesTest extends TestCase
{
    private static function edges(Mesh $mesh): HalfEdges
    {
        return HalfEdges::of($mesh->triangles, Weld::ofMesh($mesh), str_repeat('0', $mesh->triangleCount()));
    }

    /**
     * @return iterable<string, array{Polygons, int, int}> shape, shells, open edges
     */
    public static function shapes(): iterable
    {
        yield 'box' => [Shapes::box(1, 2, 3), 1, 0];
        yield 'cut box' => [Shapes::box(1, 2, 3, 4), 1, 0];
        yield 'cylinder' => [Shapes::cylinder(1, 2, 12), 1, 0];
        yield 'sphere' => [Shapes::sphere(1, 6, 9), 1, 0];
        yield 'two boxes' => [Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(3, 0, 0)), 2, 0];
        yield 'sheet' => [Shapes::sheet(2, 1, 3, 2), 1, 10];
        yield 'box and sheet' => [Shapes::box(1, 1, 1)->with(Shapes::sheet(1, 1)->moved(0, 4, 0)), 2, 4];
    }

    #[DataProvider('shapes')]
    public function test_edges_follow_eulers_formula(Polygons $shape, int $shells, int $open): void
    {
        $mesh = $shape->triangulated()->mesh();
        $edges = self::edges($mesh);
        $places = count(array_unique(Weld::ofMesh($mesh)));
        // A border of one loop is one face more that is not there.
        $loops = $open > 0 ? 1 : 0;
        self::assertSame(2 * $shells, $places - count($edges->halves) + $mesh->triangleCount() + $loops);
        self::assertCount($open, array_filter($edges->halves, static fn (int $both): bool => $both < 0x100000000));
        self::assertSame([], $edges->more);
        self::assertSame([], Fans::of($edges, []));
        self::assertSame([], Winding::against($edges, []));
        self::assertCount($shells, array_unique(Shells::ofMesh($mesh)));
        $health = MeshHealth::of($mesh);
        self::assertSame($open === 0, $health->isAllClosed());
        self::assertSame($mesh->triangleCount(), array_sum(array_map(static fn (int $shell): int => $health->trianglesIn($shell), array_unique(array_map($health->shellOf(...), range(0, $mesh->triangleCount() - 1))))));
    }

    public function test_the_smaller_side_is_turned_and_a_shell_inside_out_is_told_whole(): void
    {
        $box = Shapes::box(1, 1, 1, 3);
        foreach ([1, 5, 20] as $many) {
            $faces = $box->faces;
            for ($i = 0; $i < $many; $i++) {
                $faces[$i] = array_reverse($faces[$i]);
            }
            $faults = MeshHealth::of((new Polygons($box->points, $faces))->mesh())->faults();
            self::assertSame([2 * $many, 0], [$faults->againstNeighbours, $faults->insideOut]);
        }
        $faults = MeshHealth::of($box->flipped()->mesh())->faults();
        self::assertSame([0, 2 * count($box->faces)], [$faults->againstNeighbours, $faults->insideOut]);
        // A hollow: the inner shell faces inward on purpose.
        self::assertSame(0, MeshHealth::of(Shapes::box(3, 3, 3)->with($box->flipped())->mesh())->faults()->insideOut);
        self::assertSame(108, MeshHealth::of(Shapes::box(3, 3, 3)->moved(9, 0, 0)->with($box->flipped())->mesh())->faults()->insideOut);
    }

    public function test_what_touches_in_a_vertex_or_an_edge_only_is_told_with_its_place(): void
    {
        $box = Shapes::box(1, 1, 1);
        $corner = MeshHealth::of($box->with($box->moved(1, 1, 1))->mesh())->faults();
        self::assertSame([0, 1], [$corner->manyFaced, $corner->fans]);
        self::assertEqualsWithDelta([[0.5, 0.5, 0.5]], $corner->fansWhere, 1e-6);
        $edge = MeshHealth::of($box->with($box->moved(1, 1, 0))->mesh())->faults();
        self::assertSame(1, $edge->manyFaced);
        self::assertEqualsWithDelta([0.5, 0.5, 0.0], $edge->manyFacedWhere[0], 1e-6);
        // Three sheets at one edge, as a book stands open.
        $leaf = Shapes::sheet(1, 1)->moved(0.5, 0, 0);
        $book = MeshHealth::of($leaf->with($leaf->turned(2, 120))->with($leaf->turned(2, 240))->mesh())->faults();
        self::assertSame(1, $book->manyFaced);
        $stored = MeshFaults::ofArray(json_decode((string) json_encode($book->toArray()), true));
        self::assertEquals($book, $stored);
    }

    public function test_doubles_are_counted_whichever_way_round(): void
    {
        $box = Shapes::box(1, 1, 1)->triangulated();
        $twice = static fn (array $more): MeshFaults => MeshHealth::of((new Polygons($box->points, [...$box->faces, ...$more]))->mesh())->faults();
        self::assertSame([0, 1, 1, 3], [
            $twice([])->doubled, $twice([$box->faces[4]])->doubled, $twice([array_reverse($box->faces[4])])->doubled, $twice([$box->faces[0], $box->faces[5], array_reverse($box->faces[9])])->doubled,
        ]);
        $flat = $twice([[0, 1, 1], [2, 2, 2]]);
        self::assertSame([2, 0], [$flat->degenerate, $flat->doubled]);
        self::assertCount(2, $flat->degenerateWhere);
    }

    public function test_faces_are_cut_into_their_own_area(): void
    {
        $outlines = [
            'square' => [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]],
            'arrow' => [[0.0, 0.0], [2.0, 0.0], [1.0, 0.5], [2.0, 2.0]],
            'comb' => [[0.0, 0.0], [7.0, 0.0], [7.0, 3.0], [6.0, 3.0], [6.0, 1.0], [5.0, 1.0], [5.0, 3.0], [2.0, 3.0], [2.0, 1.0], [1.0, 1.0], [1.0, 3.0], [0.0, 3.0]],
            'spiral' => [[0.0, 0.0], [5.0, 0.0], [5.0, 5.0], [1.0, 5.0], [1.0, 2.0], [3.0, 2.0], [3.0, 3.0], [2.0, 3.0], [2.0, 4.0], [4.0, 4.0], [4.0, 1.0], [0.0, 1.0]],
            'collinear' => [[0.0, 0.0], [1.0, 0.0], [2.0, 0.0], [2.0, 2.0], [1.0, 2.0], [0.0, 2.0]],
        ];
        foreach ($outlines as $name => $outline) {
            foreach ([[0, 1, 2], [1, 2, 0], [2, 0, 1]] as $axes) {
                foreach ([false, true] as $isTurned) {
                    $ring = $isTurned ? array_reverse($outline) : $outline;
                    $xyz = [];
                    $shoelace = 0.0;
                    foreach ($ring as $i => [$u, $v]) {
                        $next = $ring[($i + 1) % count($ring)];
                        $shoelace += ($u * $next[1] - $next[0] * $v) / 2;
                        $point = [0.0, 0.0, 0.0];
                        [$point[$axes[0]], $point[$axes[1]], $point[$axes[2]]] = [$u, $v, 0.3 * $u];
                        array_push($xyz, ...$point);
                    }
                    $cut = Triangulation::of($xyz);
                    self::assertCount(3 * (count($ring) - 2), $cut, $name);
                    $sum = 0.0;
                    foreach (array_chunk($cut, 3) as [$a, $b, $c]) {
                        $area = (($ring[$b][0] - $ring[$a][0]) * ($ring[$c][1] - $ring[$a][1]) - ($ring[$b][1] - $ring[$a][1]) * ($ring[$c][0] - $ring[$a][0])) / 2;
                        self::assertGreaterThanOrEqual(-1e-12, $area * ($isTurned ? -1 : 1), "$name: a triangle lies outside");
                        $sum += $area;
                    }
                    self::assertEqualsWithDelta($shoelace, $sum, 1e-12, $name);
                }
            }
        }
        self::assertSame([], Triangulation::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0]));
        self::assertSame([0, 1, 2, 0, 2, 3], Triangulation::of(array_fill(0, 12, 0.5)), 'no area: a fan, so that nothing is lost');
    }

    public function test_points_are_spread_by_area_and_lie_on_the_surface(): void
    {
        // Two sheets of one area to three.
        $meshes = [Shapes::sheet(1, 1)->mesh(), Shapes::sheet(3, 1)->moved(0, 2, 0)->mesh()];
        $points = SurfacePoints::of($meshes, 4000);
        self::assertSame(4000, $points->count());
        $upper = 0;
        for ($i = 0; $i < 4000; $i++) {
            $isUpper = $points->at[3 * $i + 1] === 2.0;
            $upper += $isUpper ? 1 : 0;
            self::assertSame($isUpper ? 2.0 : 0.0, $points->at[3 * $i + 1]);
            self::assertLessThanOrEqual($isUpper ? 1.5 : 0.5, abs($points->at[3 * $i]));
            self::assertSame($isUpper, $points->triangles[$i] >= 2);
        }
        self::assertSame(3000, $upper);
        self::assertSame([0.0, 1.0, 0.0], array_slice($points->normals, 0, 3));
        self::assertSame(0, SurfacePoints::of([Shapes::sheet(1, 1)->scaled(1, 1, 0)->mesh()], 100)->count());
        self::assertEquals($points, SurfacePoints::of($meshes, 4000), 'the same on every run');
        // The mean of x over a sheet from −0.5 to 0.5 is 0, of x² 1/12.
        $one = SurfacePoints::of([$meshes[0]], 2000);
        $sum = $squares = 0.0;
        for ($i = 0; $i < 2000; $i++) {
            $sum += $one->at[3 * $i];
            $squares += $one->at[3 * $i] ** 2;
        }
        self::assertEqualsWithDelta([0.0, 1 / 12], [$sum / 2000, $squares / 2000], 2e-3);
    }

    public function test_shares_of_corners_make_the_place_again(): void
    {
        $p = [1.0, 2.0, 3.0, 4.0, 0.0, -1.0, 0.5, 6.0, 2.0];
        foreach ([[1.0, 0.0, 0.0], [0.2, 0.3, 0.5], [1.5, -0.25, -0.25], [1 / 3, 1 / 3, 1 / 3]] as $shares) {
            $at = [0, 1, 2];
            foreach ($at as $k) {
                $at[$k] = $shares[0] * $p[$k] + $shares[1] * $p[3 + $k] + $shares[2] * $p[6 + $k];
            }
            self::assertEqualsWithDelta($shares, CornerShares::of($p, [0, 1, 2], 0, $at[0], $at[1], $at[2]), 1e-12);
        }
        self::assertSame([1 / 3, 1 / 3, 1 / 3], CornerShares::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 2.0, 0.0, 0.0], [0, 1, 2], 0, 0.5, 0.0, 0.0));
        self::assertSame([0.0, 0.0, 6.0], FaceNormal::long([0.0, 0.0, 0.0, 2.0, 0.0, 0.0, 0.0, 3.0, 0.0], [0, 1, 2], 0));
        self::assertSame([0.0, 0.0, -1.0], FaceNormal::unit([0.0, 0.0, 0.0, 2.0, 0.0, 0.0, 0.0, 3.0, 0.0], [0, 2, 1], 0));
        self::assertSame([0.0, 0.0, 0.0], FaceNormal::unit([1.0, 1.0, 1.0], [0, 0, 0], 0));
    }

    public function test_normals_of_files_are_counted_as_they_are(): void
    {
        self::assertSame(2, Normals::bad([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, -0.0, 0.0, 0.0]));
        self::assertSame([1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0], Normals::finite([1.0, 0.0, 0.0, NAN, 0.0, 1.0, 0.0, INF, 0.0]));
        self::assertSame([0.0, 1.0, 0.0], Normals::finite([0.0, 1.0, 0.0]));
        self::assertSame([0, 1.0], Normals::long([1.0009, 0.0, 0.0, 0.0, 0.9991, 0.0, 0.0, 0.0, 0.0]));
        [$count, $worst] = Normals::long([1.0, 0.0, 0.0, 0.0, 0.998, 0.0, 0.0, 0.0, 1.5, 0.0, -1.2, 0.0]);
        self::assertSame(3, $count);
        self::assertEqualsWithDelta(1.5, $worst, 1e-12);
    }

    public function test_contents_are_counted_by_corner_and_area_by_material(): void
    {
        $mesh = Shapes::box(1, 2, 3)->placed(0, 0, 0.5)->mesh(40, [[0, 'hull'], [4, 'brass']]);
        $contents = MeshContents::of($mesh, true);
        self::assertSame([12, 36, ['hull', 'brass'], true, 0, 0, 0], [$contents->triangles, $contents->corners, $contents->materials, $contents->hasUvs, $contents->cornersWithoutUv, $contents->cornersWithoutNormal, $contents->facesWithoutMaterial]);
        self::assertEqualsWithDelta(2 * (2 + 3 + 6), $contents->area, 1e-6);
        self::assertEqualsWithDelta($contents->area, array_sum($contents->areas ?? []), 1e-9);
        self::assertEquals($contents, MeshContents::ofArray(json_decode((string) json_encode($contents->toArray(), JSON_PRESERVE_ZERO_FRACTION), true)));
        $bare = MeshContents::of(new Mesh($mesh->positions, $mesh->triangles), true);
        self::assertSame([36, 36, 12, false], [$bare->cornersWithoutUv, $bare->cornersWithoutNormal, $bare->facesWithoutMaterial, $bare->hasUvs]);
        self::assertNull(MeshContents::of($mesh, false)->area);
    }
}
