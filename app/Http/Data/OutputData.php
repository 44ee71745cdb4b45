<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\MakingState;
use OpenApi\Attributes as OA;

/**
 * Files written from a delivery.
 */
#[OA\Schema(schema: 'OutputData', description: 'Files written from a delivery.', required: ['id', 'kind', 'state', 'error', 'name', 'bytes', 'madeAt', 'madeBy', 'cages'])]
final readonly class OutputData
{
    /**
     * @param  list<CageData>  $cages  of an output of cages
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $kind,
        #[OA\Property(ref: '#/components/schemas/MakingState')]
        public MakingState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $name,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $bytes,
        #[OA\Property(type: 'string')]
        public string $madeAt,
        #[OA\Property(type: 'string')]
        public string $madeBy,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/CageData'))]
        public array $cages,
    ) {
    }
}
