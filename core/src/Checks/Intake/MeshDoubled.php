<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Health;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Low faces whose corners are those of another face, either way round; on the high a note.
 */
final class MeshDoubled implements Check
{
    public function about(): About
    {
        return new About(
            code: 'mesh-doubled',
            station: Station::Intake,
            row: 180,
            severity: Severity::Caution,
            title: 'Faces on each other',
            measured: 'Low faces whose corners are those of another face, either way round; on the high a note.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'flicker and dark spots where two faces fight',
            remedy: 'delete the doubled faces',
            measures: [Health::class],
            many: 'have faces that lie on each other',
            ofFile: true,
            symptoms: ['flicker', 'dark spots', 'checkerboard', 'noise'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ([Role::Low, Role::High] as $role) {
            foreach ($measures->asset->judged($role) as $part) {
                $health = $measures->ofPart(Health::class, $part);
                $count = $health->doubled;
                if ($count > $limit) {
                    $what = $count === 1 ? '%d face lies on another, corner on corner' : '%d faces lie on others, corner on corner';
                    $findings[] = Finding::onPart('mesh-doubled', $role === Role::Low ? Severity::Caution : Severity::Note, $part, sprintf($what, $count).' in '.$part->part->name, 'delete the doubled faces', new Measured((float) $count, $limit, 'count'), $count, $health->doubledWhere);
                }
            }
        }

        return Outcome::of($findings);
    }
}
