<?php

declare(strict_types=1);

namespace Anvil\Tests\Place;

use Anvil\Asset\RenamePlan;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\SurfacePoints;
use Anvil\Measures\Kind\Suffixes;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Pairing\SuffixGuess;
use Anvil\Place\Offset;
use Anvil\Place\OffsetSearch;
use Anvil\Place\OwnAxes;
use Anvil\Place\PlaceMend;
use Anvil\Place\SizeFactor;
use Anvil\Spatial\TriangleTree;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Offsets, turns, factors and suffixes that are known by construction.
 */
final class PlaceTest extends TestCase
{
    /**
     * @return iterable<string, array{Polygons, Polygons}> low, high
     */
    public static function detailed(): iterable
    {
        $planks = static fn (int $count): array => array_map(static fn (int $i): Polygons => Shapes::box(0.22, 0.05, 0.9)->moved(-0.36 + 0.24 * $i, 1.02, 0), range(0, $count - 1));
        yield 'bevels' => [Shapes::box(1, 2, 1), Shapes::roundedBox(1, 2, 1, 0.05, 3)];
        yield 'planks on one side only' => [Shapes::box(1, 2, 1), Polygons::join([Shapes::roundedBox(1, 2, 1, 0.05, 3), ...$planks(4)])];
        yield 'rivets on one side only' => [Shapes::box(1, 2, 1), Polygons::join([Shapes::roundedBox(1, 2, 1, 0.03, 2), ...array_map(static fn (int $i): Polygons => Shapes::sphere(0.04, 8, 12)->moved(0.5, -0.8 + 0.2 * $i, 0), range(0, 8))])];
        yield 'a round post' => [Shapes::cylinder(0.5, 2, 24), Shapes::roundedCylinder(0.5, 2, 0.05, 96, 4)];
    }

    #[DataProvider('detailed')]
    public function test_a_shift_is_found_to_a_twentieth_of_a_percent_whatever_the_high_poly_adds(Polygons $low, Polygons $high): void
    {
        // Definition of METHODS.md, "Place"; the shift is put in here.
        $mesh = $low->mesh();
        $d = $mesh->bounds()?->diagonal() ?? 0.0;
        foreach ([[0.0, 0.0, 0.0], [0.006, 0.0, 0.0], [0.0, -0.004, 0.003]] as $shift) {
            $by = array_map(static fn (float $v): float => $v * $d, $shift);
            $report = Assets::report(['post_low' => $low], ['post_high' => $high->moved(...$by)]);
            $length = sqrt($shift[0] ** 2 + $shift[1] ** 2 + $shift[2] ** 2);
            $finding = Assets::finding($report, 'off-alignment');
            if ($length === 0.0) {
                self::assertNull($finding, $finding->message ?? '');
            } else {
                self::assertNotNull($finding);
                self::assertEqualsWithDelta($length, $finding->measure->value ?? 0.0, 0.0005, $finding->message);
            }
        }
    }

    /**
     * @return iterable<string, array{float, float}> ratio of sizes, what the high poly is multiplied by
     */
    public static function ratios(): iterable
    {
        yield 'centimetres against metres' => [100.0, 0.01];
        yield 'metres against centimetres' => [0.01, 100.0];
        yield 'inches' => [2.54, 1 / 2.54];
        yield 'inches in metres, nearly' => [39.0, 1 / 39.3701];
        yield 'no usual factor' => [7.0, 1 / 7];
    }

    #[DataProvider('ratios')]
    public function test_the_likely_factor_mends_the_size(float $ratio, float $expected): void
    {
        self::assertEqualsWithDelta($expected, SizeFactor::mending($ratio), 1e-9);
    }

    public function test_a_scaled_and_turned_high_poly_is_brought_back_onto_the_low_one(): void
    {
        $low = ['post_low' => Shapes::box(1, 6, 1)->moved(0, 3, 0), 'arm_low' => Shapes::box(4, 1, 1)->moved(2.5, 5.5, 0), 'foot_low' => Shapes::box(2, 0.5, 3)->moved(0, -0.25, 0.5)];
        $high = [];
        $wrong = Matrix::of([100.0, 0.0, 0.0, 0.0, 0.0, 0.0, 100.0, 0.0, 0.0, -100.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0]);
        foreach ($low as $name => $shape) {
            $high[str_replace('_low', '_high', $name)] = $shape->mesh()->placedBy($wrong);
        }
        $measures = self::inspection([Assets::file('rig_low.obj', $low), Assets::file('rig_high.obj', $high), Assets::file('rig_id.obj', array_combine(array_map(static fn (string $name): string => str_replace('_high', '_id', $name), array_keys($high)), $high))]);
        $mend = PlaceMend::of($measures->asset, $measures->quarterTurn());
        self::assertNotNull($mend);
        self::assertEqualsWithDelta(0.01, $mend->factor, 1e-12);
        self::assertSame(['scaled by 1/100 and turned −90° about X', [], [1, 2]], [$mend->words(), $mend->stuck, array_keys($mend->ofFiles)]);
        foreach ($high as $name => $mesh) {
            self::assertEqualsWithDelta($low[str_replace('_high', '_low', $name)]->mesh()->bounds()?->toArray(), $mesh->placedBy($mend->ofFiles[1])->bounds()?->toArray(), 1e-5);
        }
        self::assertNull(self::mend(self::inspection([Assets::file('rig_low.obj', $low), Assets::file('rig_high.obj', self::renamed($low))])));
        $together = self::mend(self::inspection([Assets::file('rig.obj', [...$low, ...$high])]));
        self::assertStringContainsString('holds low and high parts together', $together->stuck[0] ?? '');
    }

    public function test_suffixes_of_a_studio_are_found_where_the_standards_fit_nothing(): void
    {
        $guess = self::inspection([Assets::file('bell.obj', self::pairs('_lo', '_hi'))])->ofAsset(Suffixes::class);
        self::assertSame([['low' => ['_lo'], 'high' => ['_hi']], 3, 3, false], [$guess?->suffixes, $guess?->pairs, $guess?->bases, $guess?->ofFiles]);
        self::assertNotNull($guess);
        $rules = Standard::builtIn()->withSuffixes($guess->suffixes);
        self::assertCount(3, self::inspection([Assets::file('bell.obj', self::pairs('_lo', '_hi'))], $rules)->asset->pairing->ties);
        // In letter case alone, with a dash, and with an ID copy beside.
        self::assertSame(['low' => ['LP'], 'high' => ['HP']], self::inspection([Assets::file('bell.obj', self::pairs('LP', 'HP'))])->ofAsset(Suffixes::class)?->suffixes);
        $pairs = self::pairs('-game', '-detail');
        $copies = array_filter($pairs, static fn (string $name): bool => str_ends_with($name, '-detail'), ARRAY_FILTER_USE_KEY);
        $copies = array_combine(array_map(static fn (string $name): string => str_replace('-detail', '-mask', $name), array_keys($copies)), $copies);
        self::assertSame(['low' => ['-game'], 'high' => ['-detail'], 'id' => ['-mask']], self::inspection([Assets::file('bell.obj', [...$pairs, ...$copies])])->ofAsset(Suffixes::class)?->suffixes);
        // Copies of fewer than half, or of some beside others that are none, are no ID copy.
        self::assertSame(['low' => ['-game'], 'high' => ['-detail'], 'id' => ['-mask']], self::inspection([Assets::file('bell.obj', [...$pairs, ...array_slice($copies, 0, 2)])])->ofAsset(Suffixes::class)?->suffixes);
        self::assertSame(['low' => ['-game'], 'high' => ['-detail']], self::inspection([Assets::file('bell.obj', [...$pairs, ...array_slice($copies, 0, 1)])])->ofAsset(Suffixes::class)?->suffixes);
        self::assertSame(['low' => ['-game'], 'high' => ['-detail']], self::inspection([Assets::file('bell.obj', [...$pairs, ...array_slice($copies, 0, 2), 'rope-mask' => Shapes::box(1, 1, 1)->moved(0, 9, 0)])])->ofAsset(Suffixes::class)?->suffixes);
        // On the names of files.
        $plain = array_keys(self::pairs('', '_x'));
        $files = self::inspection([Assets::file('bell_lo.obj', ['bell' => Shapes::box(1, 1, 1), 'yoke' => Shapes::box(1, 1, 1)->moved(3, 0, 0)]), Assets::file('bell_hi.obj', ['bell' => Shapes::roundedBox(1, 1, 1, 0.1, 2), 'yoke' => Shapes::roundedBox(1, 1, 1, 0.1, 2)->moved(3, 0, 0)])])->ofAsset(Suffixes::class);
        self::assertSame([['low' => ['_lo'], 'high' => ['_hi']], true], [$files?->suffixes, $files?->ofFiles]);
        self::assertNotSame([], $plain);
    }

    public function test_no_suffixes_are_made_up(): void
    {
        // Left and right stand apart; a standard that fits one name fits.
        self::assertNull(self::inspection([Assets::file('door.obj', ['door_left' => Shapes::box(1, 1, 1), 'door_right' => Shapes::roundedBox(1, 1, 1, 0.1, 2)->moved(5, 0, 0)])])->ofAsset(Suffixes::class));
        self::assertNull(self::inspection([Assets::file('bell.obj', [...self::pairs('_lo', '_hi'), 'rope_low' => Shapes::box(1, 1, 1)])])->ofAsset(Suffixes::class));
        self::assertNull(SuffixGuess::of([], Standard::builtIn()));
    }

    public function test_two_hundred_links_numbered_one_off_are_crossed_and_mended_in_one_act(): void
    {
        $low = $high = [];
        for ($i = 1; $i <= 200; $i++) {
            $low[sprintf('link_%03d_low', $i)] = Shapes::box(1, 0.4, 0.4)->moved(0.8 * $i, 0, 0);
            $high[sprintf('link_%03d_high', $i % 200 + 1)] = Shapes::box(1, 0.4, 0.4)->moved(0.8 * $i, 0, 0.001);
        }
        $measures = self::inspection([Assets::file('chain_low.obj', $low), Assets::file('chain_high.obj', $high)]);
        $plan = RenamePlan::suggested($measures->asset);
        self::assertSame([200, []], [count($plan->rows), $plan->clashes]);
        $mended = $measures->asset->supposing([1 => $plan->namesIn(1)]);
        foreach ($mended->pairing->ties as $tie) {
            self::assertSame([[], true], [$tie->troubles, $tie->isSound()], $tie->base);
        }
    }

    public function test_where_all_as_one_would_bake_clean_the_first_finding_on_names_says_so(): void
    {
        $low = \Anvil\Modelling\Atlas::packed(['hull_low' => Shapes::box(1, 1, 1), 'mast_low' => Shapes::box(1, 1, 1)->moved(4, 0, 0)]);
        $high = ['part1_high' => Shapes::roundedBox(1, 1, 1, 0.03, 2), 'part2_high' => Shapes::roundedBox(1, 1, 1, 0.03, 2)->moved(4, 0, 0)];
        $report = Assets::report($low, $high);
        self::assertStringContainsString('names are not needed', Assets::finding($report, 'pair-no-high')->remedy ?? '');
        // A high part that is not there is no question of names.
        self::assertStringNotContainsString('names are not needed', Assets::finding(Assets::report($low, ['part1_high' => $high['part1_high']]), 'pair-no-high')->remedy ?? '');
        self::assertTrue(Assets::report($low, $high, '{"pairing":"whole"}')->isReady());
    }

    /**
     * @return array<string, Polygons>
     */
    private static function pairs(string $low, string $high): array
    {
        $out = [];
        foreach (['bell', 'clapper', 'yoke'] as $i => $base) {
            $out["$base$low"] = Shapes::box(1, 1, 1)->moved(3 * $i, 0, 0);
            $out["$base$high"] = Shapes::roundedBox(1, 1, 1, 0.05, 2)->moved(3 * $i, 0, 0);
        }

        return $out;
    }

    /**
     * @param  array<string, Polygons>  $low
     * @return array<string, Mesh>
     */
    private static function renamed(array $low): array
    {
        $out = [];
        foreach ($low as $name => $shape) {
            $out[str_replace('_low', '_high', $name)] = $shape->mesh();
        }

        return $out;
    }

    /**
     * @param  list<\Anvil\Asset\ReadFile>  $files
     */
    private static function inspection(array $files, ?Standard $standard = null): Measures
    {
        return Measures::of($files, $standard ?? Standard::builtIn(), Choices::ofJson('{}'));
    }

    private static function mend(Measures $measures): ?PlaceMend
    {
        return PlaceMend::of($measures->asset, $measures->quarterTurn());
    }

    /** Relief as high as the shift hides it from the distance between the surfaces; four quarters of the samples find it alike. */
    public function test_a_shift_under_relief_is_found_by_quarters_that_agree(): void
    {
        $wrinkled = static fn (float $high): callable => static function (array $p) use ($high): array {
            $w = 1 + $high * sin(9 * atan2($p[2], $p[0]) + 1) * sin(7 * $p[1]) + 0.6 * $high * sin(17 * $p[0] + 5 * $p[2]);

            return [$p[0] * $w, $p[1] * 1.6 * $w, $p[2] * 0.6 * $w];
        };
        $low = Shapes::sphere(1, 14, 24)->mapped($wrinkled(0.0))->triangulated()->mesh();
        $d = $low->bounds()?->diagonal() ?? 0.0;
        $of = static function (float $shift) use ($low, $wrinkled, $d): Offset {
            $high = Shapes::sphere(1, 80, 140)->mapped($wrinkled(0.03))->triangulated()->moved($shift * $d, 0, 0)->mesh();

            return OffsetSearch::of([$low], TriangleTree::of($high->positions, $high->triangles)) ?? self::fail('nothing was met');
        };
        self::assertSame(0.0, $of(0.0)->share());
        $shifted = $of(0.006);
        self::assertSame('shift', $shifted->kind());
        self::assertEqualsWithDelta([0.006, 0.0, 0.0], array_map(static fn (float $x): float => $x / $d, $shifted->shift), 0.0015);
    }

    /** A block of twelve faces has too few for quarters that share none: its sides are asked by points. */
    public function test_a_shift_of_a_block_under_relief_is_found_by_quarters_of_its_points(): void
    {
        $rough = static fn (float $shift): Mesh => Shapes::box(1, 1.6, 0.8, 40)->mapped(static function (array $p) use ($shift): array {
            $w = 1 + 0.03 * sin(31 * $p[0] + 17 * $p[1] + 1) * sin(23 * $p[2] + 11 * $p[1]);

            return [$p[0] * $w + $shift, $p[1] * $w, $p[2] * $w];
        })->triangulated()->mesh();
        $low = Shapes::box(1, 1.6, 0.8)->triangulated()->mesh();
        $of = static function (float $shift) use ($low, $rough): Offset {
            $high = $rough($shift);

            return OffsetSearch::of([$low], TriangleTree::of($high->positions, $high->triangles)) ?? self::fail('nothing was met');
        };
        self::assertSame(0.0, $of(0.0)->share());
        self::assertEqualsWithDelta([0.012, 0.0, 0.0], $of(0.012)->shift, 0.003);
    }

    /** A coarse hull lies inside its fine one by about as much on every side: no scale. A larger one stands out in proportion. */
    public function test_an_egg_that_coarse_faces_shrink_is_not_scaled(): void
    {
        $egg = static fn (int $rings, int $sides): Polygons => Shapes::sphere(1, $rings, $sides)->mapped(static fn (array $p): array => [$p[0], 1.6 * $p[1], 1.3 * $p[2]])->triangulated();
        $of = static function (Polygons $high) use ($egg): Offset {
            $mesh = $high->mesh();

            return OffsetSearch::of([$egg(10, 24)->mesh()], TriangleTree::of($mesh->positions, $mesh->triangles)) ?? self::fail('nothing was met');
        };
        self::assertSame('none', $of($egg(80, 120))->kind());
        self::assertEqualsWithDelta(1.05, $of($egg(10, 24)->scaled(1.05, 1.05, 1.05))->scale, 1e-3);
    }

    /** A sheet has no sides that look back at each other: its slopes are held against each other. The turn that takes some of the shift away does not hide it. */
    public function test_a_shift_of_a_wrinkled_sheet_is_told_by_its_slopes(): void
    {
        $sheet = static fn (int $cuts, float $high): Polygons => Shapes::sheet(4, 4, $cuts, $cuts)->mapped(static function (array $p) use ($high): array {
            $drape = 0.9 * sin(0.65 * $p[0] + 0.2 * $p[2] + 1.3) + 0.3 * cos(0.8 * $p[2] - 0.3 * $p[0]);

            return [$p[0], $drape + $high * (2 * sin(8 * $p[0] + 9 * sin($p[2])) + sin(12 * $p[2] + 3 * $p[0])), $p[2]];
        })->triangulated();
        $low = $sheet(28, 0.0)->mesh();
        $d = $low->bounds()?->diagonal() ?? 0.0;
        $of = static function (array $shift) use ($low, $sheet, $d): Offset {
            $high = $sheet(160, 0.015)->moved($shift[0] * $d, $shift[1] * $d, $shift[2] * $d)->mesh();

            return OffsetSearch::of([$low], TriangleTree::of($high->positions, $high->triangles)) ?? self::fail('nothing was met');
        };
        self::assertSame(0.0, $of([0.0, 0.0, 0.0])->share());
        foreach ([0.003, 0.006] as $by) {
            $shifted = $of([$by, 0.0, 0.0]);
            self::assertSame('shift', $shifted->kind());
            self::assertEqualsWithDelta($by, $shifted->shift[0] / $d, 0.25 * $by);
        }
        // How far it stands out along the way it looks cannot be known: cloth is thicker there.
        self::assertSame(0.0, $of([0.0, 0.006, 0.0])->share());
    }

    public function test_planks_on_one_slope_of_a_roof_are_no_offset(): void
    {
        $roof = static fn (int $cuts): Polygons => Shapes::sheet(4, 4, $cuts, $cuts)->mapped(static fn (array $p): array => [$p[0], -0.4 * abs($p[0]), $p[2]])->triangulated();
        $planks = $roof(32)->mapped(static fn (array $p): array => $p[0] > 0.0 ? [$p[0], $p[1] + 0.04, $p[2]] : $p);
        $of = static fn (Polygons $high): ?Offset => OffsetSearch::of([$roof(16)->mesh()], TriangleTree::of($high->mesh()->positions, $high->mesh()->triangles));
        self::assertSame(0.0, $of($planks)?->share());
        self::assertEqualsWithDelta(0.03, $of($roof(32)->moved(0.03, 0, 0))->shift[0] ?? 0.0, 1e-3);
    }

    public function test_the_axes_of_a_sheet_are_its_slopes_and_the_way_it_looks(): void
    {
        $mesh = Shapes::sheet(4, 4, 40, 40)->mapped(static fn (array $p): array => [$p[0], 0.3 * sin(2 * $p[0]), $p[2]])->turned(1, 30)->triangulated()->mesh();
        [$most, $least, $up] = (new OwnAxes(SurfacePoints::of([$mesh], 2000)))->ofSlopes();
        // Turned by 30° about y, z lies along (sin 30°, 0, cos 30°): nothing slopes that way.
        self::assertEqualsWithDelta(0.0, $most[0] * sin(M_PI / 6) + $most[2] * cos(M_PI / 6), 1e-2);
        self::assertEqualsWithDelta(1.0, abs($least[0] * sin(M_PI / 6) + $least[2] * cos(M_PI / 6)), 1e-3);
        // The mean slope is 0.6 · sin(4) / 4.
        self::assertEqualsWithDelta(atan(0.6 * sin(4.0) / 4), -asin($up[0] * cos(M_PI / 6) - $up[2] * sin(M_PI / 6)), 0.02);
        self::assertEqualsWithDelta(0.0, $most[0] * $up[0] + $most[1] * $up[1] + $most[2] * $up[2], 1e-9);
    }

    public function test_quarters_of_the_faces_share_none_and_leave_none_out(): void
    {
        $points = SurfacePoints::of([Shapes::sheet(1, 1, 28, 28)->triangulated()->mesh()], 4000);
        $seen = [];
        for ($k = 0; $k < 4; $k++) {
            $own = $points->onEvery(4, $k);
            self::assertEqualsWithDelta(1000, $own->count(), 60);
            self::assertCount(3 * $own->count(), $own->at);
            foreach (array_unique($own->triangles) as $triangle) {
                self::assertArrayNotHasKey($triangle, $seen);
                $seen[$triangle] = $k;
            }
            // No column of the grid is of one quarter.
            self::assertCount(28, array_unique(array_map(static fn (int $triangle): int => intdiv($triangle, 2) % 28, $own->triangles)));
        }
        self::assertCount(count(array_unique($points->triangles)), $seen);
        foreach ($seen as $triangle => $k) {
            self::assertSame($k, $seen[$triangle ^ 1] ?? $k, 'the halves of a quad are of one quarter');
        }
    }
}
