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
 * How far the high poly reaches past the border of an open low poly (panel, strand), as a length; it is no height and takes no
 * reach.
 */
final class Overhang implements Check
{
    public function about(): About
    {
        return new About(
            code: 'overhang',
            station: Station::Clearance,
            row: 460,
            severity: Severity::Note,
            title: 'High poly past an open border',
            measured: 'How far the high poly reaches past the border of an open low poly (panel, strand), as a length; it is no height and takes no reach.',
            limit: 0.01,
            unit: 'length',
            limitWords: '1 % of the set\'s size',
            afterBake: 'the high poly ends at the border of the low one: what hangs over is not in the map',
            remedy: 'extend the low poly to the high one\'s border, or accept the loss',
            measures: [Rays::class],
            many: 'have high poly past an open border',
            symptoms: ['cut off', 'clipped detail', 'missing detail', 'waviness at a rim'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        foreach ($measures->clearances() as $clearance) {
            if ($clearance->overhang > $limit * $clearance->d) {
                $findings[] = new Finding(
                    'overhang', Severity::Note, "$clearance->name: the high poly reaches ".Words::length($clearance->overhang, $measures->asset).' past the border of the low poly ('.Words::percent($clearance->overhang / $clearance->d).' of its size)',
                    'extend the low poly to there, or accept that it is not in the map', ['set' => $clearance->name], new Measured($clearance->overhang, $limit * $clearance->d, 'length'),
                );
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
