<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\Hits;
use Anvil\Rays\Samples;
use Anvil\Rays\SeenSamples;
use Anvil\Standard\Reach;

/**
 * How far a set's own surface stands over its low poly and lies under it, by the lines of its samples.
 */
final readonly class SampledDepths
{
    public function __construct(private Samples $samples, private Hits $hits, private float $d, private SeenSamples $seen, private float $seenShare)
    {
    }

    /**
     * @return array{float, array{float, float, float}|null, float, array{float, float, float}|null} deepest own surface, where; highest own surface met, where
     */
    public function deepest(NeededReach $points): array
    {
        $in = $out = 0.0;
        $deepest = $highest = null;
        // Less is rounding: where high and low are the same, every sample would have such a height.
        $least = 1e-9 * $this->d;
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->hits->own($i);
            if ($h < 0) {
                continue;
            }
            $t = $this->hits->heights[$h];
            if (-$t > $in) {
                $in = -$t;
                $deepest = $this->samples->at($i, $t);
            }
            if ($t > $out + $least && $this->standsFree($i, $h)) {
                // What stands over another place of the low poly is needed from there, not from here.
                $height = $points->heightOf($this->samples->at($i, $t), $t, $this->samples->triangle[$i]);
                if ($height > $out) {
                    $out = $height;
                    $highest = $this->samples->at($i, $t);
                }
            }
        }

        return [$in, $deepest, $out, $highest];
    }

    /**
     * The reach outward at which all but 0.05 % of the seen low area whose lines meet something that belongs meets such within the reach: a
     * concave rounding under split directions needs more than enclosing.
     */
    public function enclosing(float $out, float $in): float
    {
        $all = 0.0;
        $later = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $own = $this->hits->own($i);
            if ($own < 0 || $this->hits->heights[$own] < -$in) {
                continue;
            }
            $all += $this->samples->weight[$i];
            $least = $this->hits->heights[$own];
            for ($h = $own + 1; $least > $out && $h < $this->hits->start[$i + 1] && $this->hits->heights[$h] >= -$in; $h++) {
                if ($this->hits->kind($i, $h) === 1) {
                    $least = $this->hits->heights[$h];
                }
            }
            if ($least > $out) {
                $later[] = [$least, $i];
            }
        }
        rsort($later);
        $left = WrongReach::SHARE * $all * $this->seenShare;
        foreach ($later as [$reach, $i]) {
            if ($this->seen->has($i)) {
                $left -= $this->samples->weight[$i];
                if ($left < 0.0) {
                    return $reach;
                }
            }
        }

        return $out;
    }

    /** Whether nothing of the set's own stands over a hit up to twice its height. */
    private function standsFree(int $i, int $hit): bool
    {
        return $hit === $this->hits->start[$i] || $this->hits->heights[$hit - 1] > 2 * $this->hits->heights[$hit];
    }

    /**
     * @return array{float, list<array{int, float, float}>} share; sample, the low surface, what lies beyond the reach
     */
    public function short(Reach $reach): array
    {
        $share = 0.0;
        $rays = [];
        $slack = 1e-9 * $this->d;
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->hits->own($i);
            $t = $h < 0 ? 0.0 : $this->hits->heights[$h];
            if ($t > $reach->out + $slack || $t < -$reach->in - $slack) {
                $share += $this->samples->weight[$i];
                $rays[] = [$i, 0.0, $t];
            }
        }

        return [$share, $rays];
    }
}
