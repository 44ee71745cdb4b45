<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Clearance\RayChecks;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\Silhouettes;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * The greatest distance between the outlines of a set's low and high poly, seen from 26 fixed directions; and the distance from which that is under one pixel (vertical field of view 60°, 1080 rows).
 */
final class SilhouetteLoss implements Check
{
    public function about(): About
    {
        return new About(
            code: 'silhouette-loss',
            station: Station::Surface,
            row: 880,
            severity: Severity::Note,
            title: 'Outline that the map cannot save',
            measured: 'The greatest distance between the outlines of a set\'s low and high poly, seen from 26 fixed directions; and the distance from which that is under one pixel (vertical field of view 60°, 1080 rows).',
            limit: 0.01,
            unit: 'length',
            limitWords: '1 % of the size of the set',
            afterBake: 'corners on the outline of what should be round: too few sides show there whatever the map holds',
            remedy: 'add sides where the outline is round',
            measures: [Silhouettes::class],
            beside: [Rays::class],
            symptoms: ['angular outline', 'faceted silhouette', 'corners on the outline'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->clearances() as $clearance) {
            $set = $measures->set($clearance->name);
            $outline = $set === null ? null : $measures->ofSet(Silhouettes::class, $set);
            if ($set === null || $outline === null || $outline['loss'] <= $limit * $clearance->d) {
                continue;
            }
            $asset = $measures->asset;
            $findings[] = Finding::onPart(
                'silhouette-loss', Severity::Note, $set->low[0], "the outlines of {$set->low[0]->part->name} and its high poly are up to ".Words::length($outline['loss'], $asset).' apart, which shows from nearer than '.Words::length(self::PIXELS * $outline['loss'], $asset).'; up to '.Words::length($limit * $clearance->d, $asset).' passes',
                match (true) {
                    $asset->isCard($set->low[0]) => 'bend the card to its high poly, or widen it',
                    $outline['outside'] => 'add sides where the high poly is round',
                    default => 'bring the low poly closer to the outline of its high',
                }, new Measured($outline['loss'], $limit * $clearance->d, 'length'), null, $outline['at'] === null ? [] : [$outline['at']],
            );
        }

        return RayChecks::outcome($measures, $findings);
    }

    /** From so many times a length away it is one pixel: 1080 rows over a vertical field of view of 60°. */
    private const PIXELS = 1080 / (2 * 0.5773502691896257);
}
