<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Whether a file that reads well holds at least one triangle.
 */
final class FileEmpty implements Check
{
    public function about(): About
    {
        return new About(
            code: 'file-empty',
            station: Station::Intake,
            row: 20,
            severity: Severity::Blocker,
            title: 'File without triangles',
            measured: 'Whether a file that reads well holds at least one triangle.',
            limit: null,
            unit: 'count',
            limitWords: 'none',
            afterBake: 'nothing is baked',
            remedy: 'select the meshes before exporting',
            ofFile: true,
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        foreach ($measures->asset->files as $file) {
            if ($file->scene !== null && $file->scene->triangleCount() === 0) {
                $findings[] = new Finding('file-empty', Severity::Blocker, basename($file->path).' holds no triangles', 'select the meshes before exporting; points, lines and curves are no surface', ['file' => $file->path], new Measured(0, 1, 'count', true));
            }
        }

        return Outcome::of($findings);
    }
}
