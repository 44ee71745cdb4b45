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
 * How far the reach that the standard sets for a set goes past its first wrong hit, outward or inward, in the measure of reach;
 * where no distance works at all the closed span speaks.
 */
final class ReachLong implements Check
{
    public function about(): About
    {
        return new About(
            code: 'reach-long',
            station: Station::Clearance,
            row: 480,
            severity: Severity::Caution,
            title: 'Reach past the safe span',
            measured: 'How far the reach that the standard sets for a set goes past its first wrong hit, outward or inward, in the measure of reach; where no distance works at all the closed span speaks.',
            limit: 0.0,
            unit: 'length',
            limitWords: 'any',
            afterBake: 'prints and smears of what lies beside: the neighbouring slat, the other wall',
            remedy: 'lower the reach to the recommended one',
            measures: [Rays::class],
            many: 'have a reach past the safe span',
            symptoms: ['print', 'smear', 'ghost', 'wrong detail', 'bleeding'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        $anySet = false;
        foreach ($measures->clearances() as $clearance) {
            $reach = $clearance->set;
            if ($reach === null) {
                continue;
            }
            $anySet = true;
            if (RayChecks::isBledInto($measures, $clearance)) {
                continue;
            }
            foreach (['out' => $reach->out, 'in' => $reach->in] as $side => $length) {
                $wrong = $clearance->firstWrong[$side];
                $needed = $side === 'out' ? $clearance->needed->out : $clearance->needed->in;
                if ($wrong === null || $length < $wrong || $length - $wrong < $limit || $needed >= $wrong) {
                    continue;
                }
                $findings[] = new Finding(
                    'reach-long', Severity::Caution,
                    "$clearance->name: the reach of ".Words::length($length, $measures->asset).($side === 'out' ? ' outward' : ' inward').' goes '.Words::length($length - $wrong, $measures->asset).' past the first wrong hit at '.Words::length($wrong, $measures->asset),
                    'set it to '.Words::length($clearance->recommended->out, $measures->asset).' out and '.Words::length($clearance->recommended->in, $measures->asset).' in',
                    ['set' => $clearance->name], new Measured($length - $wrong, $limit, 'length'),
                    texels: Words::texels($clearance, $clearance->details->wrongShare), where: $clearance->details->wrongWhere,
                );
                break;
            }
        }
        if (! $anySet && $measures->clearances() !== []) {
            return Outcome::notApplicable('the standard sets no reach; the recommended one stays within the span');
        }

        return RayChecks::outcome($measures, $findings);
    }
}
