<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Models\Delivery;
use App\Models\Package;
use App\Models\State\DeliveryState;
use App\Models\State\MakingState;

/**
 * Whether what was sealed is still what is there (`package-stale`).
 */
final class Stale
{
    /** Why a sealed package is out of date, in words; null where it is not, or not sealed. */
    public static function words(Package $package, Delivery $delivery): ?string
    {
        if ($package->state !== MakingState::Done) {
            return null;
        }
        $newest = Delivery::query()->where('asset_id', $delivery->asset_id)->max('number');

        return match (true) {
            is_numeric($newest) && (int) $newest > $delivery->number => "delivery $newest came since",
            $delivery->state !== DeliveryState::Done => 'the delivery is being checked again',
            $delivery->standard_version !== $delivery->asset->standard->version => "the standard is version {$delivery->asset->standard->version} now, and the delivery was checked by version $delivery->standard_version",
            $package->sealed_of !== $delivery->judged_of => 'something was decided anew since: sets, reach, IDs, roles, maps or the standard',
            $delivery->verdict !== 'ready' => 'the asset is not ready any more',
            default => null,
        };
    }
}
