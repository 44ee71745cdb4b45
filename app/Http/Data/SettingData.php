<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A bake setting on the ticket, with its reason.
 */
#[OA\Schema(schema: 'SettingData', description: 'A bake setting on the ticket, with its reason.', required: ['setting', 'value', 'reason'])]
final readonly class SettingData
{
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $setting,
        #[OA\Property(type: 'string')]
        public string $value,
        #[OA\Property(type: 'string')]
        public string $reason,
    ) {
    }
}
