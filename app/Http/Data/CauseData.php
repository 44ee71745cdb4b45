<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Findings of one code, one file and one remedy.
 */
#[OA\Schema(schema: 'CauseData', description: 'Findings of one code, one file and one remedy.', required: ['code', 'station', 'severity', 'message', 'remedy', 'subjects', 'waived'])]
final readonly class CauseData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $station,
        #[OA\Property(type: 'string')]
        public string $severity,
        #[OA\Property(type: 'string')]
        public string $message,
        #[OA\Property(type: 'string')]
        public string $remedy,
        #[OA\Property(description: 'parts or sets that it is on', type: 'integer')]
        public int $subjects,
        #[OA\Property(type: 'boolean')]
        public bool $waived,
    ) {
    }
}
