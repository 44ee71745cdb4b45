<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Share of a set's low area around a shell of the high poly that hovers over nothing, from which rays meet nothing.
 */
final class FloaterUnbacked implements Check
{
    public function about(): About
    {
        return new About(
            code: 'floater-unbacked',
            station: Station::Clearance,
            row: 430,
            severity: Severity::Blocker,
            title: 'Floating detail over nothing',
            measured: 'Share of a set\'s low area around a shell of the high poly that hovers over nothing, from which rays meet nothing.',
            limit: null,
            unit: 'share',
            limitWords: 'none',
            afterBake: 'a hole or a smear around the floating detail',
            remedy: 'put a surface under the floating detail',
            source: 'common practice, no published source: there must be a surface under floating detail',
            measures: [Rays::class],
            many: 'have floating detail over nothing',
            symptoms: ['hole', 'smear'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $sets = RayChecks::setsByName($measures);
        foreach ($measures->clearances() as $clearance) {
            $set = $sets[$clearance->name] ?? null;
            foreach ($clearance->details->floaters as $floater) {
                $part = $set?->target()[$floater->part] ?? null;
                if ($floater->isBacked || $floater->missShare <= 0.0 || $part === null) {
                    continue;
                }
                $findings[] = Finding::inSet(
                    'floater-unbacked', Severity::Blocker, $clearance->name, $part, "a floating shell of {$part->part->name} hovers over nothing: around it rays meet nothing on ".Words::percent($floater->missShare)." of the low area of $clearance->name",
                    'put a surface of the high poly under it', new Measured($floater->missShare, 0.0, 'share'),
                    texels: Words::texels($clearance, $floater->missShare), where: $floater->missWhere,
                );
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
