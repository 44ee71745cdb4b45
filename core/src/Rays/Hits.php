<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Standard\Reach;
use Closure;

/**
 * What every sample's line meets within ±d: heights from the outside inward within a sample, lists side by side.
 *
 * Whether a hit belongs is known of each down to the first that does; of what lies beneath it is found out when somebody asks.
 */
final class Hits
{
    /** In `kinds`: not looked at yet. */
    public const UNKNOWN = 2;

    /**
     * @param  list<int>  $start  first hit of each sample, and one more for the end
     * @param  list<float>  $heights
     * @param  array<int, int>  $kinds  1 belongs, 0 wrong, −1 another set's; unknown beneath the first that belongs
     * @param  list<int>  $faces  high triangle of each hit, −1 for another set's
     * @param  Closure(int, float, int): bool  $belongs  of a sample, a height over it and a high triangle
     */
    public function __construct(public readonly array $start, public readonly array $heights, public array $kinds, public readonly array $faces, public readonly Closure $belongs)
    {
    }

    /** 1 belongs, 0 wrong, −1 another set's. */
    public function kind(int $sample, int $hit): int
    {
        $kind = $this->kinds[$hit];
        if ($kind === self::UNKNOWN) {
            $kind = $this->kinds[$hit] = ($this->belongs)($sample, $this->heights[$hit], $this->faces[$hit]) ? 1 : 0;
        }

        return $kind;
    }

    /** The hit that a sample's ray takes at a reach; −1 for none. */
    public function taken(int $sample, Reach $reach): int
    {
        for ($h = $this->start[$sample], $end = $this->start[$sample + 1]; $h < $end; $h++) {
            if ($this->heights[$h] <= $reach->out) {
                return $this->heights[$h] >= -$reach->in ? $h : -1;
            }
        }

        return -1;
    }

    /** The outermost hit of a sample that belongs to it; −1 for none. */
    public function own(int $sample): int
    {
        for ($h = $this->start[$sample], $end = $this->start[$sample + 1]; $h < $end; $h++) {
            if ($this->kinds[$h] === 1) {
                return $h;
            }
        }

        return -1;
    }
}
