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
     * @param  string|null  $hash  of its mesh, where that is known already
     * @param  int|null  $triangles  how many, where the mesh is left out
     */
    public function __construct(
        public readonly string $name,
        public readonly Mesh $mesh,
        public readonly array $colors = [],
        private ?Bounds $bounds = null,
        public readonly PartFacts $facts = new PartFacts,
        private ?string $hash = null,
        private readonly ?int $triangles = null,
    ) {
    }

    /** Of the whole part; computed once. */
    public function bounds(): ?Bounds
    {
        return $this->bounds ??= $this->mesh->bounds();
    }

    /** Of the mesh, where it stands; the same for the same bytes in a geometry store and the same frame. */
    public function hash(): string
    {
        return $this->hash ??= hash('sha256', MeshStore::encode($this->mesh));
    }

    public function triangleCount(): int
    {
        return $this->triangles ?? $this->mesh->triangleCount();
    }

    public function named(string $name): self
    {
        return $name === $this->name ? $this : new self($name, $this->mesh, $this->colors, $this->bounds, $this->facts, $this->hash, $this->triangles);
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
        $hash = $this->hash === null ? null : hash('sha256', $this->hash.json_encode($matrix->m, JSON_THROW_ON_ERROR));

        return new self(
            $this->name, $this->mesh->placedBy($matrix), $this->colors, $bounds === null || $this->mesh->positions !== [] ? null : Bounds::ofPositions($matrix->points($bounds->corners())),
            $this->facts, $hash, $this->triangles,
        );
    }
}
