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
use Anvil\Proof\Returned\MapVerdict;
use Anvil\Standard\Severity;

/**
 * Width and height of a map that came back against the standard\'s map size, and those of the other maps of its page.
 */
final class MapSize implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-size',
            station: Station::Proof,
            row: 887,
            severity: Severity::Caution,
            title: 'A map has another size',
            measured: 'Width and height of a map that came back against the standard\'s map size, and those of the other maps of its page.',
            limit: null,
            limitWords: 'the standard\'s map size',
            afterBake: 'blurred, or more memory than planned',
            remedy: 'bake at the standard\'s map size',
            unit: 'px',
            measures: [ReturnedMaps::class],
            many: 'have another size than the standard says',
            symptoms: ['blurry', 'low resolution'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        return MapChecks::each($measures, static function (MapVerdict $map) use ($measures): ?Finding {
            if ($map->header === null || $map->error !== null) {
                return null;
            }
            $size = $measures->asset->standard->mapSize;
            [$width, $height] = [$map->header->width, $map->header->height];
            if ($width === $size && $height === $size) {
                return null;
            }

            return new Finding('map-size', Severity::Caution, basename($map->path)." is $width × $height px; the standard asks for $size × $size", "bake it at $size px", MapChecks::subject($map), new Measured((float) ($width === $size ? $height : $width), (float) $size, 'px'));
        });
    }
}
