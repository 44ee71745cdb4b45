<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A box in file units.
 */
#[OA\Schema(schema: 'BoundsData', description: 'A box in file units.', required: ['min', 'max'])]
final readonly class BoundsData
{
    /**
     * @param  list<float>  $min
     * @param  list<float>  $max
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $min,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $max,
    ) {
    }
}
