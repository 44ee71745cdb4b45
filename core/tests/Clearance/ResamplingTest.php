<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Clearance\ClearanceMeasure;
use Anvil\Clearance\Resampling;
use Anvil\Clearance\SetClearance;
use Anvil\Clearance\SetDetails;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Rays\Estimate;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Standard\Standard;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * A share near its limit is counted on more samples (METHODS, "No few rays decide"), whether the whole set is measured again for it or only what each
 * sample takes at one reach. The shares themselves are areas that are put in here.
 */
final class ResamplingTest extends TestCase
{
    /**
     * @return iterable<string, array{float}> share of a box that its high poly leaves open
     */
    public static function holes(): iterable
    {
        yield 'a little over the caution' => [0.0006];
        yield 'a little under the caution' => [0.0004];
        yield 'a little under the limit' => [0.0045];
        yield 'a little over the limit' => [0.0056];
    }

    #[DataProvider('holes')]
    public function test_misses_near_a_limit_are_counted_on_more_samples(float $share): void
    {
        $side = sqrt(24 * $share) / 2;
        $measured = self::measured([Shapes::box(2, 2, 2)], [self::open(0.3, $side)]);
        self::assertEqualsWithDelta($share, $measured->missShare, 0.12 * $share);
        self::assertSame($measured->missShare, array_sum($measured->details->missesByPart));
        self::assertGreaterThan(15_000, $measured->details->tellingMisses);
        self::assertLessThan(8200, $measured->samples, 'the rest of the measure keeps its samples');
        self::assertLessThan($measured->samples, $measured->details->effective);
        // No reach ends them: nothing lies behind the hole but the far side, which belongs to the far side.
        self::assertEqualsWithDelta($measured->missShare, $measured->details->ending['left'], 1e-12);
        self::assertSame($share > 0.005, Estimate::of($measured->missShare, $measured->details->tellingMisses)->share > 0.005);
    }

    public function test_misses_far_from_a_limit_keep_their_samples(): void
    {
        $measured = self::measured([Shapes::box(2, 2, 2)], [self::open(0.3, 0.4)]);
        self::assertEqualsWithDelta(0.64 / 24, $measured->missShare, 0.002);
        self::assertEqualsWithDelta($measured->details->effective, $measured->details->tellingMisses, 1e-9);
        self::assertSame(0.0, self::measured([Shapes::box(2, 2, 2)], [Shapes::box(2, 2, 2, 6)])->missShare);
    }

    /** Where sets stand in each other's rays all of it is measured again. */
    public function test_misses_beside_other_sets_measure_the_set_again(): void
    {
        $measured = self::measured([Shapes::box(2, 2, 2)], [self::open(0.3, sqrt(24 * 0.0006) / 2)], '{"rays":{"setsKeptApart":false}}');
        self::assertEqualsWithDelta(0.0006, $measured->missShare, 0.0001);
        self::assertGreaterThan(15_000, $measured->samples);
        self::assertEqualsWithDelta($measured->details->effective, $measured->details->tellingMisses, 1e-9);
    }

    /**
     * A lid hangs over a block on which a post needs a reach past the lid: from under the lid rays take its top. Block and lid cover the same area of
     * the page, a sixth of each is top. Directions lean outward as the cage does: (x, 1, z) of the top's half side 1, so that the lid, 0.105 over
     * it and 0.05 thick, stands before a footprint that ends at its inner edges divided by 1.105, at its outer ones by 1.055; and a height of 0.2 is one of 0.2·√3 along them.
     */
    public function test_wrong_hits_near_the_limit_are_counted_on_more_samples(): void
    {
        foreach ([0.0038, 0.0046] as $share) {
            $side = (sqrt(4 * 12 * $share) - 0.4 * (1 / 1.055 - 1 / 1.105)) / ((1 / 1.055 + 1 / 1.105) / 2);
            $lid = Shapes::box($side, 0.05, $side)->moved(-0.4, 1.08, -0.4);
            $measured = self::measured([Shapes::box(2, 2, 2)->with($lid)], [Shapes::box(2, 2, 2, 6)->with($lid)->with(Shapes::box(0.6, 0.2, 0.6)->moved(0.6, 1.1, 0.6))], allSeen: true);
            self::assertEqualsWithDelta(0.2 * sqrt(3), $measured->needed->out, 0.01);
            self::assertEqualsWithDelta($share, $measured->details->bestShare ?? 0.0, 0.3 * $share, "$share");
            self::assertGreaterThan(15_000, $measured->details->tellingBest);
            self::assertLessThan(8200, $measured->samples);
        }
    }

    public function test_what_is_stored_comes_back(): void
    {
        $details = self::measured([Shapes::box(2, 2, 2)], [self::open(0.3, 0.4)])->details;
        self::assertGreaterThan(0.0, $details->tellingMisses);
        self::assertEquals($details, SetDetails::ofArray($details->toArray()));
    }

    public function test_times_are_those_of_the_share_most_in_doubt(): void
    {
        self::assertSame(1, Resampling::times([], 1000, 16));
        self::assertSame(1, Resampling::times([[0.0, [0.0005]]], 10, 16), 'nothing at all is no doubt');
        self::assertSame(16, Resampling::times([[0.3, [0.1]], [0.0005, [0.0005]]], 1000, 16));
        self::assertSame(4, Resampling::times([[0.0005, [0.0005]]], 1000, 4));
        self::assertSame(Estimate::timesUntilClear(0.004, 10_000, [0.005], 64), Resampling::times([[0.3, [0.1]], [0.004, [0.005]]], 10_000, 64));
    }

    /**
     * @param  list<Polygons>  $low
     * @param  list<Polygons>  $high
     */
    private static function measured(array $low, array $high, string $standard = '{}', bool $allSeen = false): SetClearance
    {
        $mesh = static fn (Polygons $one): \Anvil\Geometry\Mesh => $one->mesh();
        $set = new SetSurfaces('a', array_map($mesh, $low), array_map($mesh, $high), true);

        return ClearanceMeasure::of($set, [], Visibility::assembled([$set]), Standard::ofJson($standard), 8000, $allSeen);
    }

    /** A box with a square hole in its top, a border of faces around it. */
    private static function open(float $at, float $half): Polygons
    {
        $box = Shapes::box(2, 2, 2, 1);
        $sides = new Polygons($box->points, array_values(array_filter($box->faces, static fn (array $face): bool => min(array_map(static fn (int $v): float => $box->points[$v][1], $face)) < 0.99)));
        $x = [-1.0, $at - $half, $at + $half, 1.0];
        $top = new Polygons;
        for ($i = 0; $i < 3; $i++) {
            for ($j = 0; $j < 3; $j++) {
                if ($i !== 1 || $j !== 1) {
                    $top = $top->with(new Polygons([[$x[$i], 1.0, $x[$j]], [$x[$i], 1.0, $x[$j + 1]], [$x[$i + 1], 1.0, $x[$j + 1]], [$x[$i + 1], 1.0, $x[$j]]], [[0, 1, 2, 3]]));
                }
            }
        }

        return Polygons::join([$sides, $top]);
    }
}
