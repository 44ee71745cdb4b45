<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A cause that was sent back.
 */
#[OA\Schema(schema: 'FixCauseData', description: 'A cause that was sent back.', required: ['code', 'severity', 'message', 'remedy', 'station', 'afterBake', 'findings', 'mended', 'state'])]
final readonly class FixCauseData
{
    /**
     * @param  list<FixFindingData>  $findings
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $severity,
        #[OA\Property(type: 'string')]
        public string $message,
        #[OA\Property(type: 'string')]
        public string $remedy,
        #[OA\Property(type: 'string')]
        public string $station,
        #[OA\Property(type: 'string')]
        public string $afterBake,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FixFindingData'))]
        public array $findings,
        #[OA\Property(type: 'integer')]
        public int $mended,
        #[OA\Property(type: 'string')]
        public string $state,
    ) {
    }
}
