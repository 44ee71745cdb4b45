<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Clearance\SetClearance;
use Anvil\Measures\Kind\Health;
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Severity;

/**
 * High shells of which under 1 % is met by any ray at the reach in use: sunk, inside, or left over.
 */
final class HighUnseen implements Check
{
    public function about(): About
    {
        return new About(
            code: 'high-unseen',
            station: Station::Clearance,
            row: 450,
            severity: Severity::Note,
            title: 'High shell that no ray meets',
            measured: 'High shells of which under 1 % is met by any ray at the reach in use: sunk, inside, or left over.',
            limit: 0.01,
            unit: 'share',
            limitWords: '1 %',
            afterBake: 'nothing: the detail is not in the map',
            remedy: 'bring it out over the surface, or delete it',
            measures: [Rays::class],
            beside: [Health::class, Places::class],
            many: 'have shells that no ray meets',
            symptoms: ['missing detail'],
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
            foreach ($clearance->details->unmet as $shell) {
                $part = $set?->target()[$shell['part']] ?? null;
                if ($shell['share'] < $limit && $part !== null && ! self::isToldOtherwise($measures, $clearance, $part)) {
                    $findings[] = Finding::inSet(
                        'high-unseen', Severity::Note, $clearance->name, $part, "a shell of {$part->part->name} ({$shell['triangles']} triangles) is met by no ray: it is sunk, inside, or left over",
                        'bring it out over the surface, or delete it', new Measured($shell['share'], $limit, 'share'), where: [$shell['where']],
                    );
                }
            }
        }

        return RayChecks::outcome($measures, $findings);
    }

    /** Whether the part is turned inside out, or a copy of the low poly lies over it: then that is told. */
    private static function isToldOtherwise(Measures $measures, SetClearance $clearance, RoledPart $part): bool
    {
        $health = $measures->ofPart(Health::class, $part);
        if ($health->insideOut + $health->againstNeighbours > 0) {
            return true;
        }
        foreach ($measures->placesOf($clearance->name) as $place) {
            if ($place->high === $part->part->name && $place->covered > $measures->asset->standard->limitInForce('high-covers-detail')) {
                return true;
            }
        }

        return false;
    }
}
