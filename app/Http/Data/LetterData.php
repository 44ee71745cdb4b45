<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A mail that lies in the inbox page.
 */
#[OA\Schema(schema: 'LetterData', description: 'A mail that lies in the inbox page.', required: ['id', 'to', 'subject', 'text', 'at', 'isRead'])]
final readonly class LetterData
{
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $to,
        #[OA\Property(type: 'string')]
        public string $subject,
        #[OA\Property(type: 'string')]
        public string $text,
        #[OA\Property(type: 'string')]
        public string $at,
        #[OA\Property(type: 'boolean')]
        public bool $isRead,
    ) {
    }
}
