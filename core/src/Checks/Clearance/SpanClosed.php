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
use Anvil\Measures\Kind\Cage;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Rays\Estimate;
use Anvil\Standard\Limits;
use Anvil\Standard\Severity;

/**
 * Whether the reach that a set needs is at or past its first wrong hit, outward or inward, so that every single distance either
 * clips the high poly or goes wrong, in the measure of reach.
 */
final class SpanClosed implements Check
{
    public function about(): About
    {
        return new About(
            code: 'span-closed',
            station: Station::Clearance,
            row: 490,
            severity: Severity::Blocker,
            title: 'No single distance works',
            measured: 'Whether the reach that a set needs is at or past its first wrong hit, outward or inward, so that every single distance either clips the high poly or goes wrong, in the measure of reach. Its value is the share of seen low area that is clipped, missed or goes wrong, together, at the best pair of reaches outward and inward.',
            limit: Limits::of('span-closed'),
            unit: 'share',
            limitWords: 'needed reach under the first wrong hit; 0.5 % wrong at the best reach (caution above 0.05 %)',
            afterBake: 'clipped detail or prints of what lies beside, whatever the distance',
            remedy: 'fit a cage by vertex, split the set, explode it, bake it in an open pose, or retouch after the bake',
            caution: Limits::cautionOf('span-closed'),
            measures: [Rays::class],
            beside: [Cage::class],
            many: 'have no single distance that works',
            symptoms: ['clipped detail', 'print', 'ghost'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        $caution = $this->about()->cautionBy($measures->asset->standard);
        $caged = [];
        foreach ($measures->heldCages() as $cage) {
            if ($cage->isClean(($measures->clearanceOf($cage->set))->d ?? 0.0)) {
                $caged[$cage->set->name] = true;
            }
        }
        foreach ($measures->clearances() as $clearance) {
            // With a cage that fits no single distance is used.
            if (isset($caged[$clearance->name]) || RayChecks::isBledInto($measures, $clearance)) {
                continue;
            }
            $details = $clearance->details;
            if ($details->bestShare === null || $details->best === null) {
                continue;
            }
            $estimate = Estimate::of($details->bestShare, $details->tellingBest);
            if (! $estimate->isOver($caution)) {
                continue;
            }
            $side = $clearance->firstWrong['out'] !== null && $clearance->needed->out >= $clearance->firstWrong['out'] ? 'out' : 'in';
            $needed = $side === 'out' ? $clearance->needed->out : $clearance->needed->in;
            $texels = Words::texels($clearance, $details->bestShare);
            $blocks = $estimate->isOver($limit);
            $asset = $measures->asset;
            $findings[] = new Finding(
                'span-closed', $blocks ? Severity::Blocker : Severity::Caution,
                "$clearance->name: no single distance ".($side === 'out' ? 'outward' : 'inward').' works: it needs '.Words::length($needed, $asset).', and rays go wrong from '.Words::length((float) $clearance->firstWrong[$side], $asset)
                    .'; at the best one, '.Words::length($details->best->out, $asset).' out and '.Words::length($details->best->in, $asset).' in, '.Words::share($estimate, $caution, $limit).' of its seen low area is clipped, missed or wrong',
                'fit a cage by vertex; or split the set, explode it, or bake it in an open pose; or retouch what is left after the bake',
                ['set' => $clearance->name], new Measured($details->bestShare, $blocks ? $limit : $caution, 'share'),
                texels: $texels, where: $details->wrongWhere,
            );
        }

        return RayChecks::outcome($measures, $findings);
    }
}
