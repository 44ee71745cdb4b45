<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The rename plan: what stands in its way, what programs would trip over, and how many bases pair before and after.
 */
#[OA\Schema(schema: 'RenamePlanData', description: 'The rename plan: what stands in its way, what programs would trip over, and how many bases pair before and after.', required: ['plan', 'clashes', 'unsafe', 'pairedBefore', 'pairedAfter', 'basesAfter'])]
final readonly class RenamePlanData
{
    /**
     * @param  list<RenameRowData>  $plan
     * @param  list<string>  $clashes
     * @param  list<string>  $unsafe
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/RenameRowData'))]
        public array $plan,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $clashes,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $unsafe,
        #[OA\Property(type: 'integer')]
        public int $pairedBefore,
        #[OA\Property(type: 'integer')]
        public int $pairedAfter,
        #[OA\Property(type: 'integer')]
        public int $basesAfter,
    ) {
    }
}
