<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A token of a program.
 */
#[OA\Schema(schema: 'TokenData', description: 'A token of a program.', required: ['id', 'name', 'scopes', 'madeAt', 'usedAt', 'until'])]
final readonly class TokenData
{
    /**
     * @param  list<string>  $scopes
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $scopes,
        #[OA\Property(type: 'string')]
        public string $madeAt,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $usedAt,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $until,
    ) {
    }
}
