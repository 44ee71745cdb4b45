<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\People\Standing;
use OpenApi\Attributes as OA;

/**
 * One of the made-up crew.
 */
#[OA\Schema(schema: 'CrewData', description: 'One of the made-up crew.', required: ['id', 'name', 'role'])]
final readonly class CrewData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(ref: '#/components/schemas/Standing')]
        public Standing $role,
    ) {
    }
}
