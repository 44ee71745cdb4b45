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
use Anvil\Explode\Assembled;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Share of a set's seen low area whose ray still meets another set first in the exploded layout; or the gap between a moved set's
 * box and another's, where the plan says how wide it was to be.
 */
final class ExplodeClash implements Check
{
    public function about(): About
    {
        return new About(
            code: 'explode-clash',
            station: Station::Clearance,
            row: 530,
            severity: Severity::Blocker,
            title: 'Exploded sets still in each other\'s way',
            measured: 'Share of a set\'s seen low area whose ray still meets another set first in the exploded layout; or the gap between a moved set\'s box and another\'s, where the plan says how wide it was to be.',
            limit: 0.001,
            unit: 'share',
            limitWords: '0.1 % bleed, or a gap under the clearance',
            afterBake: 'prints of neighbours on the map although the asset was exploded',
            remedy: 'move the set further',
            measures: [Rays::class],
            symptoms: ['print', 'ghost', 'bleeding colors'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $assembled = $measures->assembled;
        if ($assembled === null) {
            return Outcome::notApplicable('these files are no exploded layout');
        }
        $findings = [];
        // The share at which sets count as in each other's way before they are moved.
        $limit = $this->about()->limitBy($measures->asset->standard);
        foreach ($measures->clearances() as $clearance) {
            foreach ($clearance->bleeds as $bleed) {
                if ($bleed->share <= $limit) {
                    continue;
                }
                $findings[] = new Finding(
                    'explode-clash', Severity::Blocker, "$clearance->name still meets $bleed->other first on ".Words::percent($bleed->share).' of its seen low area',
                    "move $clearance->name or $bleed->other further apart, or explode the original again", ['set' => $clearance->name, 'other' => $bleed->other], new Measured($bleed->share, $limit, 'share'),
                    texels: Words::texels($clearance, $bleed->share), where: $bleed->where,
                );
                break;
            }
        }
        if ($findings === [] && $assembled->clearance !== null) {
            array_push($findings, ...self::narrow($measures, $assembled));
        }

        return RayChecks::outcome($measures, $findings);
    }

    /**
     * @return list<Finding>
     */
    private static function narrow(Measures $measures, Assembled $assembled): array
    {
        $out = [];
        $clearance = $assembled->clearance ?? 0.0;
        foreach ($measures->asset->sets as $set) {
            $box = $set->bounds();
            if ($box === null || ($assembled->vectors[$set->name] ?? [0.0, 0.0, 0.0]) === [0.0, 0.0, 0.0]) {
                continue;
            }
            foreach ($measures->asset->sets as $other) {
                $gap = $other->name === $set->name ? null : $other->bounds()?->gapTo($box);
                if ($gap !== null && $gap < 0.999 * $clearance) {
                    $out[] = new Finding(
                        'explode-clash', Severity::Blocker, "the gap between $set->name and $other->name is ".Words::length($gap, $measures->asset).', under the clearance of '.Words::length($clearance, $measures->asset),
                        "move $set->name ".Words::length($clearance - $gap, $measures->asset).' further', ['set' => $set->name, 'other' => $other->name], new Measured($gap, $clearance, 'length', true),
                    );
                    break;
                }
            }
        }

        return $out;
    }
}
