<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use Anvil\Sets\FewestSets;
use Anvil\Standard\Choices;
use App\Http\Data\BoardData;
use App\Http\Data\FewestData;
use App\Http\Data\NamedSetData;
use App\Http\Data\SetsData;
use App\Models\Delivery;
use App\Models\State\DeliveryState;

/**
 * What was decided about the sets of a delivery, and the fewest that would do.
 */
final class SetsPage
{
    public static function of(Delivery $delivery): SetsData
    {
        return new SetsData(self::board($delivery->asset->decided()), self::fewest($delivery));
    }

    private static function board(Choices $choices): BoardData
    {
        $sets = [];
        foreach ($choices->sets as $name => $patterns) {
            $sets[] = new NamedSetData((string) $name, $patterns);
        }

        $shading = [];
        foreach (is_array($choices->occlusion) ? $choices->occlusion : [] as $name => $others) {
            $shading[] = new NamedSetData((string) $name, $others);
        }

        return new BoardData($sets, $choices->leftOut, $choices->bakedOnItself, $choices->detachable, is_array($choices->occlusion) ? 'named' : $choices->occlusion, $shading);
    }

    private static function fewest(Delivery $delivery): ?FewestData
    {
        $limit = $delivery->asset->rules()->limitInForce('sets-bleed');
        $names = $conflicts = [];
        foreach ($delivery->sets as $set) {
            $measured = $set->measured();
            if ($measured === null) {
                continue;
            }
            $names[] = $set->name;
            foreach ($measured->bleeds as $bleed) {
                if ($bleed->share > $limit) {
                    $conflicts[] = [$set->name, $bleed->other];
                }
            }
        }
        if (count($names) < 2 || $delivery->state !== DeliveryState::Done) {
            return null;
        }
        $fewest = FewestSets::of($names, $conflicts);

        return new FewestData($fewest->groups, $fewest->isExact);
    }
}
