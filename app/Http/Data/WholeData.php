<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Whether all parts baked as one set would come out clean, and at which reach.
 */
#[OA\Schema(schema: 'WholeData', description: 'Whether all parts baked as one set would come out clean, and at which reach.', required: ['clean', 'out', 'in'])]
final readonly class WholeData
{
    public function __construct(
        #[OA\Property(type: 'boolean')]
        public bool $clean,
        #[OA\Property(type: 'number')]
        public float $out,
        #[OA\Property(type: 'number')]
        public float $in,
    ) {
    }
}
