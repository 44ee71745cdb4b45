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
 * Bits a channel of a normal or height map that came back. Practice: 16, or gradients show bands.
 */
final class MapBits implements Check
{
    public function about(): About
    {
        return new About(
            code: 'map-bits',
            station: Station::Proof,
            row: 888,
            severity: Severity::Caution,
            title: 'A map has too few bits',
            measured: 'Bits a channel of a normal or height map that came back. Practice: 16, or gradients show bands.',
            limit: 16.0,
            limitWords: '16 bits',
            afterBake: 'bands in gradients and on smooth curves',
            remedy: 'save normal and height maps with 16 bits a channel',
            unit: 'bits',
            measures: [ReturnedMaps::class],
            many: 'have too few bits a channel',
            symptoms: ['banding', 'bands', 'steps'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $about = $this->about();

        return MapChecks::each($measures, static function (MapVerdict $map) use ($measures, $about): ?Finding {
            $limit = $about->limitBy($measures->asset->standard);
            if ($map->header === null || $map->error !== null || ! in_array($map->kind, ['normal', 'height'], true) || $map->header->bits >= $limit) {
                return null;
            }

            return new Finding('map-bits', Severity::Caution, basename($map->path)." has {$map->header->bits} bits a channel; the standard asks for ".(int) $limit, 'save it with '.(int) $limit.' bits a channel', MapChecks::subject($map), new Measured((float) $map->header->bits, $limit, 'bits'));
        });
    }
}
