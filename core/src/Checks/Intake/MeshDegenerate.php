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
 * Low triangles of no area (under 1e-12 of their longest edge squared) or with a repeated corner; on the high a note.
 */
final class MeshDegenerate implements Check
{
    public function about(): About
    {
        return new About(
            code: 'mesh-degenerate',
            station: Station::Intake,
            row: 150,
            severity: Severity::Caution,
            title: 'Triangles without area',
            measured: 'Low triangles of no area (under 1e-12 of their longest edge squared) or with a repeated corner; on the high a note.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'spots: normals there are undefined',
            remedy: 'weld or delete them',
            measures: [Health::class],
            many: 'have triangles without area',
            ofFile: true,
            symptoms: ['spots', 'black dots'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ([Role::Low, Role::High] as $role) {
            foreach ($measures->asset->judged($role) as $part) {
                $health = $measures->ofPart(Health::class, $part);
                $count = $health->degenerate;
                if ($count > $limit) {
                    $what = $count === 1 ? '%d triangle has no area or a repeated corner' : '%d triangles have no area or a repeated corner';
                    $findings[] = Finding::onPart('mesh-degenerate', $role === Role::Low ? Severity::Caution : Severity::Note, $part, sprintf($what, $count).' in '.$part->part->name, 'weld or delete them', new Measured((float) $count, $limit, 'count'), $count, $health->degenerateWhere);
                }
            }
        }

        return Outcome::of($findings);
    }
}
