<?php

declare(strict_types=1);

namespace Anvil\Checks\Proof;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\ReturnedMaps;
use Anvil\Measures\Measures;
use Anvil\Proof\Returned\MapVerdict;
use Anvil\Standard\Severity;

/**
 * Width in px to which the colors of island borders go on outside them in a map that came back, up to the standard\'s padding.
 */
final class MapPadding implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-padding',
            station: Station::Proof,
            row: 890,
            severity: Severity::Caution,
            title: 'Padding stops short',
            measured: 'Width in px to which the colors of island borders go on outside them in a map that came back, up to the standard\'s padding.',
            limit: null,
            limitWords: 'the standard\'s padding',
            afterBake: 'a line at seams, the more the further away',
            remedy: 'bake with the padding that the standard asks for',
            unit: 'px',
            measures: [ReturnedMaps::class],
            many: 'have too little padding',
            symptoms: ['line at a seam', 'seams from afar'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        return MapChecks::each($measures, static function (MapVerdict $map) use ($measures): ?Finding {
            $limit = MapChecks::padding($measures, $map);
            if (! $map->fitsAsIs() || $map->padding === null || $map->padding['px'] >= $limit - 0.5) {
                return null;
            }

            return new Finding(
                'map-padding', Severity::Caution, basename($map->path).': the colors of its borders go on for '.Words::pixels($map->padding['px']).' outside the islands; the standard asks for '.Words::pixels($limit), 'bake with a padding of '.Words::pixels($limit),
                MapChecks::subject($map), new Measured($map->padding['px'], $limit, 'px'), where: $map->padding['where'],
            );
        });
    }
}
