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
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Rays\Estimate;
use Anvil\Standard\Limits;
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
            row: 570,
            severity: Severity::Caution,
            title: 'Low and high poly far apart',
            measured: 'Share of a set\'s seen low area with nothing that belongs within 2 % of the set\'s size or within the reach in use, and no high poly within 2 % of the set\'s size; a note where the reach does meet what belongs. Places whose rays meet nothing at all are told as misses.',
            limit: Limits::of('surface-gap'),
            unit: 'share',
            limitWords: '1 %',
            afterBake: 'dark or smeared patches: occlusion and normals of a surface that lies elsewhere',
            remedy: 'bring the low poly to the high poly there, or model what is missing',
            measures: [Rays::class],
            beside: [Places::class],
            many: 'lie far from their high part',
            symptoms: ['dark patches', 'smear', 'dark edge', 'flaring'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = $offPlace = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        foreach ($measures->clearances() as $clearance) {
            $off = RayChecks::offPlace($measures, $clearance->name);
            if ($off !== []) {
                $offPlace[] = $clearance->name;
            }
            $share = RayChecks::sum($clearance->details->gaps['gap'], $off);
            $near = RayChecks::sum($clearance->details->gaps['near'], $off);
            if (Estimate::of($share, $clearance->details->effective)->isOver($limit)) {
                $findings[] = new Finding(
                    'surface-gap', Severity::Caution, "$clearance->name: on ".Words::percent($share).' of its seen low area no high poly lies within 2 % of its size',
                    'bring the low poly to the high poly there, or model what is missing; it will read as dark or smeared', ['set' => $clearance->name], new Measured($share, $limit, 'share'),
                    texels: Words::texels($clearance, $share), where: $clearance->details->gaps['where'],
                );
            } elseif (Estimate::of($near, $clearance->details->effective)->isOver($limit)) {
                $findings[] = new Finding(
                    'surface-gap', Severity::Note, "$clearance->name: on ".Words::percent($near).' of its seen low area the high poly lies further than 2 % of its size, within the reach',
                    'nothing for the bake; outline and shading of the low poly will differ from the high poly there', ['set' => $clearance->name], new Measured($near, $limit, 'share'), texels: Words::texels($clearance, $near),
                );
            }
        }

        return RayChecks::outcome($measures, $findings, $offPlace);
    }
}
