<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Something that can go along with a package.
 */
#[OA\Schema(schema: 'AlongData', description: 'Something that can go along with a package.', required: ['kind', 'words', 'lacks'])]
final readonly class AlongData
{
    public function __construct(
        #[OA\Property(type: 'string', enum: ['exploded', 'cage', 'ids', 'trial', 'retouch'])]
        public string $kind,
        #[OA\Property(type: 'string')]
        public string $words,
        #[OA\Property(type: 'string', nullable: true, description: 'why it cannot')]
        public ?string $lacks,
    ) {
    }
}
