<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Vertices of a part that no face uses, counted.
 */
final class MeshLoose implements Check
{
    public function about(): About
    {
        return new About(
            code: 'mesh-loose',
            station: Station::Intake,
            row: 190,
            severity: Severity::Note,
            title: 'Vertices without faces',
            measured: 'Vertices of a part that no face uses, counted.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'nothing; bounds and pivots may be off',
            remedy: 'delete them',
            many: 'have vertices that belong to no face',
            ofFile: true,
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ([Role::Low, Role::High] as $role) {
            foreach ($measures->asset->judged($role) as $part) {
                $count = $part->part->facts->looseVertices;
                if ($count > $limit) {
                    $findings[] = Finding::onPart('mesh-loose', Severity::Note, $part, ($count === 1 ? '1 vertex' : "$count vertices")." of {$part->part->name} belong to no face", 'delete them', new Measured((float) $count, $limit, 'count'), $count);
                }
            }
        }

        return Outcome::of($findings);
    }
}
