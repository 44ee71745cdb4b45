<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Where a new delivery is.
 */
#[OA\Schema(schema: 'DeliveredData', description: 'Where a new delivery is.', required: ['assetId', 'deliveryId', 'number', 'known'])]
final readonly class DeliveredData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $assetId,
        #[OA\Property(type: 'integer')]
        public int $deliveryId,
        #[OA\Property(type: 'integer')]
        public int $number,
        #[OA\Property(type: 'boolean', description: 'a delivery that was there: these are its files')]
        public bool $known = false,
    ) {
    }
}
