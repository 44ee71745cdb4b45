<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What another role of a file would do: bases that pair of all, before and after, and parts that then contradict it or have none.
 */
#[OA\Schema(schema: 'RolePreviewData', description: 'What another role of a file would do: bases that pair of all, before and after, and parts that then contradict it or have none.', required: ['pairedBefore', 'pairedAfter', 'basesBefore', 'basesAfter', 'mixed', 'unknown'])]
final readonly class RolePreviewData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $pairedBefore,
        #[OA\Property(type: 'integer')]
        public int $pairedAfter,
        #[OA\Property(type: 'integer')]
        public int $basesBefore,
        #[OA\Property(type: 'integer')]
        public int $basesAfter,
        #[OA\Property(type: 'integer')]
        public int $mixed,
        #[OA\Property(type: 'integer')]
        public int $unknown,
    ) {
    }
}
