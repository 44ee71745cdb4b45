<?php

declare(strict_types=1);

namespace Anvil\Spatial;

use Anvil\Geometry\Bounds;

/**
 * A bounding-volume tree over triangles, up to four a leaf, of large meshes eight: built in one of two ways (`RadixBuild`, `SurfaceAreaBuild`).
 *
 * Nodes lie in depth-first order: the first child of node i is i+1, `skip[i]` is the node after all below i. A walk needs no stack.
 *
 * Triangles whose boxes are far larger than most (slivers across the shape, a slab under rivets) are held in pieces, a box each, so that
 * they do not blow up the boxes of all that lies around them (`SplitTriangles`). Such a triangle stands in `order` more than once, and
 * `hasPieces` says so.
 */
final class TriangleTree
{
    /**
     * @param  list<float>  $positions  xyz, n×3
     * @param  list<int>  $triangles  three position numbers a triangle
     * @param  list<int>  $order  triangle numbers, leaf by leaf
     * @param  list<int>  $skip
     * @param  list<int>  $second  second child, 0 in leaves
     * @param  list<int>  $first  first place in `order`
     * @param  list<int>  $size  triangles below
     * @param  list<float>  $minX
     * @param  list<float>  $minY
     * @param  list<float>  $minZ
     * @param  list<float>  $maxX
     * @param  list<float>  $maxY
     * @param  list<float>  $maxZ
     */
    private function __construct(
        public readonly array $positions,
        public readonly array $triangles,
        public readonly array $order,
        public readonly array $skip,
        public readonly array $second,
        public readonly array $first,
        public readonly array $size,
        public readonly array $minX,
        public readonly array $minY,
        public readonly array $minZ,
        public readonly array $maxX,
        public readonly array $maxY,
        public readonly array $maxZ,
        public readonly bool $hasPieces = false,
    ) {
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles  under 16.7 million
     */
    public static function of(array $positions, array $triangles): self
    {
        return new self(...RadixBuild::of($positions, $triangles));
    }

    /**
     * The same over few triangles that many long lines are held against: it takes longer to build and is crossed faster.
     *
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     */
    public static function fine(array $positions, array $triangles): self
    {
        return new self(...SurfaceAreaBuild::of($positions, $triangles));
    }

    /**
     * @param  list<int>  $second  second child of each node, 0 in leaves
     * @return list<int> the node after all below each
     */
    public static function skips(array $second): array
    {
        $nodes = count($second);
        $skip = $nodes === 0 ? [] : array_fill(0, $nodes, $nodes);
        foreach ($second as $i => $child) {
            if ($child > 0) {
                $skip[$i + 1] = $child;
                $skip[$child] = $skip[$i];
            }
        }

        return array_values($skip);
    }

    public function nodeCount(): int
    {
        return count($this->skip);
    }

    public function bounds(): ?Bounds
    {
        return $this->skip === [] ? null : Bounds::of([$this->minX[0], $this->minY[0], $this->minZ[0]], [$this->maxX[0], $this->maxY[0], $this->maxZ[0]]);
    }
}
