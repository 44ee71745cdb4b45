<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Pairing\SuffixGuess;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Standard\Severity;

/**
 * Parts whose role is known from their file and whose own name lacks the suffix or has another separator; a note where
 * low and high hold one part each.
 */
final class SuffixMissing implements Check
{
    public function about(): About
    {
        return new About(
            code: 'suffix-missing',
            station: Station::Pairing,
            row: 360,
            severity: Severity::Blocker,
            title: 'Role suffix missing',
            measured: 'Parts whose role is known from their file and whose own name lacks the suffix or has another separator; a note where low and high hold one part each.',
            limit: null,
            limitWords: 'exact',
            afterBake: 'the part bakes flat: its partner is not found',
            remedy: 'add the suffix',
            symptoms: ['flat bake', 'missing part'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->pairing->ties === []) {
            return Outcome::notApplicable('no part is low or high poly');
        }
        $findings = [];
        $ties = array_filter($measures->asset->pairing->ties, static fn (Tie $tie): bool => in_array('suffix-missing', $tie->troubles, true));
        // By names alone, so that it is known before anything is measured.
        $guess = $ties === [] ? null : SuffixGuess::of($measures->asset->parts, $measures->asset->standard);
        foreach ($ties as $tie) {
            $low = $tie->low[0]->part->name;
            $high = $tie->high[0]->part->name;
            $renames = $guess === null ? RenameWords::of($measures, $tie) : "set the suffixes {$guess->words()} in the standard: $guess->pairs of $guess->bases names would pair";
            $findings[] = new Finding('suffix-missing', $tie->kind === TieKind::OneAndOne ? Severity::Note : Severity::Blocker, $tie->kind === TieKind::OneAndOne ? "$low and $high tie because each is the only part; by name they would not" : "$low and $high would tie if both names carried their suffix", $renames, ['part' => $low, 'other' => $high, 'file' => $tie->low[0]->path]);
        }

        return Outcome::of($findings);
    }
}
