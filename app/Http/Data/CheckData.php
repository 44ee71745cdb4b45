<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * How a check ended.
 */
#[OA\Schema(schema: 'CheckData', description: 'How a check ended.', required: ['code', 'title', 'station', 'state', 'reason', 'afterBake', 'limit'])]
final readonly class CheckData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string')]
        public string $station,
        #[OA\Property(type: 'string')]
        public string $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $reason,
        #[OA\Property(type: 'string')]
        public string $afterBake,
        #[OA\Property(description: 'the limit as people say it', type: 'string')]
        public string $limit,
    ) {
    }
}
