<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Asset\Asset;
use Anvil\Pairing\RoledPart;
use Anvil\Place\QuarterTurn;
use Anvil\Rays\SampleShares;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Sets\BakeSet;
use Anvil\Spatial\TriangleTree;
use Closure;

/**
 * What the sets of an asset have in common when their rays are shot: which are not to be, what hides them, how many rays each gets.
 */
final class AssetClearance
{
    public const NO_AREA = 'its low poly has no area to shoot rays from';

    public const SIZES_DIFFER = 'high and low poly differ in size; rays would mean nothing before that is mended';

    public const TURNED = 'the high poly is turned against the low one; rays would mean nothing before that is mended';

    public const CROSSED = 'its name leads to a high part that stands elsewhere; rays would mean nothing before that is mended';

    public const APART = 'its low and high parts lie apart; rays would mean nothing before that is mended';

    public const DUPLICATE = 'two of its parts bear one name (name-duplicate); rays would mean nothing before that is mended';

    /**
     * The low poly that hides what lies behind it: a detachable set comes off in use, so that it hides nothing.
     *
     * @param  array<string, SetSurfaces>  $surfaces
     * @return array{TriangleTree, list<array{int, string}>} and the first triangle in it of each set
     */
    public static function assembled(Asset $asset, array $surfaces): array
    {
        $stay = array_map(static fn (BakeSet $set): SetSurfaces => $surfaces[$set->name], self::staying($asset));
        $firsts = [];
        $first = 0;
        foreach ($stay as $set) {
            $firsts[] = [$first, $set->name];
            foreach ($set->lowMeshes() as $mesh) {
                $first += $mesh->triangleCount();
            }
        }

        return [Visibility::assembled($stay), $firsts];
    }

    /**
     * The sets that do not come off in use.
     *
     * @return list<BakeSet>
     */
    public static function staying(Asset $asset): array
    {
        return array_values(array_filter($asset->sets, static fn (BakeSet $set): bool => ! in_array($set->name, $asset->choices->detachable, true)));
    }

    /**
     * Sets of which all counts as seen: what lies beside a detachable one is bared when that comes off.
     *
     * @return array<string, true>
     */
    public static function allSeen(Asset $asset): array
    {
        $out = [];
        foreach ($asset->sets as $set) {
            $box = in_array($set->name, $asset->choices->detachable, true) ? $set->lowBounds() : null;
            $box = $box?->grown(0.01 * $box->diagonal());
            foreach ($box === null ? [] : self::staying($asset) as $other) {
                if ($box !== null && $other->lowBounds()?->meets($box) === true) {
                    $out[$other->name] = true;
                }
            }
        }

        return $out;
    }

    /**
     * Why rays are not shot, a set; empty when they are.
     *
     * @return array<string, string>
     */
    public static function notMeasured(Asset $asset, ?QuarterTurn $turn): array
    {
        $out = [];
        $duplicates = $asset->duplicates();
        $whole = array_values(array_filter($asset->sets, static fn (BakeSet $set): bool => $set->isWhole()));
        $all = $asset->differsInSize() ? self::SIZES_DIFFER : ($whole !== [] && $turn !== null ? self::TURNED : null);
        foreach ($whole as $set) {
            if ($all !== null) {
                $out[$set->name] = $all;

                continue;
            }
            foreach ([...$set->low, ...$set->target()] as $part) {
                if (isset($duplicates[spl_object_id($part)])) {
                    $out[$set->name] ??= self::DUPLICATE;
                }
            }
            foreach ($asset->tiesOf($set) as $tie) {
                if (! $tie->isSound()) {
                    $out[$set->name] ??= $tie->isApart() ? self::APART : self::CROSSED;
                }
            }
        }

        return $out;
    }

    /**
     * @param  Closure(RoledPart): array{float, float}  $areas  UV area and 3D area of a low part
     * @return array<string, int> samples of each whole set
     */
    public static function sampleCounts(Asset $asset, Closure $areas): array
    {
        $low = [];
        foreach ($asset->sets as $set) {
            if ($set->isWhole()) {
                $low[$set->name] = array_map($areas, $set->low);
            }
        }

        return SampleShares::ofAreas($low, $asset->standard->rays->count);
    }
}
