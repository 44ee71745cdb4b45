<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What was done to an asset, the newest first.
 */
#[OA\Schema(schema: 'HistoryData', description: 'What was done to an asset, the newest first.', required: ['asset', 'deliveryId', 'events', 'more'])]
final readonly class HistoryData
{
    /**
     * @param  list<EventData>  $events
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $asset,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $deliveryId,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/EventData'))]
        public array $events,
        #[OA\Property(type: 'boolean')]
        public bool $more,
    ) {
    }
}
