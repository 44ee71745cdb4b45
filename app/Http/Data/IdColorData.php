<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * One ID colour.
 */
#[OA\Schema(schema: 'IdColorData', description: 'One ID colour.', required: ['hex', 'name', 'names', 'parts', 'nearest', 'nearestName'])]
final readonly class IdColorData
{
    /**
     * @param  list<string>  $names
     * @param  list<string>  $parts
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $hex,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $names,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $parts,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $nearest,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $nearestName,
    ) {
    }
}
