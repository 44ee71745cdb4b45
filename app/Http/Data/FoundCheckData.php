<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A check that was found, by its name or by what a bad bake looks like.
 */
#[OA\Schema(schema: 'FoundCheckData', description: 'A check that was found, by its name or by what a bad bake looks like.', required: ['code', 'title', 'station', 'afterBake', 'remedy'])]
final readonly class FoundCheckData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string')]
        public string $station,
        #[OA\Property(type: 'string')]
        public string $afterBake,
        #[OA\Property(type: 'string')]
        public string $remedy,
    ) {
    }
}
