<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A cage fitted by vertex, and what is left that it cannot mend.
 */
#[OA\Schema(schema: 'CageData', description: 'A cage fitted by vertex, and what is left that it cannot mend.', required: ['set', 'vertices', 'more', 'less', 'wrongShare', 'outsideBy', 'clean'])]
final readonly class CageData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $set,
        #[OA\Property(type: 'integer')]
        public int $vertices,
        #[OA\Property(description: 'vertices further out than the recommended single distance', type: 'integer')]
        public int $more,
        #[OA\Property(description: 'vertices nearer than it', type: 'integer')]
        public int $less,
        #[OA\Property(description: 'share of low area whose ray goes wrong even from this cage', type: 'number')]
        public float $wrongShare,
        #[OA\Property(description: 'how far high poly stands out of it', type: 'number')]
        public float $outsideBy,
        #[OA\Property(type: 'boolean')]
        public bool $clean,
    ) {
    }
}
