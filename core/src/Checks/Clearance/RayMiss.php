<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Asset\Asset;
use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Clearance\SetClearance;
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Rays\Estimate;
use Anvil\Standard\Limits;
use Anvil\Standard\Severity;

/**
 * Share of a set's seen low area from which no high poly is met within the reach in use, margins and what floating shells explain apart.
 */
final class RayMiss implements Check
{
    public function about(): About
    {
        return new About(
            code: 'ray-miss',
            station: Station::Clearance,
            row: 410,
            severity: Severity::Blocker,
            title: 'Rays that meet nothing',
            measured: 'Share of a set\'s seen low area from which no high poly is met within the reach in use; samples are spread by UV area, and doubled while a limit lies within their 95 % interval. Margins of open low parts and misses around floating shells are told by themselves; of what is not seen, a note.',
            limit: Limits::of('ray-miss'),
            unit: 'share',
            limitWords: '0.5 % (caution above 0.05 %)',
            afterBake: 'holes, or smears of what lies beside',
            remedy: 'raise the reach, move the high poly or close its holes, or pull in a low poly that stands past it',
            caution: Limits::cautionOf('ray-miss'),
            measures: [Rays::class],
            beside: [Places::class],
            many: 'have rays that meet nothing',
            symptoms: ['hole', 'smear', 'missing texels', 'red patches'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }

        $findings = $offPlace = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        $caution = $this->about()->cautionBy($measures->asset->standard);
        foreach ($measures->clearances() as $clearance) {
            $off = RayChecks::offPlace($measures, $clearance->name);
            if ($off !== []) {
                $offPlace[] = $clearance->name;
            }
            // What a floating shell explains is told by itself.
            $share = max(0.0, RayChecks::sum($clearance->details->missesByPart, $off) - FloaterUnbacked::reportedShare($measures, $clearance));
            if ($clearance->set === null && $clearance->details->bestShare !== null && ! $measures->asset->standard->isOff('span-closed')) {
                // A longer reach ends the others and causes wrong hits: span-closed reports them.
                $share = min($share, $clearance->details->ending['left']);
            }
            $estimate = Estimate::of($share, $clearance->details->tellingMisses);
            if ($estimate->isOver($caution)) {
                $blocks = $estimate->isOver($limit);
                $reach = $clearance->inUse();
                $findings[] = new Finding(
                    'ray-miss', $blocks ? Severity::Blocker : Severity::Caution,
                    "$clearance->name: from ".Words::share($estimate, $caution, $limit).' of its seen low area rays meet no high poly within '.Words::length($reach->out, $measures->asset).' out and '.Words::length($reach->in, $measures->asset).' in',
                    self::remedy($clearance, $share, $caution, $measures->asset),
                    ['set' => $clearance->name], new Measured($share, $blocks ? $limit : $caution, 'share'),
                    texels: Words::texels($clearance, $share), where: $clearance->missWhere,
                );
            }
            $unseen = Estimate::of($clearance->details->unseenMisses, max($clearance->samples, $clearance->details->tellingMisses));
            if ($off === [] && $unseen->isOver($limit)) {
                $findings[] = new Finding(
                    'ray-miss', Severity::Note, "$clearance->name: from ".Words::percent($unseen->share).' of its low area, none of it seen, rays meet no high poly', 'nothing, unless what covers it comes off in use (detachable)',
                    ['set' => $clearance->name], new Measured($unseen->share, $limit, 'share'), texels: Words::texels($clearance, $unseen->share),
                );
            }
        }

        return RayChecks::outcome($measures, $findings, $offPlace);
    }

    /** The reach at which these misses end, or that none does. */
    private static function remedy(SetClearance $clearance, float $share, float $limit, Asset $asset): string
    {
        $reach = $clearance->inUse();
        $ending = $clearance->details->ending;
        $open = 'the high poly is open there, or the low poly stands past its outline: close the hole, model what is missing, or pull the low poly in';
        if ($ending['left'] >= $share - 1e-12 || ($ending['out'] <= $reach->out && $ending['in'] <= $reach->in)) {
            return "no reach ends these misses; $open";
        }
        if ($ending['left'] > $share / 2) {
            return "no reach ends half of these misses; $open";
        }
        $raise = 'raise the reach to '.Words::length($ending['out'], $asset).' out and '.Words::length($ending['in'], $asset).' in';

        return $ending['left'] > $limit ? "$raise, which ends all but ".Words::percent($ending['left'])."; no reach ends the rest, where $open" : "$raise: there these misses end";
    }
}
