<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;

/**
 * Hard edges and seams of a part that do not go together.
 */
final readonly class EdgeFaults
{
    /** A smooth seam that turns by more than this gets strong gradients. */
    public const SEAM_TURN = 60.0;

    /** Edges whose places are told. */
    private const WHERE = 200;

    /**
     * @param  bool  $isKnown  whether the file tells how the part is shaded
     * @param  int  $hard  hard edges
     * @param  int  $inside  of these, edges that are no UV seam
     * @param  float  $insideLength  theirs, in file units
     * @param  list<array{float, float, float}>  $insideAt  their middles
     * @param  int  $softSeams  smooth seams between faces that turn by over 60°
     * @param  list<array{float, float, float}>  $softAt
     */
    private function __construct(
        public bool $isKnown,
        public int $hard,
        public int $inside,
        public float $insideLength,
        public array $insideAt,
        public int $softSeams,
        public float $softTurn,
        public array $softAt,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        $edges = LowEdges::of($mesh);
        if ($edges->hard === null) {
            return new self(false, 0, 0, 0.0, [], 0, 0.0, []);
        }
        $hard = $inside = $soft = 0;
        $length = $most = 0.0;
        $insideAt = $softAt = [];
        // Without UVs every edge is a seam, and none can be moved to a hard edge.
        $hasUvs = $mesh->triUvs !== [];
        foreach ($edges->twins as $half => $twin) {
            // Each edge once; of one with more than two faces, once a further face.
            if ($twin < 0 || ($twin > $half && $edges->twins[$twin] === $half)) {
                continue;
            }
            if ($edges->hard[$half]) {
                $hard++;
                if ($hasUvs && ! $edges->seams[$half]) {
                    $inside++;
                    [$one, $span] = self::middle($mesh, $half);
                    $length += $span;
                    if (count($insideAt) < self::WHERE) {
                        $insideAt[] = $one;
                    }
                }
            } elseif ($hasUvs && $edges->seams[$half]) {
                $turn = $edges->turn($half);
                if ($turn !== null && $turn > self::SEAM_TURN) {
                    $soft++;
                    $most = max($most, $turn);
                    if (count($softAt) < self::WHERE) {
                        $softAt[] = self::middle($mesh, $half)[0];
                    }
                }
            }
        }

        return new self(true, $hard, $inside, $length, $insideAt, $soft, $most, $softAt);
    }

    /**
     * @return array{array{float, float, float}, float} middle and length of an edge
     */
    public static function middle(Mesh $mesh, int $half): array
    {
        $p = $mesh->positions;
        $a = 3 * $mesh->triangles[$half];
        $b = 3 * $mesh->triangles[LowEdges::after($half)];

        return [
            [($p[$a] + $p[$b]) / 2, ($p[$a + 1] + $p[$b + 1]) / 2, ($p[$a + 2] + $p[$b + 2]) / 2],
            sqrt(($p[$a] - $p[$b]) ** 2 + ($p[$a + 1] - $p[$b + 1]) ** 2 + ($p[$a + 2] - $p[$b + 2]) ** 2),
        ];
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['isKnown' => $this->isKnown, 'hard' => $this->hard, 'inside' => $this->inside, 'insideLength' => $this->insideLength, 'insideAt' => $this->insideAt, 'softSeams' => $this->softSeams, 'softTurn' => $this->softTurn, 'softAt' => $this->softAt];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{isKnown: bool, hard: int, inside: int, insideLength: float, insideAt: list<array{float, float, float}>, softSeams: int, softTurn: float, softAt: list<array{float, float, float}>} $stored */
        return new self($stored['isKnown'], $stored['hard'], $stored['inside'], $stored['insideLength'], $stored['insideAt'], $stored['softSeams'], $stored['softTurn'], $stored['softAt']);
    }
}
