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
 * A sealed package held against what there is now: its files, the standard and what was decided. Told by `anvil:verify --with` and
 * on Hand-off; see Handoff\Staleness.
 */
final class PackageStale implements Check
{
    public function about(): About
    {
        return new About(
            code: 'package-stale',
            station: Station::HandOff,
            row: 905,
            severity: Severity::Blocker,
            title: 'Package is out of date',
            measured: 'A sealed package held against what there is now: its files, the standard and what was decided, each by hash; and whether a newer delivery came since.',
            limit: null,
            limitWords: 'none',
            afterBake: 'what is baked is not what was checked last',
            remedy: 'check the asset as it is now, and seal it again',
        );
    }

    public function run(Measures $measures): Outcome
    {
        return Outcome::notApplicable('no package was held against these files');
    }
}
