<?php

declare(strict_types=1);

namespace Anvil\Rays;

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
        $p = $this->low->positions;
        $t = 3 * $this->samples->triangle[$sample];
        $a = 3 * $this->low->triangles[$t];
        $b = 3 * $this->low->triangles[$t + 1];
        $c = 3 * $this->low->triangles[$t + 2];
        [$ux, $uy, $uz] = [$p[$b] - $p[$a], $p[$b + 1] - $p[$a + 1], $p[$b + 2] - $p[$a + 2]];
        [$vx, $vy, $vz] = [$p[$c] - $p[$a], $p[$c + 1] - $p[$a + 1], $p[$c + 2] - $p[$a + 2]];
        [$wx, $wy, $wz] = [$this->samples->px[$sample] - $p[$a], $this->samples->py[$sample] - $p[$a + 1], $this->samples->pz[$sample] - $p[$a + 2]];
        $uu = $ux * $ux + $uy * $uy + $uz * $uz;
        $uv = $ux * $vx + $uy * $vy + $uz * $vz;
        $vv = $vx * $vx + $vy * $vy + $vz * $vz;
        $wu = $wx * $ux + $wy * $uy + $wz * $uz;
        $wv = $wx * $vx + $wy * $vy + $wz * $vz;
        $den = $uu * $vv - $uv * $uv;
        if ($den <= 0.0) {
            return [1 / 3, 1 / 3, 1 / 3];
        }
        $s = ($vv * $wu - $uv * $wv) / $den;
        $r = ($uu * $wv - $uv * $wu) / $den;

        return [1.0 - $s - $r, $s, $r];
    }
}
