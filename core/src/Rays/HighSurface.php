<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Geometry\FaceNormal;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Shells;
use Anvil\Geometry\Weld;
use Anvil\Spatial\TriangleTree;

/**
 * All high parts of a set as one surface. Triangles are numbered part after part, so the lowest number is the lowest part, then face.
 */
final class HighSurface
{
    /** So many rays a triangle pay for a tree that takes longer to build. */
    private const FINE_FROM = 2;

    private ?TriangleTree $tree = null;

    private ?TriangleTree $fine = null;

    /** @var list<int>|null */
    private ?array $shells = null;

    /** @var list<int>|null */
    private ?array $welded = null;

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @param  list<int>  $parts  first triangle of each part
     * @param  Mesh|null  $only  where one part is all of it
     */
    private function __construct(public readonly array $positions, public readonly array $triangles, public readonly array $parts, private readonly ?Mesh $only = null)
    {
    }

    /**
     * @param  list<Mesh>  $meshes
     */
    public static function of(array $meshes): self
    {
        if (count($meshes) === 1) {
            return new self($meshes[0]->positions, $meshes[0]->triangles, [0], $meshes[0]);
        }
        $positions = $triangles = $parts = [];
        foreach ($meshes as $mesh) {
            $parts[] = intdiv(count($triangles), 3);
            $base = intdiv(count($positions), 3);
            $positions = [...$positions, ...$mesh->positions];
            foreach ($mesh->triangles as $v) {
                $triangles[] = $base + $v;
            }
        }

        return new self($positions, $triangles, $parts);
    }

    public function tree(): TriangleTree
    {
        return $this->tree ??= TriangleTree::of($this->positions, $this->triangles);
    }

    /** A tree to shoot so many rays at: what they meet is the same, many meet it faster on a tree of tighter boxes. */
    public function treeFor(int $rays): TriangleTree
    {
        if ($this->fine === null && $rays < self::FINE_FROM * intdiv(count($this->triangles), 3)) {
            return $this->tree();
        }

        return $this->fine ??= TriangleTree::fine($this->positions, $this->triangles);
    }

    /** The number of the part that a triangle belongs to. */
    public function partOf(int $triangle): int
    {
        $low = 0;
        $high = count($this->parts) - 1;
        while ($low < $high) {
            $middle = intdiv($low + $high + 1, 2);
            if ($this->parts[$middle] <= $triangle) {
                $low = $middle;
            } else {
                $high = $middle - 1;
            }
        }

        return $low;
    }

    /**
     * @return list<int> for each position the first one at the same place
     */
    public function welded(): array
    {
        return $this->welded ??= $this->only === null ? Weld::of($this->positions) : Weld::ofMesh($this->only);
    }

    /**
     * @return list<int> the shell of each triangle: those that hang together over shared places bear one number
     */
    public function shells(): array
    {
        return $this->shells ??= $this->only === null ? Shells::joined($this->welded(), $this->triangles) : Shells::ofMesh($this->only);
    }

    /**
     * The middle of a triangle.
     *
     * @return array{float, float, float}
     */
    public function centre(int $triangle): array
    {
        $p = $this->positions;
        $a = 3 * $this->triangles[3 * $triangle];
        $b = 3 * $this->triangles[3 * $triangle + 1];
        $c = 3 * $this->triangles[3 * $triangle + 2];

        return [($p[$a] + $p[$b] + $p[$c]) / 3, ($p[$a + 1] + $p[$b + 1] + $p[$c + 1]) / 3, ($p[$a + 2] + $p[$b + 2] + $p[$c + 2]) / 3];
    }

    /**
     * @return array{float, float, float} unit; zero where it has no area
     */
    public function normal(int $triangle): array
    {
        return FaceNormal::unit($this->positions, $this->triangles, $triangle);
    }
}
