<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Ties that hold but for the letter case of a role suffix.
 */
final class SuffixCase implements Check
{
    public function about(): About
    {
        return new About(
            code: 'suffix-case',
            station: Station::Pairing,
            row: 340,
            severity: Severity::Blocker,
            title: 'Suffix in another letter case',
            measured: 'Ties that hold but for the letter case of a role suffix.',
            limit: null,
            limitWords: 'exact',
            afterBake: 'the part bakes flat: its partner is not found',
            remedy: 'rename the part: bakers compare letter for letter',
            symptoms: ['flat bake', 'missing part'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->pairing->ties === []) {
            return Outcome::notApplicable('no part is low or high poly');
        }
        $findings = [];
        foreach ($measures->asset->pairing->ties as $tie) {
            if (! in_array('suffix-case', $tie->troubles, true)) {
                continue;
            }
            $low = $tie->low[0]->part->name;
            $high = $tie->high[0]->part->name;
            $renames = RenameWords::of($measures, $tie);
            $findings[] = new Finding('suffix-case', Severity::Blocker, "$low and $high would tie but for the letter case of a suffix", $renames, ['part' => $low, 'other' => $high, 'file' => $tie->low[0]->path]);
        }

        return Outcome::of($findings);
    }
}
