<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What a check would find more, or less.
 */
#[OA\Schema(schema: 'EffectCodeData', description: 'What a check would find more, or less.', required: ['code', 'blockers', 'cautions', 'notes'])]
final readonly class EffectCodeData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'integer')]
        public int $blockers,
        #[OA\Property(type: 'integer')]
        public int $cautions,
        #[OA\Property(type: 'integer')]
        public int $notes,
    ) {
    }
}
