<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Two UV islands nearer to each other than the padding.
 */
#[OA\Schema(schema: 'UvGapData', description: 'Two UV islands nearer to each other than the padding.', required: ['one', 'two', 'px', 'ends'])]
final readonly class UvGapData
{
    /**
     * @param  list<float>  $ends
     */
    public function __construct(
        #[OA\Property(description: 'an island, by its place in the list', type: 'integer')]
        public int $one,
        #[OA\Property(type: 'integer')]
        public int $two,
        #[OA\Property(type: 'number')]
        public float $px,
        #[OA\Property(description: 'u and v of both ends', type: 'array', items: new OA\Items(type: 'number'))]
        public array $ends,
    ) {
    }
}
