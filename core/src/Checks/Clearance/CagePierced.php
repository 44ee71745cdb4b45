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
use Anvil\Measures\Kind\Cage;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * How far the high poly of a set lies outside its cage at most, as a length, and over which share of the low area.
 */
final class CagePierced implements Check
{
    public function about(): About
    {
        return new About(
            code: 'cage-pierced',
            station: Station::Clearance,
            row: 510,
            severity: Severity::Blocker,
            title: 'High poly outside the cage',
            measured: 'How far the high poly of a set lies outside its cage at most, as a length, and over which share of the low area.',
            limit: 0.001,
            unit: 'length',
            limitWords: '0.05 % of area or 0.1 % of the set\'s size; a note under both',
            afterBake: 'clipped detail where it sticks out of the cage',
            remedy: 'push the cage out there, or have one fitted',
            measures: [Cage::class],
            beside: [Rays::class],
            many: 'have high poly outside the cage',
            symptoms: ['clipped detail', 'cut off'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        foreach ($measures->heldCages() as $cage) {
            $clearance = $measures->clearanceOf($cage->set);
            $rays = $cage->rays;
            if ($rays === null || $clearance === null || ($rays->outsideBy <= 1e-6 * $clearance->d && $rays->outsideShare <= 0.0)) {
                continue;
            }
            $blocks = $rays->outsideShare > 0.0005 || $rays->outsideBy > $limit * $clearance->d;
            $findings[] = new Finding(
                'cage-pierced', $blocks ? Severity::Blocker : Severity::Note,
                "the high poly of {$cage->set->name} lies up to ".Words::length($rays->outsideBy, $measures->asset).' outside its cage, over '.Words::percent($rays->outsideShare).' of its low area',
                'push the cage out by '.Words::length($rays->outsideBy, $measures->asset).' there, or let anvil:cage fit one', ['set' => $cage->set->name, 'part' => $cage->first?->part->name ?? ''], new Measured($rays->outsideBy, $limit * $clearance->d, 'length'),
                texels: Words::texels($clearance, $rays->outsideShare), count: $rays->outsideCount, where: $rays->where,
            );
        }

        return $measures->heldCages() === [] ? Outcome::notApplicable('there is no cage') : RayChecks::outcome($measures, $findings);
    }
}
