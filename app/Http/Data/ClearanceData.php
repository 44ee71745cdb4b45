<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Clearance shows beside the sets.
 */
#[OA\Schema(schema: 'ClearanceData', description: 'What Clearance shows beside the sets.', required: ['common'])]
final readonly class ClearanceData
{
    public function __construct(
        #[OA\Property(ref: '#/components/schemas/CommonData')]
        public CommonData $common,
    ) {
    }
}
