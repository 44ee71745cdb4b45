<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Share of a set's seen low area that meets another set first.
 */
#[OA\Schema(schema: 'BleedData', description: 'Share of a set\'s seen low area that meets another set first.', required: ['other', 'share', 'unseenShare'])]
final readonly class BleedData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $other,
        #[OA\Property(type: 'number')]
        public float $share,
        #[OA\Property(type: 'number')]
        public float $unseenShare,
    ) {
    }
}
