<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\Turn;
use Anvil\Measures\Measures;
use Anvil\Standard\Limits;
use Anvil\Standard\Severity;

/**
 * Share of a low part where its own copy inside the high poly is met first and other high surface that belongs there lies
 * under it.
 */
final class HighCoversDetail implements Check
{
    public function about(): About
    {
        return new About(
            code: 'high-covers-detail',
            station: Station::Intake,
            row: 310,
            severity: Severity::Caution,
            title: 'Copy of the low hides detail',
            measured: 'Share of a low part where its own copy inside the high poly is met first and other high surface that belongs there lies under it.',
            limit: Limits::of('high-covers-detail'),
            unit: 'share',
            limitWords: '0.1 % of the part',
            afterBake: 'flat patches where detail should be',
            remedy: 'delete the copy of the low poly where the high poly has a surface of its own',
            measures: [Places::class],
            beside: [Rays::class, Contents::class, Turn::class],
            many: 'are covered by a copy of themselves in the high poly',
            symptoms: ['flat patches', 'missing detail'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $measured = 0;
        foreach ($measures->asset->sets as $set) {
            $clearance = $measures->clearanceOf($set);
            foreach ($clearance === null ? [] : $measures->asset->tiesOf($set) as $tie) {
                $place = $measures->placeOf($tie);
                $measured += $place === null ? 0 : 1;
                if ($clearance !== null && $place !== null && $place->covered > $limit) {
                    $findings[] = Finding::onTie('high-covers-detail', Severity::Caution, $tie->low[0], $place->high, 'a copy of '.$tie->low[0]->part->name.' inside the high poly hides high surface under '.Words::percent($place->covered).' of it', 'delete the copy of the low poly there', new Measured($place->covered, $limit, 'share'), $place->coveredWhere, Words::texels($clearance, $place->covered));
                }
            }
        }
        $unplaced = array_values(array_filter(array_map($measures->unplaced(...), $measures->wholeSets())));
        if ($measured > 0 || $unplaced === []) {
            return $measured > 0 ? Outcome::of($findings) : Outcome::notApplicable('no low part has its high part');
        }

        return Outcome::notRun("surfaces were not held against each other: $unplaced[0]");
    }
}
