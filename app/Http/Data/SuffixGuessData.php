<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Suffixes found in the files where those of the standard fit nothing.
 */
#[OA\Schema(schema: 'SuffixGuessData', description: 'Suffixes found in the files where those of the standard fit nothing.', required: ['low', 'high', 'id', 'pairs', 'bases', 'ofFiles'])]
final readonly class SuffixGuessData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $low,
        #[OA\Property(type: 'string')]
        public string $high,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $id,
        #[OA\Property(type: 'integer')]
        public int $pairs,
        #[OA\Property(type: 'integer')]
        public int $bases,
        #[OA\Property(type: 'boolean')]
        public bool $ofFiles,
    ) {
    }
}
