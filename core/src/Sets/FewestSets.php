<?php

declare(strict_types=1);

namespace Anvil\Sets;

/**
 * The fewest groups that keep every two sets apart that get in each other's rays (METHODS, "Fewest sets"): a colouring of the conflict
 * graph, exact where few are in conflict, else by DSATUR (D. Brélaz, "New Methods to Color the Vertices of a Graph", 1979).
 */
final readonly class FewestSets
{
    private const EXACT_UP_TO = 40;

    /** Steps of the exact search; beyond them the best so far is given, and said not to be proved. */
    private const STEPS = 200_000;

    /**
     * @param  list<list<string>>  $groups  sets that may bake together, the largest group first
     */
    private function __construct(public array $groups, public bool $isExact)
    {
    }

    /**
     * @param  list<string>  $sets
     * @param  list<array{string, string}>  $conflicts
     * @param  int  $steps  after which the search ends with the best found
     */
    public static function of(array $sets, array $conflicts, int $steps = self::STEPS): self
    {
        $number = array_flip($sets);
        $edges = array_fill(0, count($sets), []);
        foreach ($conflicts as [$a, $b]) {
            if (isset($number[$a], $number[$b]) && $a !== $b) {
                $edges[$number[$a]][$number[$b]] = $number[$b];
                $edges[$number[$b]][$number[$a]] = $number[$a];
            }
        }
        $busy = array_keys(array_filter($edges, static fn (array $around): bool => $around !== []));
        $colors = self::dsatur($busy, $edges);
        $isExact = true;
        if ($busy !== []) {
            $isExact = count($busy) <= self::EXACT_UP_TO;
            if ($isExact) {
                [$colors, $isExact] = self::exact($busy, $edges, $colors, $steps);
            }
        }
        $groups = [];
        foreach ($sets as $i => $name) {
            $groups[$colors[$i] ?? 0][] = $name;
        }
        usort($groups, static fn (array $a, array $b): int => count($b) <=> count($a) ?: strcmp($a[0], $b[0]));

        return new self($groups, $isExact);
    }

    /**
     * @param  list<int>  $busy
     * @param  array<int, array<int, int>>  $edges  those around each, by their own number
     * @return array<int, int>
     */
    private static function dsatur(array $busy, array $edges): array
    {
        $colors = [];
        $left = array_combine($busy, $busy);
        while ($left !== []) {
            $next = self::next($left, $edges, $colors);
            $used = [];
            foreach ($edges[$next] as $other) {
                if (isset($colors[$other])) {
                    $used[$colors[$other]] = $other;
                }
            }
            $color = 0;
            while (isset($used[$color])) {
                $color++;
            }
            $colors[$next] = $color;
            unset($left[$next]);
        }

        return $colors;
    }

    /**
     * The one with most different colours around it, then most neighbours, then first.
     *
     * @param  array<int, int>  $left
     * @param  array<int, array<int, int>>  $edges  those around each, by their own number
     * @param  array<int, int>  $colors
     */
    private static function next(array $left, array $edges, array $colors): int
    {
        $best = -1;
        $rank = [-1, -1];
        foreach ($left as $i) {
            $around = [];
            foreach ($edges[$i] as $other) {
                if (isset($colors[$other])) {
                    $around[$colors[$other]] = $other;
                }
            }
            $own = [count($around), count($edges[$i])];
            if ($own > $rank) {
                $rank = $own;
                $best = $i;
            }
        }

        return $best;
    }

    /**
     * Branch and bound from a colouring that is known.
     *
     * @param  list<int>  $busy
     * @param  array<int, array<int, int>>  $edges  those around each, by their own number
     * @param  array<int, int>  $known
     * @return array{array<int, int>, bool}
     */
    private static function exact(array $busy, array $edges, array $known, int $limit): array
    {
        /** @var array<int, int> $best */
        $best = $known;
        $most = 1 + max(0, ...array_values($known));
        $steps = 0;
        $try = static function (array $left, array $colors, int $used) use (&$try, &$best, &$most, &$steps, $edges, $limit): void {
            if (++$steps > $limit || $used >= $most) {
                return;
            }
            if ($left === []) {
                $best = $colors;
                $most = $used;

                return;
            }
            /** @var array<int, int> $left */
            /** @var array<int, int> $colors */
            $next = self::next($left, $edges, $colors);
            unset($left[$next]);
            $around = [];
            foreach ($edges[$next] as $other) {
                if (isset($colors[$other])) {
                    $around[$colors[$other]] = $other;
                }
            }
            for ($color = 0; $color <= $used && $color < $most - 1; $color++) {
                if (! isset($around[$color])) {
                    $try($left, [$next => $color] + $colors, max($used, $color + 1));
                }
            }
        };
        $try(array_combine($busy, $busy), [], 0);

        /** @var array<int, int> $best */
        return [$best, $steps <= $limit];
    }
}
