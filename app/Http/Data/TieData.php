<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Low and high parts that belong together, or one side alone.
 */
#[OA\Schema(schema: 'TieData', description: 'Low and high parts that belong together, or one side alone.', required: ['base', 'kind', 'troubles', 'low', 'high', 'cost', 'candidate', 'candidateCost', 'gap'])]
final readonly class TieData
{
    /**
     * @param  list<string>  $troubles
     * @param  list<string>  $low
     * @param  list<string>  $high
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $base,
        #[OA\Property(type: 'string')]
        public string $kind,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $troubles,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $low,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $high,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $cost,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $candidate,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $candidateCost,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $gap,
    ) {
    }
}
