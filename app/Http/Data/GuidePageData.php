<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A page of the manual.
 */
#[OA\Schema(schema: 'GuidePageData', description: 'A page of the manual.', required: ['page', 'title', 'html', 'isCheck'])]
final readonly class GuidePageData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $page,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string')]
        public string $html,
        #[OA\Property(type: 'boolean')]
        public bool $isCheck,
    ) {
    }
}
