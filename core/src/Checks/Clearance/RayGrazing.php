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
 * Share of a part's seen low area where rays run within 3° of the surface, since averaged normals of opposite faces cancel.
 */
final class RayGrazing implements Check
{
    public function about(): About
    {
        return new About(
            code: 'ray-grazing',
            station: Station::Clearance,
            row: 415,
            severity: Severity::Blocker,
            title: 'Rays run along the surface',
            measured: 'Share of a part\'s visible low area where rays run within 3° of the surface, because averaged normals of opposite faces cancel. What these rays hit is chance; they do not count for the needed reach, the first wrong hit or misses.',
            limit: 0.01,
            unit: 'share',
            limitWords: '1 % of the part (caution above 0.1 %)',
            afterBake: 'streaks and noise',
            remedy: 'split the normals with a UV seam there, or add support edges',
            caution: 0.001,
            measures: [Rays::class],
            many: 'have rays that run along the surface',
            symptoms: ['streaks', 'noise'],
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
        $sets = RayChecks::setsByName($measures);
        foreach ($measures->clearances() as $clearance) {
            $lows = count($sets[$clearance->name]->low ?? []);
            foreach ($clearance->details->grazing as $grazing) {
                $part = $sets[$clearance->name]->low[$grazing['part']] ?? null;
                $estimate = Estimate::of($grazing['share'], $grazing['samples']);
                if ($part === null || ! $estimate->isOver($caution)) {
                    continue;
                }
                $blocks = $estimate->isOver($limit);
                $findings[] = Finding::inSet(
                    'ray-grazing', $blocks ? Severity::Blocker : Severity::Caution, $clearance->name, $part,
                    "{$part->part->name}: rays run within 3° of the surface on ".Words::share($estimate, $caution, $limit).' of its visible area (limit '.Words::percent($blocks ? $limit : $caution).')',
                    'split the normals with a UV seam there, or add support edges',
                    new Measured($grazing['share'], $blocks ? $limit : $caution, 'share'), $grazing['where'], Words::texels($clearance, $grazing['share'] / max(1, $lows)),
                );
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
