<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Share of a low part's area from which none of 64 directions escapes the assembled low poly.
 */
final class Buried implements Check
{
    public function about(): About
    {
        return new About(
            code: 'buried',
            station: Station::Clearance,
            row: 580,
            severity: Severity::Note,
            title: 'Low area that nobody sees',
            measured: 'Share of a low part\'s area from which none of 64 directions escapes the assembled low poly.',
            limit: 0.02,
            unit: 'share',
            limitWords: '2 % of the part',
            afterBake: 'texels spent on what is never seen, and dark edges where the covered area begins',
            remedy: 'delete or cut away what is covered, unless it comes off in use',
            measures: [Rays::class],
            many: 'have area that nobody sees',
            symptoms: ['dark edge', 'wasted texels', 'jagged edges'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        $sets = RayChecks::setsByName($measures);
        foreach ($measures->clearances() as $clearance) {
            foreach ($clearance->details->buried as $i => $share) {
                $part = $sets[$clearance->name]->low[$i] ?? null;
                if ($share > $limit && $part !== null) {
                    $findings[] = Finding::inSet(
                        'buried', Severity::Note, $clearance->name, $part, Words::percent($share)." of {$part->part->name} is not seen: other parts cover it",
                        'cut away what is covered, or say that what covers it comes off in use (detachable)', new Measured($share, $limit, 'share'),
                    );
                }
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
