<?php

declare(strict_types=1);

namespace Anvil\Proof;

/**
 * Which runs of texels hang together: those of one kind that lie side by side in a row, or over one another by a texel or more.
 */
final class RunAreas
{
    /**
     * @param  list<array{int, int, int, int}>  $runs  row, first and last column, kind; by row
     * @return list<int> of each run the lowest number of those it hangs together with
     */
    public static function of(array $runs): array
    {
        $root = array_keys($runs);
        $rows = [];
        foreach ($runs as $i => [$y]) {
            $rows[$y][] = $i;
        }
        foreach ($runs as $i => [$y, $from, $to, $kind]) {
            foreach ([...($rows[$y] ?? []), ...($rows[$y - 1] ?? [])] as $j) {
                [, $f, $t, $k] = $runs[$j];
                if ($j !== $i && $k === $kind && $f <= $to + 1 && $t >= $from - 1) {
                    $a = self::root($root, $i);
                    $b = self::root($root, $j);
                    $root[max($a, $b)] = min($a, $b);
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
    private static function root(array &$root, int $i): int
    {
        while ($root[$i] !== $i) {
            $i = $root[$i] = $root[$root[$i]];
        }

        return $i;
    }
}
