<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Where a set goes when exploded.
 */
#[OA\Schema(schema: 'MoveData', description: 'Where a set goes when exploded.', required: ['set', 'vector', 'meets', 'bleedBefore', 'bleedAfter', 'occlusionBefore', 'occlusionAfter'])]
final readonly class MoveData
{
    /**
     * @param  list<float>  $vector
     * @param  list<string>  $meets
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $set,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $vector,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $meets,
        #[OA\Property(type: 'number')]
        public float $bleedBefore,
        #[OA\Property(type: 'number')]
        public float $bleedAfter,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $occlusionBefore,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $occlusionAfter,
    ) {
    }
}
