<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What became of a finding since the last delivery.
 */
#[OA\Schema(schema: 'FindingChangeData', description: 'What became of a finding since the last delivery.', required: ['code', 'title', 'station', 'severity', 'message', 'before', 'measure', 'was', 'id', 'waived'])]
final readonly class FindingChangeData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string')]
        public string $station,
        #[OA\Property(type: 'string')]
        public string $severity,
        #[OA\Property(type: 'string')]
        public string $message,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $before,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/MeasureData')])]
        public ?MeasureData $measure,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/MeasureData')])]
        public ?MeasureData $was,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $id,
        #[OA\Property(type: 'boolean')]
        public bool $waived,
    ) {
    }
}
