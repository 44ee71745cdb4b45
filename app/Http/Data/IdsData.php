<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The ID colours of an asset.
 */
#[OA\Schema(schema: 'IdsData', description: 'The ID colours of an asset.', required: ['source', 'colors', 'missing', 'least', 'canGive'])]
final readonly class IdsData
{
    /**
     * @param  list<IdColorData>  $colors
     * @param  list<string>  $missing
     * @param  bool  $canGive  whether there is a high poly to give IDs to
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $source,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/IdColorData'))]
        public array $colors,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $missing,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $least,
        #[OA\Property(type: 'boolean')]
        public bool $canGive,
    ) {
    }
}
