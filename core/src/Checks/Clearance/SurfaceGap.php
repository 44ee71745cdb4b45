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
 * Share of a set's seen low area with nothing that belongs within 2 % of d and no high poly that near; places whose rays meet
 * nothing at all are told as misses.
 */
final class SurfaceGap implements Check
{
    public function about(): About
    {
        return new About(
            code: 'surface-gap',
            station: Station::Clearance,
            severity: Severity::Caution,
            title: 'Low and high poly far apart',
            measured: 'Share of a set\'s seen low area with nothing that belongs within 2 % of d and no high poly that near; places whose rays meet nothing at all are told as misses.',
            limit: 0.01,
            limitWords: '1 %',
            afterBake: 'dark or smeared patches: occlusion and normals of a surface that lies elsewhere',
            remedy: 'bring the low poly to the high poly there, or model what is missing',
        );
    }

    public function run(Inspection $inspection): Outcome
    {
        if ($inspection->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $limit = $inspection->standard->limit('surface-gap', 0.01);
        foreach ($inspection->clearances as $clearance) {
            $share = $clearance->details->gapShare;
            if ($share > $limit && RayChecks::isSound($inspection, $clearance->name)) {
                $findings[] = new Finding(
                    'surface-gap', Severity::Caution, "$clearance->name: on ".Words::percent($share).' of its seen low area no high poly lies within 2 % of its size',
                    'bring the low poly to the high poly there, or model what is missing; it will read as dark or smeared', ['set' => $clearance->name], new Measure($share, $limit, 'share'),
                    texels: Words::texels($clearance, $share), where: $clearance->details->gapWhere,
                );
            }
        }

        return RayChecks::outcome($inspection, $findings);
    }
}
