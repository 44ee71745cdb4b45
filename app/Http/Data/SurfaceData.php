<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Surface shows.
 */
#[OA\Schema(schema: 'SurfaceData', description: 'What Surface shows.', required: ['uv', 'mirrored'])]
final readonly class SurfaceData
{
    /**
     * @param  list<string>  $mirrored
     */
    public function __construct(
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/UvSheetData')])]
        public ?UvSheetData $uv,
        #[OA\Property(description: 'patterns of low parts that are declared to lie on others', type: 'array', items: new OA\Items(type: 'string'))]
        public array $mirrored,
    ) {
    }
}
