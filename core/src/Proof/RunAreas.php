<?php

declare(strict_types=1);

namespace Anvil\Proof;

/**
 * Which runs of texels hang together: those of one kind that lie side by side in a row, or over one another, if only by a corner.
 */
final class RunAreas
{
    /**
     * @param  list<array{int, int, int, int}>  $runs  row, first and last column, kind; by row and column, apart
     * @return list<int> of each run the lowest number of those it hangs together with
     */
    public static function of(array $runs): array
    {
        $root = array_keys($runs);
        // The first run, in the row before, that may reach to the one looked at or to a later one of its row.
        $above = 0;
        foreach ($runs as $i => [$y, $from, $to, $kind]) {
            $before = $runs[$i - 1] ?? null;
            if ($before !== null && $before[0] === $y && $before[2] === $from - 1 && $before[3] === $kind) {
                self::join($root, $i, $i - 1);
            }
            while ($runs[$above][0] < $y - 1 || ($runs[$above][0] === $y - 1 && $runs[$above][2] < $from - 1)) {
                $above++;
            }
            for ($j = $above; $runs[$j][0] === $y - 1 && $runs[$j][1] <= $to + 1; $j++) {
                if ($runs[$j][3] === $kind) {
                    self::join($root, $i, $j);
                }
            }
        }
        $out = [];
        foreach (array_keys($runs) as $i) {
            $out[] = self::root($root, $i);
        }

        return $out;
    }

    /**
     * @param  array<int, int>  $root
     */
    private static function join(array &$root, int $i, int $j): void
    {
        $a = self::root($root, $i);
        $b = self::root($root, $j);
        $root[max($a, $b)] = min($a, $b);
    }

    /**
     * @param  array<int, int>  $root
     */
    private static function root(array &$root, int $i): int
    {
        while ($root[$i] !== $i) {
            $i = $root[$i] = $root[$root[$i]];
        }

        return $i;
    }
}
