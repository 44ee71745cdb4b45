<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A fix list by itself, for a list of them.
 */
#[OA\Schema(schema: 'SentFixListData', description: 'A fix list by itself, for a list of them.', required: ['id', 'asset', 'assetId', 'deliveryId', 'delivery', 'by', 'sentAt', 'causes', 'mended', 'against'])]
final readonly class SentFixListData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $asset,
        #[OA\Property(type: 'integer')]
        public int $assetId,
        #[OA\Property(type: 'integer')]
        public int $deliveryId,
        #[OA\Property(type: 'integer')]
        public int $delivery,
        #[OA\Property(type: 'string')]
        public string $by,
        #[OA\Property(type: 'string')]
        public string $sentAt,
        #[OA\Property(type: 'integer')]
        public int $causes,
        #[OA\Property(type: 'integer')]
        public int $mended,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $against,
    ) {
    }
}
