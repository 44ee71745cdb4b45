<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Rays of a set that go astray, two points each; up to 160 of a kind, spread over all.
 */
#[OA\Schema(schema: 'RaysData', description: 'Rays of a set that go astray, two points each; up to 160 of a kind, spread over all.', required: ['miss', 'wrong', 'short'])]
final readonly class RaysData
{
    /**
     * @param  list<float>  $miss
     * @param  list<float>  $wrong
     * @param  list<float>  $short
     */
    public function __construct(
        #[OA\Property(description: 'meet nothing, from where they begin to where they end', type: 'array', items: new OA\Items(type: 'number'))]
        public array $miss,
        #[OA\Property(description: 'from the low surface to what they meet wrongly', type: 'array', items: new OA\Items(type: 'number'))]
        public array $wrong,
        #[OA\Property(description: 'from the low surface to what lies beyond the reach', type: 'array', items: new OA\Items(type: 'number'))]
        public array $short,
    ) {
    }
}
