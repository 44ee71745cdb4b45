<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A UV triangle that the low that ships has and the one that is baked has not, or the reverse.
 */
#[OA\Schema(schema: 'UvPoseData', description: 'A UV triangle that the low that ships has and the one that is baked has not, or the reverse.', required: ['page', 'ships', 'outline'])]
final readonly class UvPoseData
{
    /**
     * @param  list<float>  $outline
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $page,
        #[OA\Property(type: 'boolean')]
        public bool $ships,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $outline,
    ) {
    }
}
