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
 * Vertices, faces and the vertices of each face of a cage part against those of its low part, welded; a face that begins at another
 * corner is no difference. Counted in what differs.
 */
final class CageTopology implements Check
{
    public function about(): About
    {
        return new About(
            code: 'cage-topology',
            station: Station::Clearance,
            row: 500,
            severity: Severity::Blocker,
            title: 'Cage is another mesh than the low',
            measured: 'Vertices, faces and the vertices of each face of a cage part against those of its low part, welded; a face that begins at another corner is no difference. Counted in what differs.',
            limit: 0.0,
            unit: 'count',
            limitWords: 'none',
            afterBake: 'the baker refuses the cage, or smears',
            remedy: 'make the cage a copy of the low poly with its vertices moved, or have it fitted here',
            measures: [Cage::class],
            many: 'have a cage that is another mesh',
            symptoms: ['smear', 'cage refused'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        foreach ($measures->heldCages() as $cage) {
            foreach ($cage->differs as $differs) {
                $part = $differs['part'];
                $findings[] = new Finding(
                    'cage-topology', Severity::Blocker, "{$part->part->name} is another mesh than its low part: {$differs['words']}",
                    'copy the low part and move its vertices, or let anvil:cage fit one', ['set' => $cage->set->name, 'part' => $part->part->name, 'file' => $part->path], new Measured((float) $differs['count'], 0.0, 'count'), count: $differs['count'],
                );
            }
        }

        return $measures->heldCages() === [] ? Outcome::notApplicable('there is no cage') : Outcome::of($findings);
    }
}
