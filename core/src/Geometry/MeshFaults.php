<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * What `MeshHealth` found, as it is kept: counts and the first places, without a word on every triangle.
 */
final readonly class MeshFaults
{
    /**
     * @param  int  $degenerate  triangles of no area or with a repeated corner
     * @param  list<array{float, float, float}>  $degenerateWhere
     * @param  int  $doubled  triangles that lie on an earlier one, corner on corner
     * @param  list<array{float, float, float}>  $doubledWhere
     * @param  int  $manyFaced  edges with over two faces
     * @param  list<array{float, float, float}>  $manyFacedWhere
     * @param  int  $fans  vertices where fans of faces meet in the vertex only
     * @param  list<array{float, float, float}>  $fansWhere
     * @param  int  $againstNeighbours  triangles wound against their neighbours: the smaller side of each shell
     * @param  int  $insideOut  triangles of closed shells of negative volume that lie in no other shell
     * @param  list<array{float, float, float}>  $flippedWhere
     */
    public function __construct(
        public int $degenerate,
        public array $degenerateWhere,
        public int $doubled,
        public array $doubledWhere,
        public int $manyFaced,
        public array $manyFacedWhere,
        public int $fans,
        public array $fansWhere,
        public int $againstNeighbours,
        public int $insideOut,
        public array $flippedWhere,
    ) {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return [
            'degenerate' => $this->degenerate, 'degenerateWhere' => $this->degenerateWhere, 'doubled' => $this->doubled, 'doubledWhere' => $this->doubledWhere,
            'manyFaced' => $this->manyFaced, 'manyFacedWhere' => $this->manyFacedWhere, 'fans' => $this->fans, 'fansWhere' => $this->fansWhere,
            'againstNeighbours' => $this->againstNeighbours, 'insideOut' => $this->insideOut, 'flippedWhere' => $this->flippedWhere,
        ];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{degenerate: int, degenerateWhere: list<array{float, float, float}>, doubled: int, doubledWhere: list<array{float, float, float}>, manyFaced: int, manyFacedWhere: list<array{float, float, float}>, fans: int, fansWhere: list<array{float, float, float}>, againstNeighbours: int, insideOut: int, flippedWhere: list<array{float, float, float}>} $stored */
        return new self(
            $stored['degenerate'], $stored['degenerateWhere'], $stored['doubled'], $stored['doubledWhere'], $stored['manyFaced'], $stored['manyFacedWhere'],
            $stored['fans'], $stored['fansWhere'], $stored['againstNeighbours'], $stored['insideOut'], $stored['flippedWhere'],
        );
    }
}
