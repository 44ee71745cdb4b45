<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Pairing\RoledPart;
use Anvil\Sets\BakeSet;

/**
 * A bake set's low and high surfaces, made when first asked for.
 */
final class SetSurfaces
{
    private ?LowSurface $low = null;

    private ?HighSurface $high = null;

    private ?Bounds $highBounds = null;

    /**
     * @param  list<Mesh>  $lowMeshes
     * @param  list<Mesh>  $highMeshes  what its rays are to meet
     */
    public function __construct(public readonly string $name, private readonly array $lowMeshes, private readonly array $highMeshes, private readonly bool $smooth)
    {
    }

    public static function of(BakeSet $set, bool $smooth): self
    {
        $mesh = static fn (RoledPart $part): Mesh => $part->part->mesh;

        return new self($set->name, array_map($mesh, $set->low), array_map($mesh, $set->target()), $smooth);
    }

    public function low(): LowSurface
    {
        return $this->low ??= LowSurface::of($this->lowMeshes, $this->smooth);
    }

    public function high(): HighSurface
    {
        return $this->high ??= HighSurface::of($this->highMeshes);
    }

    /** Of low and high together. */
    public function triangleCount(): int
    {
        return array_sum(array_map(static fn (Mesh $mesh): int => $mesh->triangleCount(), [...$this->lowMeshes, ...$this->highMeshes]));
    }

    public function hasHigh(): bool
    {
        return $this->highMeshes !== [];
    }

    /**
     * @param  array{float, float, float}  $by
     */
    public function moved(array $by): self
    {
        $move = static fn (Mesh $mesh): Mesh => $mesh->moved($by);

        return new self($this->name, array_map($move, $this->lowMeshes), array_map($move, $this->highMeshes), $this->smooth);
    }

    public function lowBounds(): ?Bounds
    {
        return Bounds::union(array_map(static fn (Mesh $mesh): ?Bounds => $mesh->bounds(), $this->lowMeshes));
    }

    public function highBounds(): ?Bounds
    {
        return $this->highBounds ??= Bounds::union(array_map(static fn (Mesh $mesh): ?Bounds => $mesh->bounds(), $this->highMeshes));
    }

    /**
     * @return list<Mesh>
     */
    public function lowMeshes(): array
    {
        return $this->lowMeshes;
    }

    /**
     * @return list<Mesh>
     */
    public function highMeshes(): array
    {
        return $this->highMeshes;
    }
}
