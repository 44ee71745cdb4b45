<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Color ID shows.
 */
#[OA\Schema(schema: 'ColorIdData', description: 'What Color ID shows.', required: ['ids', 'sheet', 'by', 'angle'])]
final readonly class ColorIdData
{
    public function __construct(
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/IdsData')])]
        public ?IdsData $ids,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/IdSheetData')])]
        public ?IdSheetData $sheet,
        #[OA\Property(description: 'how the high poly was cut when IDs were decided on last', type: 'string')]
        public string $by,
        #[OA\Property(type: 'number')]
        public float $angle,
    ) {
    }
}
