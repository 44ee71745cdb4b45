<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A measured value beside its limit.
 */
#[OA\Schema(schema: 'MeasureData', description: 'A measured value beside its limit.', required: ['value', 'limit', 'unit'])]
final readonly class MeasureData
{
    public function __construct(
        #[OA\Property(type: 'number')]
        public float $value,
        #[OA\Property(type: 'number')]
        public float $limit,
        #[OA\Property(type: 'string')]
        public string $unit,
    ) {
    }
}
