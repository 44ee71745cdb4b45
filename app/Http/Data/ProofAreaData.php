<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Texels to paint that hang together.
 */
#[OA\Schema(schema: 'ProofAreaData', description: 'Texels to paint that hang together.', required: ['kind', 'set', 'texels', 'x', 'y', 'where'])]
final readonly class ProofAreaData
{
    /**
     * @param  list<float>  $where
     */
    public function __construct(
        #[OA\Property(type: 'string', enum: ['miss', 'wrong'])]
        public string $kind,
        #[OA\Property(type: 'string')]
        public string $set,
        #[OA\Property(type: 'integer')]
        public int $texels,
        #[OA\Property(description: 'px at the map size, from the left', type: 'integer')]
        public int $x,
        #[OA\Property(description: 'px at the map size, from the top', type: 'integer')]
        public int $y,
        #[OA\Property(description: 'a place on the low poly', type: 'array', items: new OA\Items(type: 'number'))]
        public array $where,
    ) {
    }
}
