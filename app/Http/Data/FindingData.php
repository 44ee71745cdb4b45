<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What a check found.
 */
#[OA\Schema(schema: 'FindingData', description: 'What a check found.', required: ['id', 'code', 'station', 'severity', 'message', 'remedy', 'file', 'part', 'set', 'other', 'measure', 'texels', 'count', 'where', 'waived', 'cause'])]
final readonly class FindingData
{
    /**
     * @param  list<float>  $where
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $station,
        #[OA\Property(type: 'string')]
        public string $severity,
        #[OA\Property(type: 'string')]
        public string $message,
        #[OA\Property(type: 'string')]
        public string $remedy,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $file,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $part,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $set,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $other,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/MeasureData')])]
        public ?MeasureData $measure,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $texels,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $count,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $where,
        #[OA\Property(type: 'boolean')]
        public bool $waived,
        #[OA\Property(description: 'its number among the causes', type: 'integer', nullable: true)]
        public ?int $cause,
    ) {
    }
}
