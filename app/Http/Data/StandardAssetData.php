<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * An asset that is held to a standard.
 */
#[OA\Schema(schema: 'StandardAssetData', description: 'An asset that is held to a standard.', required: ['id', 'name', 'verdict', 'outdated'])]
final readonly class StandardAssetData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $verdict,
        #[OA\Property(type: 'boolean', description: 'judged by an earlier version')]
        public bool $outdated,
    ) {
    }
}
