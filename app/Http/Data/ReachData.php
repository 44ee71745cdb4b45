<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Outward and inward, in the measure of reach.
 */
#[OA\Schema(schema: 'ReachData', description: 'Outward and inward, in the measure of reach.', required: ['out', 'in'])]
final readonly class ReachData
{
    public function __construct(
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $out,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $in,
    ) {
    }
}
