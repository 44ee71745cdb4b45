<?php

declare(strict_types=1);

namespace Anvil\Tests\Proof;

use Anvil\Checks\Proof\ProofRetouch;
use Anvil\Formats\Images\Image;
use Anvil\Formats\Images\ImageHeader;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Proof\ProofPage;
use Anvil\Proof\RetouchPage;
use Anvil\Proof\TrialBake;
use Anvil\Report\Report;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * What is left to paint: areas in closed form, and texel by texel against a bake of every texel.
 */
#[Group('matrix')]
final class RetouchTest extends TestCase
{
    /**
     * A sheet of 1 × 1 without some of its cells.
     *
     * @param  callable(int, int): bool  $cut
     */
    private static function holed(int $cells, callable $cut): Polygons
    {
        $sheet = Shapes::sheet(1, 1, $cells, $cells);

        return new Polygons($sheet->points, array_values(array_filter($sheet->faces, static fn (int $f): bool => ! $cut($f % $cells, intdiv($f, $cells)), ARRAY_FILTER_USE_KEY)));
    }

    private static function page(Report $report): RetouchPage
    {
        return ProofRetouch::pages($report->measures)[0][0];
    }

    /** A hole of 2 × 4 of 20 × 20 cells: its texels lie in a rectangle of the page, which grows by 2 px on each side. */
    public function test_a_hole_is_counted_texel_by_texel_and_grown_by_two(): void
    {
        $size = 512;
        $report = Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::holed(20, static fn (int $x, int $y): bool => $y >= 9 && $y < 11 && $x >= 8 && $x < 12)], "{\"mapSize\":$size}");
        $page = self::page($report);
        // U from 0.04 to 0.96; a texel is in where its centre is.
        $texels = static fn (float $from, float $to): int => (int) (ceil($to * $size - 0.5) - ceil($from * $size - 0.5));
        $at = static fn (int $cell): float => 0.04 + 0.92 * $cell / 20;
        $wide = $texels($at(8), $at(12));
        $tall = $texels($at(9), $at(11));
        self::assertSame(($wide + 4) * ($tall + 4), $page->texels);
        self::assertSame($texels(0.04, 0.96) ** 2, $page->inside);
        self::assertCount(1, $page->areas);
        self::assertSame([$wide * $tall, 'miss', 'a'], [$page->areas[0]['texels'], $page->areas[0]['kind'], $page->areas[0]['set']]);
        ['x' => $x, 'y' => $y, 'where' => $where] = $page->areas[0];
        self::assertSame(intdiv($wide - 1, 2), $x - (int) ceil($at(8) * $size - 0.5));
        $side = static fn (int $texel): float => abs((($texel + 0.5) / $size - 0.04) / 0.92 - 0.5);
        self::assertEqualsWithDelta([$side($x), 0.0, $side($y)], array_map(abs(...), $where), 1e-6);
        // The mask says the same.
        $bytes = $page->png();
        $image = Image::decode($bytes, ImageHeader::of($bytes));
        $white = 0;
        for ($y = 0; $y < $size; $y++) {
            foreach (array_chunk($image->row($y), 4) as [$r]) {
                $white += $r === 65535 ? 1 : 0;
            }
        }
        self::assertSame($page->texels, $white);
    }

    /** Holes of many sizes: what is found from a few texels on is what shooting every texel finds; the areas add up. */
    public function test_what_is_found_is_what_every_texel_would_tell(): void
    {
        mt_srand(14);
        $holes = [];
        for ($i = 0; $i < 14; $i++) {
            $holes[] = [mt_rand(1, 52), mt_rand(1, 52), mt_rand(2, 6), mt_rand(2, 6)];
        }
        $cut = static function (int $x, int $y) use ($holes): bool {
            foreach ($holes as [$left, $top, $w, $h]) {
                if ($x >= $left && $x < $left + $w && $y >= $top && $y < $top + $h) {
                    return true;
                }
            }

            return false;
        };
        $report = Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::holed(60, $cut)], '{"mapSize":1024}', rays: 65536);
        $page = self::page($report);
        $maps = (new TrialBake($report->measures->common()->trialInputs()))->page(ProofPage::of($report->measures->asset)[0], 1024, 1, ['miss']);
        $bad = array_keys(array_filter($maps->miss));
        self::assertSame(count($bad), array_sum(array_column($page->areas, 'texels')));
        $grown = [];
        foreach ($bad as $texel) {
            for ($dy = -2; $dy <= 2; $dy++) {
                for ($dx = -2; $dx <= 2; $dx++) {
                    $grown[$texel + 1024 * $dy + $dx] = true;
                }
            }
        }
        self::assertSame(count($grown), $page->texels);
        self::assertSame($maps->inside(), $page->inside);
    }

    /** Where everything misses it goes by squares, and neither time nor memory run away. */
    public function test_a_whole_page_that_misses_is_counted(): void
    {
        $report = Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(1, 1, 40, 40)->mapped(static fn (array $p): array => [$p[0], 0.08 * sin(9 * $p[0] + 1) + 0.05 * sin(5 * $p[2]), $p[2]])], '{"mapSize":2048,"reach":{"*":{"out":0.002,"in":0.002}}}', rays: 512);
        $page = self::page($report);
        self::assertGreaterThan(0.9 * $page->inside, $page->texels);
        self::assertLessThanOrEqual(1.0, $page->share());
    }

    /** Few rays say nothing of a hole of 0.09 %; texels do, and nothing else told of it. */
    public function test_what_nothing_else_told_of_is_a_caution(): void
    {
        $hole = self::holed(33, static fn (int $x, int $y): bool => $x === 11 && $y === 20);
        $report = Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => $hole], rays: 64);
        self::assertNull(Assets::finding($report, 'ray-miss'));
        $finding = Assets::finding($report, 'proof-retouch');
        self::assertSame('caution', $finding?->severity->value);
        self::assertGreaterThan(1 / 33 ** 2, $finding->measure->value ?? 0.0);
        // With enough of them that tells it, and what is left is a note.
        $told = Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => $hole], rays: 65536);
        self::assertNotNull(Assets::finding($told, 'ray-miss'));
        self::assertSame('note', Assets::finding($told, 'proof-retouch')?->severity->value);
    }

    /** The same hole under a block that stands over it: its texels are in the mask, and hidden. */
    public function test_hidden_texels_are_a_note(): void
    {
        $block = static fn (Polygons $box): Polygons => $box->moved(-0.15, 0.1003, 0.12);
        $report = Assets::report(
            ['a_low' => Shapes::sheet(1, 1)->placed(0, 0, 0.5), 'b_low' => $block(Shapes::box(0.6, 0.2, 0.6))->placed(0.5, 0, 0.5)],
            ['a_high' => self::holed(33, static fn (int $x, int $y): bool => $x === 11 && $y === 20), 'b_high' => $block(Shapes::roundedBox(0.6, 0.2, 0.6, 0.002, 2, 4))],
            rays: 64,
        );
        self::assertSame('note', Assets::finding($report, 'proof-retouch')?->severity->value);
        self::assertGreaterThan(1000, self::page($report)->texels);
        self::assertLessThan(1e-5, self::page($report)->seenShare);
    }

    /** The low goes past the outline of its high by 0.001 all round: painted, but that is weighed by low-margin; a hole inside is not. */
    public function test_a_margin_is_in_the_mask_and_no_surprise(): void
    {
        $low = ['a_low' => Shapes::sheet(1, 1)];
        $margin = Assets::report($low, ['a_high' => Shapes::sheet(0.998, 0.998, 9, 9)], rays: 64);
        self::assertSame('note', Assets::finding($margin, 'proof-retouch')?->severity->value);
        $page = self::page($margin);
        self::assertSame(0.0, $page->seenShare);
        // 0.92 of the 2,048 px lie in the island; the margin is 0.94 px wide and grows by 2 px inward, and outward.
        self::assertGreaterThan(4 * 0.92 * 2048 * 4.5, $page->texels);
        $holed = new Polygons(($high = self::holed(33, static fn (int $x, int $y): bool => $x === 11 && $y === 20)->scaled(0.998, 1, 0.998))->points, $high->faces);
        $both = Assets::report($low, ['a_high' => $holed], rays: 64);
        self::assertSame('caution', Assets::finding($both, 'proof-retouch')?->severity->value);
        self::assertEqualsWithDelta(1 / 33 ** 2, self::page($both)->seenShare, 2e-5);
    }

    /** What rays pass through because it is turned the wrong way, and where they start from such faces, is not painted: turned round it is fine. */
    public function test_what_faces_the_wrong_way_is_not_counted(): void
    {
        $high = Shapes::roundedBox(1, 1, 1, 0.02, 3, 2);
        // Each in its half of the page.
        $two = static fn (Polygons $one, Polygons $other): Polygons => $one->placed(0, 0, 0.48)->with($other->placed(0.5, 0, 0.48)->moved(3, 0, 0));
        $low = $two(Shapes::box(1, 1, 1), Shapes::box(1, 1, 1));
        foreach ([[$low, $two($high, $high->flipped())], [$two(Shapes::box(1, 1, 1), Shapes::box(1, 1, 1)->flipped()), $two($high, $high)]] as [$lows, $highs]) {
            $report = Assets::report(['a_low' => $lows], ['a_high' => $highs], '{"mapSize":512}');
            self::assertSame('blocker', Assets::finding($report, 'mesh-flipped')?->severity->value);
            self::assertNull(Assets::finding($report, 'proof-retouch'));
            self::assertSame(0, self::page($report)->texels);
            self::assertSame('not-run', Assets::state($report, 'proof-retouch'));
        }
        // The sound one beside it is looked at.
        $faces = $high->faces;
        $open = new Polygons($high->points, array_slice($faces, 0, intdiv(count($faces), 2)));
        $report = Assets::report(['a_low' => $low], ['a_high' => $two($open, $high->flipped())], '{"mapSize":512}');
        $areas = self::page($report)->areas;
        self::assertNotSame([], $areas);
        foreach ($areas as $area) {
            self::assertLessThan(1.0, $area['where'][0]);
        }
    }

    /** Low and high lie apart by more than their reach: that is one cause, which off-alignment tells. */
    public function test_what_stands_off_its_high_is_no_surprise(): void
    {
        $report = Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => Shapes::roundedBox(3, 2, 1, 0.02, 3, 2)->moved(0.2, 0.15, 0.1)], '{"mapSize":512,"reach":{"*":{"out":0.02,"in":0.02}}}');
        self::assertSame('blocker', Assets::finding($report, 'off-alignment')?->severity->value);
        self::assertSame('note', Assets::finding($report, 'proof-retouch')?->severity->value);
    }

    /** A page over 4,096 px is looked at in every second texel, and told at its own size. */
    public function test_a_large_map_is_told_at_its_own_size(): void
    {
        $hole = self::holed(20, static fn (int $x, int $y): bool => $x === 8 && $y === 9);
        $small = self::page(Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => $hole], '{"mapSize":4096}', rays: 512));
        $large = self::page(Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => $hole], '{"mapSize":8192}', rays: 512));
        self::assertSame(4 * $small->inside, $large->inside);
        self::assertSame(4 * $small->texels, $large->texels);
    }
}
