<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\People\Standing;
use OpenApi\Attributes as OA;

/**
 * Somebody who works here.
 */
#[OA\Schema(schema: 'PersonData', description: 'Somebody who works here.', required: ['id', 'name', 'email', 'role', 'state', 'signedInAt'])]
final readonly class PersonData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $email,
        #[OA\Property(ref: '#/components/schemas/Standing')]
        public Standing $role,
        #[OA\Property(type: 'string')]
        public string $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $signedInAt,
    ) {
    }
}
