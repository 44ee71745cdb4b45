<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * What a reader makes of one file.
 */
final class Scene
{
    /**
     * @param  list<Part>  $parts  in the file's order
     * @param  string|null  $unit  the unit's name where the format carries one
     * @param  string|null  $upAxis  `X`, `Y` or `Z` where the format carries one
     * @param  list<string>  $remarks  what was passed over on reading, in words
     * @param  list<string>  $extras  what stands in the file beside meshes: cameras, lights, skins, animation, hidden or empty nodes
     */
    public function __construct(
        public readonly string $format,
        public readonly array $parts,
        public readonly ?string $unit = null,
        public readonly ?string $upAxis = null,
        public readonly array $remarks = [],
        public readonly array $extras = [],
    ) {
    }

    /** All numbers of its meshes as float32. */
    public function asFloat32(): self
    {
        return new self($this->format, array_map(static fn (Part $part): Part => $part->asFloat32(), $this->parts), $this->unit, $this->upAxis, $this->remarks, $this->extras);
    }

    public function triangleCount(): int
    {
        return array_sum(array_map(fn (Part $part): int => $part->triangleCount(), $this->parts));
    }
}
