<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The rules in force.
 */
#[OA\Schema(schema: 'StandardData', description: 'The rules in force.', required: ['id', 'name', 'version', 'setsKeptApart', 'whole', 'mapSize', 'bleedLimit', 'lowSuffix', 'highSuffix', 'rules'])]
final readonly class StandardData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'integer')]
        public int $version,
        #[OA\Property(type: 'boolean')]
        public bool $setsKeptApart,
        #[OA\Property(type: 'boolean')]
        public bool $whole,
        #[OA\Property(type: 'integer')]
        public int $mapSize,
        #[OA\Property(type: 'number', description: 'share of bleed from which two sets conflict')]
        public float $bleedLimit,
        #[OA\Property(type: 'string')]
        public string $lowSuffix,
        #[OA\Property(type: 'string')]
        public string $highSuffix,
        #[OA\Property(type: 'string')]
        public string $rules,
    ) {
    }
}
