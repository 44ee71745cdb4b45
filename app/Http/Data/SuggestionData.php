<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A new name that would mend a tie.
 */
#[OA\Schema(schema: 'SuggestionData', description: 'A new name that would mend a tie.', required: ['file', 'fileId', 'part', 'rename', 'reason', 'confidence'])]
final readonly class SuggestionData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $file,
        #[OA\Property(type: 'integer')]
        public int $fileId,
        #[OA\Property(type: 'string')]
        public string $part,
        #[OA\Property(type: 'string')]
        public string $rename,
        #[OA\Property(type: 'string')]
        public string $reason,
        #[OA\Property(type: 'number')]
        public float $confidence,
    ) {
    }
}
