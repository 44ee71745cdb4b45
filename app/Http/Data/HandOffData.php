<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Hand-off shows beside the packages.
 */
#[OA\Schema(schema: 'HandOffData', description: 'What Hand-off shows beside the packages.', required: ['settings', 'waivers'])]
final readonly class HandOffData
{
    /**
     * @param  list<SettingData>  $settings
     * @param  list<WaiverData>  $waivers  the newest first
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/SettingData'))]
        public array $settings,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/WaiverData'))]
        public array $waivers,
    ) {
    }
}
