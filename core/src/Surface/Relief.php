<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Rays\HighSurface;
use Anvil\Rays\LowSurface;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\SegmentCast;
use Anvil\Standard\Reach;

/**
 * A set's low poly with the high one over it: what single lines from the one meet of the other.
 */
final class Relief
{
    public readonly LowSurface $low;

    public readonly HighSurface $high;

    private readonly SegmentCast $cast;

    /** @var list<Mesh> */
    public readonly array $lowMeshes;

    /**
     * @param  float  $d  diagonal of the set's low-poly bounds
     */
    public function __construct(SetSurfaces $surfaces, public readonly Reach $reach, public readonly int $mapSize, public readonly float $d)
    {
        $this->low = $surfaces->low();
        $this->high = $surfaces->high();
        $this->lowMeshes = $surfaces->lowMeshes();
        $this->cast = new SegmentCast($this->high->tree());
    }

    /**
     * The high triangle that a ray takes, from the outside; −1 for none.
     *
     * @param  float  $nx  its direction, in the length of the reach
     */
    public function taken(float $x, float $y, float $z, float $nx, float $ny, float $nz): int
    {
        return $this->cast->first($x, $y, $z, $nx, $ny, $nz, -$this->reach->in - 1e-6 * $this->d, $this->reach->out + 1e-6 * $this->d, 1);
    }

    /**
     * The height over a place, along a unit normal, of the nearest high surface that faces it; null where there is none.
     *
     * @param  array{float, float, float}  $at
     * @param  array{float, float, float}  $normal
     */
    public function height(array $at, array $normal, float $within): ?float
    {
        $best = null;
        for ($h = 0, $count = $this->cast->all($at[0], $at[1], $at[2], $normal[0], $normal[1], $normal[2], -$within, $within, 1); $h < $count; $h++) {
            if ($best === null || abs($this->cast->t[$h]) < abs($best)) {
                $best = $this->cast->t[$h];
            }
        }

        return $best;
    }

    /** Texels to a unit of length on a low triangle; 0 without UVs. */
    public function density(int $triangle): float
    {
        return $this->low->areas[$triangle] > 0.0 ? $this->mapSize * sqrt($this->low->uvAreas[$triangle] / $this->low->areas[$triangle]) : 0.0;
    }

    /**
     * The place of a low triangle.
     *
     * @return array{float, float, float}
     */
    public function at(int $triangle, float $v, float $w): array
    {
        $p = $this->low->positions;
        $u = 1.0 - $v - $w;
        [$a, $b, $c] = [3 * $this->low->triangles[3 * $triangle], 3 * $this->low->triangles[3 * $triangle + 1], 3 * $this->low->triangles[3 * $triangle + 2]];

        return [$u * $p[$a] + $v * $p[$b] + $w * $p[$c], $u * $p[$a + 1] + $v * $p[$b + 1] + $w * $p[$c + 1], $u * $p[$a + 2] + $v * $p[$b + 2] + $w * $p[$c + 2]];
    }
}
