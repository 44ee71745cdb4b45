<?php

declare(strict_types=1);

namespace Anvil\Tests\Sets;

use Anvil\Measures\Measures;
use Anvil\Modelling\Shapes;
use Anvil\Pairing\RoledPart;
use Anvil\Sets\BakeSet;
use Anvil\Sets\FewestSets;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Figures\Kept;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\TestCase;

/**
 * Bake sets from ties and choices, and the fewest groups against trying every colouring.
 */
final class SetsTest extends TestCase
{
    public function test_the_fewest_groups_are_the_fewest_of_all_colourings(): void
    {
        mt_srand(3);
        for ($round = 0; $round < 120; $round++) {
            $count = mt_rand(2, 7);
            $conflicts = $edges = [];
            for ($i = 0; $i < $count; $i++) {
                for ($j = 0; $j < $i; $j++) {
                    if (mt_rand(0, 99) < 45) {
                        $conflicts[] = ["s$i", "s$j"];
                        $edges[] = [$i, $j];
                    }
                }
            }
            $found = FewestSets::of(array_map(static fn (int $i): string => "s$i", range(0, $count - 1)), $conflicts);
            self::assertTrue($found->isExact);
            self::assertSame(self::fewest($count, $edges), count($found->groups));
            $group = [];
            foreach ($found->groups as $g => $names) {
                foreach ($names as $name) {
                    $group[$name] = $g;
                }
            }
            self::assertCount($count, $group);
            foreach ($conflicts as [$a, $b]) {
                self::assertNotSame($group[$a], $group[$b]);
            }
            $sizes = array_map(count(...), $found->groups);
            $sorted = $sizes;
            rsort($sorted);
            self::assertSame($sorted, $sizes, 'the largest first');
        }
    }

    /** Graphs on which colouring by DSATUR alone takes one group too many: found by a search, the fewest by trying all. */
    public function test_the_search_goes_beyond_what_is_coloured_greedily(): void
    {
        $five = [[0, 2], [1, 2], [1, 3], [2, 3], [0, 4], [2, 4], [3, 4], [0, 5], [1, 5], [2, 5], [3, 5], [0, 6], [2, 6], [3, 6], [4, 6], [0, 7], [1, 7], [2, 7], [4, 7], [5, 7], [0, 8], [1, 8], [2, 8], [3, 8], [5, 8], [6, 8], [1, 9], [2, 9], [4, 9], [5, 9], [7, 9], [1, 10], [3, 10], [5, 10], [6, 10], [8, 10], [9, 10]];
        $four = [[0, 1], [0, 3], [2, 3], [0, 4], [2, 4], [3, 4], [0, 5], [1, 5], [3, 5], [4, 5], [2, 6], [4, 6], [1, 7], [3, 7], [4, 7], [1, 8], [2, 8], [4, 8], [6, 8], [7, 8], [1, 9], [3, 9], [6, 9], [7, 9], [1, 10], [7, 10], [8, 10], [9, 10]];
        foreach ([5 => $five, 4 => $four] as $fewest => $edges) {
            $found = FewestSets::of(array_map(static fn (int $i): string => "s$i", range(0, 10)), array_map(static fn (array $edge): array => ["s$edge[0]", "s$edge[1]"], $edges));
            self::assertSame([true, $fewest], [$found->isExact, count($found->groups)]);
        }
    }

    /** Of several answers with as few groups always the same one is given, and a search that is cut off says so. */
    public function test_the_answer_is_always_the_same_and_a_search_that_was_cut_off_is_not_called_exact(): void
    {
        mt_srand(11);
        $told = '';
        for ($round = 0; $round < 60; $round++) {
            $count = mt_rand(8, 16);
            $found = FewestSets::of(array_map(static fn (int $i): string => "s$i", range(0, $count - 1)), self::random($count, 40 + $round % 30));
            self::assertTrue($found->isExact);
            $told .= json_encode($found->groups)."\n";
        }
        self::assertSame([], Kept::moved('fewest sets', hash('sha256', $told)));
        // Cut off after a few steps it is a colouring still, if not the best; of three in a row three steps and one more for each are enough.
        $names = array_map(static fn (int $i): string => "s$i", range(0, 29));
        $conflicts = self::random(30, 60);
        $cut = FewestSets::of($names, $conflicts, 20);
        self::assertFalse($cut->isExact);
        self::assertGreaterThanOrEqual(count(FewestSets::of($names, $conflicts)->groups), count($cut->groups));
        self::assertSame([], array_filter($conflicts, static fn (array $pair): bool => array_filter($cut->groups, static fn (array $group): bool => array_diff($pair, $group) === []) !== []));
        // Of three in a row two colours are known to be enough; so many steps see that one is not.
        $row = [['a', 'b'], ['b', 'c']];
        self::assertSame([false, true], array_map(static fn (int $steps): bool => FewestSets::of(['a', 'b', 'c'], $row, $steps)->isExact, [1, 2]));
        self::assertFalse(FewestSets::of(array_map(static fn (int $i): string => "s$i", range(0, 40)), array_map(static fn (int $i): array => ["s$i", 's'.(($i + 1) % 41)], range(0, 40)))->isExact, 'over forty in conflict are not searched');
        self::assertTrue(FewestSets::of(array_map(static fn (int $i): string => "s$i", range(0, 39)), array_map(static fn (int $i): array => ["s$i", 's'.(($i + 1) % 40)], range(0, 39)))->isExact);
    }

    /**
     * @return list<array{string, string}>
     */
    private static function random(int $count, int $percent): array
    {
        $conflicts = [];
        for ($i = 0; $i < $count; $i++) {
            for ($j = 0; $j < $i; $j++) {
                if (mt_rand(0, 99) < $percent) {
                    $conflicts[] = ["s$i", "s$j"];
                }
            }
        }

        return $conflicts;
    }

    public function test_unknown_names_and_a_set_with_itself_are_no_conflict(): void
    {
        self::assertSame([['a', 'b']], FewestSets::of(['a', 'b'], [['a', 'a'], ['a', 'x'], ['y', 'b']])->groups);
        self::assertSame([], FewestSets::of([], [])->groups);
        // Of equal size, by name; what is in no conflict joins the first colour.
        self::assertSame([['a', 'c', 'd'], ['b']], FewestSets::of(['a', 'b', 'c', 'd'], [['a', 'b']])->groups);
        self::assertSame([['a'], ['b']], FewestSets::of(['b', 'a'], [['a', 'b']])->groups);
        // Beyond forty in conflict it is not proved.
        $ring = static fn (int $n): FewestSets => FewestSets::of(array_map(static fn (int $i): string => "s$i", range(0, $n - 1)), array_map(static fn (int $i): array => ["s$i", 's'.(($i + 1) % $n)], range(0, $n - 1)));
        self::assertSame([true, 2], [$ring(40)->isExact, count($ring(40)->groups)]);
        self::assertSame([false, 2], [$ring(42)->isExact, count($ring(42)->groups)]);
    }

    public function test_copies_and_cages_join_the_set_of_their_base(): void
    {
        $box = Shapes::box(1, 1, 1);
        $sets = self::sets(['b_low' => $box->moved(3, 0, 0), 'a_low' => $box], ['a_high' => $box, 'b_high' => $box->moved(3, 0, 0)], ['a_id' => $box, 'lost_id' => $box], ['b_cage' => $box->moved(3, 0, 0)]);
        self::assertSame([['a', 1, 1, ['a_id'], []], ['b', 1, 1, [], ['b_cage']]], array_map(static fn (BakeSet $set): array => [$set->name, count($set->low), count($set->high), RoledPart::names($set->id), RoledPart::names($set->cage)], $sets));
        // The only set takes all of them, whatever their names.
        self::assertSame([['a', ['whatever_id'], ['other_cage']]], array_map(static fn (BakeSet $set): array => [$set->name, RoledPart::names($set->id), RoledPart::names($set->cage)], self::sets(['a_low' => $box], ['b_high' => $box], ['whatever_id' => $box], ['other_cage' => $box])));
        // A base that is baked on itself makes its whole set so, whoever comes after.
        $self = self::sets(['a_low' => $box, 'b_low' => $box->moved(3, 0, 0)], ['b_high' => $box->moved(3, 0, 0)], [], [], '{"sets":{"both":["a","b"]},"bakedOnItself":["a"]}');
        self::assertSame([['both', true]], array_map(static fn (BakeSet $set): array => [$set->name, $set->onItself], $self));
        // What is left out is in no set.
        self::assertSame([[]], array_map(static fn (BakeSet $set): array => RoledPart::names($set->id), self::sets(['a_low' => $box], ['b_high' => $box], ['c_id' => $box], [], '{"leftOut":["c"]}')));
    }

    public function test_a_sets_target_and_bounds(): void
    {
        $box = Shapes::box(1, 1, 1);
        $sets = self::sets(['a_low' => $box, 'b_low' => $box->moved(3, 0, 0), 'c_low' => $box->moved(6, 0, 0)], ['c_high' => $box->scaled(1.2, 1, 1)->moved(6, 0, 0)], [], ['c_cage' => $box->scaled(1, 1.4, 1)->moved(6, 0, 0)], '{"bakedOnItself":["a"]}');
        self::assertSame([[true, true, ['a_low']], [false, false, []], [false, true, ['c_high']]], array_map(static fn (BakeSet $set): array => [$set->onItself, $set->isWhole(), RoledPart::names($set->target())], $sets));
        self::assertEqualsWithDelta(1.0, $sets[2]->lowBounds()?->max[1] - $sets[2]->lowBounds()?->min[1], 1e-6);
        self::assertEqualsWithDelta([1.2, 1.4], [$sets[2]->bounds()?->max[0] - $sets[2]->bounds()?->min[0], $sets[2]->bounds()?->max[1] - $sets[2]->bounds()?->min[1]], 1e-6);
        // On itself and with a high poly all the same: the high poly is the target.
        self::assertSame(['c_high'], RoledPart::names((new BakeSet('c', $sets[2]->low, $sets[2]->high, [], [], true))->target()));
        self::assertFalse((new BakeSet('c', [], $sets[2]->high, [], [], false))->isWhole());
        self::assertNull((new BakeSet('c', [], [], [], [], false))->bounds());
    }

    /**
     * @param  list<array{int, int}>  $edges
     */
    private static function fewest(int $count, array $edges): int
    {
        for ($colors = 1; $colors <= $count; $colors++) {
            for ($code = 0; $code < $colors ** $count; $code++) {
                $of = [];
                for ($i = 0, $rest = $code; $i < $count; $i++, $rest = intdiv($rest, $colors)) {
                    $of[] = $rest % $colors;
                }
                if (array_filter($edges, static fn (array $edge): bool => $of[$edge[0]] === $of[$edge[1]]) === []) {
                    return $colors;
                }
            }
        }

        return $count;
    }

    /**
     * @param  array<string, \Anvil\Modelling\Polygons>  $low
     * @param  array<string, \Anvil\Modelling\Polygons>  $high
     * @param  array<string, \Anvil\Modelling\Polygons>  $id
     * @param  array<string, \Anvil\Modelling\Polygons>  $cage
     * @return list<BakeSet>
     */
    private static function sets(array $low, array $high, array $id = [], array $cage = [], string $choices = '{}'): array
    {
        $files = [Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high)];
        foreach (['id' => $id, 'cage' => $cage] as $role => $parts) {
            if ($parts !== []) {
                $files[] = Assets::file("x_$role.obj", $parts);
            }
        }

        return Measures::of($files, Standard::builtIn(), Choices::ofJson($choices))->asset->sets;
    }
}
