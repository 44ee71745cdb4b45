<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A token, said once.
 */
#[OA\Schema(schema: 'NewTokenData', description: 'A token, said once.', required: ['token'])]
final readonly class NewTokenData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $token,
    ) {
    }
}
