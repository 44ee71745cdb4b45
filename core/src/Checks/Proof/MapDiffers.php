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
 * Texels inside islands of a map that came back that lie over 10° (0.1 of occlusion and height, ΔE00 10 of IDs) off the trial map, as a share of those compared: another distance, cage or mesh than was checked.
 */
final class MapDiffers implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-differs',
            station: Station::Proof,
            row: 892,
            severity: Severity::Caution,
            title: 'A map differs from the trial',
            measured: 'Texels inside islands of a map that came back that lie over 10° (0.1 of occlusion and height, ΔE00 10 of IDs) off the trial map, as a share of those compared: another distance, cage or mesh than was checked.',
            limit: 0.02,
            limitWords: '2 % of the texels compared',
            afterBake: 'other details than were checked',
            remedy: 'bake it again from the files of this delivery with the reach on its ticket',
            unit: 'share',
            measures: [ReturnedMaps::class],
            many: 'differ from the trial',
            symptoms: ['different result', 'changed details'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $about = $this->about();

        return MapChecks::each($measures, static function (MapVerdict $map) use ($measures, $about): ?Finding {
            $limit = $about->limitBy($measures->asset->standard);
            if (! $map->fitsAsIs() || $map->differsShare <= $limit) {
                return null;
            }

            return new Finding(
                'map-differs', Severity::Caution, basename($map->path).': '.Words::percent($map->differsShare).' of its texels differ from the trial by more than '.MapChecks::may($map).'; up to '.Words::percent($limit).' passes', 'bake it again from the files of this delivery, with the reach or cage that was checked',
                MapChecks::subject($map), new Measured($map->differsShare, $limit, 'share'), where: $map->differsWhere,
            );
        });
    }
}
