<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * A named mesh of a file: the unit that pairs, bakes and is written about.
 */
final class Part
{
    /**
     * @param  array<string, string>  $colors  material name → `#RRGGBB`, for the materials that set a colour explicitly
     * @param  Bounds|null  $bounds  where they are known already
     */
    public function __construct(
        public readonly string $name,
        public readonly Mesh $mesh,
        public readonly array $colors = [],
        private ?Bounds $bounds = null,
    ) {
    }

    /** Of the whole part; computed once. */
    public function bounds(): ?Bounds
    {
        return $this->bounds ??= $this->mesh->bounds();
    }
}
