<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * An asset with its deliveries.
 */
#[OA\Schema(schema: 'AssetData', description: 'An asset with its deliveries.', required: ['id', 'name', 'deliveries', 'changedBy'])]
final readonly class AssetData
{
    /**
     * @param  list<DeliveryRowData>  $deliveries
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/DeliveryRowData'))]
        public array $deliveries,
        #[OA\Property(type: 'string')]
        public string $changedBy,
    ) {
    }
}
