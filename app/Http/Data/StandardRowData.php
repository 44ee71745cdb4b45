<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A standard, as a list has it.
 */
#[OA\Schema(schema: 'StandardRowData', description: 'A standard, as a list has it.', required: ['id', 'name', 'version', 'assets', 'changedBy', 'changedAt', 'first', 'rules'])]
final readonly class StandardRowData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'integer')]
        public int $version,
        #[OA\Property(type: 'integer')]
        public int $assets,
        #[OA\Property(type: 'string')]
        public string $changedBy,
        #[OA\Property(type: 'string')]
        public string $changedAt,
        #[OA\Property(type: 'boolean', description: 'new assets are held to it')]
        public bool $first,
        #[OA\Property(type: 'string', description: 'JSON, as the file has it')]
        public string $rules,
    ) {
    }
}
