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
     * @param  PartFacts  $facts  what the file says of it beside its triangles
     */
    public function __construct(
        public readonly string $name,
        public readonly Mesh $mesh,
        public readonly array $colors = [],
        private ?Bounds $bounds = null,
        public readonly PartFacts $facts = new PartFacts,
    ) {
    }

    /** Of the whole part; computed once. */
    public function bounds(): ?Bounds
    {
        return $this->bounds ??= $this->mesh->bounds();
    }

    public function named(string $name): self
    {
        return $name === $this->name ? $this : new self($name, $this->mesh, $this->colors, $this->bounds, $this->facts);
    }

    public function asFloat32(): self
    {
        return new self($this->name, $this->mesh->asFloat32(), $this->colors, $this->bounds, $this->facts);
    }

    /** In another frame: mesh, bounds and node by a matrix. */
    public function placedBy(Matrix $matrix): self
    {
        if ($matrix->isIdentity()) {
            return $this;
        }
        $bounds = $this->bounds;

        return new self($this->name, $this->mesh->placedBy($matrix), $this->colors, $bounds === null || $this->mesh->positions !== [] ? null : Bounds::ofPositions($matrix->points($bounds->corners())), $this->facts);
    }
}
