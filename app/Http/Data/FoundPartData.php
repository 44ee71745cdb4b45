<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A part that was found.
 */
#[OA\Schema(schema: 'FoundPartData', description: 'A part that was found.', required: ['assetId', 'asset', 'deliveryId', 'name', 'file'])]
final readonly class FoundPartData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $assetId,
        #[OA\Property(type: 'string')]
        public string $asset,
        #[OA\Property(type: 'integer')]
        public int $deliveryId,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $file,
    ) {
    }
}
