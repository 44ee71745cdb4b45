<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A station of a delivery: `computing`, `clear`, `found`, `not-run` or `waiting`.
 */
#[OA\Schema(schema: 'StationData', description: 'A station of a delivery: `computing`, `clear`, `found`, `not-run` or `waiting`.', required: ['key', 'title', 'state', 'blockers', 'cautions', 'notes', 'subjects', 'reason'])]
final readonly class StationData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $key,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string')]
        public string $state,
        #[OA\Property(description: 'causes that block', type: 'integer')]
        public int $blockers,
        #[OA\Property(type: 'integer')]
        public int $cautions,
        #[OA\Property(type: 'integer')]
        public int $notes,
        #[OA\Property(description: 'parts and sets that its causes are on', type: 'integer')]
        public int $subjects,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $reason,
    ) {
    }
}
