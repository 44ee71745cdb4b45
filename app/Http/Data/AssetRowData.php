<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\DeliveryState;
use OpenApi\Attributes as OA;

/**
 * A row of the rack.
 */
#[OA\Schema(schema: 'AssetRowData', description: 'A row of the rack.', required: ['id', 'name', 'delivery', 'deliveryId', 'deliveries', 'state', 'doing', 'verdict', 'blockers', 'cautions', 'notes', 'parts', 'sets', 'lowTriangles', 'highTriangles', 'stations', 'changedAt', 'changedBy', 'sealed', 'waitsFor', 'sentBack', 'outdated'])]
final readonly class AssetRowData
{
    /**
     * @param  list<StationData>  $stations
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'integer')]
        public int $delivery,
        #[OA\Property(type: 'integer')]
        public int $deliveryId,
        #[OA\Property(type: 'integer')]
        public int $deliveries,
        #[OA\Property(ref: '#/components/schemas/DeliveryState')]
        public DeliveryState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $doing,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $verdict,
        #[OA\Property(type: 'integer')]
        public int $blockers,
        #[OA\Property(type: 'integer')]
        public int $cautions,
        #[OA\Property(type: 'integer')]
        public int $notes,
        #[OA\Property(type: 'integer')]
        public int $parts,
        #[OA\Property(type: 'integer')]
        public int $sets,
        #[OA\Property(type: 'integer')]
        public int $lowTriangles,
        #[OA\Property(type: 'integer')]
        public int $highTriangles,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/StationData'))]
        public array $stations,
        #[OA\Property(type: 'string')]
        public string $changedAt,
        #[OA\Property(type: 'string')]
        public string $changedBy,
        #[OA\Property(type: 'boolean')]
        public bool $sealed,
        #[OA\Property(description: 'the side that is still to be handed in', type: 'string', nullable: true)]
        public ?string $waitsFor,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/FixStateData')])]
        public ?FixStateData $sentBack,
        #[OA\Property(type: 'boolean', description: 'what was sealed is out of date')]
        public bool $outdated,
    ) {
    }
}
