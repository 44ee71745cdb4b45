<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Clearance\Misses;
use Anvil\Geometry\Mesh;
use Anvil\Modelling\Shapes;
use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Standard\Reach;
use PHPUnit\Framework\TestCase;

/**
 * What is counted of rays that miss, of hits written by hand.
 */
final class MissesTest extends TestCase
{
    /**
     * @param  list<list<float>>  $heights  of each sample, all of which belong; from the outside inward
     */
    private static function hits(array $heights): Hits
    {
        $start = [0];
        $all = array_merge(...$heights);
        foreach ($heights as $of) {
            $start[] = end($start) + count($of);
        }

        return new Hits($start, $all, array_fill(0, count($all), 1), array_fill(0, count($all), 0), static fn (): bool => true);
    }

    /** Two closed parts, the second with three times the area of the page; every second ray of the second misses. */
    public function test_shares_are_of_what_is_seen_and_tell_the_reach_that_ends_them(): void
    {
        $low = LowSurface::of([Shapes::box(1, 1, 1)->mesh(), Shapes::box(1, 1, 1)->placed(0, 0, sqrt(3.0))->mesh()], true);
        $samples = Samples::of($low, 400, true);
        $first = $low->parts[1];
        $heights = [];
        $weights = ['out' => 0.0, 'in' => 0.0, 'never' => 0.0, 'hidden' => 0.0];
        $kinds = [];
        foreach ($samples->triangle as $i => $t) {
            $kind = $t < $first || $i % 2 === 0 ? 'hit' : ['out', 'in', 'never', 'hidden'][intdiv($i, 2) % 4];
            $kinds[] = $kind;
            // The nearer of two ends it.
            $heights[] = ['hit' => [0.01], 'out' => [0.7, 0.3], 'in' => [0.9, -0.2], 'never' => [], 'hidden' => [0.5]][$kind];
            if ($kind !== 'hit') {
                $weights[$kind] += $samples->weight[$i];
            }
        }
        $misses = Misses::of($low, $samples, self::hits($heights), new Reach(0.1, 0.05), static fn (int $i): bool => $kinds[$i] !== 'hidden', 0.8);
        $seen = $weights['out'] + $weights['in'] + $weights['never'];
        self::assertGreaterThan(0.2, $seen);
        self::assertEqualsWithDelta($seen / 0.8, $misses->share, 1e-9);
        self::assertEqualsWithDelta($weights['hidden'], $misses->unseenShare, 1e-9);
        self::assertEqualsWithDelta([0.0, $seen / 0.8], $misses->byPart, 1e-9);
        self::assertEqualsWithDelta(['out' => 0.3, 'in' => 0.2, 'left' => $weights['never'] / 0.8], $misses->ending, 1e-9);
        self::assertSame([0.0, 0.0], $misses->marginShares);
        self::assertSame([], $misses->margins);
        self::assertEqualsWithDelta(1.0, $misses->scale, 1e-9);
        self::assertSame(array_keys(array_filter($kinds, static fn (string $kind): bool => $kind === 'out' || $kind === 'in' || $kind === 'never')), $misses->rays);
        // Where nothing is seen, no share of it misses.
        self::assertSame(0.0, Misses::of($low, $samples, self::hits($heights), new Reach(0.1, 0.05), static fn (int $i): bool => true, 0.0)->share);
    }

    /** Two open sheets of areas 1 and 3: of the second, the outer half of its width misses. */
    public function test_a_margin_is_a_share_of_its_whole_part_also_when_samples_were_left_out(): void
    {
        $low = LowSurface::of([Shapes::sheet(1, 1, 4, 4)->mesh(), Shapes::sheet(3, 1, 12, 4)->moved(5, 0, 0)->mesh()], true);
        $samples = Samples::of($low, 4000, true);
        $miss = static fn (Samples $of, int $i): bool => $of->px[$i] > 5.0;
        $of = static function (Samples $kept) use ($low, $miss): Misses {
            $heights = [];
            for ($i = 0; $i < $kept->count(); $i++) {
                $heights[] = $miss($kept, $i) ? [] : [0.0];
            }

            return Misses::of($low, $kept, self::hits($heights), new Reach(0.1, 0.1), static fn (int $i): bool => true, 1.0);
        };
        foreach (['all' => static fn (int $i): bool => true, 'without half of what hits' => static fn (int $i): bool => $samples->px[$i] > 4.5] as $words => $keep) {
            $kept = $samples->only(array_values(array_filter(range(0, $samples->count() - 1), $keep)));
            $misses = $of($kept);
            self::assertEqualsWithDelta([0.0, 0.5], $misses->marginShares, 0.01, $words);
            self::assertSame([1], array_column($misses->margins, 'part'), $words);
            self::assertSame(0.0, $misses->share, $words);
            self::assertSame([], $misses->rays, $words);
            foreach ($misses->margins[0]['where'] as $place) {
                self::assertSame(0.0, $place[1], 'a margin lies on the low poly itself');
            }
        }
    }

    public function test_a_triangle_without_area_has_no_samples(): void
    {
        $sheet = Shapes::sheet(1, 1)->mesh();
        $mesh = new Mesh($sheet->positions, [...$sheet->triangles, 0, 1, 1], $sheet->uvs, [...$sheet->triUvs, 0, 1, 2]);
        $low = LowSurface::of([$mesh], true);
        self::assertSame(0.0, $low->areas[2]);
        self::assertSame([0, 1], array_values(array_unique(Samples::of($low, 200, true)->triangle)));
    }
}
