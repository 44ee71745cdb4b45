<?php

declare(strict_types=1);

namespace Anvil\Checks\Proof;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\ReturnedMaps;
use Anvil\Measures\Measures;
use Anvil\Proof\Returned\MapVerdict;
use Anvil\Proof\Returned\Turning;
use Anvil\Standard\Severity;

/**
 * Whether a map that came back fits the trial map better, by half of its median distance, when it is turned or mirrored: it was baked on another UV origin or UV set.
 */
final class MapTurned implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-turned',
            station: Station::Proof,
            row: 883,
            severity: Severity::Blocker,
            title: 'A map is turned or mirrored',
            measured: 'Whether a map that came back fits the trial map better, by half of its median distance, when it is turned or mirrored: it was baked on another UV origin or UV set.',
            limit: null,
            limitWords: 'fits as it is',
            afterBake: 'details lie in the wrong places, everywhere',
            remedy: 'bake it again on the UVs of the low poly that was checked; look at the UV origin and the UV set',
            unit: null,
            measures: [ReturnedMaps::class],
            many: 'are turned or mirrored',
            symptoms: ['upside down', 'mirrored', 'wrong UV set'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        return MapChecks::each($measures, static function (MapVerdict $map): ?Finding {
            return $map->error !== null || $map->isOther || $map->turn === Turning::AsIs ? null : new Finding(
                'map-turned', Severity::Blocker, basename($map->path).' fits once it is '.$map->turn->words().': '.MapChecks::distance($map).' off the trial then', 'bake it again with the UV origin at the bottom left, on the first UV set of the low poly that was checked',
                MapChecks::subject($map), where: $map->differsWhere,
            );
        });
    }
}
