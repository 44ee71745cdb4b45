<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Color ID shows.
 */
#[OA\Schema(schema: 'ColorIdData', description: 'What Color ID shows.', required: ['ids'])]
final readonly class ColorIdData
{
    public function __construct(
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/IdsData')])]
        public ?IdsData $ids,
    ) {
    }
}
