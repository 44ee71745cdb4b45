<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A file on its way in.
 */
#[OA\Schema(schema: 'UploadData', description: 'A file on its way in.', required: ['id', 'name', 'bytes', 'received'])]
final readonly class UploadData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'integer')]
        public int $bytes,
        #[OA\Property(type: 'integer')]
        public int $received,
    ) {
    }
}
