<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measure;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Inspection\Inspection;
use Anvil\Standard\Severity;

/**
 * Share of a set's low area from which no high poly is met within the reach in use; samples are spread by UV area.
 */
final class RayMiss implements Check
{
    public function about(): About
    {
        return new About(
            code: 'ray-miss',
            station: Station::Clearance,
            severity: Severity::Blocker,
            title: 'Rays that meet nothing',
            measured: 'Share of a set\'s low area from which no high poly is met within the reach in use; samples are spread by UV area.',
            limit: 0.005,
            limitWords: '0.5 % (caution above 0.05 %)',
            afterBake: 'holes, or smears of what lies beside',
            remedy: 'raise the reach, move the high poly, or close its holes',
        );
    }

    public function run(Inspection $inspection): Outcome
    {
        if ($inspection->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }

        $findings = [];
        $limit = $inspection->standard->limit('ray-miss', 0.005);
        foreach ($inspection->clearances as $clearance) {
            $caution = min(0.0005, $limit);
            // What a floating shell explains is told by itself.
            $share = max(0.0, $clearance->missShare - $clearance->details->explainedMisses());
            if ($share <= $caution) {
                continue;
            }
            $blocks = $share > $limit;
            $reach = $clearance->inUse();
            $tooShort = $clearance->shortShare > 0.5 * $share;
            $findings[] = new Finding(
                'ray-miss', $blocks ? Severity::Blocker : Severity::Caution,
                "$clearance->name: from ".Words::percent($share).' of its low area rays meet no high poly within '.Words::length($reach->out).' out and '.Words::length($reach->in).' in',
                $tooShort ? 'raise the reach to '.Words::length($clearance->recommended->out).' out and '.Words::length($clearance->recommended->in).' in' : 'close the holes of the high poly there, or move it to where the low poly is',
                ['set' => $clearance->name], new Measure($share, $blocks ? $limit : $caution, 'share'),
                texels: Words::texels($clearance, $share), where: $clearance->missWhere,
            );
        }

        return RayChecks::outcome($inspection, $findings);
    }
}
