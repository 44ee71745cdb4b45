<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use App\Http\Data\ColorIdData;
use App\Http\Data\IdColorData;
use App\Http\Data\IdProposalData;
use App\Http\Data\IdsData;
use App\Models\Delivery;

/**
 * The ID colors of a delivery, and those that are proposed.
 */
final class ColorIdPage
{
    public static function of(Delivery $delivery): ColorIdData
    {
        return new ColorIdData(self::ids($delivery->report ?? []));
    }

    /**
     * @param  array<string, mixed>  $report
     */
    private static function ids(array $report): ?IdsData
    {
        /** @var array{source: string, colors: list<array{hex: string, name: string, names: list<string>, parts: list<string>, nearest: float|null, nearestName: string|null}>, missing: list<string>, least: float|null, proposal: list<array{name: string, hex: string, parts: list<string>}>, proposalLeast: float|null}|null $ids */
        $ids = $report['ids'] ?? null;

        return $ids === null ? null : new IdsData(
            $ids['source'],
            array_map(static fn (array $c): IdColorData => new IdColorData($c['hex'], $c['name'], $c['names'], $c['parts'], $c['nearest'], $c['nearestName']), $ids['colors']),
            $ids['missing'], $ids['least'],
            array_map(static fn (array $p): IdProposalData => new IdProposalData($p['name'], $p['hex'], $p['parts']), $ids['proposal']),
            $ids['proposalLeast'],
        );
    }
}
