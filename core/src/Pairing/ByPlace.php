<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Geometry\Bounds;

/**
 * Which high base fits each low base by place and size alone.
 */
final readonly class ByPlace
{
    /** Pairs that cost this much or more are no candidates. */
    public const MOST = 0.25;

    /**
     * @param  array<int, array{int, float}>  $partner  low → high and its cost
     * @param  list<array<int, float>>  $costs  low → high → cost, candidates only
     */
    private function __construct(public array $partner, public array $costs)
    {
    }

    /**
     * @param  list<Bounds|null>  $lows
     * @param  list<Bounds|null>  $highs
     */
    public static function of(array $lows, array $highs): self
    {
        // Sorted along x, a candidate's middle is within a quarter of the low's diagonal.
        $middles = [];
        foreach ($highs as $j => $bounds) {
            if ($bounds !== null) {
                $middles[$j] = $bounds->centre()[0];
            }
        }
        asort($middles);
        $order = array_keys($middles);
        $xs = array_values($middles);
        $count = count($xs);
        $costs = [];
        foreach ($lows as $i => $bounds) {
            $costs[$i] = [];
            if ($bounds === null) {
                continue;
            }
            $x = $bounds->centre()[0];
            $within = self::MOST * $bounds->diagonal();
            $from = 0;
            $to = $count;
            while ($from < $to) {
                $middle = intdiv($from + $to, 2);
                if ($xs[$middle] < $x - $within) {
                    $from = $middle + 1;
                } else {
                    $to = $middle;
                }
            }
            for ($k = $from; $k < $count && $xs[$k] <= $x + $within; $k++) {
                $high = $highs[$order[$k]];
                $cost = $high === null ? INF : PlaceCost::of($bounds, $high);
                if ($cost < self::MOST) {
                    $costs[$i][$order[$k]] = $cost;
                }
            }
            ksort($costs[$i]);
        }
        $costs = array_values($costs);
        $partner = [];
        foreach (Assignment::of($costs) as $i => $j) {
            if ($j >= 0) {
                $partner[$i] = [$j, $costs[$i][$j]];
            }
        }

        return new self($partner, $costs);
    }

    /** Whether low and high are each other's best, among all candidates. */
    public function isMutualBest(int $low, int $high): bool
    {
        $own = $this->costs[$low][$high] ?? null;
        if ($own === null) {
            return false;
        }
        foreach ($this->costs[$low] as $cost) {
            if ($cost < $own) {
                return false;
            }
        }
        foreach ($this->costs as $row) {
            if (($row[$high] ?? INF) < $own) {
                return false;
            }
        }

        return true;
    }
}
