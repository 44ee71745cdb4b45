<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * An asset that other rules would judge otherwise.
 */
#[OA\Schema(schema: 'EffectRowData', description: 'An asset that other rules would judge otherwise.', required: ['assetId', 'deliveryId', 'name', 'wasReady', 'isReady', 'codes'])]
final readonly class EffectRowData
{
    /**
     * @param  list<EffectCodeData>  $codes
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $assetId,
        #[OA\Property(type: 'integer')]
        public int $deliveryId,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'boolean')]
        public bool $wasReady,
        #[OA\Property(type: 'boolean')]
        public bool $isReady,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/EffectCodeData'))]
        public array $codes,
    ) {
    }
}
