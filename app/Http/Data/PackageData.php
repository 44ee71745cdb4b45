<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\MakingState;
use OpenApi\Attributes as OA;

/**
 * A sealed package.
 */
#[OA\Schema(schema: 'PackageData', description: 'A sealed package.', required: ['id', 'state', 'error', 'name', 'bytes', 'sha256', 'sealedAt', 'sealedBy', 'with', 'stale'])]
final readonly class PackageData
{
    /**
     * @param  list<string>  $with  what goes along
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(ref: '#/components/schemas/MakingState')]
        public MakingState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $name,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $bytes,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $sha256,
        #[OA\Property(type: 'string')]
        public string $sealedAt,
        #[OA\Property(type: 'string')]
        public string $sealedBy,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $with,
        #[OA\Property(type: 'string', nullable: true, description: 'why it is out of date')]
        public ?string $stale,
    ) {
    }
}
