<?php

declare(strict_types=1);

namespace Anvil\Tests\Pairing;

use Anvil\Asset\RenamePlan;
use Anvil\Checks\Finding;
use Anvil\Geometry\Bounds;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Pairing\Assignment;
use Anvil\Pairing\ByPlace;
use Anvil\Pairing\NameReading;
use Anvil\Pairing\NearName;
use Anvil\Pairing\Pairing;
use Anvil\Pairing\PlaceCost;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\SuffixState;
use Anvil\Pairing\Suggestion;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Pairing\Turned;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * The rules of METHODS, "Pairing", at their edges, and the assignment against trying everything.
 */
final class PairingRulesTest extends TestCase
{
    /** Against the least cost over all ways to assign, on 400 random tables with ties and gaps. */
    public function test_the_assignment_costs_the_least_of_all(): void
    {
        mt_srand(7);
        for ($round = 0; $round < 400; $round++) {
            $rows = mt_rand(1, 5);
            $columns = mt_rand(1, 5);
            $costs = [];
            for ($i = 0; $i < $rows; $i++) {
                $costs[$i] = [];
                for ($j = 0; $j < $columns; $j++) {
                    if (mt_rand(0, 3) > 0) {
                        // In steps, so that costs are often equal; some over 1, which nobody takes.
                        $costs[$i][$j] = mt_rand(0, 12) / 10;
                    }
                }
            }
            $found = Assignment::of($costs);
            $taken = array_filter($found, static fn (int $j): bool => $j >= 0);
            self::assertCount(count($taken), array_unique($taken), 'no column twice');
            self::assertEqualsWithDelta(self::least($costs, 0, []), self::cost($costs, $found), 1e-9, json_encode([$costs, $found], JSON_THROW_ON_ERROR));
        }
    }

    /** A long chain, each row one off: the whole of it moves when the last column is there. */
    public function test_a_chain_is_moved_as_a_whole(): void
    {
        $costs = [];
        for ($i = 0; $i < 60; $i++) {
            $costs[] = [$i => 0.11, $i + 1 => 0.1];
        }
        self::assertSame(range(1, 60), Assignment::of($costs));
        // Without the last column the last row has to take the one before, and all others with it.
        unset($costs[59][60]);
        self::assertSame(range(0, 59), Assignment::of($costs));
        // Where the way through the chain costs more than to stay alone, one stays alone.
        $dear = [];
        for ($i = 0; $i < 10; $i++) {
            $dear[] = [$i => 0.9, $i + 1 => 0.1];
        }
        unset($dear[9][10]);
        $found = Assignment::of($dear);
        self::assertCount(1, array_keys($found, -1, true));
        self::assertEqualsWithDelta(9 * 0.1 + 1.0, self::cost($dear, $found), 1e-9);
    }

    /**
     * @return iterable<string, array{string, string, int}>
     */
    public static function distances(): iterable
    {
        yield 'equal' => ['drum', 'drum', 0];
        yield 'a letter put in' => ['drum', 'drumm', 1];
        yield 'a letter taken out' => ['drum', 'dum', 1];
        yield 'another letter' => ['drum', 'drom', 1];
        yield 'two swapped' => ['drum', 'durm', 1];
        yield 'swapped with one between them afterwards' => ['ca', 'abc', 2];
        yield 'all of it' => ['abc', 'xyz', 3];
        yield 'nothing and three' => ['', 'abc', 3];
        yield 'letters outside ASCII count as one' => ['Tür', 'Tor', 1];
        yield 'twice the same letter' => ['aab', 'ab', 1];
        yield 'the published pair of the plain distance' => ['kitten', 'sitting', 3];
    }

    /** Published values: R. Lowrance and R. A. Wagner 1975 (ca/abc: 2); kitten/sitting: 3, a common worked example (from memory). */
    #[DataProvider('distances')]
    public function test_letters_are_counted_as_published(string $a, string $b, int $distance): void
    {
        self::assertSame($distance, NearName::distance($a, $b));
        self::assertSame($distance, NearName::distance($b, $a));
        self::assertSame($distance <= 2, NearName::isNear($a, $b));
    }

    public function test_names_are_far_before_they_are_counted_where_their_lengths_or_letters_say_so(): void
    {
        self::assertTrue(NearName::isNear('abcd', 'ab'));
        self::assertFalse(NearName::isNear('abcde', 'ab'));
        // Two swaps are four plain edits.
        self::assertTrue(NearName::isNear('abcdefgh', 'badcefgh'));
        self::assertFalse(NearName::isNear('abcdefgh', 'badcfegh'));
        $long = str_repeat('plate_', 50);
        self::assertTrue(NearName::isNear($long.'ab', $long.'ba'));
        self::assertFalse(NearName::isNear($long.'abc', $long.'xyz'));
    }

    /**
     * @return iterable<string, array{string, string}>
     */
    public static function tails(): iterable
    {
        yield 'numbering by a dot' => ['drum.001', 'drum'];
        yield 'numbering by an underscore' => ['drum_12', 'drum'];
        yield 'a copy' => ['drum copy', 'drum'];
        yield 'a copy with a number' => ['drum_copy2', 'drum'];
        yield 'a copy with a number and a dash' => ['Drum-Copy-2', 'drum'];
        yield 'in brackets' => ['drum (3)', 'drum'];
        yield 'a copy in brackets' => ['drum(copy)', 'drum'];
        yield 'several' => ['drum.001 copy', 'drum'];
        yield 'a suffix before the tail' => ['drum_low.001', 'drum'];
        yield 'a suffix without a tail stays' => ['drum_low', 'drum_low'];
        yield 'a number that is the name' => ['_12', '_12'];
        yield 'a number without a separator' => ['drum12', 'drum12'];
        yield 'nothing but a suffix and a tail' => ['_low.001', '_low'];
        yield 'letters in other case' => ['DRUM', 'drum'];
    }

    #[DataProvider('tails')]
    public function test_tails_are_taken_off(string $base, string $stripped): void
    {
        self::assertSame($stripped, NearName::stripped($base, Standard::builtIn()));
    }

    public function test_candidates_by_place_are_within_a_quarter_of_the_diagonal(): void
    {
        // Diagonal 3 (2, 2, 1); a shift of 0.74 costs 0.2467, one of 0.76 costs 0.2533.
        $box = static fn (float $x): Bounds => Bounds::of([$x, 0.0, 0.0], [$x + 2.0, 2.0, 1.0]);
        $place = ByPlace::of([$box(0.0), null, $box(10.0)], [$box(0.74), $box(10.76), null, $box(-0.74)]);
        self::assertSame([[0, 3], [], []], array_map(array_keys(...), $place->costs));
        self::assertSame([0], array_keys($place->partner));
        self::assertEqualsWithDelta(0.74 / 3, $place->partner[0][1], 1e-12);
        self::assertSame(PlaceCost::of($box(0.0), $box(0.74)), $place->costs[0][0]);
        self::assertSame(INF, PlaceCost::of(Bounds::of([0.0, 0.0, 0.0], [0.0, 0.0, 0.0]), $box(0.0)));
        // Half the difference of sizes in each axis: (1.5 + 1 + 0.5) / 2 over 3, and the centres lie half of that apart.
        self::assertEqualsWithDelta((sqrt(0.75 ** 2 + 0.5 ** 2 + 0.25 ** 2) + 1.5) / 3, PlaceCost::of($box(0.0), Bounds::of([0.0, 0.0, 0.0], [0.5, 1.0, 0.5])), 1e-12);
    }

    public function test_a_mutual_best_is_beaten_from_neither_side(): void
    {
        $box = static fn (float $x): Bounds => Bounds::of([$x, 0.0, 0.0], [$x + 2.0, 2.0, 1.0]);
        $place = ByPlace::of([$box(0.0), $box(0.3)], [$box(0.1), $box(0.5), $box(5.0)]);
        self::assertTrue($place->isMutualBest(0, 0));
        self::assertFalse($place->isMutualBest(0, 1), 'the first high is nearer to it');
        self::assertFalse($place->isMutualBest(0, 2), 'no candidate');
        // Low 1 is as far from both: nobody has better than it at high 1; at high 0, low 0 has.
        self::assertFalse($place->isMutualBest(1, 0));
        self::assertTrue($place->isMutualBest(1, 1) || $place->costs[1][0] < $place->costs[1][1]);
    }

    /**
     * @return iterable<string, array{list<string>, list<string>, list<string>}>
     */
    public static function troubles(): iterable
    {
        yield 'suffix in other case' => [['drum_LOW', 'b_low'], ['drum_high', 'b_high'], ['drum_LOW > drum_low: suffix in the letter case of the standard (0.99)']];
        yield 'both suffixes in other case' => [['drum_LOW', 'b_low'], ['drum_HIGH', 'b_high'], ['drum_LOW > drum_low: suffix in the letter case of the standard (0.99)', 'drum_HIGH > drum_high: suffix in the letter case of the standard (0.99)']];
        yield 'suffix missing' => [['drum', 'b_low'], ['drum_high', 'b_high'], ['drum > drum_low: the low suffix added, as its file says (0.9)']];
        yield 'suffix by another separator' => [['drum-low', 'b_low'], ['drum_high', 'b_high'], ['drum-low > drum_low: the low suffix added, as its file says (0.9)']];
        yield 'case of the base, the low in lower case' => [['drum_low', 'b_low'], ['DRUM_high', 'b_high'], ['DRUM_high > drum_high: letter case as on the other side (0.99)']];
        yield 'case of the base, the high in lower case' => [['DRUM_low', 'b_low'], ['drum_high', 'b_high'], ['DRUM_low > drum_low: letter case as on the other side (0.99)']];
        yield 'case of the base, neither in lower case' => [['Drum_low', 'b_low'], ['DRUM_high', 'b_high'], ['DRUM_high > Drum_high: letter case as on the other side (0.99)']];
        yield 'case and suffix at once' => [['drum_low', 'b_low'], ['DRUM_HIGH', 'b_high'], ['DRUM_HIGH > drum_high: letter case as on the other side; suffix in the letter case of the standard (0.99)']];
        yield 'near by letters, in one place' => [['winch_low', 'b_low'], ['winhc_high', 'b_high'], ['winhc_high > winch_high: the name of winch_low, which stands in the same place (0.8)']];
        yield 'near by a tail' => [['winch_low', 'b_low'], ['winch.001', 'b_high'], ['winch.001 > winch_high: the name of winch_low, which stands in the same place; the high suffix added, as its file says (0.8)']];
        yield 'other names in one place are for a person to take' => [['winch_low', 'b_low'], ['crank_high', 'b_high'], ['crank_high > winch_high: stands where winch_low stands (0.6)']];
        yield 'one and one' => [['drum_LOW'], ['other'], ['drum_LOW > drum_low: suffix in the letter case of the standard (0.9)', 'other > other_high: the high suffix added, as its file says (0.9)']];
    }

    /**
     * @param  list<string>  $low
     * @param  list<string>  $high
     * @param  list<string>  $renames
     */
    #[DataProvider('troubles')]
    public function test_a_trouble_is_named_with_what_mends_it(array $low, array $high, array $renames): void
    {
        $suggestions = self::row($low, $high)->asset->pairing->suggestions;
        self::assertSame($renames, array_map(static fn (Suggestion $one): string => "{$one->part->part->name} > $one->rename: $one->reason ($one->confidence)", $suggestions));
    }

    /** Parts named by their program, in files of one part each: place pairs them, the names of their files name both sides in one round, and each pair is one cause. */
    public function test_files_of_one_part_name_both_sides_of_a_pair_that_place_finds(): void
    {
        $box = static fn (float $x): Polygons => Shapes::box(1, 1, 1)->moved($x, 0, 0);
        $files = static fn (array $more = []): array => [
            Assets::file('car_low.obj', ['seat.0' => $box(0), ...$more]), Assets::file('car_high.obj', ['car_high' => $box(0)]),
            Assets::file('car_wheel_low.obj', ['Cylinder01x' => $box(5)]), Assets::file('car_wheel_high.obj', ['rim' => $box(5)]),
        ];
        $said = static fn (Measures $measures): array => array_map(static fn (Suggestion $one): string => "{$one->part->part->name} > $one->rename: $one->reason ($one->confidence)", $measures->asset->pairing->suggestions);
        $measures = Measures::of($files(), Standard::builtIn(), new Choices);
        self::assertEqualsCanonicalizing([
            'Cylinder01x > car_wheel_low: the name of its file, as on the other side (0.9)', 'rim > car_wheel_high: stands where Cylinder01x stands (0.9)',
            'seat.0 > car_low: the name of its file, as on the other side (0.9)',
        ], $said($measures));
        $rows = RenamePlan::suggested($measures->asset)->rows;
        self::assertSame(['car_low', 'car_wheel_high', 'car_wheel_low'], self::sorted(array_column($rows, 'to')));
        $report = Assets::reportOf($files());
        $ofPairs = array_values(array_filter($report->findings(), static fn (Finding $one): bool => str_starts_with($one->code, 'pair-no-')));
        self::assertSame(['pair-no-high', 'pair-no-high'], array_map(static fn (Finding $one): string => $one->code, $ofPairs));
        self::assertStringStartsWith('rename Cylinder01x to car_wheel_low and rim to car_wheel_high: rim stands where Cylinder01x stands', str_replace('and rename rim', 'and rim', $ofPairs[0]->remedy));
        // With that check off, the other side is reported.
        self::assertContains('pair-no-low blocker', Assets::codes(Assets::reportOf($files(), '{"checks":{"pair-no-high":{"severity":"off"}}}')));
        // A second part in the file: its name is not this one's, and both sides take the low's own.
        $two = $said(Measures::of($files(['lamp_low' => $box(9)]), Standard::builtIn(), new Choices));
        self::assertContains('seat.0 > seat.0_low: the low suffix added, as its file says (0.6)', $two);
        self::assertContains('car_high > seat.0_high: stands where seat.0 stands (0.6)', $two);
        // Files of other names say nothing.
        $other = $said(Measures::of([Assets::file('car_low.obj', ['seat.0' => $box(0)]), Assets::file('van_high.obj', ['van_high' => $box(0)]), Assets::file('b_low.obj', ['b_low' => $box(5)]), Assets::file('b_high.obj', ['b_high' => $box(5)])], Standard::builtIn(), new Choices));
        self::assertSame(['seat.0 > seat.0_low: the low suffix added, as its file says (0.6)', 'van_high > seat.0_high: stands where seat.0 stands (0.6)'], $other);
        // With its suffix, a low part keeps its name, and both sides are told.
        $codes = Assets::codes(Assets::report(['winch_low' => $box(0), 'b_low' => $box(5)], ['crank_high' => $box(0), 'b_high' => $box(5)]));
        self::assertContains('pair-no-high blocker', $codes);
        self::assertContains('pair-no-low blocker', $codes);
    }

    /**
     * @param  list<string>  $names
     * @return list<string>
     */
    private static function sorted(array $names): array
    {
        sort($names);

        return $names;
    }

    public function test_a_near_name_needs_no_rival_and_one_place(): void
    {
        $kinds = static fn (Measures $measures): array => array_map(static fn (Tie $tie): string => "$tie->base {$tie->kind->value} ".implode(' ', $tie->troubles), $measures->asset->pairing->ties);
        self::assertContains('winch near name-near', $kinds(self::row(['winch_low', 'b_low'], ['winsh_high', 'b_high'])));
        // The suffix in other case is a trouble of its own.
        self::assertContains('winch near name-near suffix-case', $kinds(self::row(['winch_low', 'b_low'], ['winsh_HIGH', 'b_high'])));
        // Two highs whose names are as near, wherever the second stands.
        self::assertNotContains('winch near name-near', $kinds(self::row(['winch_low', 'b_low'], ['winsh_high', 'b_high', 'winck_high'])));
        // Two lows for one high.
        self::assertSame(['winca open ', 'winch open ', 'wincs open '], array_values(array_filter($kinds(self::row(['winch_low', 'b_low'], ['wincs_high', 'b_high'], ['winca_low' => 0])), static fn (string $kind): bool => str_starts_with($kind, 'win'))));
        // Elsewhere.
        self::assertSame(['winch open ', 'winsh open '], array_slice($kinds(self::row(['winch_low', 'b_low'], ['gap', 'b_high', 'winsh_high'])), -2));
    }

    public function test_crossed_names_are_told_where_place_says_better_and_only_there(): void
    {
        $ties = static fn (Measures $measures): array => array_map(static fn (Tie $tie): array => [$tie->base, $tie->kind, RoledPart::names($tie->better)], $measures->asset->pairing->ties);
        self::assertSame([['a', TieKind::Crossed, ['b_high']], ['b', TieKind::Crossed, ['a_high']], ['c', TieKind::Exact, []]], $ties(self::row(['a_low', 'b_low', 'c_low'], ['b_high', 'a_high', 'c_high'])));
        $crossed = self::row(['a_low', 'b_low', 'c_low'], ['b_high', 'a_high', 'c_high'])->asset->pairing;
        self::assertSame([['b_high', 'a_high', 0.95], ['a_high', 'b_high', 0.95]], array_map(static fn (Suggestion $one): array => [$one->part->part->name, $one->rename, $one->confidence], $crossed->suggestions));
        self::assertFalse($crossed->ties[0]->isSound());
        self::assertTrue($crossed->ties[2]->isSound());
        // The end of a chain goes along.
        $chain = self::row(['a_low', 'b_low', 'c_low'], ['b_high', 'c_high', 'd_high']);
        self::assertSame([['a', TieKind::Open, ['b_high']], ['b', TieKind::Crossed, ['c_high']], ['c', TieKind::Crossed, ['d_high']], ['d', TieKind::Open, []]], $ties($chain));
        self::assertSame(['chain'], $chain->asset->pairing->ties[0]->troubles);
        self::assertSame([0.95, 0.95, 0.95], array_map(static fn (Suggestion $one): float => $one->confidence, $chain->asset->pairing->suggestions));
    }

    public function test_a_part_beside_its_partner_is_apart_past_a_hundredth(): void
    {
        foreach ([[0.99, false], [1.01, true]] as [$share, $apart]) {
            $low = Shapes::box(2, 2, 1);
            $measures = self::inspection(['a_low' => $low, 'b_low' => $low->moved(50, 0, 0)], ['a_high' => $low->moved(2 + 0.01 * $share * 3, 0, 0), 'b_high' => $low->moved(50, 0, 0)]);
            self::assertSame($apart, $measures->asset->pairing->ties[0]->isApart());
            self::assertSame(! $apart, $measures->asset->pairing->ties[0]->isSound());
            self::assertEqualsWithDelta(0.01 * $share, $measures->asset->pairing->ties[0]->gap() ?? -1.0, 1e-6);
        }
        self::assertNull(self::row(['a_low', 'b_low'], ['a_high'])->asset->pairing->ties[1]->gap());
        self::assertFalse(self::row(['a_low', 'b_low'], ['a_high'])->asset->pairing->ties[1]->isSound());
    }

    public function test_places_say_nothing_while_sizes_differ_or_the_high_is_turned(): void
    {
        $low = ['a_low' => Shapes::box(1, 6, 1)->moved(0, 3, 0), 'b_low' => Shapes::box(4, 1, 1)->moved(2.5, 5.5, 0)];
        $named = static fn (callable $how): array => ['a_high' => $how($low['a_low']), 'b_high' => $how($low['b_low'])];
        foreach ([[static fn (Polygons $p): Polygons => $p, false], [static fn (Polygons $p): Polygons => $p->scaled(3, 3, 3), true], [static fn (Polygons $p): Polygons => $p->scaled(0.4, 0.4, 0.4), true], [static fn (Polygons $p): Polygons => $p->scaled(1.5, 1.5, 1.5), false], [static fn (Polygons $p): Polygons => $p->turned(0, 90), true], [static fn (Polygons $p): Polygons => $p->turned(2, -90), true], [static fn (Polygons $p): Polygons => $p->turned(1, 180), true]] as $i => [$how, $silent]) {
            $measures = self::inspection($low, $named($how));
            self::assertSame($silent, $measures->asset->pairing->saysNothingOfPlace(Standard::builtIn()), "case $i");
            self::assertSame(! $silent, $measures->asset->pairing->byPlace, "case $i");
        }
        self::assertFalse(Turned::bounds([]));
    }

    public function test_turned_boxes_are_told_from_boxes_that_lie_elsewhere(): void
    {
        $low = ['a_low' => Shapes::box(1, 6, 1)->moved(0, 3, 0), 'b_low' => Shapes::box(4, 1, 1)->moved(2.5, 5.5, 0)];
        foreach ([0, 1, 2] as $axis) {
            foreach ([90, 180, -90] as $degrees) {
                $high = [];
                foreach ($low as $name => $shape) {
                    $high[str_replace('_low', '_high', $name)] = $shape->turned($axis, $degrees);
                }
                self::assertTrue(Turned::bounds(self::inspection($low, $high)->asset->pairing->ties), "$degrees about $axis");
            }
        }
        // Two axes changed for one another are a mirror, no turn.
        $three = ['a_low' => Shapes::box(1, 6, 2)->moved(1, 3, 9), 'b_low' => Shapes::box(4, 1, 1)->moved(2.5, 5.5, 0), 'c_low' => Shapes::box(2, 1, 3)->moved(-5, 2, 1)];
        foreach ([[0, 2, 1], [2, 1, 0], [1, 0, 2]] as $axes) {
            $high = [];
            foreach ($three as $name => $shape) {
                $high[str_replace('_low', '_high', $name)] = $shape->mapped(static fn (array $p): array => [$p[$axes[0]], $p[$axes[1]], $p[$axes[2]]])->flipped();
            }
            self::assertFalse(Turned::bounds(self::inspection($three, $high)->asset->pairing->ties), implode(' ', $axes));
            // The same with one of them the other way round is one.
            $high = array_map(static fn (Polygons $shape): Polygons => $shape->mapped(static fn (array $p): array => [-$p[0], $p[1], $p[2]])->flipped(), $high);
            self::assertTrue(Turned::bounds(self::inspection($three, $high)->asset->pairing->ties), implode(' ', $axes));
        }
        // Moved, or turned by less than a quarter.
        foreach ([static fn (Polygons $p): Polygons => $p->moved(3, 1, 0), static fn (Polygons $p): Polygons => $p->turned(2, 30)] as $how) {
            self::assertFalse(Turned::bounds(self::inspection($low, ['a_high' => $how($low['a_low']), 'b_high' => $how($low['b_low'])])->asset->pairing->ties));
        }
    }

    public function test_left_out_and_mixed_parts_pair_with_nothing(): void
    {
        $measures = self::inspection(['a_low' => Shapes::box(1, 1, 1), 'b_low' => Shapes::box(1, 1, 1)->moved(4, 0, 0)], ['a_high' => Shapes::box(1, 1, 1), 'b_high' => Shapes::box(1, 1, 1)->moved(4, 0, 0)], '{"leftOut":["b"]}');
        self::assertSame(['a'], array_map(static fn (Tie $tie): string => $tie->base, $measures->asset->pairing->ties));
        self::assertSame(TieKind::OneAndOne, $measures->asset->pairing->ties[0]->kind);
        $mixed = Measures::of([Assets::file('x.obj', ['a_high' => Shapes::box(1, 1, 1), 'b_low' => Shapes::box(1, 1, 1)], Role::Low), Assets::file('y.obj', ['b_high' => Shapes::box(1, 1, 1)], Role::High)], Standard::builtIn(), Choices::ofJson('{}'));
        self::assertTrue($mixed->asset->parts[0]->mixed);
        self::assertSame([['b', 1, 1]], array_map(static fn (Tie $tie): array => [$tie->base, count($tie->low), count($tie->high)], $mixed->asset->pairing->ties));
        self::assertSame([], Pairing::of([], Standard::builtIn(), Choices::ofJson('{}'))->ties);
    }

    public function test_a_suffix_that_the_file_overrules_belongs_to_the_base(): void
    {
        $part = static fn (string $file, string $name, ?Role $role = null): RoledPart => Measures::of([Assets::file($file, [$name => Shapes::box(1, 1, 1)], $role)], Standard::builtIn(), Choices::ofJson('{}'))->asset->parts[0];
        self::assertSame(['drum', Role::Low], [$part('x_low.obj', 'drum_low')->base, $part('x_low.obj', 'drum_low')->role]);
        self::assertSame(['drum', Role::High], [$part('x_low.obj', 'drum_high')->base, $part('x_low.obj', 'drum_high')->role]);
        self::assertSame([Role::Low, 'drum-high'], [$part('x_low.obj', 'drum-high')->role, $part('x_low.obj', 'drum-high')->base]);
        self::assertSame(SuffixState::None, $part('x_low.obj', 'drum-high')->suffixState());
        self::assertSame([Role::Low, 'drum', SuffixState::OtherSeparator], [$part('x_low.obj', 'drum-low')->role, $part('x_low.obj', 'drum-low')->base, $part('x_low.obj', 'drum-low')->suffixState()]);
        self::assertSame(['drum', false, SuffixState::None], [$part('x.obj', 'drum_high', Role::Id)->base, $part('x.obj', 'drum_high', Role::Id)->mixed, $part('x.obj', 'drum_high', Role::Id)->suffixState()]);
        self::assertSame(['drum', true], [$part('x.obj', 'drum_high', Role::Low)->base, $part('x.obj', 'drum_high', Role::Low)->mixed]);
        self::assertSame(['drum', true], [$part('x.obj', 'drum_HIGH', Role::Low)->base, $part('x.obj', 'drum_HIGH', Role::Low)->mixed]);
        self::assertSame('high', RoledPart::roleOfFile('some/where/x_HIGH.glb', Standard::builtIn())?->value);
        self::assertNull(RoledPart::roleOfFile('some/low/x.glb', Standard::builtIn()));
    }

    public function test_the_longest_suffix_wins_and_a_pattern_needs_a_base_before_it(): void
    {
        $standard = Standard::ofJson('{"suffixes":{"low":["_low","_game_low"],"high":["_high*"]}}');
        self::assertSame(['drum', '_game_low'], [NameReading::of('drum_game_low', $standard)->base, NameReading::of('drum_game_low', $standard)->suffix]);
        self::assertSame(['drum', '_high_02'], [NameReading::of('drum_high_02', $standard)->base, NameReading::of('drum_high_02', $standard)->suffix]);
        self::assertSame(SuffixState::None, NameReading::of('_high_02', $standard)->state);
        self::assertSame(['drum', '_HIGH_02', SuffixState::OtherCase], [NameReading::of('drum_HIGH_02', $standard)->base, NameReading::of('drum_HIGH_02', $standard)->suffix, NameReading::of('drum_HIGH_02', $standard)->state]);
        self::assertSame(['drum', ' - Low', Role::Low], [NameReading::of('drum - Low', $standard)->base, NameReading::of('drum - Low', $standard)->suffix, NameReading::of('drum - Low', $standard)->role]);
        self::assertSame(SuffixState::None, NameReading::of('drumlow', $standard)->state);
    }

    /**
     * Parts in a row, each side's in its own order at one place each: names of the same number stand in the same place; `gap` stands for none.
     *
     * @param  list<string>  $low
     * @param  list<string>  $high
     * @param  array<string, int>  $more  further lows at the place of a number
     */
    private static function row(array $low, array $high, array $more = []): Measures
    {
        $lows = $highs = [];
        foreach ($low as $i => $name) {
            $lows[$name] = Shapes::box(2, 1, 1.5)->moved(4 * $i, 0, 0);
        }
        foreach ($more as $name => $i) {
            $lows[$name] = Shapes::box(2, 1, 1.5)->moved(4 * $i, 0, 0);
        }
        foreach ($high as $i => $name) {
            if ($name !== 'gap') {
                $highs[$name] = Shapes::roundedBox(2, 1, 1.5, 0.03, 1)->moved(4 * $i, 0, 0);
            }
        }

        return self::inspection($lows, $highs);
    }

    /**
     * @param  array<string, Polygons>  $low
     * @param  array<string, Polygons>  $high
     */
    private static function inspection(array $low, array $high, string $choices = '{}'): Measures
    {
        return Measures::of([Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high)], Standard::builtIn(), Choices::ofJson($choices));
    }

    /**
     * @param  list<array<int, float>>  $costs
     * @param  list<int>  $columns
     */
    private static function cost(array $costs, array $columns): float
    {
        $sum = 0.0;
        foreach ($columns as $i => $j) {
            $sum += $j < 0 ? Assignment::ALONE : $costs[$i][$j];
        }

        return $sum;
    }

    /**
     * @param  list<array<int, float>>  $costs
     * @param  array<int, true>  $taken
     */
    private static function least(array $costs, int $row, array $taken): float
    {
        if ($row === count($costs)) {
            return 0.0;
        }
        $best = Assignment::ALONE + self::least($costs, $row + 1, $taken);
        foreach ($costs[$row] as $j => $cost) {
            if (! isset($taken[$j])) {
                $best = min($best, $cost + self::least($costs, $row + 1, $taken + [$j => true]));
            }
        }

        return $best;
    }
}
