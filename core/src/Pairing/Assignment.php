<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use SplPriorityQueue;

/**
 * The one-to-one assignment of least total cost, where each row may also stay alone at a cost of 1 (shortest augmenting paths:
 * R. Jonker, A. Volgenant, "A Shortest Augmenting Path Algorithm for Dense and Sparse Linear Assignment Problems", 1987).
 *
 * Exact. Rows that share no column with others are settled at once, so that the cost is that of each block of candidates.
 */
final class Assignment
{
    public const ALONE = 1.0;

    /**
     * @param  list<array<int, float>>  $costs  row → column → cost of 0 or more; a column that is not there is no candidate
     * @return list<int> the column of each row, −1 for none
     */
    public static function of(array $costs): array
    {
        $rows = count($costs);
        $columnOf = array_fill(0, $rows, -1);
        $rowOf = [];
        $v = [];
        $waiting = [];
        // A row's cheapest column, while nobody else wants it, is tight from the start.
        foreach ($costs as $i => $edges) {
            $best = self::ALONE;
            $at = null;
            foreach ($edges as $j => $cost) {
                $v[$j] ??= 0.0;
                if ($cost < $best || ($cost === $best && $at !== null && $j < $at)) {
                    $best = $cost;
                    $at = $j;
                }
            }
            if ($at === null) {
                continue;
            }
            if (isset($rowOf[$at])) {
                $waiting[] = $i;
            } else {
                $rowOf[$at] = $i;
                $columnOf[$i] = $at;
            }
        }
        $u = array_map(static fn (array $edges): float => $edges === [] ? self::ALONE : min(self::ALONE, min($edges)), $costs);
        foreach ($waiting as $i) {
            self::augment($i, $costs, $columnOf, $rowOf, $u, $v);
        }

        return array_values($columnOf);
    }

    /**
     * @param  list<array<int, float>>  $costs
     * @param  array<int, int>  $columnOf
     * @param  array<int, int>  $rowOf
     * @param  array<int, float>  $u
     * @param  array<int, float>  $v
     */
    private static function augment(int $start, array $costs, array &$columnOf, array &$rowOf, array &$u, array &$v): void
    {
        $distance = $from = $done = [];
        $queue = new SplPriorityQueue;
        $row = $start;
        $reached = 0.0;
        // The best way to leave a row on the path alone.
        $aloneRow = $start;
        $alone = self::ALONE - $u[$start];
        $end = null;
        while (true) {
            foreach ($costs[$row] as $j => $cost) {
                if (isset($done[$j])) {
                    continue;
                }
                $new = $reached + $cost - $u[$row] - $v[$j];
                if (! isset($distance[$j]) || $new < $distance[$j] - 1e-15) {
                    $distance[$j] = $new;
                    $from[$j] = $row;
                    $queue->insert($j, [-$new, -$j]);
                }
            }
            $column = null;
            while (! $queue->isEmpty()) {
                $candidate = $queue->extract();
                if (is_int($candidate) && ! isset($done[$candidate])) {
                    $column = $candidate;
                    break;
                }
            }
            if ($column === null || $distance[$column] >= $alone) {
                $reached = $alone;
                break;
            }
            $reached = $distance[$column];
            if (! isset($rowOf[$column])) {
                $end = $column;
                break;
            }
            $done[$column] = $reached;
            $row = $rowOf[$column];
            $left = $reached + self::ALONE - $u[$row];
            if ($left < $alone) {
                $alone = $left;
                $aloneRow = $row;
            }
        }
        // Prices, so that every assigned pair stays tight and no other becomes cheaper.
        $u[$start] += $reached;
        foreach ($done as $column => $at) {
            if ($at <= $reached) {
                $u[$rowOf[$column]] += $reached - $at;
                $v[$column] -= $reached - $at;
            }
        }
        if ($end === null) {
            // Somebody on the path stays alone; the column that frees goes to the row before.
            $end = $columnOf[$aloneRow];
            $columnOf[$aloneRow] = -1;
            if ($aloneRow === $start) {
                return;
            }
            unset($rowOf[$end]);
        }
        while (true) {
            $row = $from[$end];
            $next = $columnOf[$row];
            $rowOf[$end] = $row;
            $columnOf[$row] = $end;
            if ($row === $start) {
                return;
            }
            $end = $next;
        }
    }
}
