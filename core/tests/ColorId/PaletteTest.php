<?php

declare(strict_types=1);

namespace Anvil\Tests\ColorId;

use Anvil\ColorId\Assignment;
use Anvil\ColorId\NearestPassing;
use Anvil\ColorId\Palette;
use Anvil\ColorId\PaletteSearch;
use Anvil\ColorId\Vision;
use Anvil\Geometry\Color;
use Anvil\Tests\Support\Outside;
use PHPUnit\Framework\TestCase;

/**
 * The most distinct colors for a number of IDs, around colors that stay, for four kinds of eyes, and on what touches.
 */
final class PaletteTest extends TestCase
{
    /** What a long search of others came to, less what was asked for: 41, 28, 22.5 and 18.5 at 8, 16, 24 and 32. */
    public function test_palettes_are_as_distinct_as_was_asked_for(): void
    {
        foreach ([8 => 41.0, 16 => 28.0, 24 => 22.5, 32 => 18.5, 64 => 13.4, 128 => 9.2, 200 => 6.9] as $count => $least) {
            $colors = Palette::spread($count);
            self::assertGreaterThan($least, Palette::leastDistance($colors), "$count");
        }
    }

    public function test_tables_hold_as_many_colors_as_they_say(): void
    {
        foreach (['usual', 'eyes'] as $name) {
            $table = Palette::table($name);
            self::assertSame(1, array_key_first($table));
            foreach ($table as $count => $colors) {
                self::assertCount($count, $colors, "$name $count");
            }
        }
    }

    public function test_fewer_colors_are_never_nearer_to_each_other_than_more(): void
    {
        foreach ([false, true] as $allEyes) {
            $before = INF;
            foreach ([...range(2, 66), 79, 80, 81, 100, 101, 128, 150, 199, 200] as $count) {
                $colors = Palette::spread($count, [], $allEyes);
                self::assertCount($count, array_unique(array_map(static fn (Color $color): string => $color->hex(), $colors)));
                $least = $allEyes ? Palette::leastToAll($colors) : Palette::leastDistance($colors);
                self::assertLessThanOrEqual($before + 1e-9, $least, "$count");
                $before = $least;
            }
        }
        self::assertCount(500, Palette::spread(500));
    }

    public function test_colors_are_vivid_or_black_or_white(): void
    {
        foreach ([Palette::spread(64), Palette::spread(500), Palette::spread(40, [Color::of(128, 128, 128)]), Palette::spread(30, [], true)] as $colors) {
            foreach ($colors as $color) {
                self::assertTrue($color->chroma() >= PaletteSearch::VIVID || in_array($color->hex(), ['#000000', '#FFFFFF'], true), $color->hex());
            }
        }
    }

    /** Colors that a studio has, a dark one among them. */
    public function test_what_stays_is_kept_away_from(): void
    {
        $kept = [Color::of(255, 0, 0), Color::of(0, 255, 0), Color::of(120, 60, 20)];
        $new = Palette::spread(9, $kept);
        self::assertCount(9, $new);
        self::assertGreaterThan(26.0, Palette::leastDistance([...$kept, ...$new]));
        self::assertEquals($new, Palette::spread(9, $kept), 'the same each time');
        self::assertSame([], Palette::spread(0, $kept));
        self::assertSame('#FF0000', Palette::spread(1)[0]->hex());
        self::assertSame(INF, Palette::leastDistance([Color::of(1, 2, 3)]));
        self::assertSame(0.0, Palette::leastDistance([Color::of(1, 2, 3), Color::of(200, 0, 0), Color::of(1, 2, 3)]));
    }

    public function test_a_search_moves_only_what_may_move_and_raises_the_least(): void
    {
        $fixed = [Color::of(0, 0, 0)];
        $start = [Color::of(200, 0, 0), Color::of(210, 0, 0), Color::of(0, 0, 250)];
        $found = (new PaletteSearch($fixed, false, 3))->from($start, 4000);
        self::assertCount(3, $found);
        self::assertGreaterThan(45.0, Palette::leastDistance([...$fixed, ...$found]));
        self::assertEquals($found, (new PaletteSearch($fixed, false, 3))->from($start, 4000));
        self::assertSame([], (new PaletteSearch($fixed, false, 3))->from([], 10));
        // Nearer than 33 of 441 in RGB is no distance for a picker, whatever ΔE00 says.
        $many = Palette::spread(200);
        foreach ($many as $i => $one) {
            for ($j = 0; $j < $i; $j++) {
                self::assertGreaterThanOrEqual(33.0, $one->rgbDistance($many[$j]));
            }
        }
    }

    /** With the better spread for all eyes the worst pair is further apart to the eye that sees it worst. */
    public function test_a_spread_for_all_eyes_helps_those_who_see_fewer_colors(): void
    {
        foreach ([6, 12, 24] as $count) {
            self::assertGreaterThan(1.5 * Palette::leastToAll(Palette::spread($count)), Palette::leastToAll(Palette::spread($count, [], true)), "$count");
        }
        self::assertGreaterThan(20.0, Palette::leastToAll(Palette::spread(8, [], true)));
    }

    public function test_thinning_takes_the_nearest_away(): void
    {
        $four = [Color::of(255, 0, 0), Color::of(0, 0, 255), Color::of(250, 10, 0), Color::of(0, 255, 0)];
        self::assertSame(['#FF0000', '#0000FF', '#00FF00'], array_map(static fn (Color $color): string => $color->hex(), Palette::thinned($four, 3, false)));
    }

    /**
     * Simulated vision by the matrices of Machado, Oliveira, Fernandes 2009 (full severity), Lab, OKLCH and ΔE00, each held against npm culori.
     */
    public function test_colors_are_seen_as_an_independent_library_sees_them(): void
    {
        $colors = [];
        for ($k = 0; $k < 300; $k++) {
            $colors[] = Color::of(($k * 73 + 11) % 256, ($k * 151 + 40) % 256, ($k * 211 + 90) % 256);
        }
        $hex = array_map(static fn (Color $color): string => $color->hex(), $colors);
        /** @var array{lab: list<list<float>>, chroma: list<float>, prot: list<string>, deuter: list<string>, trit: list<string>, delta: list<float>} $seen */
        $seen = Outside::node('colors.mjs', $hex);
        foreach ($colors as $k => $color) {
            self::assertEqualsWithDelta($seen['lab'][$k], $color->lab(), 0.02, $hex[$k]);
            self::assertEqualsWithDelta($seen['chroma'][$k], $color->chroma(), 1e-4, $hex[$k]);
            self::assertEqualsWithDelta($seen['delta'][$k], $color->deltaE($colors[($k + 1) % 300]), 0.01, $hex[$k]);
            foreach (['prot' => Vision::Protan, 'deuter' => Vision::Deutan, 'trit' => Vision::Tritan] as $key => $vision) {
                $other = Color::ofHex($seen[$key][$k]);
                $own = $vision->of($color);
                self::assertLessThanOrEqual(2.0, max(abs($own->red - $other->red), abs($own->green - $other->green), abs($own->blue - $other->blue)), "$key of $hex[$k]: {$own->hex()} {$other->hex()}");
            }
            self::assertEquals($color, Vision::Usual->of($color));
        }
        self::assertGreaterThan(3 * Vision::Deutan->deltaE(Color::of(200, 60, 40), Color::of(110, 120, 20)), Color::of(200, 60, 40)->deltaE(Color::of(110, 120, 20)));
    }

    public function test_what_touches_gets_what_lies_far_apart(): void
    {
        // A ring of six: black beside white and so on, not two reds side by side.
        $colors = [Color::of(255, 0, 0), Color::of(230, 60, 0), Color::of(0, 0, 255), Color::of(0, 90, 255), Color::of(0, 255, 0), Color::of(0, 200, 60)];
        $ring = [[0, 1], [1, 2], [2, 3], [3, 4], [4, 5], [0, 5]];
        $before = Assignment::leastTouching($colors, $ring);
        $apart = Assignment::apart($colors, [], $ring, false);
        self::assertGreaterThan($before + 20.0, Assignment::leastTouching($apart, $ring));
        $sorted = static function (array $some): array {
            $hex = array_map(static fn (Color $color): string => $color->hex(), $some);
            sort($hex);

            return $hex;
        };
        self::assertSame($sorted($colors), $sorted($apart));
        // What is fixed stays where it is.
        $held = Assignment::apart($colors, [0 => true, 1 => true], $ring, false);
        self::assertEquals([$colors[0], $colors[1]], [$held[0], $held[1]]);
        self::assertSame(INF, Assignment::leastTouching($colors, []));
        self::assertEquals($colors, Assignment::apart($colors, [], [], true));
    }

    /** Red and green may not touch where their blend is a third ID. */
    public function test_a_blend_of_two_that_touch_is_no_third_where_that_can_be(): void
    {
        $third = Color::of(255, 0, 0)->midway(Color::of(0, 255, 0));
        $colors = [Color::of(255, 0, 0), Color::of(0, 255, 0), $third, Color::of(0, 0, 255), Color::of(255, 255, 255)];
        $apart = Assignment::apart($colors, [], [[0, 1]], false);
        self::assertNotEqualsCanonicalizing(['#FF0000', '#00FF00'], [$apart[0]->hex(), $apart[1]->hex()]);
        self::assertGreaterThan(30.0, Assignment::leastTouching($apart, [[0, 1]]));
    }

    public function test_the_nearest_color_that_passes_is_told(): void
    {
        $colors = [Color::of(232, 17, 45), Color::of(224, 21, 31), Color::of(0, 0, 255)];
        $found = NearestPassing::to($colors, 1, [2]);
        self::assertNotNull($found);
        $color = Color::ofHex($found[0]);
        self::assertEqualsWithDelta($found[1], min($color->deltaE($colors[0]), $color->deltaE($colors[2])), 1e-9);
        self::assertGreaterThanOrEqual(20.0, $found[1]);
        self::assertGreaterThanOrEqual(30.0, $color->deltaE($colors[2]));
        self::assertGreaterThanOrEqual(0.12, $color->chroma());
        self::assertLessThan(24.0, $color->deltaE($colors[1]), 'no further away than it has to be');
        // Where nothing is left there is nothing to tell.
        self::assertNull(NearestPassing::to(Palette::spread(64), 0, range(1, 63)));
    }
}
