<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A UV page.
 */
#[OA\Schema(schema: 'UvPageData', description: 'A UV page.', required: ['name', 'islands', 'use', 'overlap', 'regions', 'gaps'])]
final readonly class UvPageData
{
    /**
     * @param  list<list<float>>  $regions
     * @param  list<UvGapData>  $gaps
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'integer')]
        public int $islands,
        #[OA\Property(description: 'share that is covered', type: 'number')]
        public float $use,
        #[OA\Property(description: 'share that is covered more than once', type: 'number')]
        public float $overlap,
        #[OA\Property(description: 'outlines of what is covered more than once: u and v in turn', type: 'array', items: new OA\Items(type: 'array', items: new OA\Items(type: 'number')))]
        public array $regions,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/UvGapData'))]
        public array $gaps,
    ) {
    }
}
