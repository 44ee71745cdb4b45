<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Standard\Reach;

/**
 * What every sample's line meets within ±d: heights from the outside inward within a sample, lists side by side.
 */
final readonly class Hits
{
    /**
     * @param  list<int>  $start  first hit of each sample, and one more for the end
     * @param  list<float>  $heights
     * @param  list<int>  $kinds  1 belongs, 0 wrong, −1 another set's
     * @param  list<int>  $faces  high triangle of each hit, −1 for another set's
     */
    public function __construct(public array $start, public array $heights, public array $kinds, public array $faces)
    {
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

    /**
     * @param  list<int>  $kept  numbers of samples, ascending
     */
    public function only(array $kept): self
    {
        $start = $heights = $kinds = $faces = [];
        foreach ($kept as $i) {
            $start[] = count($heights);
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                $heights[] = $this->heights[$h];
                $kinds[] = $this->kinds[$h];
                $faces[] = $this->faces[$h];
            }
        }
        $start[] = count($heights);

        return new self($start, $heights, $kinds, $faces);
    }
}
