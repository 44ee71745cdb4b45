<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * An asset that was found.
 */
#[OA\Schema(schema: 'FoundAssetData', description: 'An asset that was found.', required: ['assetId', 'name', 'deliveryId'])]
final readonly class FoundAssetData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $assetId,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'integer')]
        public int $deliveryId,
    ) {
    }
}
