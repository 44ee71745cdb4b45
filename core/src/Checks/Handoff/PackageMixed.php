<?php

declare(strict_types=1);

namespace Anvil\Checks\Handoff;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * What goes into a package beside its files, by the hash of what it was made of. Told when a package is sealed and when it is verified; see
 * Handoff\Extra.
 */
final class PackageMixed implements Check
{
    public function about(): About
    {
        return new About(
            code: 'package-mixed',
            station: Station::HandOff,
            row: 910,
            severity: Severity::Blocker,
            title: 'Package mixes deliveries',
            measured: 'What goes into a package beside its files (exploded files, cages, ID files, trial maps, retouch masks) carries the hash of all that it was made of; it has to be that of the files.',
            limit: null,
            limitWords: 'none',
            afterBake: 'IDs, cages or an exploded layout that do not fit the meshes they lie beside',
            remedy: 'write what was made of something else again, and seal again',
        );
    }

    public function run(Measures $measures): Outcome
    {
        return Outcome::notApplicable('no package was written in this run');
    }
}
