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
use Anvil\Standard\Severity;

/**
 * Whether a normal map that came back fits the trial map better, by half of its median distance, with its green channel inverted: +Y and −Y differ between programs.
 */
final class MapGreen implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-green',
            station: Station::Proof,
            row: 884,
            severity: Severity::Blocker,
            title: 'The green channel is inverted',
            measured: 'Whether a normal map that came back fits the trial map better, by half of its median distance, with its green channel inverted: +Y and −Y differ between programs.',
            limit: null,
            limitWords: 'fits as it is',
            afterBake: 'bumps read as dents where light comes from above or below',
            remedy: 'invert the green channel, or bake with the other direction',
            unit: null,
            measures: [ReturnedMaps::class],
            many: 'have their green channel inverted',
            symptoms: ['lighting from below', 'dents', 'inverted'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        return MapChecks::each($measures, static function (MapVerdict $map) use ($measures): ?Finding {
            return $map->error !== null || $map->isOther || ! $map->greenInverted ? null : new Finding(
                'map-green', Severity::Blocker, basename($map->path).' fits with its green channel inverted: '.MapChecks::distance($map).' off the trial then', "invert its green channel, or bake with green {$measures->asset->standard->greenChannel}, as the standard says",
                MapChecks::subject($map), where: $map->differsWhere,
            );
        });
    }
}
