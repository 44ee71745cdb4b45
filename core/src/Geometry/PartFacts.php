<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * What a file says of a part beside its triangles.
 */
final readonly class PartFacts
{
    /**
     * @param  Matrix|null  $placement  the node's matrix in the world of the file; null where the format has no nodes
     * @param  string|null  $meshName  the mesh's own name where it differs from the node's
     * @param  int  $looseVertices  vertices that no face uses
     * @param  int  $badNormals  normals in use that are NaN, infinite or zero
     * @param  int  $longNormals  normals in use off unit length by over 1e-3, in a format that requires unit ones
     * @param  float  $normalLength  the length of the one that is off most
     * @param  int  $uvSets  how many sets of UVs the file gives it
     * @param  bool  $cutOut  a material of it is masked or blended, as those of cards are
     * @param  array<string, string>  $pictures  material → the picture that its color comes from
     * @param  bool  $namedByFile  the format or the file gives it no name of its own
     */
    public function __construct(
        public ?Matrix $placement = null,
        public ?string $meshName = null,
        public int $looseVertices = 0,
        public int $badNormals = 0,
        public int $longNormals = 0,
        public float $normalLength = 1.0,
        public int $uvSets = 0,
        public bool $namedByFile = false,
        public bool $cutOut = false,
        public array $pictures = [],
    ) {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return [
            'placement' => $this->placement?->m, 'meshName' => $this->meshName, 'looseVertices' => $this->looseVertices, 'badNormals' => $this->badNormals,
            'longNormals' => $this->longNormals, 'normalLength' => $this->normalLength, 'uvSets' => $this->uvSets, 'namedByFile' => $this->namedByFile, 'cutOut' => $this->cutOut,
            ...($this->pictures === [] ? [] : ['pictures' => $this->pictures]),
        ];
    }

    /**
     * @param  array<string, mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        $matrix = $stored['placement'] ?? null;
        $int = static fn (string $key): int => is_int($stored[$key] ?? null) ? $stored[$key] : 0;
        $length = $stored['normalLength'] ?? 1.0;
        $pictures = [];
        foreach (is_array($stored['pictures'] ?? null) ? $stored['pictures'] : [] as $material => $picture) {
            $pictures[(string) $material] = is_string($picture) ? $picture : '';
        }

        return new self(
            is_array($matrix) && count($matrix) === 16 ? Matrix::of(array_map(static fn (mixed $v): float => is_int($v) || is_float($v) ? (float) $v : 0.0, array_values($matrix))) : null,
            is_string($stored['meshName'] ?? null) ? $stored['meshName'] : null,
            $int('looseVertices'), $int('badNormals'), $int('longNormals'), is_int($length) || is_float($length) ? (float) $length : 1.0, $int('uvSets'), (bool) ($stored['namedByFile'] ?? false), (bool) ($stored['cutOut'] ?? false), $pictures,
        );
    }
}
