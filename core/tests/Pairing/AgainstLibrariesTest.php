<?php

declare(strict_types=1);

namespace Anvil\Tests\Pairing;

use Anvil\Pairing\Assignment;
use Anvil\Pairing\NearName;
use Anvil\Tests\Support\Outside;
use PHPUnit\Framework\TestCase;

/**
 * The assignment against SciPy's `linear_sum_assignment` (D. F. Crouse, 2016) and the letter distance against jellyfish's unrestricted
 * Damerau–Levenshtein: Debian's python3-scipy and python3-jellyfish.
 */
final class AgainstLibrariesTest extends TestCase
{
    public function test_the_assignment_costs_what_an_outside_solver_says_is_least(): void
    {
        mt_srand(20260601);
        $cases = [];
        foreach ([1, 2, 5, 12, 40, 90] as $rows) {
            foreach ([0.15, 0.5, 1.0] as $density) {
                $columns = max(1, (int) ($rows * (0.7 + 0.2 * mt_rand(0, 3))));
                $costs = [];
                for ($i = 0; $i < $rows; $i++) {
                    $costs[$i] = [];
                    for ($j = 0; $j < $columns; $j++) {
                        if (mt_rand() / mt_getrandmax() < $density) {
                            // Few different values give many ties.
                            $costs[$i][$j] = $rows % 2 === 0 ? mt_rand(0, 8) / 4 : mt_rand() / mt_getrandmax() * 1.6;
                        }
                    }
                }
                $cases[] = ['rows' => $rows, 'columns' => $columns, 'costs' => array_map(static fn (array $row): object => (object) $row, $costs)];
                $plain[] = $costs;
            }
        }
        // A row that stays alone costs 1: as many columns of its own.
        $theirs = Outside::python('
import json, sys, numpy
from scipy.optimize import linear_sum_assignment
out = []
for case in json.load(sys.stdin):
    n, m = case["rows"], case["columns"]
    c = numpy.full((n, m + n), 1e6)
    for i, row in enumerate(case["costs"]):
        for j, cost in row.items():
            c[i, int(j)] = cost
        c[i, m + i] = 1.0
    r, k = linear_sum_assignment(c)
    out.append(float(c[r, k].sum()))
print(json.dumps(out))
', $cases);
        self::assertCount(count($cases), $theirs);
        foreach ($plain as $n => $costs) {
            $columns = Assignment::of($costs);
            $sum = 0.0;
            $used = [];
            foreach ($columns as $i => $j) {
                $sum += $j < 0 ? Assignment::ALONE : $costs[$i][$j];
                self::assertFalse($j >= 0 && isset($used[$j]), 'a column is given once');
                $used[$j] = true;
            }
            self::assertEqualsWithDelta($theirs[$n], $sum, 1e-9, "case $n");
        }
    }

    public function test_letter_distance_is_the_unrestricted_damerau_levenshtein(): void
    {
        mt_srand(7);
        $pairs = [['ca', 'abc'], ['float', 'flaot'], ['', 'abc'], ['bügel', 'bugel'], ['kitten', 'sitting']];
        for ($i = 0; $i < 300; $i++) {
            $word = static fn (): string => implode('', array_map(static fn (): string => 'abcd_'[mt_rand(0, 4)], range(0, mt_rand(0, 9))));
            $pairs[] = [$word(), $word()];
        }
        $theirs = Outside::python('
import json, sys, jellyfish
print(json.dumps([jellyfish.damerau_levenshtein_distance(a, b) for a, b in json.load(sys.stdin)]))
', $pairs);
        foreach ($pairs as $i => [$a, $b]) {
            self::assertSame($theirs[$i], NearName::distance($a, $b), "$a $b");
            self::assertSame($theirs[$i], NearName::distance($b, $a), "$b $a");
        }
        // The textbook case that tells it from the restricted form: ca to abc in two, not three.
        self::assertSame(2, NearName::distance('ca', 'abc'));
    }
}
