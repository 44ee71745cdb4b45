<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Asset\Asset;
use Anvil\Geometry\Mesh;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Parallel\Forks;
use Anvil\Place\QuarterTurn;
use Anvil\Place\TiePlaces;
use Anvil\Rays\SampleShares;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Sets\BakeSet;
use Anvil\Spatial\TriangleTree;
use Anvil\Standard\Standard;
use Closure;

/**
 * The rays of all sets of an asset, set by set.
 */
final readonly class AssetClearance
{
    public const NO_AREA = 'its low poly has no area to shoot rays from';

    /** The checks that what rays and places take is told under. */
    private const RAYS = 'ray-miss';

    private const PLACES = 'off-alignment';

    /** Triangles of an asset from which on a second process gains more than it costs. */
    private const WORTH_A_PROCESS = 20_000;

    /** Triangles of one set from which on no second process measures anything beside it: both together would take too much memory. */
    private const ALONE = 5_000_000;

    public const SIZES_DIFFER = 'high and low poly differ in size; rays would mean nothing before that is mended';

    public const TURNED = 'the high poly is turned against the low one; rays would mean nothing before that is mended';

    public const CROSSED = 'its name leads to a high part that stands elsewhere; rays would mean nothing before that is mended';

    public const APART = 'its low and high parts lie apart; rays would mean nothing before that is mended';

    public const DUPLICATE = 'two of its parts bear one name (name-duplicate); rays would mean nothing before that is mended';

    /**
     * @param  array<string, SetClearance>  $clearances  by set
     * @param  array<string, string>  $notMeasured  set → why its rays were not shot
     * @param  array<string, float>  $seconds  what measuring took, by the check that it is told under
     */
    private function __construct(public array $clearances, public array $notMeasured, public array $seconds = [])
    {
    }

    /**
     * @param  QuarterTurn|null  $turn  that would bring the high poly onto the low one
     * @param  Closure(string, int, int): void|null  $progress  set, its number from 1, sets in all
     * @param  int  $workers  processes, this one among them; what is measured is the same
     * @param  Closure(): array<string, float>|null  $meanwhile  what this process does while the others measure; gives what it took, by the check that it is told under
     */
    public static function of(Asset $asset, ?QuarterTurn $turn, ?Closure $progress = null, int $workers = 1, ?Closure $meanwhile = null): self
    {
        $start = hrtime(true);
        $notMeasured = self::notMeasured($asset, $turn);
        $whole = array_values(array_filter($asset->sets, static fn (BakeSet $set): bool => $set->isWhole() && ! isset($notMeasured[$set->name])));
        if ($whole === []) {
            return new self([], $notMeasured);
        }
        $smooth = $asset->standard->rays->smooth;
        $surfaces = [];
        foreach ($asset->sets as $set) {
            $surfaces[$set->name] = SetSurfaces::of($set, $smooth);
        }
        [$assembled, $allSeen] = self::seenThrough($asset, $surfaces);
        $counts = self::sampleCounts($asset);
        $measure = static function (int $i) use ($whole, $surfaces, $assembled, $allSeen, $counts, $asset): array {
            [$measured, $rays, $places] = self::ofSet($whole[$i]->name, $surfaces, $assembled, $asset->standard, $counts[$whole[$i]->name], isset($allSeen[$whole[$i]->name]), $asset->tiesOf($whole[$i]), count($asset->pairing->ties));

            return [$measured?->toArray(), $rays, $places];
        };
        $largest = self::largestFirst($whole, $surfaces, $counts);
        $triangles = array_map(static fn (SetSurfaces $set): int => $set->triangleCount(), $surfaces);
        $workers = array_sum($triangles) < self::WORTH_A_PROCESS || max([0, ...$triangles]) > self::ALONE ? 1 : $workers;
        $inAdvance = [];
        $beside = $meanwhile === null ? null : static function () use ($meanwhile, &$inAdvance): void {
            $inAdvance = $meanwhile();
        };
        $setUp = hrtime(true) - $start;
        $begun = 0;
        $answers = Forks::map(
            count($whole), static fn (int $i): array => $measure($largest[$i]), $workers, $workers > 1 ? $beside : null,
            $progress === null ? null : static function (int $i) use ($progress, $whole, $largest, &$begun): void {
                $begun = max($begun + 1, $i + 1);
                $progress($whole[$largest[$i]]->name, $begun, count($whole));
            },
        );
        $inRays = $setUp;
        $inPlaces = 0;
        $clearances = [];
        $order = array_flip($largest);
        foreach ($whole as $i => $set) {
            [$measured, $rays, $places] = $answers[$order[$i]];
            $inRays += $rays;
            $inPlaces += $places;
            if ($measured === null) {
                $notMeasured[$set->name] = self::NO_AREA;
            } else {
                $clearances[$set->name] = SetClearance::ofArray($measured);
            }
        }

        return new self($clearances, $notMeasured, [self::RAYS => $inRays / 1e9, self::PLACES => $inPlaces / 1e9, ...$inAdvance]);
    }

    /**
     * One set: its rays, and how low and high of its ties lie on each other. The command line and the queue measure by this alone.
     *
     * @param  array<string, SetSurfaces>  $surfaces  of all sets by name
     * @param  list<Tie>  $ties  of this set
     * @param  int  $tiesInAll  of the asset
     * @return array{SetClearance|null, int, int} null where its low poly has no area; nanoseconds for the rays, for the places
     */
    public static function ofSet(string $name, array $surfaces, TriangleTree $assembled, Standard $standard, int $samples, bool $allSeen, array $ties, int $tiesInAll): array
    {
        $start = hrtime(true);
        $others = array_values(array_filter($surfaces, static fn (SetSurfaces $other): bool => $other->name !== $name));
        $measured = ClearanceMeasure::of($surfaces[$name], $others, $assembled, $standard, $samples, $allSeen);
        $rays = hrtime(true);
        if ($measured->samples === 0 && ! $measured->isMasked()) {
            return [null, $rays - $start, 0];
        }
        $measured = $measured->withPlaces(TiePlaces::of($ties, $surfaces[$name], $tiesInAll));

        return [$measured, $rays - $start, hrtime(true) - $rays];
    }

    /**
     * Sets by what they will take, the most first, so that no process ends long after the others.
     *
     * @param  list<BakeSet>  $sets
     * @param  array<string, SetSurfaces>  $surfaces
     * @param  array<string, int>  $counts
     * @return list<int> numbers of sets
     */
    private static function largestFirst(array $sets, array $surfaces, array $counts): array
    {
        $work = array_map(static fn (BakeSet $set): int => $surfaces[$set->name]->triangleCount() + 8 * $counts[$set->name], $sets);
        arsort($work);

        return array_keys($work);
    }

    /**
     * The low poly that hides what lies behind it, and the sets of which all counts as seen: a detachable set comes off in use, so that it
     * hides nothing, and what lies beside it is seen.
     *
     * @param  array<string, SetSurfaces>  $surfaces
     * @return array{TriangleTree, array<string, true>, list<array{int, string}>} and the first triangle in it of each set
     */
    public static function seenThrough(Asset $asset, array $surfaces): array
    {
        $detachable = $asset->choices->detachable;
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

        return [Visibility::assembled(array_values($stay)), $allSeen, $firsts];
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
     * @return array<string, int> samples of each whole set
     */
    public static function sampleCounts(Asset $asset): array
    {
        $low = [];
        foreach ($asset->sets as $set) {
            if ($set->isWhole()) {
                $low[$set->name] = array_map(static fn (RoledPart $part): Mesh => $part->part->mesh, $set->low);
            }
        }

        return SampleShares::of($low, $asset->standard->rays->count);
    }
}
