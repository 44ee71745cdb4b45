<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Pairing\NearName;
use Anvil\Standard\Severity;

/**
 * Bases that are within two edits of each other (insertions, deletions, substitutions, swaps), numbering and copy tails aside,
 * alone in that, and whose parts stand in one place.
 */
final class NameNear implements Check
{
    public function about(): About
    {
        return new About(
            code: 'name-near',
            station: Station::Pairing,
            row: 370,
            severity: Severity::Blocker,
            title: 'Names that differ by a slip',
            measured: 'Bases that are within two edits of each other (insertions, deletions, substitutions, swaps), numbering and copy tails aside, alone in that, and whose parts stand in one place.',
            limit: 2,
            unit: 'count',
            limitWords: 'two edits',
            afterBake: 'the part bakes flat: its partner is not found',
            remedy: 'rename the high part after the low part',
            source: 'R. Lowrance, R. A. Wagner, 1975, for the distance',
            symptoms: ['flat bake', 'missing part'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->pairing->ties === []) {
            return Outcome::notApplicable('no part is low or high poly');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->asset->pairing->ties as $tie) {
            if (! in_array('name-near', $tie->troubles, true)) {
                continue;
            }
            $low = $tie->low[0];
            $high = $tie->high[0];
            $edits = NearName::distance(NearName::stripped($low->base, $measures->asset->standard), NearName::stripped($high->base, $measures->asset->standard));
            $findings[] = Finding::onTie('name-near', Severity::Blocker, $low, $high->part->name, "{$low->part->name} and {$high->part->name} would pair but for ".match ($edits) {
                0 => 'numbering or letter case', 1 => '1 letter', default => "$edits letters",
            }.', and stand in one place', RenameWords::of($measures, $tie), new Measured((float) $edits, $limit, 'count'));
        }

        return Outcome::of($findings);
    }
}
