<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A standard with its versions and the assets that are held to it.
 */
#[OA\Schema(schema: 'StandardPageData', description: 'A standard with its versions and the assets that are held to it.', required: ['id', 'name', 'version', 'changedBy', 'changedAt', 'rules', 'versions', 'assets', 'assetCount'])]
final readonly class StandardPageData
{
    /**
     * @param  list<StandardVersionData>  $versions
     * @param  list<StandardAssetData>  $assets
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'integer')]
        public int $version,
        #[OA\Property(type: 'string')]
        public string $changedBy,
        #[OA\Property(type: 'string')]
        public string $changedAt,
        #[OA\Property(type: 'string')]
        public string $rules,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/StandardVersionData'))]
        public array $versions,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/StandardAssetData'))]
        public array $assets,
        #[OA\Property(type: 'integer')]
        public int $assetCount,
    ) {
    }
}
