<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Geometry\Mesh;
use Anvil\Inspection\Inspection;
use Anvil\Pairing\RoledPart;
use Anvil\Sets\BakeSet;
use Closure;

/**
 * The rays of all sets of an asset, set by set.
 */
final class AssetClearance
{
    public const NO_AREA = 'its low poly has no area to shoot rays from';

    public const SIZES_DIFFER = 'high and low poly differ in size; rays would mean nothing before that is mended';

    /**
     * @param  Closure(string, int, int): void|null  $progress  set, its number from 1, sets in all
     */
    public static function of(Inspection $inspection, ?Closure $progress = null): Inspection
    {
        $whole = array_values(array_filter($inspection->sets, static fn (BakeSet $set): bool => $set->isWhole()));
        $notMeasured = self::notMeasured($inspection);
        if ($notMeasured !== []) {
            return $inspection->withClearances([], $notMeasured);
        }
        $smooth = $inspection->standard->rays->smooth;
        $surfaces = [];
        foreach ($inspection->sets as $set) {
            $surfaces[$set->name] = SetSurfaces::of($set, $smooth);
        }
        $assembled = ClearanceMeasure::assembled(array_values($surfaces));
        $counts = self::sampleCounts($inspection);
        $clearances = [];
        foreach ($whole as $i => $set) {
            $progress?->__invoke($set->name, $i + 1, count($whole));
            $others = array_values(array_filter($surfaces, static fn (SetSurfaces $other): bool => $other->name !== $set->name));
            $measured = ClearanceMeasure::of($surfaces[$set->name], $others, $assembled, $inspection->standard, $counts[$set->name]);
            if ($measured->samples === 0) {
                $notMeasured[$set->name] = self::NO_AREA;
            } else {
                $clearances[$set->name] = $measured;
            }
        }

        return $inspection->withClearances($clearances, $notMeasured);
    }

    /**
     * Why rays are not shot, a set; empty when they are.
     *
     * @return array<string, string>
     */
    public static function notMeasured(Inspection $inspection): array
    {
        $out = [];
        if ($inspection->differsInSize()) {
            foreach ($inspection->sets as $set) {
                if ($set->isWhole()) {
                    $out[$set->name] = self::SIZES_DIFFER;
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
