<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What changed from one delivery to another.
 */
#[OA\Schema(schema: 'ChangesData', description: 'What changed from one delivery to another.', required: ['before', 'beforeId', 'isSource', 'isKnown', 'parts', 'same', 'gone', 'new', 'better', 'worse', 'sameFindings', 'died'])]
final readonly class ChangesData
{
    /**
     * @param  list<PartChangeData>  $parts
     * @param  list<FindingChangeData>  $gone
     * @param  list<FindingChangeData>  $new
     * @param  list<FindingChangeData>  $better
     * @param  list<FindingChangeData>  $worse
     * @param  list<FindingChangeData>  $died
     */
    public function __construct(
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $before,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $beforeId,
        #[OA\Property(type: 'boolean')]
        public bool $isSource,
        #[OA\Property(type: 'boolean')]
        public bool $isKnown,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/PartChangeData'))]
        public array $parts,
        #[OA\Property(type: 'integer')]
        public int $same,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FindingChangeData'))]
        public array $gone,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FindingChangeData'))]
        public array $new,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FindingChangeData'))]
        public array $better,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FindingChangeData'))]
        public array $worse,
        #[OA\Property(type: 'integer')]
        public int $sameFindings,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FindingChangeData'))]
        public array $died,
    ) {
    }
}
