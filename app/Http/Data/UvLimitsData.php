<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The limits that the pages are held against, as the standard has them.
 */
#[OA\Schema(schema: 'UvLimitsData', description: 'The limits that the pages are held against, as the standard has them.', required: ['overlap', 'density', 'stretch'])]
final readonly class UvLimitsData
{
    public function __construct(
        #[OA\Property(description: 'share of the page', type: 'number')]
        public float $overlap,
        #[OA\Property(description: 'share by which an island may be off', type: 'number')]
        public float $density,
        #[OA\Property(type: 'number')]
        public float $stretch,
    ) {
    }
}
