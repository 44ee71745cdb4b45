<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Share of the directions over a set in which another set stands.
 */
#[OA\Schema(schema: 'ShadeData', description: 'Share of the directions over a set in which another set stands.', required: ['other', 'share'])]
final readonly class ShadeData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $other,
        #[OA\Property(type: 'number')]
        public float $share,
    ) {
    }
}
