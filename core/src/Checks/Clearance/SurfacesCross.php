<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Crossing;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Pairs of sets whose low triangles intersect, with how many triangles do; touching faces do not count.
 */
final class SurfacesCross implements Check
{
    public function about(): About
    {
        return new About(
            code: 'surfaces-cross',
            station: Station::Sets,
            row: 560,
            severity: Severity::Note,
            title: 'Low parts of two sets cross',
            measured: 'Pairs of sets whose low triangles intersect, with how many triangles do; touching faces do not count.',
            limit: 0.0,
            unit: 'count',
            limitWords: 'none',
            afterBake: 'dark lines where parts go into each other, when they shade each other',
            remedy: 'nothing where parts are meant to go into each other',
            measures: [Crossing::class],
            symptoms: ['dark line', 'dark edge', 'jagged edges'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if (count($measures->asset->sets) < 2) {
            return Outcome::notApplicable('there are not two sets');
        }
        $findings = [];
        foreach ($measures->ofAsset(Crossing::class) as $crossing) {
            $findings[] = new Finding(
                'surfaces-cross', Severity::Note, "low triangles of {$crossing['set']} and {$crossing['other']} go through each other ({$crossing['count']} pairs)",
                'nothing where they are meant to; otherwise move one, or let them not shade each other', ['set' => $crossing['set'], 'other' => $crossing['other']], new Measured((float) $crossing['count'], 0.0, 'count'), count: $crossing['count'], where: $crossing['where'],
            );
        }

        return Outcome::of($findings);
    }
}
