<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\HighFacets;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Share of a high part's area in faces of over 0.05 % of it whose corner normals lean over 10° from the face on the mean, or
 * that have two or more hard edges turning 3–30°. Parts that are their low are exempt.
 */
final class HighFaceted implements Check
{
    public function about(): About
    {
        return new About(
            code: 'high-faceted',
            station: Station::Intake,
            row: 300,
            severity: Severity::Caution,
            title: 'Facets on the high poly',
            measured: 'Share of a high part\'s area in faces of over 0.05 % of it whose corner normals lean over 10° from the face on the mean, or that have two or more hard edges turning 3–30°. Parts that are their low are exempt.',
            limit: 0.3,
            unit: 'share',
            limitWords: '30 %',
            afterBake: 'facets: flat patches and steps where the shape is round',
            remedy: 'apply the subdivision or smoothing before export',
            measures: [HighFacets::class],
            beside: [Rays::class],
            many: 'have large flat faces that will show as facets',
            symptoms: ['facets', 'steps', 'banding', 'flat patches'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $any = false;
        foreach ($measures->asset->sets as $set) {
            if ($set->onItself || ($measures->clearanceOf($set)->coincides ?? false)) {
                continue;
            }
            foreach ($measures->asset->tiesOf($set) as $tie) {
                foreach ($tie->high as $high) {
                    $facets = $measures->ofPart(HighFacets::class, $high);
                    $any = $any || $facets->share !== null;
                    if ($facets->share !== null && $facets->share > $limit) {
                        $findings[] = new Finding('high-faceted', Severity::Caution, Words::percent($facets->share)." of {$high->part->name} is in large flat faces that will show as facets", 'apply the subdivision or smoothing before export', ['part' => $high->part->name, 'file' => $high->path, 'other' => $tie->low[0]->part->name], new Measured($facets->share, $limit, 'share'), where: $facets->where);
                    }
                }
            }
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('no high part says how it is shaded');
    }
}
