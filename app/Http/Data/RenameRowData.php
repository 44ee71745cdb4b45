<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A row of the rename plan.
 */
#[OA\Schema(schema: 'RenameRowData', description: 'A row of the rename plan.', required: ['fileId', 'file', 'from', 'to', 'reason'])]
final readonly class RenameRowData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $fileId,
        #[OA\Property(type: 'string')]
        public string $file,
        #[OA\Property(type: 'string')]
        public string $from,
        #[OA\Property(type: 'string')]
        public string $to,
        #[OA\Property(type: 'string')]
        public string $reason,
    ) {
    }
}
