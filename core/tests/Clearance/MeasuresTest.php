<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Clearance\AssetClearance;
use Anvil\Clearance\Floater;
use Anvil\Clearance\NeededReach;
use Anvil\Clearance\SetClearance;
use Anvil\Explode\ExplodePlan;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Occlusion\Occlusion;
use Anvil\Rays\Belonging;
use Anvil\Rays\HeightSolver;
use Anvil\Rays\HighShells;
use Anvil\Rays\HighSurface;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\SampleShares;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Sets\BakeSet;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * Measures of METHODS, "Rays", against the same done the long way or known by construction.
 */
#[Group('matrix')]
final class MeasuresTest extends TestCase
{
    /**
     * @return iterable<string, array{Polygons, Polygons}>
     */
    public static function pairs(): iterable
    {
        yield 'bolts on a plate' => [Shapes::box(2, 0.2, 2), Polygons::join([Shapes::roundedBox(2, 0.2, 2, 0.03, 2, 3), Shapes::roundedCylinder(0.1, 0.12, 0.02, 20, 2)->moved(-0.6, 0.15, -0.6), Shapes::sphere(0.08, 8, 12)->moved(0.9, 0.02, 0.9)])];
        yield 'an organic shape' => [GoodAssetsTest::potato(8, 14)->triangulated(), GoodAssetsTest::potato(24, 40)];
        yield 'a spike that other surface covers' => [Shapes::box(1, 1, 1), Polygons::join([Shapes::box(1, 1, 1, 3), Shapes::lathe([[0.05, 0.5], [0.0, 0.7]], 12), Shapes::box(0.5, 0.02, 0.5)->moved(0, 0.8, 0)])];
        yield 'an L with a fillet' => [GoodAssetsTest::corner(0.0, 0), GoodAssetsTest::corner(0.2, 8)];
    }

    /** Every vertex and face centre is solved for, none is left out by a box. */
    #[DataProvider('pairs')]
    public function test_the_needed_reach_is_the_greatest_over_all_seen_high_points(Polygons $low, Polygons $high): void
    {
        $set = new SetSurfaces('a', [$low->mesh()], [$high->mesh()], true);
        $d = $set->lowBounds()?->diagonal() ?? 0.0;
        $solver = new HeightSolver($set->low(), true);
        $cast = new SegmentCast($set->high()->tree());
        $p = $set->high()->positions;
        $points = array_chunk($p, 3);
        foreach (array_chunk($set->high()->triangles, 3) as $t => $_) {
            $points[] = $set->high()->centre($t);
        }
        $most = 0.0;
        foreach ($points as [$x, $y, $z]) {
            $fresh = new HeightSolver($set->low(), true);
            $height = $fresh->height($x, $y, $z, $d);
            if ($height === null || $height <= $most) {
                continue;
            }
            self::assertEqualsWithDelta($height, $solver->height($x, $y, $z, $d) ?? -1.0, 1e-9, 'whatever was asked before');
            [$nx, $ny, $nz] = $fresh->direction();
            $length = sqrt($nx ** 2 + $ny ** 2 + $nz ** 2);
            if (! $cast->any($x, $y, $z, $nx, $ny, $nz, 1e-6 * $d / $length, $height)) {
                $most = $height;
            }
        }
        $needed = (new NeededReach($set->low(), $set->high(), $d, true))->out(0.0);
        self::assertLessThanOrEqual($most + 1e-9, $needed);
        self::assertEqualsWithDelta($most, $needed, 2.1e-4 * $d);
        // A reach that is known to be needed is never taken back.
        self::assertSame(5.0, (new NeededReach($set->low(), $set->high(), $d, true))->out(5.0));
    }

    public function test_heights_at_a_place_are_the_nearest_to_nought_whichever_way(): void
    {
        $low = LowSurface::of([Shapes::sheet(2, 2)->mesh(), Shapes::sheet(2, 2)->moved(0, 1, 0)->mesh()], true);
        $solver = new HeightSolver($low, true);
        foreach ([[0.3, 0.3], [0.7, -0.3], [0.51, -0.49], [1.4, 0.4], [-0.2, -0.2]] as [$y, $height]) {
            self::assertEqualsWithDelta($height, $solver->height(0.1, $y, 0.2, 5.0) ?? INF, 1e-9);
            self::assertEqualsWithDelta([0.0, 1.0, 0.0], $solver->direction(), 1e-9);
        }
        self::assertNull($solver->height(0.1, 0.5, 0.2, 0.4), 'past the cap');
        self::assertNull($solver->height(3.0, 0.1, 0.2, 5.0), 'beside it');
        // A unit direction's height is a length: over the corner of a box the direction is 1/√3 long along each axis on the way in between.
        $box = LowSurface::of([Shapes::box(2, 2, 2)->mesh()], true);
        $along = new HeightSolver($box, false);
        self::assertEqualsWithDelta(0.5 * sqrt(3), $along->height(1.5, 1.5, 1.5, 5.0) ?? 0.0, 1e-6);
        self::assertEqualsWithDelta(0.5, $along->height(1.5, 0.0, 0.0, 5.0) ?? 0.0, 1e-9);
        $cage = new HeightSolver($box, true);
        // In the middle of a face interpolation leaves a direction of 1/√3: 0.5 away is 0.866 of them.
        self::assertEqualsWithDelta(0.5 * sqrt(3), $cage->height(1.5, 0.0, 0.0, 5.0) ?? 0.0, 1e-9);
        self::assertEqualsWithDelta(0.5, $cage->height(1.5 - 0.5 + 0.5 / sqrt(3), 0.0, 0.0, 5.0) ?? 0.0, 1e-9);
    }

    public function test_a_low_surface_knows_its_neighbours_borders_and_parts(): void
    {
        $low = LowSurface::of([Shapes::box(1, 1, 1)->mesh(), Shapes::sheet(1, 1, 2, 2)->moved(3, 0, 0)->mesh()], true);
        self::assertSame([0, 12], $low->parts);
        self::assertSame(20, $low->triangleCount());
        self::assertCount(2, array_unique($low->shells));
        for ($t = 0; $t < 12; $t++) {
            self::assertCount(3, $low->around($t));
            self::assertNotContains($t, $low->around($t));
            foreach ($low->around($t) as $other) {
                self::assertContains($t, $low->around($other));
                self::assertLessThan(12, $other);
            }
            self::assertSame([false, false, false], array_slice($low->borders, 3 * $t, 3));
        }
        // A sheet of 2 × 2 has eight border edges, and all but its middle vertex lie on them.
        self::assertCount(8, array_filter(array_slice($low->borders, 36)));
        $own = array_unique(array_slice($low->triangles, 36));
        self::assertCount(8, array_filter($own, static fn (int $v): bool => $low->borderVertices[$v]));
        self::assertEqualsWithDelta([0.5, 0.125], [$low->areas[0], $low->areas[15]], 1e-7);
        self::assertEqualsWithDelta(1.0, array_sum(array_slice($low->uvAreas, 12)), 0.2);
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], array_slice($low->normals, 36, 3), 1e-9);
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], $low->direction(13, 0.2, 0.3), 1e-9);
        // Split directions are the file's own normals.
        $split = LowSurface::of([Shapes::box(1, 1, 1)->mesh()], false);
        for ($t = 0; $t < 12; $t++) {
            self::assertEqualsWithDelta(array_slice($split->normals, 3 * $t, 3), $split->direction($t, 0.3, 0.3), 1e-6);
        }
        // Angles weigh, not the number of faces: a corner of a box of any cuts leans to all three alike.
        $cut = LowSurface::of([Shapes::box(1, 1, 1, 3)->mesh()], true);
        $at = array_search(true, array_map(static fn (array $p): bool => $p === [0.5, 0.5, 0.5], array_chunk($cut->positions, 3)), true);
        $corner = array_search($at, $cut->triangles, true);
        self::assertEqualsWithDelta(array_fill(0, 3, 1 / sqrt(3)), array_slice($cut->directions, 3 * $cut->corners[(int) $corner], 3), 1e-6);
    }

    public function test_a_high_surface_numbers_its_parts_and_shells(): void
    {
        $high = HighSurface::of([Shapes::box(1, 1, 1)->mesh(), new Mesh([], []), Shapes::box(1, 1, 1)->moved(3, 0, 0)->with(Shapes::sheet(1, 2)->moved(6, 0, 0))->mesh()]);
        self::assertSame([0, 0, 2, 2], [$high->partOf(0), $high->partOf(11), $high->partOf(12), $high->partOf(25)]);
        $shells = HighShells::of($high);
        self::assertSame(3, $shells->count());
        self::assertEqualsWithDelta([6.0, 6.0, 2.0], array_values($shells->areas), 1e-6);
        self::assertSame([$shells->of[0], $shells->of[12]], [$shells->of[11], $shells->of[23]]);
        self::assertNotSame($shells->of[23], $shells->of[24]);
        self::assertSame([0.0, 0.0, 0.0], HighSurface::of([new Mesh([0.0, 0.0, 0.0], [0, 0, 0])])->normal(0));
        // Many rays are shot at a finer tree, and it is kept.
        $few = $high->treeFor(10);
        self::assertSame($high->tree(), $few);
        $fine = $high->treeFor(1000);
        self::assertNotSame($high->tree(), $fine);
        self::assertSame($fine, $high->treeFor(10));
        self::assertNotSame(HighSurface::of([Shapes::box(1, 1, 1)->mesh()])->treeFor(24), HighSurface::of([Shapes::box(1, 1, 1)->mesh()])->treeFor(23));
    }

    public function test_samples_that_are_left_stand_for_all(): void
    {
        $samples = Samples::of(LowSurface::of([Shapes::box(1, 1, 1)->mesh()], true), 600, true);
        self::assertSame($samples, $samples->only(range(0, $samples->count() - 1)));
        $half = $samples->only(range(0, $samples->count() - 1, 2));
        self::assertSame((int) ceil($samples->count() / 2), $half->count());
        self::assertEqualsWithDelta(1.0, array_sum($half->weight), 1e-9);
        self::assertSame($samples->px[4], $half->px[2]);
        self::assertSame($samples->nz[6], $half->nz[3]);
        self::assertEqualsWithDelta(0.5, $half->weightOf(range(0, $half->count() - 1, 2)), 0.01);
        self::assertSame(0.0, $half->weightOf([]));
        self::assertEqualsWithDelta($samples->count(), $samples->effective(), 0.02 * $samples->count());
        self::assertSame(0, $samples->only([])->count());
        self::assertSame(0.0, $samples->only([])->effective());
        self::assertSame([$samples->px[3] + 0.5 * $samples->nx[3], $samples->py[3] + 0.5 * $samples->ny[3], $samples->pz[3] + 0.5 * $samples->nz[3]], $samples->at(3, 0.5));
        // One that weighs as much as all others together counts for four.
        $uneven = Samples::of(LowSurface::of([Shapes::sheet(1, 1)->with(Shapes::sheet(1, 1, 20, 20)->moved(3, 0, 0)->placed(0, 0, 0.001))->mesh()], true), 2, true);
        self::assertLessThan(0.2 * $uneven->count(), $uneven->effective());
        $unit = Samples::of(LowSurface::of([Shapes::box(1, 1, 1)->mesh()], true), 64, false);
        for ($i = 0; $i < $unit->count(); $i++) {
            self::assertEqualsWithDelta(1.0, sqrt($unit->nx[$i] ** 2 + $unit->ny[$i] ** 2 + $unit->nz[$i] ** 2), 1e-9);
        }
    }

    public function test_samples_are_shared_out_in_steps(): void
    {
        $sheet = static fn (float $side): array => [Shapes::sheet($side, $side)->placed(0, 0, $side)->mesh()];
        // 1 : 0.25 : 0.0625 of 10,000 are 7619, 1905, 476; down to a sixteenth of an octave: 7424, 1856, 464.
        self::assertSame(['a' => 7424, 'b' => 1856, 'c' => 464], SampleShares::of(['a' => $sheet(1.0), 'b' => $sheet(0.5), 'c' => $sheet(0.25)], 10_000));
        self::assertSame(['a' => 9984 - 9984 % 512, 'b' => 64], SampleShares::of(['a' => $sheet(1.0), 'b' => $sheet(0.01)], 10_000));
        self::assertSame(['a' => 64, 'b' => 64], SampleShares::of(['a' => [], 'b' => []], 10_000));
        // A set without UVs gets by its share of all surface.
        $bare = new Mesh(Shapes::sheet(1, 1)->mesh()->positions, Shapes::sheet(1, 1)->mesh()->triangles);
        self::assertSame(['a' => 4864, 'b' => 4864], array_map(static fn (int $n): int => $n, SampleShares::of(['a' => [$bare], 'b' => [$bare]], 10_000)));
        [$uv, $solid] = [Shapes::sheet(2, 3)->placed(0, 0, 0.5)->mesh()->uvArea(), array_sum(Shapes::sheet(2, 3)->placed(0, 0, 0.5)->mesh()->triangleAreas())];
        self::assertEqualsWithDelta([6.0], [$solid], 1e-6);
        self::assertEqualsWithDelta(0.25, $uv, 0.05);
        self::assertSame(0.0, $bare->uvArea());
    }

    public function test_a_place_is_seen_while_one_of_the_directions_gets_out(): void
    {
        // A shaft of 1 × 1, so deep: its floor is seen up to where even the steepest of 64 directions meets the wall.
        foreach ([[0.5, true], [3.0, true], [40.0, false]] as [$deep, $seen]) {
            $walls = [Shapes::sheet(1, 1), Shapes::sheet(0.0001, 0.0001)->moved(90, 0, 0)];
            foreach ([[0.5, 0.0], [-0.5, 0.0], [0.0, 0.5], [0.0, -0.5]] as [$x, $z]) {
                $walls[] = Shapes::box($x === 0.0 ? 1.0 : 0.001, $deep, $x === 0.0 ? 0.001 : 1.0)->moved($x, $deep / 2, $z);
            }
            $set = new SetSurfaces('a', array_map(static fn (Polygons $p): Mesh => $p->mesh(), $walls), [], true);
            self::assertSame($seen, (new Visibility(Visibility::assembled([$set])))->seen(0.0, 0.0, 0.0, 0.0, 1.0, 0.0), "$deep deep");
        }
        // The share of directions over a face that a half-space of wall takes away is a half.
        $wall = new SetSurfaces('b', [], [Shapes::sheet(2000, 2000)->turned(2, 90)->moved(1, 0, 0)->mesh()], true);
        self::assertEqualsWithDelta(0.5, Occlusion::of(LowSurface::of([Shapes::sheet(0.01, 0.01)->mesh()], true), [$wall], 128), 0.03);
        self::assertSame(0.0, Occlusion::of(LowSurface::of([Shapes::sheet(1, 1)->mesh()], true), [], 64));
        foreach ([[0.0, 1.0, 0.0], [0.0, 0.0, -1.0], [0.6, 0.0, 0.8], [0.0, 0.6, -0.8]] as $n) {
            $sum = 0.0;
            foreach (Occlusion::directions($n[0], $n[1], $n[2], 64, 3) as [$x, $y, $z]) {
                self::assertEqualsWithDelta(1.0, $x ** 2 + $y ** 2 + $z ** 2, 1e-9);
                $sum += $x * $n[0] + $y * $n[1] + $z * $n[2];
            }
            // The mean cosine of a cosine-weighted spread is 2/3.
            self::assertEqualsWithDelta(2 / 3, $sum / 64, 0.002);
        }
    }

    public function test_a_rounding_belongs_by_its_arc_and_a_parallel_wall_does_not(): void
    {
        $low = LowSurface::of([Shapes::box(2, 2, 2)->mesh()], true);
        $belonging = new Belonging($low, 3.4);
        $on = static fn (float $x, float $z): int => (new NearestPoint($low->tree()))->find($x, 1.0, $z);
        // A quarter round of radius 0.5 in the edge between top and right side, met straight down from the top: inside, so under the low.
        foreach ([5.0, 20.0, 45.0, 70.0, 79.0] as $degrees) {
            $a = deg2rad($degrees);
            [$x, $y] = [0.5 + 0.5 * sin($a), 0.5 + 0.5 * cos($a)];
            self::assertTrue($belonging->holds($on($x, 0.0), $x, 1.0, 0.0, $x, $y, 0.0, sin($a), cos($a), 0.0), "at $degrees");
        }
        // Within 10° of the far face's own normal it is that face's.
        $a = deg2rad(85.0);
        self::assertFalse($belonging->holds($on(0.5 + 0.5 * sin($a), 0.0), 0.5 + 0.5 * sin($a), 1.0, 0.0, 0.5 + 0.5 * sin($a), 0.5 + 0.5 * cos($a), 0.0, sin($a), cos($a), 0.0));
        // Off the arc: turned to the side.
        self::assertFalse($belonging->holds($on(0.85, 0.0), 0.85, 1.0, 0.0, 0.85, 0.6, 0.0, 0.6, 0.5, 0.624));
        // A back face is no rounding, however it lies.
        $a = deg2rad(70.0);
        [$x, $y] = [0.5 + 0.5 * sin($a), 0.5 + 0.5 * cos($a)];
        self::assertFalse($belonging->holds($on($x, 0.0), $x, 1.0, 0.0, $x, $y, 0.0, sin($a), cos($a), 0.0, false));
        // The bottom's own surface, seen through from the top: the far wall.
        self::assertFalse($belonging->holds($on(0.2, 0.1), 0.2, 1.0, 0.1, 0.2, -0.9, 0.1, 0.0, -1.0, 0.0));
        // A dent in the top itself is the top's, as deep as half of the way to whatever else faces like it.
        self::assertTrue($belonging->holds($on(0.2, 0.1), 0.2, 1.0, 0.1, 0.2, 0.2, 0.1, 0.0, 1.0, 0.0));
    }

    public function test_what_turns_along_the_arc_to_a_neighbour_is_told_from_a_detail(): void
    {
        $low = LowSurface::of([Shapes::box(2, 2, 2)->mesh()], true);
        $belonging = new Belonging($low, 3.4);
        $top = (new NearestPoint($low->tree()))->find(0.9, 1.0, 0.0);
        $turns = static fn (float $degrees, float $more = 0.0): bool => $belonging->turnsToNeighbour($top, 0.9, 1.0, 0.0, 0.9, 0.95, 0.0, sin(deg2rad($degrees)), cos(deg2rad($degrees)), 0.0, $more);
        self::assertFalse($turns(5.0), 'faces as the place does');
        self::assertTrue($turns(30.0));
        self::assertTrue($turns(85.0));
        self::assertFalse($turns(-30.0), 'away from the edge that is near');
        self::assertTrue($turns(-30.0, 3.0), 'the far edge, where ways may go on');
        self::assertFalse($belonging->turnsToNeighbour($top, 0.0, 1.0, 0.0, 0.0, 0.999, 0.0, 0.7, 0.714, 0.0, 0.0), 'in the middle, no edge within three times the way');
    }

    /** Half of a plate lies 0.1 under its low, of a diagonal of 2.83: over 2 %, so no high poly is near; what is met belongs. */
    public function test_gaps_are_shares_of_what_is_seen_without_high_poly_near(): void
    {
        $step = Shapes::sheet(2, 2, 40, 40)->mapped(static fn (array $p): array => [$p[0], $p[0] > 0.0 ? -0.1 : 0.0, $p[2]]);
        $measured = self::measured(['a_low' => Shapes::sheet(2, 2)], ['a_high' => $step], '{"reach":{"*":{"out":0.2,"in":0.2}}}');
        self::assertEqualsWithDelta(0.0, array_sum($measured->details->gaps['gap']), 1e-9);
        self::assertEqualsWithDelta(0.47, array_sum($measured->details->gaps['near']), 0.03);
        self::assertSame(0.0, $measured->missShare);
        $short = self::measured(['a_low' => Shapes::sheet(2, 2)], ['a_high' => $step], '{"reach":{"*":{"out":0.2,"in":0.05}}}');
        // What is not met is a miss, not a gap.
        self::assertEqualsWithDelta(0.49, $short->missShare + array_sum(array_column($short->details->margins, 'share')), 0.02);
        self::assertEqualsWithDelta(0.5, $short->shortShare, 0.03);
    }

    public function test_the_curve_of_reaches_tells_misses_and_wrong_hits_at_each(): void
    {
        // All of it stands 0.025 up.
        $measured = self::measured(['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2, 2)->moved(0, 0.025, 0)]);
        $curve = $measured->details->curve;
        self::assertNotNull($curve);
        self::assertCount(61, $curve['miss']);
        self::assertEqualsWithDelta(max(0.05, 1.6 * $measured->recommended->out, 0.02 * sqrt(8)), $curve['top'], 1e-6);
        foreach ($curve['miss'] as $k => $share) {
            self::assertSame(0.025 - 1e-9 <= $curve['top'] * $k / 60 ? 0.0 : 1.0, $share, "step $k");
        }
        self::assertSame(0.0, max($curve['wrong']));
        // Slats 0.3 apart and 0.1 thick go wrong from 0.4 on, over half of the seen area.
        $slats = static fn (Polygons $one): Polygons => $one->with($one->moved(0, 0.4, 0));
        $closed = self::measured(['a_low' => $slats(Shapes::box(2, 0.1, 2))], ['a_high' => $slats(Shapes::box(2, 0.1, 2, 4))], '{"rays":{"direction":"split"},"reach":{"*":{"out":0.45,"in":0.01}}}')->details->curve;
        self::assertNotNull($closed);
        self::assertSame(0.0, $closed['wrong'][(int) floor(60 * 0.39 / $closed['top'])]);
        self::assertGreaterThan(0.1, $closed['wrong'][(int) ceil(60 * 0.44 / $closed['top'])]);
    }

    public function test_buried_parts_and_unmet_shells_are_shares(): void
    {
        $measured = self::measured(
            ['a_low' => Shapes::box(2, 2, 2)->with(Shapes::box(0.2, 0.2, 0.2)->moved(5, 0, 0))],
            ['a_high' => Polygons::join([Shapes::box(2, 2, 2, 4), Shapes::box(0.2, 0.2, 0.2, 2)->moved(5, 0, 0), Shapes::box(0.6, 0.6, 0.6)])],
        );
        self::assertSame([[12, 0.0]], array_map(static fn (array $one): array => [$one['triangles'], $one['share']], $measured->details->unmet));
        self::assertEqualsWithDelta([0.0], $measured->details->buried, 1e-9);
        $inside = self::measured(['a_low' => Shapes::box(2, 2, 2), 'b_low' => Shapes::box(0.5, 0.5, 0.5)], ['a_high' => Shapes::box(2, 2, 2, 4), 'b_high' => Shapes::box(0.5, 0.5, 0.5, 2)], '{}', '{"sets":{"all":["a","b"]}}');
        self::assertEqualsWithDelta([0.0, 1.0], $inside->details->buried, 1e-9);
    }

    /**
     * @return iterable<string, array{Polygons, int, bool|null, float|null, float|null}>
     */
    public static function details(): iterable
    {
        $flat = Shapes::sheet(2, 2, 12, 12);
        yield 'a plate that lies flat over it' => [$flat->with(Shapes::sheet(0.4, 0.4, 2, 2)->moved(0.1, 0.0003, 0.2)), 0, null, null, null];
        yield 'a plate that stands off' => [$flat->with(Shapes::sheet(0.4, 0.4, 2, 2)->moved(0.1, 0.05, 0.2)), 1, true, null, 0.05];
        yield 'a dome whose rim is steep' => [$flat->with(Shapes::lathe([[0.2, 0.03], [0.15, 0.12], [0.0, 0.14]], 24)->moved(0.1, 0, 0.2)), 1, true, 61.0, 0.03];
        yield 'a peg that stands in it' => [$flat->with(Shapes::cylinder(0.1, 0.2, 24)->moved(0.1, 0.05, 0.2)), 0, null, null, null];
        $hole = new Polygons($flat->points, array_values(array_filter($flat->faces, static fn (array $face): bool => max(array_map(static fn (int $v): float => max(abs($flat->points[$v][0]), abs($flat->points[$v][2])), $face)) > 0.4)));
        yield 'a plate over a hole' => [$hole->with(Shapes::sheet(0.4, 0.4, 2, 2)->moved(0, 0.05, 0)), 1, false, null, null];
    }

    #[DataProvider('details')]
    public function test_a_shell_floats_by_what_lies_beneath_it_and_by_its_rim(Polygons $high, int $count, ?bool $isBacked, ?float $degrees, ?float $height): void
    {
        $floaters = self::measured(['a_low' => Shapes::sheet(2, 2)], ['a_high' => $high], '{"reach":{"*":{"out":0.3,"in":0.1}}}')->details->floaters;
        self::assertCount($count, $floaters);
        foreach ($floaters as $floater) {
            self::assertSame($isBacked, $floater->isBacked);
            self::assertSame(0, $floater->part);
            if ($isBacked === true) {
                self::assertEqualsWithDelta(1.0, $floater->rimShare, 0.02);
                $degrees === null ? self::assertNull($floater->rimDegrees) : self::assertEqualsWithDelta($degrees, $floater->rimDegrees, 3.0);
                self::assertEqualsWithDelta($height, $floater->rimHeight, 0.001);
            } else {
                // The hole is 0.64 or 0.44 of 4, less the plate.
                self::assertEqualsWithDelta((4 / 9 - 0.16) / 4, $floater->missShare, 0.02);
                self::assertNotSame([], $floater->missWhere);
            }
            self::assertEquals($floater, Floater::ofArray($floater->toArray()));
        }
    }

    public function test_what_measuring_took_is_told_under_the_check_that_asked_for_it(): void
    {
        $report = Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::roundedBox(1, 1, 1, 0.05, 3)]);
        $seconds = [];
        foreach ($report->results as $result) {
            $seconds[$result->about->code] = $result->seconds;
        }
        $measures = $report->measures;
        self::assertGreaterThan(0.0, $measures->secondsOf(Rays::class));
        self::assertGreaterThanOrEqual($measures->secondsOf(Rays::class), $seconds['ray-miss']);
        self::assertGreaterThanOrEqual($measures->secondsOf(Places::class), $seconds['off-alignment']);
        self::assertLessThan($measures->secondsOf(Rays::class), $seconds['span-closed']);
        self::assertLessThan($measures->secondsOf(Rays::class), $seconds['pair-self']);
    }

    public function test_a_set_that_was_measured_is_kept_whole(): void
    {
        $measured = self::measured(['a_low' => Shapes::box(2, 0.2, 2)], ['a_high' => Shapes::roundedBox(2, 0.2, 2, 0.03, 2, 2)->with(Shapes::sheet(0.4, 0.4)->moved(0, 0.2, 0))], '{"reach":{"*":{"out":0.2,"in":0.05}}}');
        self::assertEquals($measured, SetClearance::ofArray(json_decode(json_encode($measured->toArray(), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION), true, 64, JSON_THROW_ON_ERROR)));
        self::assertFalse($measured->isMasked());
        self::assertSame(0.2, $measured->inUse()->out);
    }

    /**
     * @return iterable<string, array{list<array{float, float, float}>, int}>
     */
    public static function layouts(): iterable
    {
        // Middle and width along x; boxes are 1 × 1 across. How many of them have to move.
        yield 'one between two, and all three in a row' => [[[0.0, 1.0, 0.0], [0.52, 0.05, 0.0], [1.05, 1.0, 0.0]], 1];
        yield 'far apart' => [[[0.0, 1.0, 0.0], [9.0, 1.0, 0.0], [18.0, 1.0, 0.0]], 0];
        yield 'two side by side' => [[[0.0, 1.0, 0.0], [0.9, 0.6, 0.0], [30.0, 1.0, 0.0]], 1];
    }

    /**
     * @param  list<array{float, float, float}>  $boxes
     */
    #[DataProvider('layouts')]
    public function test_the_least_moves_take_all_sets_out_of_each_others_rays(array $boxes, int $moved): void
    {
        $low = $high = [];
        foreach ($boxes as $i => [$x, $wide]) {
            $low["s{$i}_low"] = Shapes::box($wide, 1, 1)->moved($x, 0, 0);
            $high["s{$i}_high"] = Shapes::roundedBox($wide, 1, 1, 0.01, 1)->moved($x, 0, 0);
        }
        $measures = Assets::report($low, $high, '{"rays":{"setsKeptApart":false},"reach":{"*":{"out":0.5,"in":0.05}}}', '{}', [], 1024)->measures;
        $plan = ExplodePlan::of($measures->asset, $measures->clearances(), 0.1);
        self::assertSame(0.1, $plan->clearance);
        self::assertCount($moved, $plan->moved());
        self::assertTrue($plan->isProved());
        foreach ($plan->vectors as $vector) {
            self::assertGreaterThanOrEqual(2, count(array_keys($vector, 0.0)), 'along an axis');
        }
        $moves = array_map(static fn (string $name): array => $plan->vectors[$name], $plan->moved());
        foreach ($measures->asset->sets as $one) {
            foreach ($measures->asset->sets as $two) {
                if ($one->name < $two->name && ($moves === [] ? false : in_array($one->name, $plan->moved(), true) || in_array($two->name, $plan->moved(), true))) {
                    $a = self::boxOf($one->bounds())->moved($plan->vectors[$one->name]);
                    $b = self::boxOf($two->bounds())->moved($plan->vectors[$two->name]);
                    // Twice the reach, and the clearance between them.
                    self::assertGreaterThanOrEqual(1.1 - 1e-6, $a->gapTo($b));
                }
            }
        }
        $array = $plan->toArray($measures->asset);
        self::assertSame(0.1, $array['clearance']);
        // All apart: no conflict is asked for.
        $all = ExplodePlan::of($measures->asset, $measures->clearances(), 0.2, true);
        foreach ($measures->asset->sets as $i => $one) {
            foreach (array_slice($measures->asset->sets, $i + 1) as $two) {
                self::assertGreaterThanOrEqual(1.2 - 1e-6, self::boxOf($one->bounds())->moved($all->vectors[$one->name])->gapTo(self::boxOf($two->bounds())->moved($all->vectors[$two->name])));
            }
        }
        // No move could be shorter: a hair less, and the boxes are not apart.
        foreach ($plan->moved() as $name) {
            $way = array_sum(array_map(abs(...), $plan->vectors[$name]));
            $less = array_map(static fn (float $v): float => $v * (1 - 0.03 / $way), $plan->vectors[$name]);
            $gaps = [];
            foreach ($measures->asset->sets as $other) {
                $own = array_values(array_filter($measures->asset->sets, static fn ($set): bool => $set->name === $name))[0];
                if ($other->name !== $name) {
                    $gaps[] = self::boxOf($own->bounds())->moved([$less[0], $less[1], $less[2]])->gapTo(self::boxOf($other->bounds())->moved($plan->vectors[$other->name]));
                }
            }
            self::assertLessThan(1.1, min($gaps));
        }
    }

    public function test_bleed_is_a_share_of_what_is_seen_and_names_the_other_set(): void
    {
        // Two slabs face each other over a gap of 0.2: at a reach of 0.5 all of the faces between them go into the other.
        $report = Assets::report(['a_low' => Shapes::box(1, 1, 1), 'b_low' => Shapes::box(0.1, 1, 1)->moved(0.75, 0, 0)], ['a_high' => Shapes::box(1, 1, 1, 4), 'b_high' => Shapes::box(0.1, 1, 1, 4)->moved(0.75, 0, 0)], '{"rays":{"direction":"split","setsKeptApart":false},"reach":{"*":{"out":0.5,"in":0.02}}}', '{}', [], 4096);
        $a = $report->measures->clearances()['a'];
        self::assertSame(['b'], array_map(static fn ($bleed): string => $bleed->other, $a->bleeds));
        // One of six faces, all of them seen.
        self::assertEqualsWithDelta(1 / 6, $a->bleeds[0]->share, 0.01);
        self::assertSame(0.0, $a->bleeds[0]->unseenShare);
        self::assertSame([], self::measured(['a_low' => Shapes::box(1, 1, 1), 'b_low' => Shapes::box(0.1, 1, 1)->moved(0.75, 0, 0)], ['a_high' => Shapes::box(1, 1, 1, 4), 'b_high' => Shapes::box(0.1, 1, 1, 4)->moved(0.75, 0, 0)], '{"rays":{"direction":"split","setsKeptApart":false},"reach":{"*":{"out":0.1,"in":0.02}}}')->bleeds);
    }

    private static function boxOf(?Bounds $bounds): Bounds
    {
        self::assertNotNull($bounds);

        return $bounds;
    }

    /**
     * Of the first set.
     *
     * @param  array<string, Polygons|Mesh>  $low
     * @param  array<string, Polygons|Mesh>  $high
     */
    private static function measured(array $low, array $high, string $standard = '{}', string $choices = '{}'): SetClearance
    {
        $measures = Assets::report($low, $high, $standard, $choices, [], 2048)->measures;
        self::assertInstanceOf(Measures::class, $measures);

        return array_values($measures->clearances())[0];
    }

    /** What a part that comes off touches within a hundredth of its own diagonal counts as seen, at any size. */
    public function test_what_lies_beside_a_part_that_comes_off_is_seen(): void
    {
        foreach ([0.1, 1.0, 60.0] as $size) {
            foreach ([[0.008, ['block']], [0.012, []]] as [$gap, $seen]) {
                $d = sqrt(1 + 0.04 + 1);
                $lid = Shapes::box(1, 0.2, 1)->moved(0, 0.6 + $gap * $d, 0)->scaled($size, $size, $size);
                $block = Shapes::box(1, 1, 1)->scaled($size, $size, $size);
                $asset = Measures::of([Assets::file('x_low.obj', ['block_low' => $block, 'lid_low' => $lid]), Assets::file('x_high.obj', ['block_high' => $block, 'lid_high' => $lid])], Standard::builtIn(), Choices::ofJson('{"detachable":["lid"]}'))->asset;
                self::assertSame($seen, array_keys(AssetClearance::allSeen($asset)), "$size $gap");
                self::assertSame(['block'], array_map(static fn (BakeSet $set): string => $set->name, AssetClearance::staying($asset)));
            }
        }
    }
}
