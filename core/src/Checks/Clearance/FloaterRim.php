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
use Anvil\Standard\Severity;

/**
 * Outer loop of a floating shell of the high poly: share of its length that turns over 15° from the surface beneath it, or stands
 * over 4 px above it at the map size; told with the mean angle or height of what does.
 */
final class FloaterRim implements Check
{
    public function about(): About
    {
        return new About(
            code: 'floater-rim',
            station: Station::Clearance,
            row: 440,
            severity: Severity::Caution,
            title: 'Rim of floating detail will show',
            measured: 'Outer loop of a floating shell of the high poly: share of its length that turns over 15° from the surface beneath it, or stands over 4 px above it at the map size; told with the mean angle or height of what does.',
            limit: 15.0,
            unit: 'deg',
            limitWords: '15° or 4 px',
            afterBake: 'an outline and a dark ring around the floating detail',
            remedy: 'flare the rim out into the surface beneath, or lower the shell',
            source: 'common practice, no published source',
            measures: [Rays::class],
            many: 'have floating detail whose rim will show',
            symptoms: ['outline', 'dark ring', 'halo', 'dark edge'],
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
            $set = $sets[$clearance->name] ?? null;
            $density = $clearance->texelsOfAll > 0.0 && $clearance->details->lowArea > 0.0 ? sqrt($clearance->texelsOfAll / $clearance->details->lowArea) : 0.0;
            foreach ($clearance->details->floaters as $floater) {
                $part = $set?->target()[$floater->part] ?? null;
                if (! $floater->isBacked || $part === null) {
                    continue;
                }
                $turns = $floater->rimDegrees !== null && $floater->rimDegrees > $limit;
                $pixels = ($floater->rimHeight ?? 0.0) * $density;
                if (! $turns && $pixels <= 4.0) {
                    continue;
                }
                $findings[] = Finding::inSet(
                    'floater-rim', Severity::Caution, $clearance->name, $part,
                    "the rim of a floating shell of {$part->part->name} ".($turns ? 'turns '.Words::degrees($floater->rimDegrees).' from the surface beneath' : 'stands '.Words::length($floater->rimHeight ?? 0.0, $measures->asset).' ('.Words::pixels($pixels).') over the surface beneath').' on '.Words::percent($floater->rimShare).' of its length',
                    $turns ? 'flare the rim out flat into the surface beneath' : 'lower the shell to under '.Words::length($density > 0.0 ? 4.0 / $density : 0.0, $measures->asset).' over the surface',
                    $turns ? new Measured($floater->rimDegrees, $limit, 'deg') : new Measured($pixels, 4.0, 'px'), where: [$floater->where],
                );
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
