<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The exploded layout.
 */
#[OA\Schema(schema: 'ExplodeData', description: 'The exploded layout.', required: ['clearance', 'moves', 'proved', 'bleedBefore', 'bleedAfter', 'samples', 'all', 'byHand'])]
final readonly class ExplodeData
{
    /**
     * @param  list<MoveData>  $moves
     */
    public function __construct(
        #[OA\Property(type: 'number')]
        public float $clearance,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/MoveData'))]
        public array $moves,
        #[OA\Property(type: 'boolean')]
        public bool $proved,
        #[OA\Property(type: 'number')]
        public float $bleedBefore,
        #[OA\Property(type: 'number')]
        public float $bleedAfter,
        #[OA\Property(type: 'integer')]
        public int $samples,
        #[OA\Property(description: 'every set is moved apart, in the way or not', type: 'boolean')]
        public bool $all,
        #[OA\Property(description: 'the clearance was set for this asset', type: 'boolean')]
        public bool $byHand,
    ) {
    }
}
