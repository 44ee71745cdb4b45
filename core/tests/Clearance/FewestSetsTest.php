<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Sets\FewestSets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Graphs whose chromatic number is known: textbook facts of graph colouring.
 */
final class FewestSetsTest extends TestCase
{
    /**
     * @return iterable<string, array{int, list<array{int, int}>, int}>
     */
    public static function graphs(): iterable
    {
        $ring = static fn (int $n): array => array_map(static fn (int $i): array => [$i, ($i + 1) % $n], range(0, $n - 1));
        yield 'none in conflict' => [7, [], 1];
        yield 'two' => [2, [[0, 1]], 2];
        yield 'an even ring' => [8, $ring(8), 2];
        yield 'an odd ring' => [9, $ring(9), 3];
        yield 'all against all' => [5, [[0, 1], [0, 2], [0, 3], [0, 4], [1, 2], [1, 3], [1, 4], [2, 3], [2, 4], [3, 4]], 5];
        yield 'the Petersen graph' => [10, [...$ring(5), [5, 7], [7, 9], [9, 6], [6, 8], [8, 5], [0, 5], [1, 6], [2, 7], [3, 8], [4, 9]], 3];
        // J. Mycielski's graph of 11 vertices: no triangle, and yet four colours.
        yield 'the Grötzsch graph' => [11, [...$ring(5), [5, 1], [5, 4], [6, 0], [6, 2], [7, 1], [7, 3], [8, 2], [8, 4], [9, 3], [9, 0], [10, 5], [10, 6], [10, 7], [10, 8], [10, 9]], 4];
        // A crown: greedy colouring in the order given needs n, and two do.
        $crown = [];
        for ($i = 0; $i < 6; $i++) {
            for ($j = 0; $j < 6; $j++) {
                if ($i !== $j) {
                    $crown[] = [2 * $i, 2 * $j + 1];
                }
            }
        }
        yield 'a crown' => [12, $crown, 2];
    }

    /**
     * @param  list<array{int, int}>  $edges
     */
    #[DataProvider('graphs')]
    public function test_the_fewest_groups_are_found_and_keep_conflicts_apart(int $count, array $edges, int $fewest): void
    {
        $names = array_map(static fn (int $i): string => "set $i", range(0, $count - 1));
        $conflicts = array_map(static fn (array $edge): array => ["set $edge[0]", "set $edge[1]"], $edges);
        $found = FewestSets::of($names, $conflicts);
        self::assertTrue($found->isExact);
        self::assertCount($fewest, $found->groups);
        $groupOf = [];
        foreach ($found->groups as $g => $group) {
            foreach ($group as $name) {
                $groupOf[$name] = $g;
            }
        }
        self::assertCount($count, $groupOf);
        foreach ($conflicts as [$a, $b]) {
            self::assertNotSame($groupOf[$a], $groupOf[$b]);
        }
    }

    public function test_many_conflicts_are_coloured_all_the_same_and_said_not_to_be_proved(): void
    {
        $names = array_map(static fn (int $i): string => "set $i", range(0, 199));
        $conflicts = [];
        for ($i = 0; $i < 200; $i++) {
            foreach ([1, 7, 31] as $step) {
                $conflicts[] = ["set $i", 'set '.(($i + $step) % 200)];
            }
        }
        $found = FewestSets::of($names, $conflicts);
        self::assertFalse($found->isExact);
        self::assertLessThanOrEqual(4, count($found->groups));
    }
}
