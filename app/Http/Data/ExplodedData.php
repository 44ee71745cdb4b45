<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * That a delivery is an exploded layout, and of what.
 */
#[OA\Schema(schema: 'ExplodedData', description: 'That a delivery is an exploded layout, and of what.', required: ['of', 'moves'])]
final readonly class ExplodedData
{
    /**
     * @param  list<PlacedMoveData>  $moves  of the sets that stand elsewhere
     */
    public function __construct(
        #[OA\Property(description: 'number of the delivery that it was recognised from; null: its own explode.json says so', type: 'integer', nullable: true)]
        public ?int $of,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/PlacedMoveData'))]
        public array $moves,
    ) {
    }
}
