<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Geometry\CornerShares;
use Closure;

/**
 * What the samples of a set meet along their directions, within ±d: of its own high poly, and of other sets' where they are not kept apart.
 */
final readonly class RayField
{
    /**
     * @param  float  $d  diagonal of the set's low-poly bounds
     * @param  list<int>  $start  first hit of each sample, and one more for the end
     * @param  list<float>  $heights  from the outside inward within a sample
     * @param  list<int>  $kinds  1 belongs, 0 wrong, −1 another set's
     * @param  list<HighSurface>  $others  of the other sets that are in the way
     * @param  Closure(int): bool  $seen  of a sample
     */
    public function __construct(
        public LowSurface $low,
        public HighSurface $high,
        public Samples $samples,
        public float $d,
        public array $start,
        public array $heights,
        public array $kinds,
        public array $others,
        public Closure $seen,
    ) {
    }

    /**
     * Where in its triangle a sample lies.
     *
     * @return array{float, float, float} shares of the three corners
     */
    public function corners(int $sample): array
    {
        return CornerShares::of($this->low->positions, $this->low->triangles, $this->samples->triangle[$sample], $this->samples->px[$sample], $this->samples->py[$sample], $this->samples->pz[$sample]);
    }
}
