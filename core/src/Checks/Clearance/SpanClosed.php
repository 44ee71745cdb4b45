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
            severity: Severity::Blocker,
            title: 'No single distance works',
            measured: 'Whether the reach that a set needs is at or past its first wrong hit, outward or inward, so that every single distance either clips the high poly or goes wrong, in the measure of reach.',
            limit: null,
            limitWords: 'needed reach under the first wrong hit',
            afterBake: 'clipped detail or prints of what lies beside, whatever the distance',
            remedy: 'fit a cage by vertex, split the set, explode it, bake it in an open pose, or retouch after the bake',
        );
    }

    public function run(Inspection $inspection): Outcome
    {
        if ($inspection->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $caged = [];
        foreach ($inspection->heldCages() as $cage) {
            if ($cage->isClean(($inspection->clearances[$cage->set->name] ?? null)->d ?? 0.0)) {
                $caged[$cage->set->name] = true;
            }
        }
        foreach ($inspection->clearances as $clearance) {
            // With a cage that fits no single distance is used.
            if (isset($caged[$clearance->name]) || RayChecks::isBledInto($inspection, $clearance)) {
                continue;
            }
            foreach (['out' => $clearance->needed->out, 'in' => $clearance->needed->in] as $side => $needed) {
                $wrong = $clearance->firstWrong[$side];
                if ($wrong === null || $needed < $wrong || ! RayChecks::isSound($inspection, $clearance->name)) {
                    continue;
                }
                $texels = Words::texels($clearance, $clearance->details->wrongShare);
                $findings[] = new Finding(
                    'span-closed', Severity::Blocker,
                    "$clearance->name: no single distance ".($side === 'out' ? 'outward' : 'inward').' works: it needs '.Words::length($needed).', and rays go wrong from '.Words::length($wrong),
                    'fit a cage by vertex; or split the set, explode it, or bake it in an open pose; or retouch '.($texels === null ? Words::percent($clearance->details->wrongShare).' of its area' : number_format($texels).' texels').' after the bake',
                    ['set' => $clearance->name], new Measure($needed, $wrong, 'length'),
                    texels: $texels, where: $clearance->details->wrongWhere,
                );
                break;
            }
        }

        return RayChecks::outcome($inspection, $findings);
    }
}
