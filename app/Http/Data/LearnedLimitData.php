<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A limit that good assets ask for.
 */
#[OA\Schema(schema: 'LearnedLimitData', description: 'A limit that good assets ask for.', required: ['code', 'title', 'of', 'was', 'limit', 'value', 'unit', 'asset', 'others'])]
final readonly class LearnedLimitData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string', enum: ['limit', 'caution'])]
        public string $of,
        #[OA\Property(type: 'number')]
        public float $was,
        #[OA\Property(type: 'number')]
        public float $limit,
        #[OA\Property(type: 'number')]
        public float $value,
        #[OA\Property(type: 'string')]
        public string $unit,
        #[OA\Property(type: 'string')]
        public string $asset,
        #[OA\Property(type: 'integer')]
        public int $others,
    ) {
    }
}
