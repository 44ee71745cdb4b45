<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A section of the manual that the search found.
 */
#[OA\Schema(schema: 'FoundGuideData', description: 'A section of the manual that the search found.', required: ['page', 'title', 'anchor', 'told'])]
final readonly class FoundGuideData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $page,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string')]
        public string $anchor,
        #[OA\Property(type: 'string')]
        public string $told,
    ) {
    }
}
