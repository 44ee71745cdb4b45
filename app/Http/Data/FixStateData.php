<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * That an asset was sent back, and how far it is mended.
 */
#[OA\Schema(schema: 'FixStateData', description: 'That an asset was sent back, and how far it is mended.', required: ['id', 'to', 'sentAt', 'delivery', 'causes', 'mended', 'waived', 'against'])]
final readonly class FixStateData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $to,
        #[OA\Property(type: 'string')]
        public string $sentAt,
        #[OA\Property(type: 'integer')]
        public int $delivery,
        #[OA\Property(type: 'integer')]
        public int $causes,
        #[OA\Property(type: 'integer')]
        public int $mended,
        #[OA\Property(type: 'integer')]
        public int $waived,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $against,
    ) {
    }
}
