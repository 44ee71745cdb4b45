<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Normals that are NaN, infinite or zero; in glTF, which requires unit normals, also those off unit length by over 1e-3.
 * Counted.
 */
final class NormalsInvalid implements Check
{
    public function about(): About
    {
        return new About(
            code: 'normals-invalid',
            station: Station::Intake,
            row: 220,
            severity: Severity::Blocker,
            title: 'Normals that are none',
            measured: 'Normals that are NaN, infinite or zero; in glTF, which requires unit normals, also those off unit length by over 1e-3. Counted.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'black or white spots and streaks',
            remedy: 'recompute the normals and export again',
            source: 'glTF 2.0 specification, 3.7.2.1: normals are of unit length',
            measures: [Contents::class],
            many: 'have normals that are none',
            ofFile: true,
            symptoms: ['black spots', 'white spots', 'streaks', 'nan'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $any = false;
        foreach ([Role::Low, Role::High] as $role) {
            foreach ($measures->asset->judged($role) as $part) {
                $facts = $part->part->facts;
                $any = $any || $measures->ofPart(Contents::class, $part)->hasNormals;
                $count = $facts->badNormals + $facts->longNormals;
                if ($count <= $limit) {
                    continue;
                }
                $words = [];
                if ($facts->badNormals > 0) {
                    $words[] = "$facts->badNormals are NaN or zero";
                }
                if ($facts->longNormals > 0) {
                    $words[] = "$facts->longNormals are off unit length, the worst ".sprintf('%.4g', $facts->normalLength);
                }
                $findings[] = Finding::onPart('normals-invalid', Severity::Blocker, $part, "of the normals of {$part->part->name}, ".implode(' and ', $words), 'recompute the normals and export again', new Measured((float) $count, $limit, 'count'), $count);
            }
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('no part has normals');
    }
}
