<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Something that was done to an asset.
 */
#[OA\Schema(schema: 'EventData', description: 'Something that was done to an asset.', required: ['id', 'who', 'via', 'words', 'delivery', 'deliveryId', 'at'])]
final readonly class EventData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $who,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $via,
        #[OA\Property(type: 'string')]
        public string $words,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $delivery,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $deliveryId,
        #[OA\Property(type: 'string')]
        public string $at,
    ) {
    }
}
