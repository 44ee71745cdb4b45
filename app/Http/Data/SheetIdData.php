<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * One ID that is to be given.
 */
#[OA\Schema(schema: 'SheetIdData', description: 'One ID that is to be given.', required: ['name', 'hex', 'pinned', 'pieces', 'parts', 'nearest', 'nearestName', 'touches'])]
final readonly class SheetIdData
{
    /**
     * @param  list<string>  $pieces  keys
     * @param  list<string>  $parts  names of the high parts that wear it
     * @param  float|null  $nearest  ΔE00 to the nearest other
     * @param  list<string>  $touches  names of IDs
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $hex,
        #[OA\Property(type: 'boolean')]
        public bool $pinned,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $pieces,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $parts,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $nearest,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $nearestName,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $touches,
    ) {
    }
}
