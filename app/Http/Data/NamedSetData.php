<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A set that the choices name, by patterns of bases.
 */
#[OA\Schema(schema: 'NamedSetData', description: 'A set that the choices name, by patterns of bases.', required: ['name', 'patterns'])]
final readonly class NamedSetData
{
    /**
     * @param  list<string>  $patterns
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $patterns,
    ) {
    }
}
