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
 * Ties that hold but for the letter case of the base.
 */
final class NameCase implements Check
{
    public function about(): About
    {
        return new About(
            code: 'name-case',
            station: Station::Pairing,
            row: 350,
            severity: Severity::Blocker,
            title: 'Name in another letter case',
            measured: 'Ties that hold but for the letter case of the base.',
            limit: null,
            limitWords: 'exact',
            afterBake: 'the part bakes flat: its partner is not found',
            remedy: 'rename one side: bakers compare letter for letter',
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
            if (! in_array('name-case', $tie->troubles, true)) {
                continue;
            }
            $low = $tie->low[0]->part->name;
            $high = $tie->high[0]->part->name;
            $renames = RenameWords::of($measures, $tie);
            $findings[] = new Finding('name-case', Severity::Blocker, "$low and $high would tie but for letter case", $renames, ['part' => $low, 'other' => $high, 'file' => $tie->low[0]->path]);
        }

        return Outcome::of($findings);
    }
}
