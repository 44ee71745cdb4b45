<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Limits that assets which are known to be good all pass.
 */
#[OA\Schema(schema: 'LearnedData', description: 'Limits that assets which are known to be good all pass.', required: ['rules', 'limits', 'left', 'unknown'])]
final readonly class LearnedData
{
    /**
     * @param  list<LearnedLimitData>  $limits
     * @param  list<array{asset: string, words: list<string>}>  $left
     * @param  list<string>  $unknown
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $rules,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/LearnedLimitData'))]
        public array $limits,
        #[OA\Property(type: 'array', items: new OA\Items(required: ['asset', 'words'], properties: [new OA\Property(property: 'asset', type: 'string'), new OA\Property(property: 'words', type: 'array', items: new OA\Items(type: 'string'))], type: 'object'))]
        public array $left,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'), description: 'assets that were not judged to their end yet')]
        public array $unknown,
    ) {
    }
}
