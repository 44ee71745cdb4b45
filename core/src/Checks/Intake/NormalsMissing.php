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
 * Corners of low parts that have no normal, in a file that says nothing of smoothing either.
 */
final class NormalsMissing implements Check
{
    public function about(): About
    {
        return new About(
            code: 'normals-missing',
            station: Station::Intake,
            row: 210,
            severity: Severity::Caution,
            title: 'Low poly without normals',
            measured: 'Corners of low parts that have no normal, in a file that says nothing of smoothing either.',
            limit: null,
            unit: 'count',
            limitWords: 'every corner',
            afterBake: 'shading that every program makes up its own way: seams and gradients',
            remedy: 'export normals or smoothing groups',
            measures: [Contents::class],
            many: 'have no normals',
            ofFile: true,
            symptoms: ['seam', 'gradient', 'a line at a seam'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        foreach ($measures->asset->judged(Role::Low) as $part) {
            $contents = $measures->ofPart(Contents::class, $part);
            $count = $contents->cornersWithoutNormal ?? 0;
            if ($contents->hasSmoothing || $count === 0) {
                continue;
            }
            $all = $count === $contents->corners;
            $findings[] = Finding::onPart('normals-missing', Severity::Caution, $part, $all ? "{$part->part->name} has no normals and no smoothing groups" : "$count corners of {$part->part->name} have no normal", 'export normals or smoothing groups', new Measured((float) $count, 0.0, 'count'), $count);
        }

        return Outcome::of($findings);
    }
}
