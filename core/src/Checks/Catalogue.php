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
            new Intake\FileExtras,
            new Intake\RoleUnknown,
            new Intake\RoleMixed,
            new Intake\UnitMismatch,
            new Intake\AxisMismatch,
            new Intake\OffAlignment,
            new Intake\TransformUnfrozen,
            new Intake\TransformMirrored,
            new Intake\PivotDiffers,
            new Intake\NameDuplicate,
            new Intake\HighDoubled,
            new Intake\NameUnsafe,
            new Intake\MeshDegenerate,
            new Intake\MeshNonmanifold,
            new Intake\MeshFlipped,
            new Intake\MeshDoubled,
            new Intake\MeshLoose,
            new Intake\MeshNgon,
            new Intake\NormalsMissing,
            new Intake\NormalsInvalid,
            new Intake\NormalsInverted,
            new Intake\TriangleBudget,
            new Intake\MaterialCount,
            new Intake\MaterialStray,
            new Intake\MaterialMissing,
            new Intake\HighNotDenser,
            new Intake\PairSelf,
            new Intake\HighFaceted,
            new Intake\HighCoversDetail,
            new Pairing\PairNoHigh,
            new Pairing\PairNoLow,
            new Pairing\SuffixCase,
            new Pairing\NameCase,
            new Pairing\SuffixMissing,
            new Pairing\NameNear,
            new Pairing\PairCrossed,
            new Pairing\PairApart,
            new Clearance\SetIncomplete,
            new Clearance\RayMiss,
            new Clearance\LowMargin,
            new Clearance\FloaterUnbacked,
            new Clearance\FloaterRim,
            new Clearance\HighUnseen,
            new Clearance\Overhang,
            new Clearance\ReachShort,
            new Clearance\ReachLong,
            new Clearance\SpanClosed,
            new Clearance\CageTopology,
            new Clearance\CagePierced,
            new Clearance\CageInverted,
            new Clearance\ExplodeClash,
            new Clearance\ExplodeDrift,
            new Clearance\SetsBleed,
            new Clearance\SurfacesCross,
            new Clearance\SurfaceGap,
            new Clearance\Buried,
            new Clearance\RayLean,
            new ColorId\IdMissing,
            new ColorId\IdClose,
            new Surface\UvMissing,
            new Surface\UvOutside,
            new Surface\UvPose,
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
