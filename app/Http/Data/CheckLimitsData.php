<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A check with its built-in limits.
 */
#[OA\Schema(schema: 'CheckLimitsData', description: 'A check with its built-in limits.', required: ['code', 'title', 'station', 'severity', 'limit', 'caution', 'unit', 'limitWords'])]
final readonly class CheckLimitsData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string')]
        public string $station,
        #[OA\Property(type: 'string')]
        public string $severity,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $limit,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $caution,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $unit,
        #[OA\Property(type: 'string')]
        public string $limitWords,
    ) {
    }
}
