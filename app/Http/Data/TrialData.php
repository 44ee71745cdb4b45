<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\MakingState;
use OpenApi\Attributes as OA;

/**
 * One pass of a trial bake of one page.
 */
#[OA\Schema(schema: 'TrialData', description: 'One pass of a trial bake of one page.', required: ['id', 'page', 'pass', 'size', 'samples', 'through', 'exploded', 'state', 'error', 'done', 'inside', 'missShare', 'wrongShare', 'notShot', 'hasRays'])]
final readonly class TrialData
{
    /**
     * @param  list<string>  $notShot
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $page,
        #[OA\Property(type: 'string', enum: ['rays', 'ao'])]
        public string $pass,
        #[OA\Property(type: 'integer')]
        public int $size,
        #[OA\Property(type: 'integer')]
        public int $samples,
        #[OA\Property(type: 'string', enum: ['in-use', 'reach', 'fitted'])]
        public string $through,
        #[OA\Property(type: 'boolean')]
        public bool $exploded,
        #[OA\Property(ref: '#/components/schemas/MakingState')]
        public MakingState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(description: 'share that is done', type: 'number')]
        public float $done,
        #[OA\Property(type: 'integer')]
        public int $inside,
        #[OA\Property(type: 'number')]
        public float $missShare,
        #[OA\Property(type: 'number')]
        public float $wrongShare,
        #[OA\Property(description: 'sets whose rays are not shot, and why', type: 'array', items: new OA\Items(type: 'string'))]
        public array $notShot,
        #[OA\Property(type: 'boolean')]
        public bool $hasRays,
    ) {
    }
}
