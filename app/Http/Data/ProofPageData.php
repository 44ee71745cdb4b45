<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A page of the low poly and what is left to paint on it.
 */
#[OA\Schema(schema: 'ProofPageData', description: 'A page of the low poly and what is left to paint on it.', required: ['name', 'file', 'inside', 'texels', 'share', 'sets', 'areas'])]
final readonly class ProofPageData
{
    /**
     * @param  list<string>  $sets
     * @param  list<ProofAreaData>  $areas
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $file,
        #[OA\Property(description: 'texels inside islands, at the map size', type: 'integer')]
        public int $inside,
        #[OA\Property(type: 'integer')]
        public int $texels,
        #[OA\Property(type: 'number')]
        public float $share,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $sets,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/ProofAreaData'))]
        public array $areas,
    ) {
    }
}
