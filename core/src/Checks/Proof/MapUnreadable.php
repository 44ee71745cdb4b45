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
 * Whether a map that came back is the image that it claims to be, whole, one image of a size that maps have, and of a known kind and page.
 */
final class MapUnreadable implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-unreadable',
            station: Station::Proof,
            row: 882,
            severity: Severity::Blocker,
            title: 'A map cannot be read',
            measured: 'Whether a map that came back is the image that it claims to be, whole, one image of a size that maps have, and of a known kind and page.',
            limit: null,
            limitWords: '–',
            afterBake: 'nothing: the map cannot be used',
            remedy: 'write it again as PNG, TGA or TIFF of 8 or 16 bits, one image a file',
            unit: null,
            measures: [ReturnedMaps::class],
            many: 'cannot be read',
            symptoms: ['broken image'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        return MapChecks::each($measures, static function (MapVerdict $map): ?Finding {
            return $map->error === null ? null : new Finding(
                'map-unreadable', Severity::Blocker, basename($map->path).": {$map->error['message']}", $map->kind === null || str_contains($map->error['message'], 'page') ? 'name it for its page and kind, such as PAGE_normal.png' : 'write it again as PNG, TGA or TIFF of 8 or 16 bits, one image a file',
                MapChecks::subject($map),
            );
        });
    }
}
