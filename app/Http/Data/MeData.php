<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\People\Leave;
use App\People\Standing;
use OpenApi\Attributes as OA;

/**
 * Who asks, and what they have leave to.
 */
#[OA\Schema(schema: 'MeData', description: 'Who asks, and what they have leave to.', required: ['id', 'name', 'email', 'role', 'may', 'isDemo', 'sentBack', 'letters'])]
final readonly class MeData
{
    /**
     * @param  list<Leave>  $may
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $email,
        #[OA\Property(ref: '#/components/schemas/Standing')]
        public Standing $role,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/Leave'))]
        public array $may,
        #[OA\Property(type: 'boolean')]
        public bool $isDemo,
        #[OA\Property(type: 'integer')]
        public int $sentBack,
        #[OA\Property(type: 'integer')]
        public int $letters,
    ) {
    }
}
