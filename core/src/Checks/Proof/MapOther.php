<?php

declare(strict_types=1);

namespace Anvil\Checks\Proof;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\ReturnedMaps;
use Anvil\Measures\Measures;
use Anvil\Proof\Returned\MapFit;
use Anvil\Proof\Returned\MapVerdict;
use Anvil\Standard\Severity;

/**
 * Median distance of a map that came back from the trial map in the way that fits it best, where the trial has relief: in degrees for normals, ΔE00 for IDs, 0–1 for occlusion and height.
 */
final class MapOther implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-other',
            station: Station::Proof,
            row: 886,
            severity: Severity::Blocker,
            title: 'A map is of something else',
            measured: 'Median distance of a map that came back from the trial map in the way that fits it best, where the trial has relief: in degrees for normals, ΔE00 for IDs, 0–1 for occlusion and height.',
            limit: 20.0,
            limitWords: '20° (0.25 of occlusion and height, ΔE00 20 of IDs)',
            afterBake: 'details of another asset, another delivery or another page',
            remedy: 'take the map that was baked of this page of this delivery',
            unit: null,
            measures: [ReturnedMaps::class],
            many: 'are of something else',
            symptoms: ['wrong texture', 'other asset'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $about = $this->about();

        return MapChecks::each($measures, static function (MapVerdict $map) use ($measures, $about): ?Finding {
            if (! $map->isOther || $map->median === null || $map->kind === null) {
                return null;
            }
            $limit = MapChecks::scaled($about->limitBy($measures->asset->standard), 20.0, MapFit::OTHER[$map->kind]);

            return $map->median <= $limit ? null : new Finding(
                'map-other', Severity::Blocker, basename($map->path).' fits no way: '.MapChecks::distance($map)." off the trial of page $map->page at best", 'take the map that was baked of this page of this delivery',
                MapChecks::subject($map), new Measured($map->median, $limit, MapChecks::unit($map->kind)), where: $map->differsWhere,
            );
        });
    }
}
