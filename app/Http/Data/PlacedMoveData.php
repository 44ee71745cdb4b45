<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * How far a set of an exploded layout was moved.
 */
#[OA\Schema(schema: 'PlacedMoveData', description: 'How far a set of an exploded layout was moved.', required: ['set', 'vector'])]
final readonly class PlacedMoveData
{
    /**
     * @param  array{float, float, float}  $vector  in the unit and axes of the low poly
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $set,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $vector,
    ) {
    }
}
