<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\DeliveryState;
use OpenApi\Attributes as OA;

/**
 * How far a delivery is: asked for every second while it is being checked.
 */
#[OA\Schema(schema: 'DeliveryProgressData', description: 'How far a delivery is.', required: ['mark', 'state', 'error', 'progress'])]
final readonly class DeliveryProgressData
{
    public function __construct(
        #[OA\Property(description: 'another one once anything of the delivery changed', type: 'string')]
        public string $mark,
        #[OA\Property(ref: '#/components/schemas/DeliveryState')]
        public DeliveryState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(ref: '#/components/schemas/ProgressData')]
        public ProgressData $progress,
    ) {
    }
}
