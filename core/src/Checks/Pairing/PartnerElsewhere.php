<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Pattern;
use Anvil\Standard\Role;

/**
 * Where a partner that seems missing may be: in a file that gave no part, or in a file of the other role. One cause, one finding.
 */
final class PartnerElsewhere
{
    /** The name of the first such file of a role, or of no known role; null when there is none. */
    public static function thatMayHold(Role $role, Measures $measures): ?string
    {
        foreach ($measures->asset->files as $file) {
            $own = $file->role ?? RoledPart::roleOfFile($file->path, $measures->asset->standard);
            if (($file->scene === null || $file->scene->parts === []) && ($own === null || $own === $role)) {
                return basename($file->path);
            }
        }

        return null;
    }

    /** Whether the missing partner is there, in a file of the other role: `role-mixed` speaks for it. */
    public static function isMixedInElsewhere(string $base, Role $role, Measures $measures): bool
    {
        foreach ($measures->asset->parts as $part) {
            if ($part->mixed && $part->base === $base && $part->reading->role === $role) {
                return true;
            }
        }

        return false;
    }

    /** Whether a base belongs to a set that the choices name: then the set is what must have both sides, not the base. */
    public static function isInNamedSet(string $base, Measures $measures): bool
    {
        foreach ($measures->asset->choices->sets as $patterns) {
            if (Pattern::anyFits($patterns, $base)) {
                return true;
            }
        }

        return false;
    }
}
