<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Parts whose own suffix contradicts the role given to their file.
 */
final class RoleMixed implements Check
{
    public function about(): About
    {
        return new About(
            code: 'role-mixed',
            station: Station::Intake,
            row: 50,
            severity: Severity::Blocker,
            title: 'Part of another role in the file',
            measured: 'Parts whose own suffix contradicts the role given to their file.',
            limit: null,
            limitWords: 'none',
            afterBake: 'the part is baked as the wrong side, or missing from the bake',
            remedy: 'move the part to the file of its role',
            many: 'are of another role than their file',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        foreach ($measures->asset->parts as $part) {
            if ($part->mixed && $part->role !== null && ! $measures->asset->choices->leavesOut($part->base, $part->part->name)) {
                $own = $part->reading->role->value ?? '';
                $findings[] = new Finding('role-mixed', Severity::Blocker, "{$part->part->name} is a $own part in a file handed in as {$part->role->value}", "export it with the $own parts, or hand ".basename($part->path)." in as $own", ['part' => $part->part->name, 'file' => $part->path]);
            }
        }

        return Outcome::of($findings);
    }
}
