<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Pairing\RoledPart;

/**
 * A high part as it is written: its name there, and the ID of its triangles.
 *
 * @internal
 */
final readonly class WornPart
{
    /**
     * @param  int|list<int>  $ids  one for all, or one a triangle
     */
    public function __construct(public RoledPart $part, public string $name, public int|array $ids)
    {
    }

    public function id(int $triangle): int
    {
        return is_int($this->ids) ? $this->ids : $this->ids[$triangle];
    }

    /**
     * @return list<array{int, int}> [first triangle, ID], ascending
     */
    public function runs(): array
    {
        if (is_int($this->ids)) {
            return [[0, $this->ids]];
        }
        $runs = [];
        $last = null;
        foreach ($this->ids as $t => $id) {
            if ($id !== $last) {
                $runs[] = [$t, $last = $id];
            }
        }

        return $runs;
    }

    /**
     * The ID of each face of the file; of a face in several triangles, that of the first.
     *
     * @return int|array<int, int>
     */
    public function ofFaces(): int|array
    {
        $faces = $this->part->part->mesh->faces;
        if (is_int($this->ids) || $faces === []) {
            return $this->ids;
        }
        $out = [];
        foreach ($faces as $t => $face) {
            $out[$face] ??= $this->ids[$t];
        }

        return $out;
    }
}
