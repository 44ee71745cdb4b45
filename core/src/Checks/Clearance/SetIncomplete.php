<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Sets that the choices or the standard name and that lack low parts or high parts; bases alone are told by their own codes.
 */
final class SetIncomplete implements Check
{
    public function about(): About
    {
        return new About(
            code: 'set-incomplete',
            station: Station::Sets,
            row: 400,
            severity: Severity::Blocker,
            title: 'Set without a side',
            measured: 'Sets that the choices or the standard name and that lack low parts or high parts; bases alone are told by their own codes.',
            limit: null,
            limitWords: 'none',
            afterBake: 'the set bakes empty, or onto its neighbour',
            remedy: 'put the missing parts into the set, or hand them in',
            many: 'lack one side',
            symptoms: ['flat bake', 'empty'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->choices->sets === []) {
            return Outcome::notApplicable('no sets are named; each base is one');
        }
        $sets = [];
        foreach ($measures->asset->sets as $set) {
            $sets[$set->name] = $set;
        }
        $findings = [];
        foreach (array_keys($measures->asset->choices->sets) as $name) {
            $name = (string) $name;
            $set = $sets[$name] ?? null;
            if ($set !== null && $set->isWhole()) {
                continue;
            }
            [$lacks, $has] = $set === null || $set->low === [] ? ($set === null || $set->high === [] ? ['parts', null] : ['low parts', 'high']) : ['high parts', 'low'];
            $findings[] = new Finding('set-incomplete', Severity::Blocker, "the set $name has no $lacks".($has === null ? ': nothing is called as its patterns say' : ", only $has ones"), 'put the missing parts into the set, hand them in, or take the set out of the choices', ['set' => $name]);
        }

        return Outcome::of($findings);
    }
}
