<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use App\Deliveries\IdCut;
use App\Http\Data\ColorIdData;
use App\Http\Data\IdColorData;
use App\Http\Data\IdsData;
use App\Http\Data\IdSheetData;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\MakingState;

/**
 * The ID colors of a delivery, and those that are proposed.
 */
final class ColorIdPage
{
    public static function of(Delivery $delivery): ColorIdData
    {
        $kept = IdCut::sheetOf($delivery->asset);

        return new ColorIdData(self::ids($delivery->report ?? []), self::sheet($delivery), $kept->by->value, $kept->angle);
    }

    private static function sheet(Delivery $delivery): ?IdSheetData
    {
        $cut = $delivery->state === DeliveryState::Done ? IdCut::newest($delivery) : null;
        if ($cut === null || $cut->state !== MakingState::Done) {
            return $cut === null ? null : IdCut::waiting($cut);
        }

        return IdCut::data($delivery, $cut, IdCut::plan($cut, IdCut::sheetOf($delivery->asset)));
    }

    /**
     * @param  array<string, mixed>  $report
     */
    private static function ids(array $report): ?IdsData
    {
        /** @var array{source: string, colors: list<array{hex: string, name: string, names: list<string>, parts: list<string>, nearest: float|null, nearestName: string|null}>, missing: list<string>, least: float|null, canGive?: bool, proposal?: list<mixed>}|null $ids */
        $ids = $report['ids'] ?? null;

        return $ids === null ? null : new IdsData(
            $ids['source'],
            array_map(static fn (array $c): IdColorData => new IdColorData($c['hex'], $c['name'], $c['names'], $c['parts'], $c['nearest'], $c['nearestName']), $ids['colors']),
            $ids['missing'], $ids['least'], $ids['canGive'] ?? ($ids['proposal'] ?? []) !== [],
        );
    }
}
