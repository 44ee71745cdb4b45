<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Clearance\RayChecks;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\RimHeights;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * How far the height of a round high poly over the low one swings between corner and middle of the edges of a rim (edges that turn by over 60° and go round), in px at the map size: r(1 − cos(π/n)) for a radius r over n sides.
 */
final class RimWave implements Check
{
    public function about(): About
    {
        return new About(
            code: 'rim-wave',
            station: Station::Surface,
            row: 870,
            severity: Severity::Caution,
            title: 'Waves along a round rim',
            measured: 'How far the height of a round high poly over the low one swings between corner and middle of the edges of a rim (edges that turn by over 60° and go round), in px at the map size: r(1 − cos(π/n)) for a radius r over n sides.',
            limit: 4.0,
            unit: 'px',
            limitWords: '4 px',
            afterBake: 'waviness at a rim: the round edge of the high poly runs in bows along the straight edges of the low',
            remedy: 'give the rim more sides, or control edges beside it',
            measures: [RimHeights::class],
            beside: [Rays::class],
            many: 'have too few sides along a round rim',
            symptoms: ['waviness at a rim', 'wavy edge', 'bows along an edge', 'scalloped rim'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->clearances() as $clearance) {
            $set = $measures->set($clearance->name);
            foreach ($set === null ? [] : $measures->ofSet(RimHeights::class, $set) ?? [] as $number => $rim) {
                $part = $set->low[$number] ?? null;
                if ($part === null || $rim['pixels'] <= $limit) {
                    continue;
                }
                // As many sides as bow out by no more than the limit.
                $allowed = $limit * $rim['swing'] / $rim['pixels'];
                $sides = $rim['radius'] > 0.0 && $allowed > 1e-9 * $rim['radius'] ? (int) ceil(M_PI / acos(max(-1.0, 1.0 - $allowed / $rim['radius'])) - 1e-9) : 0;
                $findings[] = Finding::onPart('rim-wave', Severity::Caution, $part, "a round rim of {$part->part->name} has about ".round($rim['sides']).' sides, and the high poly bows out between them by '.Words::pixels($rim['pixels']).'; up to '.Words::pixels($limit).' passes', ($sides > 0 ? "give it $sides sides, or" : 'give it').' control edges beside the rim', new Measured($rim['pixels'], $limit, 'px'), $rim['count'], $rim['where']);
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
