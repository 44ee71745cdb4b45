<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Inspection\Inspection;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * Files that gave no part, which may be where a missing partner is: one cause, one finding.
 */
final class UnreadFiles
{
    /** The name of the first such file of a role, or of no known role; null when there is none. */
    public static function thatMayHold(Role $role, Inspection $inspection): ?string
    {
        foreach ($inspection->files as $file) {
            $own = $file->role ?? RoledPart::roleOfFile($file->path, $inspection->standard);
            if (($file->scene === null || $file->scene->parts === []) && ($own === null || $own === $role)) {
                return basename($file->path);
            }
        }

        return null;
    }
}
