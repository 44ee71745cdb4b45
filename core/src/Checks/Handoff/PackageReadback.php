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
 * Every file of a sealed package, read again from the package: its checksum, and that it still gives the parts and
 * triangles that were meant.
 */
final class PackageReadback implements Check
{
    public function about(): About
    {
        return new About(
            code: 'package-readback',
            station: Station::HandOff,
            row: 900,
            severity: Severity::Blocker,
            title: 'Package reads back',
            measured: 'Every file of a sealed package, read again from the package: its checksum, and that it still gives the parts and triangles that were meant.',
            limit: null,
            limitWords: 'none',
            afterBake: 'the wrong files are baked',
            remedy: 'seal again; if it fails again, the disk is at fault',
        );
    }

    public function run(Measures $measures): Outcome
    {
        // Runs when a package is sealed, on the package itself; see Handoff\Readback.
        return Outcome::notApplicable('no package was written in this run');
    }
}
