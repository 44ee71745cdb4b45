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
use Anvil\Standard\Limits;
use Anvil\Standard\Severity;

/**
 * Share of a set's seen low area whose ray meets another set's high poly first, when sets are not kept apart in the
 * bake; area that is not seen counts for a note only.
 */
final class SetsBleed implements Check
{
    public function about(): About
    {
        return new About(
            code: 'sets-bleed',
            station: Station::Sets,
            row: 550,
            severity: Severity::Blocker,
            title: 'Sets in each other\'s rays',
            measured: 'Share of a set\'s seen low area whose ray meets another set\'s high poly first, when sets are not kept apart in the bake; area that is not seen counts for a note only.',
            limit: Limits::of('sets-bleed'),
            unit: 'share',
            limitWords: '0.1 %',
            afterBake: 'bleeding colors and prints of neighbours on the map',
            remedy: 'keep the sets apart in the bake, or explode them',
            measures: [Rays::class],
            many: "are in each other's rays",
            symptoms: ['bleeding colors', 'print', 'ghost', 'color bleed'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }

        if ($measures->asset->standard->rays->setsKeptApart) {
            return Outcome::notApplicable('the standard keeps sets apart in the bake: each meets only its own high poly');
        }
        if ($measures->assembled !== null) {
            return Outcome::notApplicable('the input is exploded: what still bleeds is told as a clash');
        }
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        foreach ($measures->clearances() as $clearance) {
            foreach ($clearance->bleeds as $bleed) {
                $estimate = Estimate::of($bleed->share, $clearance->details->effective);
                $seen = $estimate->isOver($limit);
                $share = $seen ? $bleed->share : $bleed->unseenShare;
                if (! $seen && $share <= $limit) {
                    continue;
                }
                $findings[] = new Finding(
                    'sets-bleed', $seen ? Severity::Blocker : Severity::Note,
                    "$clearance->name meets $bleed->other first on ".Words::percent($share).' of its '.($seen ? 'seen low area' : 'low area, all of it unseen'),
                    $seen ? 'keep the sets apart in the bake (match by name), or explode them' : 'nothing, unless the part comes off in use',
                    ['set' => $clearance->name, 'other' => $bleed->other], new Measured($share, $limit, 'share'),
                    texels: Words::texels($clearance, $share), where: $bleed->where,
                );
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
