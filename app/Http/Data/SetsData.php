<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Sets shows beside the sets.
 */
#[OA\Schema(schema: 'SetsData', description: 'What Sets shows beside the sets.', required: ['board', 'fewest'])]
final readonly class SetsData
{
    public function __construct(
        #[OA\Property(ref: '#/components/schemas/BoardData')]
        public BoardData $board,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/FewestData')])]
        public ?FewestData $fewest,
    ) {
    }
}
