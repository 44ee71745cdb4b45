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
 * Share of a low part over which details of the high poly move sideways by over 4 px at the map size, because rays lean there: the
 * spread of heights around a place times the tangent of the angle between ray and face; or a whole high shell that does.
 */
final class RayLean implements Check
{
    public function about(): About
    {
        return new About(
            code: 'ray-lean',
            station: Station::Clearance,
            row: 590,
            severity: Severity::Caution,
            title: 'Details come out leaning',
            measured: 'Share of a low part over which details of the high poly move sideways by over 4 px at the map size, because rays lean there: the spread of heights around a place times the tangent of the angle between ray and face; or a whole high shell that does.',
            limit: 0.02,
            unit: 'share',
            limitWords: '2 % of the part, or a whole high shell',
            afterBake: 'leaning screws, skewed panel lines',
            remedy: 'add support edges or split the low poly\'s corners so that rays stand straighter, or lower the detail',
            measures: [Rays::class],
            many: 'have details that come out leaning',
            symptoms: ['leaning screws', 'skewed detail', 'skewed panel lines', 'slanted detail', 'waviness'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        $sets = RayChecks::setsByName($measures);
        foreach ($measures->clearances() as $clearance) {
            $density = $clearance->texelsOfAll > 0.0 && $clearance->details->lowArea > 0.0 ? sqrt($clearance->texelsOfAll / $clearance->details->lowArea) : 0.0;
            foreach ($clearance->details->leans as $lean) {
                $part = $sets[$clearance->name]->low[$lean['part']] ?? null;
                if ($part === null || (! Estimate::of($lean['share'], $lean['samples'])->isOver($limit) && ! $lean['shell'])) {
                    continue;
                }
                $findings[] = Finding::inSet(
                    'ray-lean', Severity::Caution, $clearance->name, $part, "details on {$part->part->name} come out up to ".Words::pixels($lean['shift'] * $density).' aside, on '.Words::percent($lean['share']).' of it'.($lean['share'] <= $limit ? ': a whole shell of its high poly' : ''),
                    'give the low poly support edges near its hard edges there, so that rays stand straighter, or bake the detail with a cage whose rays go straight there (anvil:cage --straight)', new Measured($lean['share'], $limit, 'share'),
                    texels: Words::texels($clearance, $lean['share']), where: $lean['where'],
                );
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
