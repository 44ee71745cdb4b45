<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The rack: all assets.
 */
#[OA\Schema(schema: 'RackData', description: 'The rack: all assets.', required: ['assets', 'standard', 'user', 'largestUpload'])]
final readonly class RackData
{
    /**
     * @param  list<AssetRowData>  $assets
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/AssetRowData'))]
        public array $assets,
        #[OA\Property(type: 'string')]
        public string $standard,
        #[OA\Property(type: 'string')]
        public string $user,
        #[OA\Property(type: 'integer')]
        public int $largestUpload,
    ) {
    }
}
