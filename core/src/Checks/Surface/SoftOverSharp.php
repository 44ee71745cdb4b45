<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Clearance\RayChecks;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\SharpShading;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Smooth edges that turn by over 75° and are no seam, beside a face over which the high poly is flat within 2° and the shading normal is off it by over 45°, a part. A note where the part has no hard edge at all.
 */
final class SoftOverSharp implements Check
{
    public function about(): About
    {
        return new About(
            code: 'soft-over-sharp',
            station: Station::Surface,
            row: 860,
            severity: Severity::Caution,
            title: 'Smooth shading over a sharp edge',
            measured: 'Smooth edges that turn by over 75° and are no seam, beside a face over which the high poly is flat within 2° and the shading normal is off it by over 45°, a part. A note where the part has no hard edge at all.',
            limit: 0.0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'dimples and gradients on flat faces beside the edge, worst on compressed or small maps',
            remedy: 'make the edge hard and split the UVs there, or add support edges',
            measures: [SharpShading::class],
            beside: [Rays::class],
            many: 'have smooth shading over sharp edges',
            symptoms: ['dimples', 'gradients', 'shading errors', 'dark corners', 'pillowing'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->clearances() as $clearance) {
            $set = $measures->set($clearance->name);
            foreach ($set === null ? [] : $measures->ofSet(SharpShading::class, $set) ?? [] as $number => $sharp) {
                $part = $set->low[$number] ?? null;
                if ($part === null || $sharp['count'] <= $limit) {
                    continue;
                }
                $one = $sharp['count'] === 1;
                $findings[] = Finding::onPart('soft-over-sharp', $sharp['hasHard'] ? Severity::Caution : Severity::Note, $part, UvParts::many($sharp['count'], 'smooth edge')." of {$part->part->name} ".($one ? 'turns' : 'turn').' by over 75° beside faces over which the high poly is flat: the shading is off by up to '.Words::degrees($sharp['off']).', and the map has to bend it back', 'make '.($one ? 'it' : 'them').' hard and split the UVs there, or add support edges', new Measured($sharp['count'], $limit, 'count'), $sharp['count'], $sharp['where']);
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
