<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * All UV pages of the low poly.
 */
#[OA\Schema(schema: 'UvSheetData', description: 'All UV pages of the low poly.', required: ['mapSize', 'padding', 'reference', 'parts', 'pages', 'islands', 'sizes', 'secondSets', 'pose', 'limits'])]
final readonly class UvSheetData
{
    /**
     * @param  list<string>  $parts
     * @param  list<UvPageData>  $pages
     * @param  list<UvIslandData>  $islands
     * @param  list<UvSizeData>  $sizes
     * @param  list<string>  $secondSets
     * @param  list<UvPoseData>  $pose
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $mapSize,
        #[OA\Property(description: 'px that islands have to keep', type: 'number')]
        public float $padding,
        #[OA\Property(description: 'px to a unit that densities are held against', type: 'number')]
        public float $reference,
        #[OA\Property(description: 'low parts', type: 'array', items: new OA\Items(type: 'string'))]
        public array $parts,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/UvPageData'))]
        public array $pages,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/UvIslandData'))]
        public array $islands,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/UvSizeData'))]
        public array $sizes,
        #[OA\Property(description: 'low parts with a second set of UVs, which is left alone', type: 'array', items: new OA\Items(type: 'string'))]
        public array $secondSets,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/UvPoseData'))]
        public array $pose,
        #[OA\Property(ref: '#/components/schemas/UvLimitsData')]
        public UvLimitsData $limits,
    ) {
    }
}
