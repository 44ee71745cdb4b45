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
 * Cameras, lights, skins, animation, hidden and empty nodes in a file, counted.
 */
final class FileExtras implements Check
{
    public function about(): About
    {
        return new About(
            code: 'file-extras',
            station: Station::Intake,
            row: 30,
            severity: Severity::Note,
            title: 'More than meshes in the file',
            measured: 'Cameras, lights, skins, animation, hidden and empty nodes in a file, counted.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'nothing in the maps; other programs may import what nobody wants',
            remedy: 'export the meshes alone',
            ofFile: true,
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->asset->files as $file) {
            $extras = $file->scene->extras ?? [];
            $count = array_sum(array_map(intval(...), $extras));
            if ($count > $limit) {
                $findings[] = new Finding('file-extras', Severity::Note, basename($file->path).' holds '.implode(', ', $extras).' beside its meshes', 'export the meshes alone', ['file' => $file->path], new Measured((float) $count, $limit, 'count'), null, $count);
            }
        }

        return Outcome::of($findings);
    }
}
