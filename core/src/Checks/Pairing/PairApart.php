<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Severity;

/**
 * Gap between the bounds of a pair as a share of d; under 1 % they count as meeting, since a flat part may float a little over
 * its low.
 */
final class PairApart implements Check
{
    public function about(): About
    {
        return new About(
            code: 'pair-apart',
            station: Station::Pairing,
            row: 390,
            severity: Severity::Blocker,
            title: 'Pair in two places',
            measured: 'Gap between the bounds of a pair as a share of the set\'s size; under 1 % they count as meeting, since a flat part may float a little over its low.',
            limit: 0.01,
            unit: 'share',
            limitWords: 'bounds that do not meet',
            afterBake: 'an empty map: rays never meet the high poly',
            remedy: 'move one side onto the other, or mend the name',
            many: 'lie apart from their high part',
            symptoms: ['empty map', 'black map'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->pairing->ties === []) {
            return Outcome::notApplicable('no part is low or high poly');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        if (! $measures->asset->pairing->byPlace && $measures->asset->pairing->saysNothingOfPlace($measures->asset->standard)) {
            return Outcome::notRun('place says nothing while high and low differ in size or are turned');
        }
        $findings = [];
        foreach ($measures->asset->pairing->ties as $tie) {
            if (! $tie->isApart() || ($tie->gap() ?? 0.0) <= $limit) {
                continue;
            }
            $low = $tie->low[0];
            $gap = (float) $tie->gap();
            $where = array_values(array_filter([RoledPart::boundsOf($tie->low)?->centre(), RoledPart::boundsOf($tie->high)?->centre()]));
            $findings[] = Finding::onTie('pair-apart', Severity::Blocker, $low, $tie->high[0]->part->name, "{$low->part->name} and {$tie->high[0]->part->name} lie ".Words::percent($gap).' of the set\'s size apart', 'move one side onto the other', new Measured($gap, $limit, 'share'), $where);
        }

        return Outcome::of($findings);
    }
}
