<?php

declare(strict_types=1);

namespace Anvil\Rays;

/**
 * A share that was estimated on samples, with its 95 % interval (E. B. Wilson, "Probable Inference, the Law of Succession, and Statistical
 * Inference", 1927), so that no few rays decide.
 */
final readonly class Estimate
{
    private const Z = 1.959964;

    private function __construct(public float $share, public float $from, public float $to)
    {
    }

    /**
     * @param  float  $share  0–1
     * @param  float  $samples  on which it was estimated
     */
    public static function of(float $share, float $samples): self
    {
        $share = max(0.0, min(1.0, $share));
        if ($samples <= 0.0) {
            return new self($share, 0.0, 1.0);
        }
        $z2 = self::Z * self::Z;
        $scale = 1 + $z2 / $samples;
        $middle = ($share + $z2 / (2 * $samples)) / $scale;
        $half = self::Z / $scale * sqrt($share * (1 - $share) / $samples + $z2 / (4 * $samples * $samples));

        return new self($share, max(0.0, $middle - $half), min(1.0, $middle + $half));
    }

    /** Whether a limit lies within the interval, so that the samples do not say on which side of it the share is. */
    public function holds(float $limit): bool
    {
        return $this->from < $limit && $limit < $this->to;
    }

    /** Whether the share is over a limit for sure; in doubt it is not. */
    public function isOver(float $limit): bool
    {
        return $this->share > $limit && ! $this->holds($limit);
    }

    /** Half the interval, where it holds one of these limits; else 0. */
    public function doubt(float ...$limits): float
    {
        foreach ($limits as $limit) {
            if ($this->holds($limit)) {
                return ($this->to - $this->from) / 2;
            }
        }

        return 0.0;
    }

    /**
     * How many times as many samples it takes until the interval is clear of some limits: a power of two, `$most` at most.
     *
     * @param  list<float>  $limits
     */
    public static function timesUntilClear(float $share, float $samples, array $limits, int $most): int
    {
        for ($times = 1; 2 * $times <= $most; $times *= 2) {
            $estimate = self::of($share, $samples * $times);
            if (array_filter($limits, static fn (float $limit): bool => $estimate->holds($limit)) === []) {
                return $times;
            }
        }

        return $times;
    }
}
