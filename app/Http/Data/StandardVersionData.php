<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A version of a standard.
 */
#[OA\Schema(schema: 'StandardVersionData', description: 'A version of a standard.', required: ['version', 'name', 'changedBy', 'changedAt', 'reason', 'rules'])]
final readonly class StandardVersionData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $version,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $changedBy,
        #[OA\Property(type: 'string')]
        public string $changedAt,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $reason,
        #[OA\Property(type: 'string')]
        public string $rules,
    ) {
    }
}
