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
use Anvil\Measures\Kind\LowNgons;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;
use Anvil\Surface\Ngons;

/**
 * Low faces of over four corners, or quads bent over 5°, that are not flat with one normal and UVs that lie flat with them,
 * counted.
 */
final class MeshNgon implements Check
{
    public function about(): About
    {
        return new About(
            code: 'mesh-ngon',
            station: Station::Intake,
            row: 200,
            severity: Severity::Caution,
            title: 'Faces left to chance',
            measured: 'Low faces of over four corners, or quads bent over 5°, that are not flat with one normal and UVs that lie flat with them, counted.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'a crease or dark diagonal where the engine cuts the face another way than the baker',
            remedy: 'triangulate the low poly before export',
            measures: [LowNgons::class],
            many: 'have faces that can be cut in more than one way',
            ofFile: true,
            symptoms: ['crease', 'dark diagonal', 'dark edge'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->asset->judged(Role::Low) as $part) {
            $ngons = $measures->ofPart(LowNgons::class, $part);
            if ($ngons->count > $limit) {
                $what = $ngons->most > 4 ? "the largest of $ngons->most corners" : 'quads bent over '.Words::degrees(Ngons::BENT);
                $findings[] = Finding::onPart('mesh-ngon', Severity::Caution, $part, ($ngons->count === 1 ? '1 face' : "$ngons->count faces")." of {$part->part->name} can be cut in more than one way, $what", 'triangulate the low poly before export', new Measured((float) $ngons->count, $limit, 'count'), $ngons->count, $ngons->where);
            }
        }

        return Outcome::of($findings);
    }
}
