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
 * Texels inside islands of a map that came back that were never written: transparent, or of the color of the outside where a ray from just there gives another; as a share of the texels inside. Where rays miss or go wrong is told by proof-retouch.
 */
final class MapHole implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-hole',
            station: Station::Proof,
            row: 889,
            severity: Severity::Blocker,
            title: 'A map has holes',
            measured: 'Texels inside islands of a map that came back that were never written: transparent, or of the color of the outside where a ray from just there gives another; as a share of the texels inside. Where rays miss or go wrong is told by proof-retouch.',
            limit: 0.0005,
            limitWords: '0.05 % of the texels inside islands',
            afterBake: 'holes in the color of the background',
            remedy: 'bake it again with the reach that was checked, or paint the holes',
            unit: 'share',
            measures: [ReturnedMaps::class],
            many: 'have holes',
            symptoms: ['hole', 'missing texels', 'black spots'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $about = $this->about();

        return MapChecks::each($measures, static function (MapVerdict $map) use ($measures, $about): ?Finding {
            $limit = $about->limitBy($measures->asset->standard);
            if (! $map->fitsAsIs() || $map->holes === null || $map->holes['share'] <= $limit) {
                return null;
            }

            return new Finding(
                'map-hole', Severity::Blocker, basename($map->path).': '.number_format($map->holes['texels']).' px inside islands were never written, '.Words::percent($map->holes['share']).' of them; up to '.Words::percent($limit).' passes', 'bake it again with the reach that was checked, or paint the holes',
                MapChecks::subject($map), new Measured($map->holes['share'], $limit, 'share'), $map->holes['texels'], where: $map->holes['where'],
            );
        });
    }
}
