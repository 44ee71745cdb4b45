<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\DeliveryState;
use OpenApi\Attributes as OA;

/**
 * A delivery in the picker.
 */
#[OA\Schema(schema: 'DeliveryRowData', description: 'A delivery in the picker.', required: ['id', 'number', 'state', 'verdict', 'blockers', 'madeByWords', 'handedInAt', 'handedInBy'])]
final readonly class DeliveryRowData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'integer')]
        public int $number,
        #[OA\Property(ref: '#/components/schemas/DeliveryState')]
        public DeliveryState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $verdict,
        #[OA\Property(type: 'integer')]
        public int $blockers,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $madeByWords,
        #[OA\Property(type: 'string')]
        public string $handedInAt,
        #[OA\Property(type: 'string')]
        public string $handedInBy,
    ) {
    }
}
