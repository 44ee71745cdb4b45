<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Causes that were sent back to an artist, and what of them is mended.
 */
#[OA\Schema(schema: 'FixListData', description: 'Causes that were sent back to an artist, and what of them is mended.', required: ['id', 'assetId', 'asset', 'deliveryId', 'delivery', 'to', 'by', 'note', 'sentAt', 'causes', 'against', 'againstId', 'mended', 'waived'])]
final readonly class FixListData
{
    /**
     * @param  list<FixCauseData>  $causes
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'integer')]
        public int $assetId,
        #[OA\Property(type: 'string')]
        public string $asset,
        #[OA\Property(type: 'integer')]
        public int $deliveryId,
        #[OA\Property(type: 'integer')]
        public int $delivery,
        #[OA\Property(type: 'string')]
        public string $to,
        #[OA\Property(type: 'string')]
        public string $by,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $note,
        #[OA\Property(type: 'string')]
        public string $sentAt,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FixCauseData'))]
        public array $causes,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $against,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $againstId,
        #[OA\Property(type: 'integer')]
        public int $mended,
        #[OA\Property(type: 'integer')]
        public int $waived,
    ) {
    }
}
