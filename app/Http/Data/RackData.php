<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A page of the rack.
 */
#[OA\Schema(schema: 'RackData', description: 'A page of the rack.', required: ['assets', 'fitting', 'pages', 'total', 'ready', 'blocked', 'computing', 'standard', 'user', 'largestUpload'])]
final readonly class RackData
{
    /**
     * @param  list<AssetRowData>  $assets
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/AssetRowData'))]
        public array $assets,
        #[OA\Property(type: 'integer', description: 'assets that fit what is looked for')]
        public int $fitting,
        #[OA\Property(type: 'integer')]
        public int $pages,
        #[OA\Property(type: 'integer', description: 'assets in all')]
        public int $total,
        #[OA\Property(type: 'integer')]
        public int $ready,
        #[OA\Property(type: 'integer')]
        public int $blocked,
        #[OA\Property(type: 'integer', description: 'assets that are being checked')]
        public int $computing,
        #[OA\Property(type: 'string')]
        public string $standard,
        #[OA\Property(type: 'string')]
        public string $user,
        #[OA\Property(type: 'integer')]
        public int $largestUpload,
    ) {
    }
}
