<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What of the layout breaks at a map size.
 */
#[OA\Schema(schema: 'UvSizeData', description: 'What of the layout breaks at a map size.', required: ['size', 'breaks', 'gap'])]
final readonly class UvSizeData
{
    /**
     * @param  list<string>  $breaks
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $size,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $breaks,
        #[OA\Property(description: 'the least gap in px; null: over a sixteenth of the page', type: 'number', nullable: true)]
        public ?float $gap,
    ) {
    }
}
