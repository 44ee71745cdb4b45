<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A piece of the high poly that can wear an ID of its own.
 */
#[OA\Schema(schema: 'IdPieceData', description: 'A piece of the high poly that can wear an ID of its own.', required: ['key', 'name', 'parts', 'triangles'])]
final readonly class IdPieceData
{
    /**
     * @param  list<string>  $parts  names of the high parts that it is of
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $key,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $parts,
        #[OA\Property(type: 'integer')]
        public int $triangles,
    ) {
    }
}
