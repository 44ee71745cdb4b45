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
 * Whether the values of a normal, occlusion or height map that came back fit the trial better, by half of their median distance, once they are taken from sRGB to linear; a caution where they fit, and the file carries an sRGB or gamma tag that many programs obey.
 */
final class MapSpace implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-space',
            station: Station::Proof,
            row: 885,
            severity: Severity::Blocker,
            title: 'A data map is in the wrong color space',
            measured: 'Whether the values of a normal, occlusion or height map that came back fit the trial better, by half of their median distance, once they are taken from sRGB to linear; a caution where they fit, and the file carries an sRGB or gamma tag that many programs obey.',
            limit: null,
            limitWords: 'fits as it is, and carries no tag',
            afterBake: 'too flat or too deep everywhere, seams at island borders',
            remedy: 'bake and save it as data: linear, without sRGB',
            unit: null,
            measures: [ReturnedMaps::class],
            many: 'are in the wrong color space',
            symptoms: ['washed out', 'too strong', 'seams'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        return MapChecks::each($measures, static function (MapVerdict $map): ?Finding {
            if ($map->error !== null || $map->isOther || $map->kind === 'id') {
                return null;
            }
            if ($map->srgb) {
                return new Finding('map-space', Severity::Blocker, basename($map->path).' holds sRGB values: taken to linear it is '.MapChecks::distance($map).' off the trial', 'save it as data, linear; or take its values from sRGB to linear', MapChecks::subject($map));
            }
            $tag = $map->header?->tag;

            return $tag === null ? null : new Finding('map-space', Severity::Caution, basename($map->path)." carries a tag ($tag) that many programs obey, though its values are data", 'save it without a color profile, sRGB or gamma tag', MapChecks::subject($map));
        });
    }
}
