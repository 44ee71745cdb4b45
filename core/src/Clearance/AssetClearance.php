<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Geometry\Mesh;
use Anvil\Inspection\Inspection;
use Anvil\Pairing\RoledPart;
use Anvil\Place\TiePlaces;
use Anvil\Sets\BakeSet;
use Anvil\Spatial\TriangleTree;
use Closure;

/**
 * The rays of all sets of an asset, set by set.
 */
final class AssetClearance
{
    public const NO_AREA = 'its low poly has no area to shoot rays from';

    /** The checks that what rays and places take is told under. */
    private const RAYS = 'ray-miss';

    private const PLACES = 'off-alignment';

    public const SIZES_DIFFER = 'high and low poly differ in size; rays would mean nothing before that is mended';

    public const TURNED = 'the high poly is turned against the low one; rays would mean nothing before that is mended';

    public const CROSSED = 'its name leads to a high part that stands elsewhere; rays would mean nothing before that is mended';

    public const APART = 'its low and high parts lie apart; rays would mean nothing before that is mended';

    public const DUPLICATE = 'two of its parts bear one name (name-duplicate); rays would mean nothing before that is mended';

    /**
     * @param  Closure(string, int, int): void|null  $progress  set, its number from 1, sets in all
     */
    public static function of(Inspection $inspection, ?Closure $progress = null): Inspection
    {
        $start = hrtime(true);
        $inPlaces = 0;
        $notMeasured = self::notMeasured($inspection);
        $whole = array_values(array_filter($inspection->sets, static fn (BakeSet $set): bool => $set->isWhole() && ! isset($notMeasured[$set->name])));
        if ($whole === []) {
            return $inspection->withClearances([], $notMeasured);
        }
        $smooth = $inspection->standard->rays->smooth;
        $surfaces = [];
        foreach ($inspection->sets as $set) {
            $surfaces[$set->name] = SetSurfaces::of($set, $smooth);
        }
        [$assembled, $allSeen] = self::seenThrough($inspection, $surfaces);
        $counts = self::sampleCounts($inspection);
        $clearances = [];
        foreach ($whole as $i => $set) {
            $progress?->__invoke($set->name, $i + 1, count($whole));
            $others = array_values(array_filter($surfaces, static fn (SetSurfaces $other): bool => $other->name !== $set->name));
            $measured = ClearanceMeasure::of($surfaces[$set->name], $others, $assembled, $inspection->standard, $counts[$set->name], isset($allSeen[$set->name]));
            if ($measured->samples === 0 && ! $measured->isMasked()) {
                $notMeasured[$set->name] = self::NO_AREA;
            } else {
                $before = hrtime(true);
                $clearances[$set->name] = $measured->withPlaces(TiePlaces::of($inspection->tiesOf($set), $surfaces[$set->name], count($inspection->pairing->ties)));
                $inPlaces += hrtime(true) - $before;
            }
        }

        return $inspection->withClearances($clearances, $notMeasured, [self::RAYS => (hrtime(true) - $start - $inPlaces) / 1e9, self::PLACES => $inPlaces / 1e9]);
    }

    /**
     * The low poly that hides what lies behind it, and the sets of which all counts as seen: a detachable set comes off in use, so that it
     * hides nothing, and what lies beside it is seen.
     *
     * @param  array<string, SetSurfaces>  $surfaces
     * @return array{TriangleTree, array<string, true>, list<array{int, string}>} and the first triangle in it of each set
     */
    public static function seenThrough(Inspection $inspection, array $surfaces): array
    {
        $detachable = $inspection->choices->detachable;
        $stay = array_filter($surfaces, static fn (SetSurfaces $set): bool => ! in_array($set->name, $detachable, true));
        $allSeen = [];
        foreach ($detachable as $name) {
            $box = isset($surfaces[$name]) ? $surfaces[$name]->lowBounds() : null;
            $box = $box?->grown(0.01 * $box->diagonal());
            foreach ($stay as $set) {
                if ($box !== null && $set->lowBounds()?->meets($box) === true) {
                    $allSeen[$set->name] = true;
                }
            }
        }

        $firsts = [];
        $first = 0;
        foreach ($stay as $set) {
            $firsts[] = [$first, $set->name];
            foreach ($set->lowMeshes() as $mesh) {
                $first += $mesh->triangleCount();
            }
        }

        return [ClearanceMeasure::assembled(array_values($stay)), $allSeen, $firsts];
    }

    /**
     * Why rays are not shot, a set; empty when they are.
     *
     * @return array<string, string>
     */
    public static function notMeasured(Inspection $inspection): array
    {
        $out = [];
        $duplicates = $inspection->duplicates();
        $whole = array_values(array_filter($inspection->sets, static fn (BakeSet $set): bool => $set->isWhole()));
        $all = $inspection->differsInSize() ? self::SIZES_DIFFER : ($whole !== [] && $inspection->quarterTurn() !== null ? self::TURNED : null);
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
            foreach ($inspection->tiesOf($set) as $tie) {
                if (! $tie->isSound()) {
                    $out[$set->name] ??= $tie->isApart() ? self::APART : self::CROSSED;
                }
            }
        }

        return $out;
    }

    /**
     * @return array<string, int> samples of each whole set
     */
    public static function sampleCounts(Inspection $inspection): array
    {
        $low = [];
        foreach ($inspection->sets as $set) {
            if ($set->isWhole()) {
                $low[$set->name] = array_map(static fn (RoledPart $part): Mesh => $part->part->mesh, $set->low);
            }
        }

        return SampleShares::of($low, $inspection->standard->rays->count);
    }
}
