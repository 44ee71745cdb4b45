<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Whether the file is the format that it claims, complete and consistent; the error names its line or byte.
 */
final class FileUnreadable implements Check
{
    public function about(): About
    {
        return new About(
            code: 'file-unreadable',
            station: Station::Intake,
            row: 10,
            severity: Severity::Blocker,
            title: 'File cannot be read',
            measured: 'Whether the file is the format that it claims, complete and consistent; the error names its line or byte.',
            limit: null,
            limitWords: 'any',
            afterBake: 'no bake at all: the file does not open',
            remedy: 'export the file again, as .glb or .obj',
            ofFile: true,
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        foreach ($measures->asset->files as $file) {
            if ($file->error !== null) {
                $findings[] = new Finding('file-unreadable', Severity::Blocker, basename($file->path).' cannot be read: '.$file->error->getMessage(), 'export it again and hand in the new file', ['file' => $file->path]);
            }
        }

        return Outcome::of($findings);
    }
}
