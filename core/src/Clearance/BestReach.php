<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\Spread;
use Anvil\Standard\Reach;
use Closure;

/**
 * The reach at which least of a set's seen low area is clipped, missed or takes a wrong hit, together (METHODS, "Best reach").
 *
 * A sample comes out right at reaches outward from the height of its outermost surface that belongs, up to the next hit further out, and at any reach
 * inward that is as deep as that surface. So the search over both sides is one sweep over heights outward; inward the deepest of what comes out right is needed.
 */
final readonly class BestReach
{
    /** Samples whose visibility is asked for during the sweep; more are stood for by some. */
    private const SWEPT = 8192;

    /** Samples that come out wrong at the best reach whose visibility is asked for. */
    private const ASKED = 8192;

    /**
     * @param  float  $share  of seen low area that is clipped, missed or wrong there, margins apart
     * @param  float  $clipped  of that: what meets a surface that belongs beneath the one that is clipped
     * @param  list<array{int, float}>  $rays  samples that take a wrong hit there, and its height
     */
    private function __construct(public Reach $reach, public float $share, public float $clipped, public array $rays)
    {
    }

    /**
     * @param  Closure(int): bool  $seen  of a sample
     * @param  array<int, true>  $free  low shells on which all misses are margin
     */
    public static function of(LowSurface $low, Samples $samples, Hits $hits, float $d, Closure $seen, float $seenShare, array $free = []): self
    {
        [$right, $next] = self::spans($samples, $hits);
        [$out, $until] = self::sweep($samples, $right, $next, $seen);
        // A little further in the same step: rays must not start on the surface that they are to meet.
        $out += min(0.001 * $d, ($until - $out) / 2);
        $depths = [];
        foreach ($right as $i => $from) {
            $own = $hits->own($i);
            if ($from <= $out && $next[$i] > $out && $hits->heights[$own] < 0.0) {
                $depths[$i] = -$hits->heights[$own];
            }
        }
        arsort($depths);
        $in = 0.0;
        foreach ($depths as $i => $depth) {
            if ($seen($i)) {
                $in = $depth;
                break;
            }
        }
        $reach = new Reach($out, $in + 0.001 * $d);

        return new self($reach, ...self::measured($low, $samples, $hits, $reach, $seen, $seenShare, $free));
    }

    /**
     * From which reach outward each sample comes out right, and until which; samples that nothing belongs to have neither.
     *
     * @return array{array<int, float>, array<int, float>}
     */
    private static function spans(Samples $samples, Hits $hits): array
    {
        $right = $next = [];
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            $own = $hits->own($i);
            if ($own < 0) {
                continue;
            }
            $above = $own > $hits->start[$i] ? $hits->heights[$own - 1] : INF;
            if ($above > 0.0) {
                $right[$i] = max(0.0, $hits->heights[$own]);
                $next[$i] = $above;
            }
        }

        return [$right, $next];
    }

    /**
     * @param  array<int, float>  $right
     * @param  array<int, float>  $next
     * @param  Closure(int): bool  $seen
     * @return array{float, float} the reach outward at which most comes out right, and the next one at which anything changes
     */
    private static function sweep(Samples $samples, array $right, array $next, Closure $seen): array
    {
        $some = array_keys(array_filter($right, static fn (float $from, int $i): bool => $from > 0.0 || $next[$i] < INF, ARRAY_FILTER_USE_BOTH));
        $events = [];
        foreach (Spread::of($some, self::SWEPT) as $i) {
            if ($seen($i)) {
                $events[] = [$right[$i], $samples->weight[$i]];
                if ($next[$i] < INF) {
                    $events[] = [$next[$i], -$samples->weight[$i]];
                }
            }
        }
        sort($events);
        $sum = $most = 0.0;
        $best = 0.0;
        $until = INF;
        for ($k = 0, $count = count($events); $k < $count;) {
            $at = $events[$k][0];
            for (; $k < $count && $events[$k][0] === $at; $k++) {
                $sum += $events[$k][1];
            }
            if ($sum > $most + 1e-12) {
                [$most, $best, $until] = [$sum, $at, $events[$k][0] ?? INF];
            }
        }

        return [$best, $until];
    }

    /**
     * @param  Closure(int): bool  $seen
     * @param  array<int, true>  $free
     * @return array{float, float, list<array{int, float}>}
     */
    private static function measured(LowSurface $low, Samples $samples, Hits $hits, Reach $reach, Closure $seen, float $seenShare, array $free): array
    {
        $bad = $missing = [];
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            $taken = $hits->taken($i, $reach);
            $own = $hits->own($i);
            if ($own < 0 && $taken < 0) {
                $missing[] = $i;
            }
            if ($own < 0 || $taken !== $own) {
                $bad[] = $i;
            }
        }
        $margin = Margins::of($low, $samples, $missing, $free);
        $bad = array_values(array_filter($bad, static fn (int $i): bool => ! isset($margin[$i])));
        $asked = Spread::of($bad, self::ASKED);
        $all = $samples->weightOf($asked);
        $scale = $all > 0.0 && $seenShare > 0.0 ? $samples->weightOf($bad) / $all / $seenShare : 0.0;
        $share = $clipped = 0.0;
        $rays = [];
        foreach ($asked as $i) {
            if (! $seen($i)) {
                continue;
            }
            $share += $scale * $samples->weight[$i];
            $taken = $hits->taken($i, $reach);
            if ($taken >= 0 && $hits->kind($i, $taken) === 1) {
                $clipped += $scale * $samples->weight[$i];
            } elseif ($taken >= 0) {
                $rays[] = [$i, $hits->heights[$taken]];
            }
        }

        return [min(1.0, $share), min(1.0, $clipped), $rays];
    }
}
