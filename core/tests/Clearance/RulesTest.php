<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Clearance\BestReach;
use Anvil\Clearance\ClearanceMeasure;
use Anvil\Clearance\GrazingRays;
use Anvil\Clearance\Margins;
use Anvil\Clearance\Misses;
use Anvil\Clearance\NeededReach;
use Anvil\Clearance\WrongReach;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Place\Facing;
use Anvil\Rays\Belonging;
use Anvil\Rays\Estimate;
use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\SeenSamples;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Spread;
use Anvil\Rays\Visibility;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Reach;
use Anvil\Standard\Standard;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * The rules of METHODS, "Rays", one by one, on shapes whose answers are known.
 */
final class RulesTest extends TestCase
{
    /** The interval of E. B. Wilson, 1927: 50 of 100 and 0 of 10 as statistics textbooks print them (from memory: 0.404–0.596, 0–0.278). */
    public function test_a_share_has_wilsons_interval(): void
    {
        $half = Estimate::of(0.5, 100);
        self::assertEqualsWithDelta(0.4038, $half->from, 5e-5);
        self::assertEqualsWithDelta(0.5962, $half->to, 5e-5);
        self::assertEqualsWithDelta(0.2775, Estimate::of(0.0, 10)->to, 5e-5);
        self::assertTrue($half->holds(0.5));
        self::assertFalse($half->holds(0.6));
        self::assertFalse($half->isOver(0.45));
        self::assertTrue($half->isOver(0.4));
        self::assertFalse($half->isOver(0.7));
        self::assertEqualsWithDelta(0.0962, $half->doubt(0.1, 0.5), 5e-5);
        self::assertSame(0.0, $half->doubt(0.1, 0.7));
        self::assertSame([0.0, 1.0], [Estimate::of(0.2, 0)->from, Estimate::of(0.2, 0)->to]);
    }

    public function test_samples_are_doubled_until_a_limit_is_clear(): void
    {
        self::assertSame(1, Estimate::timesUntilClear(0.5, 1000, [0.01], 16));
        // 0.02 ± against 0.01: 200 samples leave it open, 400 do not.
        self::assertSame(2, Estimate::timesUntilClear(0.02, 200, [0.01], 16));
        self::assertSame(16, Estimate::timesUntilClear(0.01, 400, [0.01], 16));
        self::assertSame(1, Estimate::timesUntilClear(0.01, 400, [0.01], 1));
    }

    /**
     * @return iterable<string, array{list<array{float, int}>, float, float|null}>
     */
    public static function wrongHits(): iterable
    {
        // Of every sample: heights with their kinds from the outside, what is needed, the first wrong reach.
        yield 'beyond what is needed' => [[[0.5, 0], [0.0, 1]], 0.1, 0.5];
        yield 'gone again at what is needed' => [[[0.2, 1], [0.05, 0]], 0.3, null];
        yield 'from before on through it' => [[[0.1, 0], [0.0, 1]], 0.3, 0.1];
        yield 'at what is needed' => [[[0.3, 0], [0.0, 1]], 0.3, 0.3];
        yield 'never' => [[[0.0, 1], [-0.4, 0]], 0.3, null];
        yield 'beneath what is needed inward' => [[[-0.4, 0]], 0.3, null];
    }

    /**
     * @param  list<array{float, int}>  $line
     */
    #[DataProvider('wrongHits')]
    public function test_the_first_wrong_hit_goes_on_to_what_is_needed_or_begins_beyond(array $line, float $needed, ?float $first): void
    {
        [$samples, $hits] = self::field(static fn (): array => $line);
        $wrong = WrongReach::outward($hits, $samples, new Reach($needed, 0.1), 1.0, static fn (): bool => true, 1.0);
        self::assertSame($first, $wrong->first);
        // What nobody sees goes wrong unseen.
        self::assertNull(WrongReach::outward($hits, $samples, new Reach($needed, 0.1), 1.0, static fn (): bool => false, 1.0)->first);
    }

    public function test_the_best_reach_is_where_clipped_missed_and_wrong_are_least_together(): void
    {
        $low = LowSurface::of([Shapes::sheet(1, 1)->mesh()], true);
        $best = static fn (array $field, float $seenShare = 1.0): BestReach => BestReach::of($low, $field[0], $field[1], 1.0, static fn (): bool => true, $seenShare);
        // Half of it stands 0.3 high, of the other half three in four go wrong from 0.1 on: clipped at less than 0.1 half, from 0.3 on three eighths wrong.
        $field = self::field(static fn (int $i): array => $i % 2 === 0 ? [[0.3, 1]] : ($i % 8 === 1 ? [[0.0, 1]] : [[0.1, 0], [0.0, 1]]), 4096);
        self::assertEqualsWithDelta([0.375, 0.3], [$best($field)->share, $best($field)->reach->out], 0.002);
        self::assertEqualsWithDelta(0.75, $best($field, 0.5)->share, 0.004);
        // One in eight that is high and five in eight that go wrong from 0.1 on: it is better to clip.
        $field = self::field(static fn (int $i): array => $i % 8 === 0 ? [[0.3, 1]] : ($i % 8 < 3 ? [[0.0, 1]] : [[0.1, 0], [0.0, 1]]), 4096);
        self::assertEqualsWithDelta(0.125, $best($field)->share, 0.002);
        self::assertLessThan(0.1, $best($field)->reach->out);
        self::assertGreaterThan(0.0, $best($field)->reach->out);
        // In between: all of a height under where the others go wrong.
        $field = self::field(static fn (int $i): array => $i % 4 === 0 ? [[0.3, 1]] : ($i % 4 === 1 ? [[0.05, 1]] : [[0.1, 0], [-0.02, 1]]), 4096);
        self::assertEqualsWithDelta(0.25, $best($field)->share, 0.002);
        self::assertEqualsWithDelta([0.051, 0.021], [$best($field)->reach->out, $best($field)->reach->in], 0.0011);
        self::assertCount(0, $best($field)->rays);
        // Inward: half lies 0.3 deep, the other half meets something else from 0.1 on, and nothing of its own.
        $field = self::field(static fn (int $i): array => $i % 2 === 0 ? [[-0.3, 1]] : [[-0.1, 0]], 4096);
        self::assertEqualsWithDelta([0.5, 0.301], [$best($field)->share, $best($field)->reach->in], 0.002);
        // What is met beneath a clipped surface, and belongs, is clipped all the same.
        $field = self::field(static fn (int $i): array => $i % 8 === 0 ? [[0.3, 1], [0.0, 1]] : [[0.1, 0], [0.0, 1]], 4096);
        self::assertEqualsWithDelta([0.125, 0.125], [$best($field)->share, $best($field)->clipped], 0.002);
        // Nothing that is not visible counts.
        self::assertSame(0.0, BestReach::of($low, $field[0], $field[1], 1.0, static fn (): bool => false, 1.0)->share);
    }

    public function test_a_spike_without_area_does_not_close_a_span(): void
    {
        // A wrong hit at 0.2 everywhere, and nothing of the own surface over 0.1: what is needed to 0.3 is a point.
        [$samples, $hits] = self::field(static fn (): array => [[0.2, 0], [0.1, 1]]);
        $wrong = WrongReach::outward($hits, $samples, new Reach(0.3, 0.1), 1.0, static fn (): bool => true, 1.0);
        self::assertSame(0.2, $wrong->first);
        self::assertNotSame([], $wrong->rays);
        $best = BestReach::of(LowSurface::of([Shapes::sheet(1, 1)->mesh()], true), $samples, $hits, 1.0, static fn (): bool => true, 1.0);
        self::assertSame(0.0, $best->share);
        self::assertLessThan(0.2, $best->reach->out);
        self::assertGreaterThanOrEqual(0.1, $best->reach->out);
    }

    /** A direction within 3° of a face runs along it, on either side; one that cancels out altogether, too. */
    public function test_rays_along_the_surface_are_known_by_their_angle(): void
    {
        $normals = [0.0, 1.0, 0.0];
        $along = static fn (float $degrees, float $length = 1.0): bool => GrazingRays::isOne($normals, 0, $length * cos(deg2rad($degrees)), $length * sin(deg2rad($degrees)), 0.0);
        self::assertSame([true, true, true, false, false], [$along(0.0), $along(2.8), $along(-2.8), $along(2.9), $along(90.0)]);
        self::assertSame([true, false], [$along(2.8, 0.01), $along(2.9, 0.01)]);
        self::assertTrue(GrazingRays::isOne($normals, 0, 0.0, 0.0, 0.0));
        // A box has none; where the edges of two boxes touch, the ends of that edge keep only their own axis.
        $box = Shapes::box(1, 1, 1);
        $of = static function (Polygons $shape): array {
            $low = LowSurface::of([$shape->mesh()], true);
            $samples = Samples::of($low, 8192, true);

            return GrazingRays::byPart($low, $samples, GrazingRays::of($low, $samples), static fn (): bool => true);
        };
        self::assertSame([], $of($box));
        [$one] = $of($box->with($box->moved(1, 1, 0)));
        self::assertSame(0, $one['part']);
        self::assertEqualsWithDelta(0.0085, $one['share'], 0.006);
        self::assertGreaterThan(1000.0, $one['samples']);
        foreach ($one['where'] as [$x, $y]) {
            self::assertEqualsWithDelta([0.5, 0.5], [$x, $y], 0.6);
        }
    }

    public function test_few_wrong_samples_are_no_first_wrong_hit_and_inward_counts_alike(): void
    {
        // One of 4,096 is 0.024 %, three are 0.073 %.
        foreach ([1 => null, 3 => 0.5] as $count => $first) {
            [$samples, $hits] = self::field(static fn (int $i): array => $i < $count ? [[0.5, 0], [0.0, 1]] : [[0.0, 1]], 4096);
            self::assertSame($first, WrongReach::outward($hits, $samples, new Reach(0.1, 0.1), 1.0, static fn (): bool => true, 1.0)->first);
        }
        [$samples, $hits] = self::field(static fn (): array => [[-0.2, 0]]);
        self::assertSame(0.2, WrongReach::inward($hits, $samples, new Reach(0.1, 0.1), 1.0, static fn (): bool => true, 1.0)->first);
        [$samples, $hits] = self::field(static fn (): array => [[-0.05, 1], [-0.2, 0]]);
        self::assertNull(WrongReach::inward($hits, $samples, new Reach(0.1, 0.1), 1.0, static fn (): bool => true, 1.0)->first);
    }

    public function test_what_lies_beneath_the_first_own_hit_is_asked_for_once(): void
    {
        $asked = 0;
        $hits = new Hits([0, 2], [0.1, -0.2], [1, Hits::UNKNOWN], [4, 5], static function (int $sample, float $height, int $face) use (&$asked): bool {
            $asked++;

            return $sample === 0 && $height === -0.2 && $face === 5;
        });
        self::assertSame(1, $hits->kind(0, 1));
        self::assertSame(1, $hits->kind(0, 1));
        self::assertSame(1, $asked);
        self::assertSame(0, $hits->own(0));
        self::assertSame(0, $hits->taken(0, new Reach(0.1, 0.3)));
        self::assertSame(1, $hits->taken(0, new Reach(0.05, 0.3)));
        self::assertSame(-1, $hits->taken(0, new Reach(0.05, 0.1)));
    }

    public function test_misses_joined_to_a_border_are_margin_and_a_hole_is_not(): void
    {
        $low = LowSurface::of([Shapes::sheet(1, 1)->mesh()], true);
        $samples = Samples::of($low, 4096, true);
        $margin = $hole = [];
        for ($i = 0; $i < $samples->count(); $i++) {
            if (abs($samples->px[$i]) > 0.4) {
                $margin[] = $i;
            } elseif (max(abs($samples->px[$i]), abs($samples->pz[$i])) < 0.15) {
                $hole[] = $i;
            }
        }
        $missing = [...$margin, ...$hole];
        sort($missing);
        self::assertSame($margin, array_values(array_intersect($missing, array_keys(Margins::of($low, $samples, $missing)))));
        self::assertSame([], Margins::of(LowSurface::of([Shapes::box(1, 1, 1)->mesh()], true), Samples::of(LowSurface::of([Shapes::box(1, 1, 1)->mesh()], true), 64, true), [0, 1]));
        // The two sides of a card have a border where they are folded.
        $card = Shapes::welded(Shapes::sheet(1, 1)->with(Shapes::sheet(1, 1)->flipped()));
        self::assertContains(true, LowSurface::of([$card->mesh()], true)->borders);
        self::assertNotContains(true, LowSurface::of([Shapes::box(1, 1, 0.1)->mesh()], true)->borders);
    }

    public function test_misses_say_at_which_reach_they_end(): void
    {
        $low = LowSurface::of([Shapes::box(1, 1, 1)->mesh()], true);
        [$samples, $hits] = self::field(static fn (int $i): array => match ($i % 4) {
            0 => [[0.3, 1]], 1 => [[-0.4, 1]], 2 => [[0.9, 0]], default => [[0.0, 1]],
        }, 1024, $low);
        $misses = Misses::of($low, $samples, $hits, new Reach(0.1, 0.1), static fn (): bool => true, 1.0);
        self::assertEqualsWithDelta(0.75, $misses->share, 0.01);
        self::assertSame([0.3, 0.4], [$misses->ending['out'], $misses->ending['in']]);
        self::assertEqualsWithDelta(0.25, $misses->ending['left'], 0.01);
        self::assertEqualsWithDelta($misses->share, array_sum($misses->byPart), 1e-9);
        $unseen = Misses::of($low, $samples, $hits, new Reach(0.1, 0.1), static fn (): bool => false, 0.5);
        self::assertSame(0.0, $unseen->share);
        self::assertEqualsWithDelta(0.75, $unseen->unseenShare, 0.01);
    }

    public function test_a_hit_belongs_unless_a_low_place_that_faces_like_it_is_much_closer(): void
    {
        // Two slats one over the other: from the lower one's top, the upper one's top is another's, its underside belongs to nobody nearer.
        $slats = Shapes::box(2, 0.1, 2)->with(Shapes::box(2, 0.1, 2)->moved(0, 0.5, 0));
        $low = LowSurface::of([$slats->mesh()], true);
        $belonging = new Belonging($low, 3.0);
        $top = self::triangleFacing($low, 0.05);
        self::assertTrue($belonging->holds($top, 0.0, 0.05, 0.0, 0.0, 0.06, 0.0, 0.0, 1.0, 0.0));
        self::assertFalse($belonging->holds($top, 0.0, 0.05, 0.0, 0.0, 0.55, 0.0, 0.0, 1.0, 0.0));
        self::assertTrue($belonging->holds($top, 0.0, 0.05, 0.0, 0.0, 0.3, 0.0, 0.0, 1.0, 0.0));
        // Half the way and a hair: 0.34 is 0.29 high and 0.21 from the slat over it; 0.4 is 0.35 high and 0.15 from it.
        self::assertTrue($belonging->holds($top, 0.0, 0.05, 0.0, 0.0, 0.34, 0.0, 0.0, 1.0, 0.0));
        self::assertFalse($belonging->holds($top, 0.0, 0.05, 0.0, 0.0, 0.4, 0.0, 0.0, 1.0, 0.0));
    }

    public function test_a_fillet_under_split_directions_belongs_by_the_arc_only(): void
    {
        // A wall and a floor meeting in an edge; a fillet of 0.1 between them, met straight up from the floor close to the edge.
        $low = LowSurface::of([Shapes::welded(Polygons::join([
            new Polygons([[0.0, 0.0, -1.0], [0.0, 0.0, 1.0], [1.0, 0.0, 1.0], [1.0, 0.0, -1.0]], [[0, 1, 2, 3]]), new Polygons([[0.0, 0.0, -1.0], [0.0, 1.0, -1.0], [0.0, 1.0, 1.0], [0.0, 0.0, 1.0]], [[0, 1, 2, 3]]),
        ]))->mesh()], true);
        $belonging = new Belonging($low, 2.0);
        $floor = self::triangleFacing($low, 0.0);
        foreach ([30.0 => true, 60.0 => true, 75.0 => true, 88.0 => false] as $degrees => $holds) {
            $a = deg2rad($degrees);
            [$x, $y] = [0.1 - 0.1 * sin($a), 0.1 - 0.1 * cos($a)];
            self::assertSame($holds, $belonging->holds($floor, $x, 0.0, 0.0, $x, $y, 0.0, sin($a), cos($a), 0.0), "at $degrees degrees");
        }
    }

    public function test_directions_that_cancel_out_leave_each_face_its_own(): void
    {
        // Two boxes that touch in a corner: their directions there look away from each other.
        $two = Shapes::welded(Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(1, 1, 1)));
        $low = LowSurface::of([$two->mesh()], true);
        $own = 0;
        foreach ($low->corners as $k => $v) {
            $p = 3 * $low->triangles[$k];
            $t = 3 * intdiv($k, 3);
            if ($low->positions[$p] === 0.5 && $low->positions[$p + 1] === 0.5 && $low->positions[$p + 2] === 0.5) {
                $own++;
                self::assertSame([$low->normals[$t], $low->normals[$t + 1], $low->normals[$t + 2]], array_slice($low->directions, 3 * $v, 3));
            }
        }
        self::assertGreaterThanOrEqual(6, $own);
    }

    public function test_high_vertices_tell_how_deep_the_high_lies_where_samples_pass_by(): void
    {
        // A pit of 0.1 with its lowest point between all samples.
        $pit = Shapes::sheet(2, 2, 4, 4)->mapped(static fn (array $p): array => [$p[0], abs($p[0]) < 0.01 && abs($p[2]) < 0.01 ? -0.1 : 0.0, $p[2]]);
        $set = new SetSurfaces('a', [Shapes::sheet(2, 2)->mesh()], [$pit->mesh()], true);
        $needed = new NeededReach($set->low(), $set->high(), sqrt(8), true);
        self::assertEqualsWithDelta(0.1, $needed->in(0.0, 0.0), 1e-6);
        self::assertEqualsWithDelta(0.0, $needed->out(0.0), 1e-6);
        // What other high surface covers is not what rays come to.
        $covered = new SetSurfaces('a', [Shapes::sheet(2, 2)->mesh()], [$pit->with(Shapes::sheet(2, 2))->mesh()], true);
        self::assertSame(0.0, (new NeededReach($covered->low(), $covered->high(), sqrt(8), true))->in(0.0, 0.0));
    }

    /**
     * @return iterable<string, array{Polygons, Polygons, int, int}>
     */
    public static function turned(): iterable
    {
        $bowl = static fn (int $n): Polygons => Shapes::sheet(2, 2, $n, $n)->mapped(static fn (array $p): array => [$p[0], 1.0 - 0.5 * ($p[0] ** 2 + $p[2] ** 2), $p[2]]);
        yield 'both right' => [$bowl(4), $bowl(12), 0, 0];
        yield 'the low, by its shape' => [$bowl(4)->flipped(), $bowl(12), 1, 0];
        yield 'the high, by the shape of the low' => [$bowl(4), $bowl(12)->flipped(), 0, 1];
        yield 'a closed high' => [Shapes::box(1, 1, 1), Shapes::roundedBox(1, 1, 1, 0.05, 3)->flipped(), 0, 1];
        yield 'an open low on a closed high' => [Shapes::sheet(0.5, 0.5)->moved(0, 0.5, 0)->flipped(), Shapes::box(1, 1, 1, 4), 1, 0];
        yield 'one bolt of the high' => [Shapes::box(2, 1, 2), Shapes::roundedBox(2, 1, 2, 0.05, 3)->with(Shapes::cylinder(0.1, 0.1, 16)->moved(0, 0.56, 0)->flipped()), 0, 1];
        yield 'thin walls, both right' => [Shapes::box(2, 0.02, 2), Shapes::box(2, 0.02, 2, 6), 0, 0];
        yield 'far off' => [$bowl(4)->flipped(), $bowl(12)->moved(0, 2, 0), 0, 0];
    }

    #[DataProvider('turned')]
    public function test_of_two_sides_that_disagree_the_wrong_one_is_named(Polygons $low, Polygons $high, int $lows, int $highs): void
    {
        $facing = Facing::of(new SetSurfaces('a', [$low->mesh()], [$high->mesh()], true));
        self::assertCount($lows, $facing->low);
        self::assertCount($highs, $facing->high);
        self::assertCount($highs, $facing->highShells);
        self::assertSame($lows + $highs === 0, $facing->isClear());
        self::assertSame($lows > 0, $facing->lowTriangles !== []);
    }

    public function test_each_sample_is_asked_by_itself_whether_it_is_seen(): void
    {
        $low = LowSurface::of([Shapes::box(1, 2, 3)->mesh()], true);
        $samples = Samples::of($low, 4096, true);
        // A plate over half of the top: what lies beside it is seen, to the very line.
        $all = LowSurface::of([Shapes::box(1, 2, 3)->mesh(), Shapes::box(2, 0.1, 6)->moved(1.0, 1.06, 0)->mesh()], true);
        $seen = new SeenSamples($low, $samples, new Visibility($all->tree()));
        $hidden = $shown = 0;
        foreach ($samples->triangle as $i => $t) {
            if ($low->normals[3 * $t + 1] > 0.99) {
                $hidden += $samples->px[$i] > 0.3 && abs($samples->pz[$i]) < 1.4 && ! $seen->has($i) ? 1 : 0;
                $shown += $samples->px[$i] < 0.0 ? 1 : 0;
                self::assertTrue($samples->px[$i] > 0.0 || $seen->has($i));
            }
        }
        self::assertGreaterThan(20, $hidden);
        self::assertGreaterThan(100, $shown);
        self::assertTrue((new SeenSamples($low, $samples, null))->has(0));
    }

    public function test_small_sets_get_enough_samples(): void
    {
        // With 512 of its own, sixteen times as many are shot where none misses.
        $set = new SetSurfaces('a', [Shapes::box(1, 1, 1)->mesh()], [Shapes::roundedBox(1, 1, 1, 0.05, 3)->mesh()], true);
        $measured = ClearanceMeasure::of($set, [], Visibility::assembled([$set]), Standard::builtIn(), 512);
        self::assertGreaterThanOrEqual(7680, $measured->samples);
        self::assertLessThanOrEqual(16 * 512, $measured->samples);
        self::assertEqualsWithDelta($measured->samples, $measured->details->effective, 0.02 * $measured->samples);
    }

    public function test_a_few_of_many_are_spread_over_all(): void
    {
        self::assertSame([0, 3, 6], Spread::of(range(0, 9), 3));
        self::assertSame([1, 2], Spread::of([1, 2], 3));
    }

    /**
     * Samples of a low surface, and what each is to meet.
     *
     * @param  callable(int): list<array{float, int}>  $line  heights and kinds from the outside
     * @return array{Samples, Hits}
     */
    private static function field(callable $line, int $count = 512, ?LowSurface $low = null): array
    {
        $samples = Samples::of($low ?? LowSurface::of([Shapes::sheet(1, 1)->mesh()], true), $count, (new RaySettings)->cageLength);
        $start = $heights = $kinds = [];
        for ($i = 0; $i < $samples->count(); $i++) {
            $start[] = count($heights);
            foreach ($line($i) as [$height, $kind]) {
                $heights[] = $height;
                $kinds[] = $kind;
            }
        }
        $start[] = count($heights);

        return [$samples, new Hits($start, $heights, $kinds, array_fill(0, count($heights), 0), static fn (): bool => false)];
    }

    /** The first low triangle that lies at a height and faces up. */
    private static function triangleFacing(LowSurface $low, float $y): int
    {
        for ($t = 0; $t < $low->triangleCount(); $t++) {
            if ($low->normals[3 * $t + 1] > 0.99 && abs($low->positions[3 * $low->triangles[3 * $t] + 1] - $y) < 1e-6) {
                return $t;
            }
        }
        self::fail("no face at $y");
    }
}
