<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Suffixes;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Parts whose role neither a role given to their file, their own suffix, nor the name of their file tells.
 */
final class RoleUnknown implements Check
{
    public function about(): About
    {
        return new About(
            code: 'role-unknown',
            station: Station::Intake,
            row: 40,
            severity: Severity::Blocker,
            title: 'Part without a role',
            measured: 'Parts whose role neither a role given to their file, their own suffix, nor the name of their file tells.',
            limit: null,
            limitWords: 'none',
            afterBake: 'the part is left out of the bake or baked onto the wrong one',
            remedy: 'name the part or its file with a role suffix',
            measures: [Suffixes::class],
            many: 'do not say whether they are low or high poly',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        $guess = $measures->ofAsset(Suffixes::class);
        $instead = $guess === null ? '' : ", or set the suffixes {$guess->words()} in the standard: $guess->pairs of $guess->bases names would pair";
        foreach ($measures->asset->judged() as $part) {
            if ($part->role === null) {
                $low = $measures->asset->standard->suffixFor(Role::Low);
                $high = $measures->asset->standard->suffixFor(Role::High);
                $findings[] = new Finding('role-unknown', Severity::Blocker, "{$part->part->name}: neither its name nor its file's says whether it is low or high poly", "end its name in $low or $high, or say the role of ".basename($part->path).$instead, ['part' => $part->part->name, 'file' => $part->path]);
            }
        }

        return Outcome::of($findings);
    }
}
