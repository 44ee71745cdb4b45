<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Event;

/**
 * What was done to an asset, by whom and when.
 */
final class History
{
    /**
     * @param  string  $words  "set the reach of drum", what follows the name
     * @param  string|null  $area  what was decided by it; several with a space between
     */
    public static function tell(?Asset $asset, ?Delivery $delivery, string $words, ?string $area = null): void
    {
        $person = Who::person();
        Event::query()->create([
            'asset_id' => $asset?->id, 'delivery' => $delivery?->number, 'person_id' => $person?->id, 'who' => Who::name(), 'via' => $person?->via(), 'words' => $words, 'area' => $area,
        ]);
    }
}
