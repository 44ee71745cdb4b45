<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The fewest groups of sets that keep those in conflict apart; proved where it is exact.
 */
#[OA\Schema(schema: 'FewestData', description: 'The fewest groups of sets that keep those in conflict apart; proved where it is exact.', required: ['groups', 'exact'])]
final readonly class FewestData
{
    /**
     * @param  list<list<string>>  $groups
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(type: 'array', items: new OA\Items(type: 'string')))]
        public array $groups,
        #[OA\Property(type: 'boolean')]
        public bool $exact,
    ) {
    }
}
