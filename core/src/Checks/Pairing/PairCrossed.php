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
use Anvil\Pairing\TieKind;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Whether the assignment of least total cost by place and size gives a low part another high part than its name does, at under
 * half the cost and under 0.25, where the named one costs over 0.05.
 */
final class PairCrossed implements Check
{
    public function about(): About
    {
        return new About(
            code: 'pair-crossed',
            station: Station::Pairing,
            row: 380,
            severity: Severity::Blocker,
            title: 'Paired with the wrong part',
            measured: 'Whether the assignment of least total cost by place and size gives a low part another high part than its name does, at under half the cost and under 0.25, where the named one costs over 0.05.',
            limit: 0.05,
            unit: 'ratio',
            limitWords: '0.05',
            afterBake: 'detail of another part, or smears',
            remedy: 'take the names by place',
            source: 'R. Jonker, A. Volgenant, 1987, for the assignment',
            symptoms: ['detail of another part', 'smear', 'wrong detail'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        if (! $measures->asset->pairing->byPlace) {
            return $measures->asset->pairing->saysNothingOfPlace($measures->asset->standard) ? Outcome::notRun('place says nothing while high and low differ in size or are turned') : Outcome::notApplicable('names do not pair these parts');
        }
        $findings = [];
        foreach ($measures->asset->pairing->ties as $tie) {
            if ($tie->kind !== TieKind::Crossed || ($tie->cost ?? 0.0) <= $limit) {
                continue;
            }
            $low = $tie->low[0];
            $better = ($tie->better[0] ?? $tie->high[0])->part->name;
            $findings[] = Finding::onTie('pair-crossed', Severity::Blocker, $low, $tie->high[0]->part->name, "{$low->part->name} pairs with {$tie->high[0]->part->name} by name, but $better stands where it stands", "rename $better to ".$tie->base.$measures->asset->standard->suffixFor(Role::High).'; the rename plan does all crossed names in one act', new Measured((float) $tie->cost, $limit, 'ratio'));
        }

        return Outcome::of($findings);
    }
}
