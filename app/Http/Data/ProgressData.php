<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * How far long work is.
 */
#[OA\Schema(schema: 'ProgressData', description: 'How far long work is.', required: ['files', 'filesDone', 'sets', 'setsDone', 'doing', 'waitsFor'])]
final readonly class ProgressData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $files,
        #[OA\Property(type: 'integer')]
        public int $filesDone,
        #[OA\Property(type: 'integer')]
        public int $sets,
        #[OA\Property(type: 'integer')]
        public int $setsDone,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $doing,
        #[OA\Property(description: 'what the verdict still waits for: "the rays of 3 of 20 sets"', type: 'string', nullable: true)]
        public ?string $waitsFor,
    ) {
    }
}
