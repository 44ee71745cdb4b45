<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\Estimate;
use Anvil\Rays\HighSurface;
use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\SeenSamples;
use Anvil\Rays\Shooting;
use Anvil\Rays\Visibility;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Reach;
use Closure;

/**
 * More samples for a share at one reach that is in doubt while nothing else of its set is (METHODS, "No few rays decide"): what each sample takes at
 * that reach is all that has to be known, and a short line tells it. The rest of the set's measure keeps its samples.
 */
final readonly class Resampling
{
    /**
     * @param  Visibility|null  $visibility  null: all of the set is seen
     * @param  Closure(Samples): Samples  $unmasked  leaves out samples that faces turned the wrong way make meaningless
     * @param  int  $count  samples that were taken
     * @param  float  $effective  samples of one weight that say as much as those of the seen area
     * @param  int  $most  times as many may be taken
     * @param  array<int, true>  $free  low shells on which all misses are margin
     */
    public function __construct(
        private LowSurface $low,
        private HighSurface $high,
        private RaySettings $rays,
        private float $d,
        private ?Visibility $visibility,
        private Closure $unmasked,
        private float $seenShare,
        private int $count,
        private float $effective,
        private int $most,
        private array $free = [],
    ) {
    }

    /**
     * @param  list<float>  $limits  of the share of misses
     * @return array{Misses, float} and how many samples of one weight say as much
     */
    public function misses(Misses $misses, Reach $reach, array $limits, float $ofMargin): array
    {
        $doubts = static fn (Misses $misses): array => [[$misses->share, $limits], [array_sum($misses->marginShares), [$ofMargin]]];

        return $this->until($misses, $doubts, $reach, fn (Samples $samples, Hits $hits, SeenSamples $seen): Misses => Misses::of($this->low, $samples, $hits, $reach, $seen->has(...), $this->seenShare, $this->free));
    }

    /**
     * @param  float  $share  of seen low area that is clipped, missed or goes wrong at a reach
     * @param  float  $clipped  of that: what meets a surface that belongs beneath the clipped one, which a short line does not tell
     * @return array{float, float} and how many samples of one weight say as much
     */
    public function bad(float $share, float $clipped, Reach $reach, float $limit): array
    {
        $doubts = static fn (float $share): array => [[$share, [$limit]]];

        return $this->until($share, $doubts, $reach, function (Samples $samples, Hits $hits, SeenSamples $seen) use ($reach, $clipped): float {
            $sum = 0.0;
            for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
                $h = $hits->taken($i, $reach);
                if ($h >= 0 && $hits->kind($i, $h) < 1 && $seen->has($i)) {
                    $sum += $samples->weight[$i];
                }
            }

            return min(1.0, $sum / max(1e-12, $this->seenShare) + $clipped + Misses::of($this->low, $samples, $hits, $reach, $seen->has(...), $this->seenShare, $this->free)->share);
        });
    }

    /**
     * @template T
     *
     * @param  T  $known
     * @param  Closure(T): list<array{float, list<float>}>  $doubts  shares and their limits
     * @param  Closure(Samples, Hits, SeenSamples): T  $again
     * @return array{T, float}
     */
    private function until(mixed $known, Closure $doubts, Reach $reach, Closure $again): array
    {
        [$count, $most, $effective] = [$this->count, $this->most, $this->effective];
        while (($times = self::times($doubts($known), $effective, $most)) > 1) {
            $count *= $times;
            $most = intdiv($most, $times);
            $samples = ($this->unmasked)(Samples::of($this->low, $count, $this->rays->cageLength));
            $known = $again($samples, Shooting::taken($this->low, $this->high, $samples, $this->rays, $this->d, $reach), new SeenSamples($this->low, $samples, $this->visibility));
            $effective = $samples->effective() * $this->seenShare;
        }

        return [$known, $effective];
    }

    /**
     * How many times as many samples it takes until all of some shares are clear of their limits.
     *
     * @param  list<array{float, list<float>}>  $doubts
     */
    public static function times(array $doubts, float $effective, int $most): int
    {
        $times = 1;
        foreach ($doubts as [$share, $limits]) {
            // No ray at all of so many leaves no doubt that is worth as many again.
            $times = $share > 0.0 ? max($times, Estimate::timesUntilClear($share, $effective, $limits, $most)) : $times;
        }

        return $times;
    }
}
