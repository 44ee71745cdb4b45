<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Geometry\Mesh;
use Anvil\Spatial\TriangleTree;

/**
 * All high parts of a set as one surface. Triangles are numbered part after part, so the lowest number is the lowest part, then face.
 */
final class HighSurface
{
    private ?TriangleTree $tree = null;

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     */
    private function __construct(public readonly array $positions, public readonly array $triangles)
    {
    }

    /**
     * @param  list<Mesh>  $meshes
     */
    public static function of(array $meshes): self
    {
        if (count($meshes) === 1) {
            return new self($meshes[0]->positions, $meshes[0]->triangles);
        }
        $positions = $triangles = [];
        foreach ($meshes as $mesh) {
            $base = intdiv(count($positions), 3);
            $positions = [...$positions, ...$mesh->positions];
            foreach ($mesh->triangles as $v) {
                $triangles[] = $base + $v;
            }
        }

        return new self($positions, $triangles);
    }

    public function tree(): TriangleTree
    {
        return $this->tree ??= TriangleTree::of($this->positions, $this->triangles);
    }
}
