<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Rays\HighSurface;
use Anvil\Spatial\SegmentCast;

/**
 * Rays that faces turned the wrong way make meaningless: those that start on such a low triangle, and those whose line meets a high shell that faces away
 * (CHECKS, `mesh-flipped`: what rays pass through is not told as misses).
 */
final readonly class FacingMask
{
    public const NOTHING = 0;

    public const BY_LOW = 1;

    public const BY_HIGH = 2;

    private ?SegmentCast $cast;

    /** @var list<int> shell a high triangle */
    private array $shells;

    /**
     * @param  float  $d  diagonal of the set's low-poly bounds: so far out and in is looked
     */
    public function __construct(private Facing $facing, HighSurface $high, private float $d)
    {
        $this->cast = $facing->highShells === [] ? null : new SegmentCast($high->tree());
        $this->shells = $this->cast === null ? [] : $high->shells();
    }

    /**
     * @param  int  $triangle  of the set's low surface, on which the ray starts
     * @return int NOTHING, or what of it is turned: BY_LOW or BY_HIGH
     */
    public function of(int $triangle, float $px, float $py, float $pz, float $nx, float $ny, float $nz): int
    {
        if (isset($this->facing->lowTriangles[$triangle])) {
            return self::BY_LOW;
        }
        $this->cast?->all($px, $py, $pz, $nx, $ny, $nz, -$this->d, $this->d, 0);
        foreach ($this->cast->triangle ?? [] as $met) {
            if (isset($this->facing->highShells[$this->shells[$met]])) {
                return self::BY_HIGH;
            }
        }

        return self::NOTHING;
    }
}
