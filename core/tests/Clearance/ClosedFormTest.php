<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Clearance\ClearanceMeasure;
use Anvil\Clearance\SetClearance;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Standard\Standard;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Needed reach and first wrong hit against shapes with a closed form; the formula stands beside each value. Precision asked: 0.1 % of d.
 */
final class ClosedFormTest extends TestCase
{
    /**
     * @return iterable<string, array{Polygons, Polygons, string, float, float}>
     */
    public static function needed(): iterable
    {
        // A cube grown by 0.05 a side: its corner lies 0.05·√3 out along the corner's unit direction, and so does, by linear
        // interpolation, every other place of its surface.
        yield 'a cube in a larger cube' => [Shapes::box(2, 2, 2), Shapes::box(2.1, 2.1, 2.1), '{}', 0.05 * M_SQRT3, 0.0];
        // The other way round: all of the high poly lies 0.05·√3 under the low.
        yield 'a cube around a smaller cube' => [Shapes::box(2, 2, 2), Shapes::box(1.9, 1.9, 1.9), '{}', 0.0, 0.05 * M_SQRT3];
        // A boss of height 0.1 on a coarse box: the interpolated direction over the face is 1/√3 of its normal.
        yield 'a boss on a coarse box' => [Shapes::box(2, 2, 2), self::boss(), '{}', 0.1 * M_SQRT3, 0.0];
        // With directions made unit the same boss needs its own height at its middle; at its rim, 0.3 off the middle, the direction
        // leans, and height over the cosine of that lean is needed: n ∝ (0.3, 1, 0) from corner directions, so 0.1·√(1 + 0.3²).
        yield 'the boss, unit length' => [Shapes::box(2, 2, 2), self::boss(), '{"rays":{"length":"unit"}}', 0.1 * sqrt(1 + 0.3 ** 2 / (1 + 0.1) ** 2), 0.0];
        // On a finely cut box the directions over the face are its normal.
        yield 'a boss on a fine box' => [Shapes::box(2, 2, 2, 20), self::boss(), '{}', 0.1, 0.0];
        yield 'a boss on a fine box, unit length' => [Shapes::box(2, 2, 2, 20), self::boss(), '{"rays":{"length":"unit"}}', 0.1, 0.0];
        yield 'a sheet over a sheet' => [Shapes::sheet(2, 2, 4, 4), Shapes::sheet(2, 2, 8, 8)->moved(0, 0.05, 0), '{}', 0.05, 0.0];
        yield 'a sheet under a sheet' => [Shapes::sheet(2, 2, 4, 4), Shapes::sheet(2, 2, 8, 8)->moved(0, -0.05, 0), '{}', 0.0, 0.05];
    }

    #[DataProvider('needed')]
    public function test_needed_reach_is_that_of_the_closed_form(Polygons $low, Polygons $high, string $standard, float $out, float $in): void
    {
        $measured = self::measure($low, $high, $standard);
        self::assertEqualsWithDelta($out, $measured->needed->out, 1e-3 * $measured->d);
        self::assertEqualsWithDelta($in, $measured->needed->in, 1e-3 * $measured->d);
        self::assertSame(0.0, $measured->missShare);
    }

    public function test_concentric_spheres_need_their_distance(): void
    {
        // Radii 1 and 1.1. The chord of the finer low poly lies at most 1 − cos(π/96) under its sphere.
        $measured = self::measure(Shapes::sphere(1, 96, 192), Shapes::sphere(1.1, 96, 192));
        self::assertEqualsWithDelta(0.1, $measured->needed->out, 1e-3 * $measured->d);
        self::assertNull($measured->firstWrong['out']);
    }

    public function test_slats_go_wrong_at_gap_and_thickness_and_with_back_faces_at_the_gap(): void
    {
        // Two slats 0.1 thick at a gap of 0.4, finely cut so that directions over their flats are their normals.
        $slats = Shapes::box(2, 0.1, 2, 24)->with(Shapes::box(2, 0.1, 2, 24)->moved(0, 0.5, 0));
        $measured = self::measure($slats, $slats);
        self::assertEqualsWithDelta(0.5, $measured->firstWrong['out'], 0.02 * $measured->d);
        $measured = self::measure($slats, $slats, '{"rays":{"backFaces":true}}');
        self::assertEqualsWithDelta(0.4, $measured->firstWrong['out'], 1e-3 * $measured->d);
    }

    public function test_a_cup_goes_wrong_across_its_inside(): void
    {
        // Inner radius 0.4, wall 0.1, deep: from the wall's middle the way across is 0.8 to the far inner wall, whose back stops no ray, and 0.9 to its outer face.
        $cup = Shapes::lathe([[0.0, 0.0], [0.5, 0.0], [0.5, 1.0], [0.5, 2.0], [0.4, 2.0], [0.4, 1.05], [0.4, 0.1], [0.0, 0.1]], 96);
        $measured = self::measure($cup, $cup);
        self::assertEqualsWithDelta(0.0, $measured->needed->out, 1e-12);
        self::assertEqualsWithDelta(0.9, $measured->firstWrong['out'], 1e-3 * $measured->d);
        $measured = self::measure($cup, $cup, '{"rays":{"backFaces":true}}');
        self::assertEqualsWithDelta(0.8, $measured->firstWrong['out'], 1e-3 * $measured->d);
    }

    public function test_the_recommended_reach_follows_its_formula(): void
    {
        $measured = self::measure(Shapes::box(2, 2, 2), Shapes::box(2.1, 2.1, 2.1));
        // No wrong hit: max(needed + 0.001 d, 1.25 needed); never 0.
        self::assertEqualsWithDelta(1.25 * $measured->needed->out, $measured->recommended->out, 1e-9);
        self::assertEqualsWithDelta(0.001 * $measured->d, $measured->recommended->in, 1e-9);
    }

    /**
     * @return iterable<string, array{Polygons, Polygons}>
     */
    public static function withoutWrongHits(): iterable
    {
        // METHODS, "Belongs": blades, spikes, filleted corners and rounded boxes have no wrong hits.
        yield 'rounded box' => [Shapes::box(2, 1, 1), Shapes::roundedBox(2, 1, 1, 0.1, 6, 4)];
        yield 'blade' => [Shapes::box(3, 0.02, 1), Shapes::roundedBox(3, 0.02, 1, 0.009, 4, 3)];
        yield 'spike' => [Shapes::lathe([[0.0, -1.0], [0.3, -1.0], [0.0, 1.0]], 12), Shapes::lathe([[0.0, -1.0], [0.29, -1.0], [0.3, -0.98], [0.15, 0.0], [0.01, 0.98], [0.0, 1.0]], 48)];
        yield 'cylinder' => [Shapes::cylinder(1, 2, 24), Shapes::roundedCylinder(1, 2, 0.08, 96, 8)];
        yield 'sharp corner' => [GoodAssetsTest::corner(0.0, 0), GoodAssetsTest::corner(0.0, 0)];
        yield 'filleted corner' => [GoodAssetsTest::corner(0.0, 0), GoodAssetsTest::corner(0.15, 8)];
    }

    #[DataProvider('withoutWrongHits')]
    public function test_shapes_without_neighbours_have_no_wrong_hit(Polygons $low, Polygons $high): void
    {
        $measured = self::measure($low, $high);
        self::assertNull($measured->firstWrong['out']);
        self::assertNull($measured->firstWrong['in']);
        self::assertSame(0.0, $measured->missShare);
    }

    public function test_high_past_the_border_of_a_panel_is_overhang_and_no_height(): void
    {
        // A sheet 2 wide under one 2.4 wide: 0.2 stands over each border.
        $measured = self::measure(Shapes::sheet(2, 2), Shapes::sheet(2.4, 2.4, 12, 12));
        self::assertEqualsWithDelta(hypot(0.2, 0.2), $measured->overhang, 1e-6);
        self::assertSame(0.0, $measured->needed->out);
    }

    public function test_the_same_input_gives_the_same_measure(): void
    {
        $low = Shapes::box(2, 1, 1);
        $high = Shapes::roundedBox(2, 1, 1, 0.1, 4, 4);
        self::assertEquals(self::measure($low, $high)->toArray(), self::measure($low, $high)->toArray());
    }

    private static function boss(): Polygons
    {
        return Shapes::box(2, 2, 2)->with(Shapes::cylinder(0.3, 0.2, 32)->moved(0, 1.0, 0));
    }

    private static function measure(Polygons $low, Polygons $high, string $standard = '{}'): SetClearance
    {
        $set = new SetSurfaces('set', [$low->mesh()], [$high->mesh()], true);

        return ClearanceMeasure::of($set, [], Visibility::assembled([$set]), Standard::ofJson($standard), 16384);
    }
}
