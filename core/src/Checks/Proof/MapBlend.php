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
 * Texels inside islands of an ID map that came back whose color is no ID\'s (ΔE00 over 2 from each), as a share of the texels inside.
 */
final class MapBlend implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-blend',
            station: Station::Proof,
            row: 891,
            severity: Severity::Caution,
            title: 'IDs are smoothed',
            measured: 'Texels inside islands of an ID map that came back whose color is no ID\'s (ΔE00 over 2 from each), as a share of the texels inside.',
            limit: 0.005,
            limitWords: '0.5 % of the texels inside islands',
            afterBake: 'a rim of another color around each ID when it is picked',
            remedy: 'bake the ID map without smoothing, at one sample a texel',
            unit: 'share',
            measures: [ReturnedMaps::class],
            many: 'have smoothed IDs',
            symptoms: ['bleeding colors', 'rim', 'wrong mask'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $about = $this->about();

        return MapChecks::each($measures, static function (MapVerdict $map) use ($measures, $about): ?Finding {
            $limit = $about->limitBy($measures->asset->standard);
            if (! $map->fitsAsIs() || $map->blends === null || $map->blends['share'] <= $limit) {
                return null;
            }

            return new Finding(
                'map-blend', Severity::Caution, basename($map->path).': '.number_format($map->blends['texels']).' px, '.Words::percent($map->blends['share']).' of those inside islands, have a color that is no ID\'s; up to '.Words::percent($limit).' passes', 'bake the ID map without smoothing, at one sample a texel',
                MapChecks::subject($map), new Measured($map->blends['share'], $limit, 'share'), $map->blends['texels'], where: $map->blends['where'],
            );
        });
    }
}
