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
use Anvil\Rays\Estimate;
use Anvil\Standard\Severity;

/**
 * How far the high poly lies outside the reach that the standard sets for a set, outward or inward, in the measure of
 * reach.
 */
final class ReachShort implements Check
{
    public function about(): About
    {
        return new About(
            code: 'reach-short',
            station: Station::Clearance,
            row: 470,
            severity: Severity::Blocker,
            title: 'Reach too short',
            measured: 'How far the high poly lies outside the reach that the standard sets for a set, outward or inward, in the measure of reach.',
            limit: 0.001,
            unit: 'length',
            limitWords: '0.05 % of area or 0.1 % of the set\'s size; a note under both',
            afterBake: 'clipped detail: flat spots on top of details, or holes',
            remedy: 'raise the reach to the recommended one',
            measures: [Rays::class],
            many: 'have a reach that is too short',
            symptoms: ['clipped detail', 'flat spots', 'hole', 'cut off'],
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
            $out = max(0.0, $clearance->needed->out - $reach->out);
            $in = max(0.0, $clearance->needed->in - $reach->in);
            $missing = max($out, $in);
            if ($missing <= 1e-6 * $clearance->d) {
                continue;
            }
            $blocks = $missing > $limit * $clearance->d || Estimate::of($clearance->shortShare, $clearance->details->effective)->isOver(0.0005);
            $side = $out >= $in ? 'outward' : 'inward';
            $where = $out >= $in ? $clearance->highest : $clearance->deepest;
            $findings[] = new Finding(
                'reach-short', $blocks ? Severity::Blocker : Severity::Note,
                "$clearance->name: the reach is ".Words::length($missing, $measures->asset)." too short $side: it needs ".Words::length($side === 'outward' ? $clearance->needed->out : $clearance->needed->in, $measures->asset).' and has '.Words::length($side === 'outward' ? $reach->out : $reach->in, $measures->asset),
                'set it to '.Words::length($clearance->recommended->out, $measures->asset).' out and '.Words::length($clearance->recommended->in, $measures->asset).' in',
                ['set' => $clearance->name], new Measured($missing, $limit * $clearance->d, 'length'),
                texels: Words::texels($clearance, $clearance->shortShare), where: $where === null ? [] : [$where],
            );
        }
        if (! $anySet && $measures->clearances() !== []) {
            return Outcome::notApplicable('the standard sets no reach; the recommended one encloses all of the high poly');
        }

        return RayChecks::outcome($measures, $findings);
    }
}
