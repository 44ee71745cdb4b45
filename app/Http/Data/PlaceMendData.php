<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The scale and turn that would bring the high poly onto the low one.
 */
#[OA\Schema(schema: 'PlaceMendData', description: 'The scale and turn that would bring the high poly onto the low one.', required: ['factor', 'turn', 'words', 'matrix', 'stuck'])]
final readonly class PlaceMendData
{
    /**
     * @param  list<float>  $matrix
     */
    public function __construct(
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $factor,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $turn,
        #[OA\Property(type: 'string')]
        public string $words,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $matrix,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $stuck,
    ) {
    }
}
