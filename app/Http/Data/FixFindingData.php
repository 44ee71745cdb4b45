<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A finding that was sent back, and what became of it.
 */
#[OA\Schema(schema: 'FixFindingData', description: 'A finding that was sent back, and what became of it.', required: ['part', 'other', 'set', 'file', 'page', 'message', 'remedy', 'measure', 'now', 'where', 'state'])]
final readonly class FixFindingData
{
    /**
     * @param  list<float>  $where
     */
    public function __construct(
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $part,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $other,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $set,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $file,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $page,
        #[OA\Property(type: 'string')]
        public string $message,
        #[OA\Property(type: 'string')]
        public string $remedy,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/MeasureData')])]
        public ?MeasureData $measure,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/MeasureData')])]
        public ?MeasureData $now,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $where,
        #[OA\Property(type: 'string')]
        public string $state,
    ) {
    }
}
