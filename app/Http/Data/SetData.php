<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A bake set with what its rays met.
 */
#[OA\Schema(schema: 'SetData', description: 'A bake set with what its rays met.', required: ['name', 'state', 'error', 'low', 'high', 'diagonal', 'samples', 'needed', 'firstWrong', 'recommended', 'reach', 'inUse', 'missShare', 'bleeds', 'overhang', 'highest', 'missPoints', 'wrongPoints'])]
final readonly class SetData
{
    /**
     * @param  list<string>  $low
     * @param  list<string>  $high
     * @param  list<BleedData>  $bleeds
     * @param  list<float>  $highest
     * @param  list<float>  $missPoints
     * @param  list<float>  $wrongPoints
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $low,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $high,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $diagonal,
        #[OA\Property(type: 'integer')]
        public int $samples,
        #[OA\Property(ref: '#/components/schemas/ReachData')]
        public ReachData $needed,
        #[OA\Property(ref: '#/components/schemas/ReachData')]
        public ReachData $firstWrong,
        #[OA\Property(ref: '#/components/schemas/ReachData')]
        public ReachData $recommended,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/ReachData')])]
        public ?ReachData $reach,
        #[OA\Property(ref: '#/components/schemas/ReachData')]
        public ReachData $inUse,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $missShare,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/BleedData'))]
        public array $bleeds,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $overhang,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $highest,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $missPoints,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $wrongPoints,
    ) {
    }
}
