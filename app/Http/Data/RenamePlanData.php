<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The rename plan, with what stands in its way.
 */
#[OA\Schema(schema: 'RenamePlanData', description: 'The rename plan, with what stands in its way.', required: ['plan', 'clashes'])]
final readonly class RenamePlanData
{
    /**
     * @param  list<RenameRowData>  $plan
     * @param  list<string>  $clashes
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/RenameRowData'))]
        public array $plan,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $clashes,
    ) {
    }
}
