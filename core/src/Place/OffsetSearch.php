<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\SurfacePoints;
use Anvil\Spatial\TriangleTree;

/**
 * Finds the offset of a low part against its high by what its surfaces say, side against side.
 *
 * Points of the low poly look along their face normal, both ways, for the nearest high surface that faces them: its height. For a shift
 * along an axis the heights of the faces that look along it are held against those that look back: only where one side rises while the
 * other sinks is it a shift, and then by the lesser of the two medians. A turn is judged alike by the sides that it lifts and lowers; a
 * scale by pairs of sides that rise in proportion to their distance. A rise that all sides share (a round high over a coarse low,
 * a thicker high) is taken out first. A median only counts where it is three times as large as it is uncertain (1.2533 · 1.4826 · the
 * median absolute deviation / √faces, the large-sample error of a median; P. J. Huber, "Robust Statistics", 1981), so that a low poly
 * that follows its high roughly has no offset.
 */
final class OffsetSearch
{
    private const ROUNDS = 16;

    /** Below this share of d nothing is moved any more. */
    private const STILL = 2e-5;

    /** Shares of d within which the high is looked for: while it may be far, and near its end. */
    private const WIDE = 0.35;

    private const CLOSE = 0.1;

    /** A motion that leaves more than this share of the distance between the surfaces is none. */
    private const TAKES_AWAY = 0.5;

    /** Disjoint parts of the samples that each find a shift by themselves, */
    private const QUARTERS = 4;

    /** which agree where none is off their mean by over this share of its length. */
    private const AGREE = 1 / 3;

    /** and which leave at most this share of the distance between the surfaces. */
    private const NEARER = 0.9;

    /** Quarters have their own faces where as many are looked at. */
    private const FINE = 128;

    /** A shift under this share of d is not looked for again. */
    private const WORTH = 0.001;

    /** @var list<int> points that the motion looked at last moves along their normals */
    private array $involved = [];

    /** @var array{float, float, float} the shift that was found, whether it counts or not */
    private array $found = [0.0, 0.0, 0.0];

    /** @var list<float|null>|null heights without any motion */
    private ?array $still = null;

    /**
     * @param  list<Mesh>  $low
     */
    private function __construct(private readonly OffsetHeights $measured, private readonly TriangleTree $high, private readonly array $low = [])
    {
    }

    /**
     * @param  list<Mesh>  $low  one tie's low meshes
     * @param  int  $points  of the low poly that look for the high
     * @return Offset|null null where too little of the low poly meets the high to tell
     */
    public static function of(array $low, TriangleTree $high, int $points = 720): ?Offset
    {
        $bounds = Bounds::union(array_map(static fn (Mesh $mesh): ?Bounds => $mesh->bounds(), $low));
        if ($bounds === null || $bounds->diagonal() <= 0.0 || $high->bounds() === null) {
            return null;
        }

        return (new self(new OffsetHeights(SurfacePoints::of($low, $points), $high, $bounds->centre(), $bounds->diagonal()), $high, $low))->run();
    }

    /**
     * @param  bool  $turns  whether turns are looked for, too
     */
    private function run(bool $turns = true): ?Offset
    {
        $measured = $this->measured;
        $count = $measured->points->count();
        if ($count < 12) {
            return null;
        }
        $this->begin();
        if ($measured->met() < 0.3 * $count) {
            return null;
        }
        $motion = $measured->motion;
        $sides = new OffsetSides($measured);
        $own = new OwnAxes($measured->points);
        $axes = $own->all();
        $isSheet = $sides->isSheet($axes);
        if ($isSheet) {
            $axes = $own->ofSlopes();
        }
        $hidden = $unsure = [];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $within = $round < 3 ? self::WIDE : self::CLOSE;
            $moved = $turned = 0.0;
            $hidden = $unsure = [];
            $common = $sides->commonRises($axes);
            foreach ($axes as $number => $axis) {
                [$by, $error] = $sides->along($axis, array_values(array_diff_key($common, [$number => true])), $isSheet);
                if ($by === null) {
                    $hidden[] = 'a shift along '.OwnAxes::named($axis);

                    continue;
                }
                $unsure[] = $error;
                if (abs($by) > 3 * $error || ($round === 0 && abs($by) > self::STILL * $measured->d)) {
                    $motion = $motion->shiftedBy([$by * $axis[0], $by * $axis[1], $by * $axis[2]]);
                    $moved = max($moved, abs($by) / $measured->d);
                }
            }
            if ($moved > self::STILL) {
                $measured->measure($motion, $within);
            }
            $common = array_values($sides->commonRises($axes));
            foreach ($turns ? $axes : [] as $axis) {
                [$by, $error] = $sides->about($axis, $common);
                if ($by === null) {
                    $hidden[] = 'a turn about '.OwnAxes::named($axis);

                    continue;
                }
                if (abs($by) > 3 * $error) {
                    $motion = $motion->turnedBy($axis, $by);
                    $turned = max($turned, abs($by) / 2);
                }
            }
            if ($turned > self::STILL) {
                $measured->measure($motion, $within);
            }
            if (max($moved, $turned) <= self::STILL) {
                break;
            }
        }
        $measured->motion = $motion;
        $this->found = $motion->shift;

        return $this->counted(new Motion($motion->shift, $motion->turn, $sides->scale($axes)), $unsure === [] ? INF : max($unsure), $hidden);
    }

    /**
     * A shift that four disjoint quarters of the samples find alike, each by itself: relief as high as the shift hides it from the distance between the
     * surfaces, and not from their agreement. Their mean; null where they do not agree.
     *
     * @param  bool  $turns  whether turns are looked for, too
     * @param  bool  $apart  whether no two quarters share a face
     * @return array{float, float, float}|null
     */
    private function alikeByQuarters(bool $turns, bool $apart): ?array
    {
        $measured = $this->measured;
        $points = SurfacePoints::of($this->low, self::QUARTERS * $measured->points->count());
        $all = [];
        for ($k = 0; $k < self::QUARTERS; $k++) {
            $own = $apart ? $points->onEvery(self::QUARTERS, $k) : $points->every(self::QUARTERS, $k);
            $quarter = new self(new OffsetHeights($own, $this->high, $measured->centre, $measured->d), $this->high);
            $quarter->run($turns);
            $all[] = $quarter->found;
        }
        $mean = [0.0, 0.0, 0.0];
        foreach ($all as $one) {
            for ($c = 0; $c < 3; $c++) {
                $mean[$c] += $one[$c] / self::QUARTERS;
            }
        }
        $length = self::length($mean);
        foreach ($all as $one) {
            if (self::length([$one[0] - $mean[0], $one[1] - $mean[1], $one[2] - $mean[2]]) > self::AGREE * $length) {
                return null;
            }
        }

        return $length > self::WORTH * $measured->d ? $mean : null;
    }

    /** Whether there are faces enough for quarters of the samples that share none. */
    private function isFine(): bool
    {
        return count(array_unique($this->measured->points->triangles)) >= self::FINE;
    }

    /**
     * The shift that all samples find where no turn is looked for.
     *
     * @return array{float, float, float}
     */
    private function shiftAlone(): array
    {
        $measured = $this->measured;
        $alone = new self(new OffsetHeights($measured->points, $this->high, $measured->centre, $measured->d), $this->high);
        $alone->run(false);

        return $alone->found;
    }

    /**
     * @param  array{float, float, float}  $vector
     */
    private static function length(array $vector): float
    {
        return sqrt($vector[0] ** 2 + $vector[1] ** 2 + $vector[2] ** 2);
    }

    /** Heights to begin from: a far shift leaves most points without a surface to meet, so it begins where the bounds would lie on each other, if that is better. */
    private function begin(): void
    {
        $start = $this->measured->measure(new Motion, self::WIDE);
        $other = $this->high->bounds()?->centre();
        if ($other === null) {
            return;
        }
        $centre = $this->measured->centre;
        $there = [$other[0] - $centre[0], $other[1] - $centre[1], $other[2] - $centre[2]];
        if (self::length($there) > 0.02 * $this->measured->d && $this->measured->measure(new Motion($there), self::WIDE) > 0.5 * $start) {
            $this->measured->measure(new Motion, self::WIDE);
        }
    }

    /**
     * What of the motion found counts: no more than its own uncertainty is none, and all of it has to take away at least half of the median
     * distance between the surfaces, over the points that it moves along their normals; a turn, a shift or a scale that adds next to nothing to
     * the others is left out.
     *
     * @param  list<string>  $hidden
     */
    private function counted(Motion $found, float $error, array $hidden): Offset
    {
        $shift = $found->shift;
        if (self::length($shift) <= 3 * $error) {
            $shift = [0.0, 0.0, 0.0];
        }
        [$turn, $scale] = [$found->turn, $found->factor];
        $best = new Motion($shift, $turn, $scale);
        if (! $best->isNone()) {
            $left = $this->left($best);
            // Simpler motions first: what goes without a turn, or without a scale, needs none.
            foreach ([new Motion($shift), new Motion(turn: $turn), new Motion(factor: $scale), new Motion($shift, $turn), new Motion($shift, factor: $scale)] as $simpler) {
                if (! $simpler->isNone() && $this->left($simpler) <= max(1.1 * $left, 0.02)) {
                    $best = $simpler;
                    break;
                }
            }
            $isScale = $best->shift === [0.0, 0.0, 0.0] && $best->turn === Motion::NO_TURN;
            if ($this->left($best) > self::TAKES_AWAY || ($isScale && $this->isAlike($best))) {
                $best = new Motion;
            }
        }
        // A turn that does not count may have taken a shift for its own: then shifts are looked for alone.
        foreach ($found->turn === Motion::NO_TURN ? [true] : [true, false] as $turns) {
            if (! $best->isNone() || $this->low === [] || self::length($turns ? $found->shift : $this->shiftAlone()) <= self::WORTH * $this->measured->d) {
                continue;
            }
            foreach ($this->isFine() ? [true, false] : [false] as $apart) {
                $alike = $best->isNone() ? $this->alikeByQuarters($turns, $apart) : null;
                // Quarters that share their faces share how these follow a finer shape: what brings the surfaces no nearer is that.
                if ($alike !== null && ($apart || $this->left(new Motion($alike)) <= self::NEARER)) {
                    $best = new Motion($alike);
                }
            }
        }
        [$axis, $degrees] = $best->axisAngle();

        return new Offset($best->shift, $axis, $degrees, $best->factor, $this->measured->d, $hidden);
    }

    /**
     * The median distance between the surfaces after a motion, as a share of what it was before, over the points that the motion moves along
     * their normals by at least half of the most.
     */
    private function left(Motion $motion): float
    {
        $measured = $this->measured;
        [$cx, $cy, $cz] = $measured->centre;
        $at = $measured->points->at;
        $n = $measured->points->normals;
        $moves = [];
        for ($i = 0, $count = count($at); $i < $count; $i += 3) {
            $moves[] = abs($motion->along($at[$i] - $cx, $at[$i + 1] - $cy, $at[$i + 2] - $cz, $n[$i], $n[$i + 1], $n[$i + 2]));
        }
        $least = 0.5 * max([0.0, ...$moves]);
        $this->involved = array_keys(array_filter($moves, static fn (float $move): bool => $move >= $least));
        if ($this->still === null) {
            $measured->measure(new Motion, self::WIDE);
            $this->still = $measured->heights;
        }
        $measured->heights = $this->still;
        $before = $measured->medianDistance($this->involved);
        $measured->measure($motion, self::WIDE);
        $after = $measured->medianDistance($this->involved);

        return $before > 0.0 ? $after / $before : 1.0;
    }

    /**
     * Whether a rise that all sides share explains what a scale would, as on a round part that subdivision or decimation has shrunk: then it is
     * none.
     */
    private function isAlike(Motion $scale): bool
    {
        $this->left($scale);
        $after = $this->measured->medianDistance($this->involved);
        $still = $this->still ?? [];
        $rise = OffsetHeights::median(array_values(array_filter($still, static fn (?float $height): bool => $height !== null)));
        $d = $this->measured->d;
        $beside = array_map(static fn (int $i): float => abs(($still[$i] ?? $d) - $rise), $this->involved);

        return OffsetHeights::median($beside) <= 2 * $after + 1e-6 * $d;
    }
}
