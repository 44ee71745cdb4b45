<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What the search found.
 */
#[OA\Schema(schema: 'FoundData', description: 'What the search found.', required: ['assets', 'parts', 'checks', 'guide'])]
final readonly class FoundData
{
    /**
     * @param  list<FoundAssetData>  $assets
     * @param  list<FoundPartData>  $parts
     * @param  list<FoundCheckData>  $checks
     * @param  list<FoundGuideData>  $guide
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FoundAssetData'))]
        public array $assets,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FoundPartData'))]
        public array $parts,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FoundCheckData'))]
        public array $checks,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FoundGuideData'))]
        public array $guide,
    ) {
    }
}
