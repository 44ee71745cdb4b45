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
            measured: 'Whether the reach that a set needs is at or past its first wrong hit, outward or inward, so that every single distance either clips the high poly or goes wrong, in the measure of reach. How badly: the share of seen low area that is clipped or goes wrong at the best reach there is.',
            limit: Limits::of('span-closed'),
            unit: 'length',
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
            foreach (['out' => $clearance->needed->out, 'in' => $clearance->needed->in] as $side => $needed) {
                $wrong = $clearance->firstWrong[$side];
                $share = $clearance->details->bestShare[$side];
                $estimate = Estimate::of($share, $clearance->details->tellingWrong[$side]);
                if ($wrong === null || $needed < $wrong || ! $estimate->isOver($caution)) {
                    continue;
                }
                $texels = Words::texels($clearance, $share);
                $best = $clearance->details->best[$side] ?? $needed;
                $findings[] = new Finding(
                    'span-closed', $estimate->isOver($limit) ? Severity::Blocker : Severity::Caution,
                    "$clearance->name: no single distance ".($side === 'out' ? 'outward' : 'inward').' works: it needs '.Words::length($needed, $measures->asset).', and rays go wrong from '.Words::length($wrong, $measures->asset)
                        .'; at the best one, '.Words::length($best, $measures->asset).', '.Words::share($estimate, $caution, $limit).' of its seen low area comes out wrong',
                    'fit a cage by vertex; or split the set, explode it, or bake it in an open pose; or retouch '.($texels === null ? Words::percent($share).' of its area' : number_format($texels).' texels').' after the bake',
                    ['set' => $clearance->name], new Measured($needed, $wrong, 'length'),
                    texels: $texels, where: $clearance->details->wrongWhere,
                );
                break;
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
