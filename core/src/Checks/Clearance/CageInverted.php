<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Cage;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Cage faces turned against their low face.
 */
final class CageInverted implements Check
{
    public function about(): About
    {
        return new About(
            code: 'cage-inverted',
            station: Station::Clearance,
            row: 520,
            severity: Severity::Blocker,
            title: 'Cage face turned over',
            measured: 'Cage faces turned against their low face.',
            limit: 0.0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'smears and holes where the cage folds over',
            remedy: 'smooth the cage there, or have one fitted',
            measures: [Cage::class],
            many: 'have cage faces that are turned over',
            symptoms: ['smear', 'hole', 'folded cage', 'flaring'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        foreach ($measures->heldCages() as $cage) {
            foreach ($cage->inverted as $inverted) {
                $part = $inverted['part'];
                $findings[] = new Finding(
                    'cage-inverted', Severity::Blocker, "{$inverted['count']} faces of {$part->part->name} are turned against their low faces",
                    'smooth the cage there, or let anvil:cage fit one', ['set' => $cage->set->name, 'part' => $part->part->name, 'file' => $part->path], new Measured((float) $inverted['count'], 0.0, 'count'), count: $inverted['count'], where: $inverted['where'],
                );
            }
        }

        return $measures->heldCages() === [] ? Outcome::notApplicable('there is no cage') : Outcome::of($findings);
    }
}
