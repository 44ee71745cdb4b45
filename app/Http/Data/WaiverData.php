<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * An acceptance of a finding, in writing.
 */
#[OA\Schema(schema: 'WaiverData', description: 'An acceptance of a finding, in writing.', required: ['id', 'code', 'title', 'subject', 'message', 'measure', 'reason', 'until', 'by', 'at', 'state', 'words', 'cause'])]
final readonly class WaiverData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $code,
        #[OA\Property(type: 'string')]
        public string $title,
        #[OA\Property(type: 'string')]
        public string $subject,
        #[OA\Property(type: 'string')]
        public string $message,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/MeasureData')])]
        public ?MeasureData $measure,
        #[OA\Property(type: 'string')]
        public string $reason,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $until,
        #[OA\Property(type: 'string')]
        public string $by,
        #[OA\Property(type: 'string')]
        public string $at,
        #[OA\Property(type: 'string')]
        public string $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $words,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $cause,
    ) {
    }
}
