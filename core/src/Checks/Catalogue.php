<?php

declare(strict_types=1);

namespace Anvil\Checks;

/**
 * The one place where checks are registered, in the order in which findings are listed.
 */
final class Catalogue
{
    /**
     * @return list<Check>
     */
    public static function all(): array
    {
        return [
            new Intake\FileUnreadable,
            new Intake\FileEmpty,
            new Intake\RoleUnknown,
            new Intake\RoleMixed,
            new Intake\UnitMismatch,
            new Intake\NameDuplicate,
            new Intake\MaterialCount,
            new Intake\PairSelf,
            new Pairing\PairNoHigh,
            new Pairing\PairNoLow,
            new Pairing\SuffixCase,
            new Pairing\NameCase,
            new Pairing\SuffixMissing,
            new Clearance\RayMiss,
            new Clearance\ReachShort,
            new Clearance\SetsBleed,
            new ColorId\IdMissing,
            new ColorId\IdClose,
            new Surface\UvMissing,
            new Surface\UvOutside,
            new Handoff\PackageReadback,
        ];
    }

    /**
     * @return array<string, About> by code
     */
    public static function about(): array
    {
        $out = [];
        foreach (self::all() as $check) {
            $about = $check->about();
            $out[$about->code] = $about;
        }

        return $out;
    }
}
