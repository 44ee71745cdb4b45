<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\SurfacePoints;
use Anvil\Spatial\SegmentCast;
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

    /** Directions closer than 30° to an axis speak for it; where there are none, those within 60°. */
    private const NEAR = 0.866;

    private const FAR = 0.5;

    /** A side with less than this share of the points says nothing. */
    private const LEAST = 0.015;

    private const IDENTITY = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0];

    /** A motion that leaves more than this share of the distance between the surfaces is none. */
    private const TAKES_AWAY = 0.5;

    private SurfacePoints $points;

    private float $d;

    /** @var array{float, float, float} */
    private array $centre;

    /** @var array{float, float, float} */
    private array $shift = [0.0, 0.0, 0.0];

    /** @var list<float> 9, row by row */
    private array $turn = self::IDENTITY;

    private float $factor = 1.0;

    /** @var list<int> points that the motion looked at last moves along their normals */
    private array $involved = [];

    /** @var list<float|null>|null heights without any motion */
    private ?array $still = null;

    /** @var list<float|null> */
    private array $heights = [];

    private readonly SegmentCast $cast;

    /**
     * @param  list<Mesh>  $low
     */
    private function __construct(array $low, private readonly TriangleTree $high, Bounds $bounds, int $points)
    {
        $this->points = SurfacePoints::of($low, $points);
        $this->d = $bounds->diagonal();
        $this->centre = $bounds->centre();
        $this->cast = new SegmentCast($high);
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

        return (new self($low, $high, $bounds, $points))->run();
    }

    private function run(): ?Offset
    {
        $count = $this->points->count();
        if ($count < 12) {
            return null;
        }
        $start = $this->measure(0.35);
        $met = count(array_filter($this->heights, static fn (?float $h): bool => $h !== null));
        // A far shift leaves most points without a surface to meet: begin where the bounds would lie on each other.
        $bounds = $this->high->bounds();
        if ($bounds !== null) {
            $other = $bounds->centre();
            $there = [$other[0] - $this->centre[0], $other[1] - $this->centre[1], $other[2] - $this->centre[2]];
            if (sqrt($there[0] ** 2 + $there[1] ** 2 + $there[2] ** 2) > 0.02 * $this->d) {
                $this->shift = $there;
                if ($this->measure(0.35) > 0.5 * $start) {
                    $this->shift = [0.0, 0.0, 0.0];
                    $this->measure(0.35);
                } else {
                    $met = count(array_filter($this->heights, static fn (?float $h): bool => $h !== null));
                }
            }
        }
        if ($met < 0.3 * $count) {
            return null;
        }
        $axes = $this->axes();
        $hidden = $unsure = [];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $moved = 0.0;
            $hidden = $unsure = [];
            $common = $this->commonRises($axes);
            foreach ($axes as $number => $axis) {
                [$by, $error] = $this->along($axis, array_values(array_diff_key($common, [$number => true])));
                if ($by === null) {
                    $hidden[] = 'a shift along '.self::named($axis);

                    continue;
                }
                $unsure[] = $error;
                if (abs($by) > 3 * $error || ($round === 0 && abs($by) > self::STILL * $this->d)) {
                    for ($k = 0; $k < 3; $k++) {
                        $this->shift[$k] += $by * $axis[$k];
                    }
                    $moved = max($moved, abs($by) / $this->d);
                }
            }
            if ($moved > self::STILL) {
                $this->measure($round < 3 ? 0.35 : 0.1);
            }
            $turned = 0.0;
            $common = array_values($this->commonRises($axes));
            foreach ($axes as $axis) {
                [$by, $error] = $this->about($axis, $common);
                if ($by === null) {
                    $hidden[] = 'a turn about '.self::named($axis);

                    continue;
                }
                if (abs($by) > 3 * $error) {
                    $this->turnBy($axis, $by);
                    $turned = max($turned, abs($by) / 2);
                }
            }
            if ($turned > self::STILL) {
                $this->measure($round < 3 ? 0.35 : 0.1);
            }
            if (max($moved, $turned) <= self::STILL) {
                break;
            }
        }

        return $this->counted($this->scale($axes), $unsure === [] ? INF : max($unsure), $hidden);
    }

    /**
     * What of the motion found counts: no more than its own uncertainty is none, and all of it has to take away at least half of the median
     * distance between the surfaces, over the points that it moves along their normals; a turn, a shift or a scale that adds next to nothing to
     * the others is left out.
     *
     * @param  list<string>  $hidden
     */
    private function counted(float $scale, float $error, array $hidden): Offset
    {
        $shift = $this->shift;
        if (sqrt($shift[0] ** 2 + $shift[1] ** 2 + $shift[2] ** 2) <= 3 * $error) {
            $shift = [0.0, 0.0, 0.0];
        }
        $still = [[0.0, 0.0, 0.0], self::IDENTITY, 1.0];
        $best = [$shift, $this->turn, $scale];
        if ($best !== $still) {
            $left = $this->left($best);
            // Simpler motions first: what goes without a turn, or without a scale, needs none.
            foreach ([[$shift, self::IDENTITY, 1.0], [[0.0, 0.0, 0.0], $this->turn, 1.0], [[0.0, 0.0, 0.0], self::IDENTITY, $scale], [$shift, $this->turn, 1.0], [$shift, self::IDENTITY, $scale]] as $simpler) {
                if ($simpler !== $still && $this->left($simpler) <= max(1.1 * $left, 0.02)) {
                    $best = $simpler;
                    break;
                }
            }
            if ($this->left($best) > self::TAKES_AWAY || ($best[0] === $still[0] && $best[1] === $still[1] && $this->isAlike($best))) {
                $best = $still;
            }
        }
        [$axis, $degrees] = self::axisAngle($best[1]);

        return new Offset($best[0], $axis, $degrees, $best[2], $this->d, $hidden);
    }

    /**
     * The median distance between the surfaces after a motion, as a share of what it was before, over the points that the motion moves along
     * their normals by at least half of the most.
     *
     * @param  array{array{float, float, float}, list<float>, float}  $motion  shift, turn, scale
     */
    private function left(array $motion): float
    {
        [[$sx, $sy, $sz], $m, $scale] = $motion;
        $at = $this->points->at;
        $n = $this->points->normals;
        $moves = [];
        for ($i = 0, $count = count($at); $i < $count; $i += 3) {
            [$x, $y, $z] = [$at[$i] - $this->centre[0], $at[$i + 1] - $this->centre[1], $at[$i + 2] - $this->centre[2]];
            $moves[] = abs(
                ($scale * ($m[0] * $x + $m[1] * $y + $m[2] * $z) + $sx - $x) * $n[$i] + ($scale * ($m[3] * $x + $m[4] * $y + $m[5] * $z) + $sy - $y) * $n[$i + 1]
                + ($scale * ($m[6] * $x + $m[7] * $y + $m[8] * $z) + $sz - $z) * $n[$i + 2]
            );
        }
        $least = 0.5 * max([0.0, ...$moves]);
        $involved = array_keys(array_filter($moves, static fn (float $move): bool => $move >= $least));
        $this->involved = $involved;
        if ($this->still === null) {
            [$this->shift, $this->turn, $this->factor] = [[0.0, 0.0, 0.0], self::IDENTITY, 1.0];
            $this->measure(0.35);
            $this->still = $this->heights;
        }
        $this->heights = $this->still;
        $before = $this->medianDistance($involved);
        [$this->shift, $this->turn, $this->factor] = $motion;
        $this->measure(0.35);
        $after = $this->medianDistance($involved);

        return $before > 0.0 ? $after / $before : 1.0;
    }

    /**
     * Whether a rise that all sides share explains what a scale would, as on a round part that subdivision or decimation has shrunk: then it is
     * none.
     *
     * @param  array{array{float, float, float}, list<float>, float}  $scale
     */
    private function isAlike(array $scale): bool
    {
        $this->left($scale);
        $after = $this->medianDistance($this->involved);
        $still = $this->still ?? [];
        $rise = self::median(array_values(array_filter($still, static fn (?float $height): bool => $height !== null)));
        $beside = array_map(fn (int $i): float => abs(($still[$i] ?? $this->d) - $rise), $this->involved);

        return self::median($beside) <= 2 * $after + 1e-6 * $this->d;
    }

    /**
     * @param  list<int>  $points
     */
    private function medianDistance(array $points): float
    {
        return self::median(array_map(fn (int $i): float => abs($this->heights[$i] ?? $this->d), $points));
    }

    /**
     * Heights of all points, nearest surface either way within a share of d; the mean of their sizes, a miss counted as that share.
     */
    private function measure(float $within): float
    {
        $reach = $within * $this->d;
        $this->heights = [];
        $cast = $this->cast;
        [$cx, $cy, $cz] = $this->centre;
        [$sx, $sy, $sz] = $this->shift;
        $m = $this->turn;
        $at = $this->points->at;
        $normals = $this->points->normals;
        for ($i = 0, $n = 3 * $this->points->count(); $i < $n; $i += 3) {
            $x = $this->factor * ($at[$i] - $cx);
            $y = $this->factor * ($at[$i + 1] - $cy);
            $z = $this->factor * ($at[$i + 2] - $cz);
            $nx = $m[0] * $normals[$i] + $m[1] * $normals[$i + 1] + $m[2] * $normals[$i + 2];
            $ny = $m[3] * $normals[$i] + $m[4] * $normals[$i + 1] + $m[5] * $normals[$i + 2];
            $nz = $m[6] * $normals[$i] + $m[7] * $normals[$i + 1] + $m[8] * $normals[$i + 2];
            $hits = $cast->all(
                $m[0] * $x + $m[1] * $y + $m[2] * $z + $cx + $sx, $m[3] * $x + $m[4] * $y + $m[5] * $z + $cy + $sy, $m[6] * $x + $m[7] * $y + $m[8] * $z + $cz + $sz,
                $nx, $ny, $nz, -$reach, $reach, 1,
            );
            $best = null;
            for ($k = 0; $k < $hits; $k++) {
                if ($best === null || abs($cast->t[$k]) < abs($best)) {
                    $best = $cast->t[$k];
                }
            }
            $this->heights[] = $best;
        }

        return $this->cost($within);
    }

    private function cost(float $cap = 0.05): float
    {
        $cap *= $this->d;
        $sum = 0.0;
        foreach ($this->heights as $height) {
            $sum += $height === null ? $cap : min($cap, abs($height));
        }

        return $sum / max(1, count($this->heights));
    }

    /**
     * Three axes at right angles on which the low poly's faces lie best: the direction of the greatest face area, then that of the
     * greatest area across it.
     *
     * @return list<array{float, float, float}>
     */
    private function axes(): array
    {
        $first = $this->widest(null);
        if ($first === null) {
            return [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
        }
        $second = $this->widest($first);
        if ($second === null) {
            $second = abs($first[0]) < 0.9 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0];
        }
        $dot = $first[0] * $second[0] + $first[1] * $second[1] + $first[2] * $second[2];
        $second = [$second[0] - $dot * $first[0], $second[1] - $dot * $first[1], $second[2] - $dot * $first[2]];
        $length = sqrt($second[0] ** 2 + $second[1] ** 2 + $second[2] ** 2);
        $second = [$second[0] / $length, $second[1] / $length, $second[2] / $length];
        $third = [$first[1] * $second[2] - $first[2] * $second[1], $first[2] * $second[0] - $first[0] * $second[2], $first[0] * $second[1] - $first[1] * $second[0]];

        return [$first, $second, $third];
    }

    /**
     * The direction that most of the low poly's area faces, either way, within 10°.
     *
     * @param  array{float, float, float}|null  $across  only directions at right angles to it
     * @return array{float, float, float}|null
     */
    private function widest(?array $across): ?array
    {
        $n = $this->points->normals;
        $count = count($n);
        $found = null;
        $most = 0;
        $tried = [];
        for ($i = 0; $i < $count; $i += 3) {
            $key = round($n[$i], 1).' '.round($n[$i + 1], 1).' '.round($n[$i + 2], 1);
            if (isset($tried[$key]) || ($across !== null && abs($n[$i] * $across[0] + $n[$i + 1] * $across[1] + $n[$i + 2] * $across[2]) > 0.1)) {
                continue;
            }
            $tried[$key] = true;
            $near = 0;
            for ($j = 0; $j < $count; $j += 3) {
                if (abs($n[$i] * $n[$j] + $n[$i + 1] * $n[$j + 1] + $n[$i + 2] * $n[$j + 2]) > 0.985) {
                    $near++;
                }
            }
            if ($near > $most) {
                $most = $near;
                $found = [$n[$i], $n[$i + 1], $n[$i + 2]];
            }
        }

        return $found;
    }

    /**
     * How far along an axis, and how uncertain; null where not both sides are there.
     *
     * @param  array{float, float, float}  $axis
     * @param  list<float>  $rises  what all sides may have risen by
     * @return array{float|null, float}
     */
    private function along(array $axis, array $rises): array
    {
        $leans = $this->leans($axis);
        foreach ([self::NEAR, self::FAR] as $least) {
            $plus = $minus = [];
            $others = [];
            foreach ($leans as $i => $lean) {
                if ($this->heights[$i] === null) {
                    continue;
                }
                if ($lean > $least) {
                    $plus[] = $i;
                } elseif ($lean < -$least) {
                    $minus[] = $i;
                } else {
                    $others[] = $i;
                }
            }
            $needed = max(4, self::LEAST * $this->points->count());
            if (count($plus) >= $needed && count($minus) >= $needed) {
                return $this->lesser($plus, $minus, $others, $leans, $rises);
            }
        }

        return [null, INF];
    }

    /**
     * What both sides of each axis have risen by alike: a round high over a coarse low does so on every side.
     *
     * @param  list<array{float, float, float}>  $axes
     * @return array<int, float>
     */
    private function commonRises(array $axes): array
    {
        $out = [];
        foreach ($axes as $number => $axis) {
            $plus = $minus = [];
            foreach ($this->leans($axis) as $i => $lean) {
                $height = $this->heights[$i];
                if ($height !== null && $lean > self::NEAR) {
                    $plus[] = $height;
                } elseif ($height !== null && $lean < -self::NEAR) {
                    $minus[] = $height;
                }
            }
            if (min(count($plus), count($minus)) >= max(4, self::LEAST * $this->points->count())) {
                $out[$number] = (self::median($plus) + self::median($minus)) / 2;
            }
        }

        return $out;
    }

    /**
     * @param  array{float, float, float}  $axis
     * @param  list<float>  $rises
     * @return array{float|null, float} radians
     */
    private function about(array $axis, array $rises): array
    {
        $levers = [];
        $most = 0.0;
        $at = $this->points->at;
        $n = $this->points->normals;
        foreach (array_keys($this->heights) as $i) {
            $x = $at[3 * $i] - $this->centre[0];
            $y = $at[3 * $i + 1] - $this->centre[1];
            $z = $at[3 * $i + 2] - $this->centre[2];
            $lever = ($axis[1] * $z - $axis[2] * $y) * $n[3 * $i] + ($axis[2] * $x - $axis[0] * $z) * $n[3 * $i + 1] + ($axis[0] * $y - $axis[1] * $x) * $n[3 * $i + 2];
            $levers[] = $lever;
            $most = max($most, abs($lever));
        }
        if ($most < 0.08 * $this->d) {
            return [null, INF];
        }
        $plus = $minus = $others = [];
        foreach ($levers as $i => $lever) {
            if ($this->heights[$i] === null) {
                continue;
            }
            if ($lever > 0.35 * $most) {
                $plus[] = $i;
            } elseif ($lever < -0.35 * $most) {
                $minus[] = $i;
            } else {
                $others[] = $i;
            }
        }
        $needed = max(4, self::LEAST * $this->points->count());
        if (count($plus) < $needed || count($minus) < $needed) {
            return [null, INF];
        }

        return $this->lesser($plus, $minus, $others, $levers, $rises);
    }

    /**
     * The lesser of what two sides say, 0 where they do not say the same; the rise that best brings them together is taken out first.
     *
     * @param  list<int>  $plus
     * @param  list<int>  $minus
     * @param  list<int>  $others
     * @param  list<float>  $weights  height that one unit of the motion gives each point
     * @param  list<float>  $rises
     * @return array{float, float} the motion, its uncertainty
     */
    private function lesser(array $plus, array $minus, array $others, array $weights, array $rises): array
    {
        $rises = [0.0, ...$rises];
        $all = $rest = [];
        foreach ($this->heights as $height) {
            if ($height !== null) {
                $all[] = $height;
            }
        }
        foreach ($others as $i) {
            $rest[] = (float) $this->heights[$i];
        }
        $rises[] = self::median($all);
        if ($rest !== []) {
            $rises[] = self::median($rest);
        }
        $best = null;
        foreach ($rises as $rise) {
            [$a, $errorA] = $this->side($plus, $weights, $rise);
            [$b, $errorB] = $this->side($minus, $weights, $rise);
            $both = sqrt($errorA ** 2 + $errorB ** 2);
            $apart = abs($a - $b);
            // Sides that differ by no more than they are uncertain say the same thing: their mean is surer than either.
            $motion = match (true) {
                $a * $b <= 0.0 => 0.0, $apart <= 3 * $both => ($a + $b) / 2, $a > 0.0 => min($a, $b), default => max($a, $b),
            };
            if ($best === null || $apart < $best[2] - 1e-12) {
                $best = [$motion, $apart <= 3 * $both ? $both / 2 : max($errorA, $errorB), $apart];
            }
        }

        return [$best[0], $best[1]];
    }

    /**
     * @param  list<int>  $side
     * @param  list<float>  $weights
     * @return array{float, float} median motion, its uncertainty
     */
    private function side(array $side, array $weights, float $rise): array
    {
        $values = [];
        $faces = [];
        foreach ($side as $i) {
            $values[] = ((float) $this->heights[$i] - $rise) / $weights[$i];
            $faces[$this->points->triangles[$i]] = true;
        }
        $median = self::median($values);
        $spread = self::median(array_map(static fn (float $value): float => abs($value - $median), $values));

        return [$median, 1.2533 * 1.4826 * $spread / sqrt(count($faces))];
    }

    /**
     * A uniform scale about the centre: every pair of sides rises in proportion to how far apart it stands, and the pairs differ in that.
     *
     * @param  list<array{float, float, float}>  $axes
     */
    private function scale(array $axes): float
    {
        $pairs = [];
        $at = $this->points->at;
        $n = $this->points->normals;
        foreach ($axes as $axis) {
            $leans = $this->leans($axis);
            $sides = [1 => [[], []], -1 => [[], []]];
            $faces = [];
            foreach ($leans as $i => $lean) {
                if ($this->heights[$i] === null || abs($lean) <= self::NEAR) {
                    continue;
                }
                $side = $lean > 0.0 ? 1 : -1;
                $sides[$side][0][] = $this->heights[$i];
                $sides[$side][1][] = ($at[3 * $i] - $this->centre[0]) * $n[3 * $i] + ($at[3 * $i + 1] - $this->centre[1]) * $n[3 * $i + 1] + ($at[3 * $i + 2] - $this->centre[2]) * $n[3 * $i + 2];
                $faces[$this->points->triangles[$i]] = true;
            }
            if (min(count($sides[1][0]), count($sides[-1][0])) < max(4, self::LEAST * $this->points->count())) {
                continue;
            }
            $rises = [...$sides[1][0], ...$sides[-1][0]];
            $rise = (self::median($sides[1][0]) + self::median($sides[-1][0])) / 2;
            $spread = self::median(array_map(static fn (float $value): float => abs($value - $rise), $rises));
            $pairs[] = [$rise, (self::median($sides[1][1]) + self::median($sides[-1][1])) / 2, 1.858 * $spread / sqrt(count($faces))];
        }
        if (count($pairs) < 2 || max(array_column($pairs, 1)) < 1.25 * min(array_column($pairs, 1))) {
            return 1.0;
        }
        $above = $below = 0.0;
        foreach ($pairs as [$rise, $far]) {
            $above += $rise * $far;
            $below += $far * $far;
        }
        $by = $below > 0.0 ? $above / $below : 0.0;
        foreach ($pairs as [$rise, $far, $error]) {
            if (abs($rise - $by * $far) > 0.2 * abs($by * $far) || abs($by * $far) <= 3 * $error) {
                return 1.0;
            }
        }

        return 1.0 + $by;
    }

    /**
     * @param  array{float, float, float}  $axis
     * @return list<float> each point's normal along the axis, as the turn has it
     */
    private function leans(array $axis): array
    {
        $m = $this->turn;
        $x = $m[0] * $axis[0] + $m[3] * $axis[1] + $m[6] * $axis[2];
        $y = $m[1] * $axis[0] + $m[4] * $axis[1] + $m[7] * $axis[2];
        $z = $m[2] * $axis[0] + $m[5] * $axis[1] + $m[8] * $axis[2];
        $n = $this->points->normals;
        $out = [];
        for ($i = 0, $count = count($n); $i < $count; $i += 3) {
            $out[] = $n[$i] * $x + $n[$i + 1] * $y + $n[$i + 2] * $z;
        }

        return $out;
    }

    /**
     * @param  array{float, float, float}  $u
     */
    private function turnBy(array $u, float $radians): void
    {
        $c = cos($radians);
        $s = sin($radians);
        $r = [
            $c + $u[0] * $u[0] * (1 - $c), $u[0] * $u[1] * (1 - $c) - $u[2] * $s, $u[0] * $u[2] * (1 - $c) + $u[1] * $s,
            $u[1] * $u[0] * (1 - $c) + $u[2] * $s, $c + $u[1] * $u[1] * (1 - $c), $u[1] * $u[2] * (1 - $c) - $u[0] * $s,
            $u[2] * $u[0] * (1 - $c) - $u[1] * $s, $u[2] * $u[1] * (1 - $c) + $u[0] * $s, $c + $u[2] * $u[2] * (1 - $c),
        ];
        $m = $this->turn;
        $out = [];
        for ($i = 0; $i < 3; $i++) {
            for ($j = 0; $j < 3; $j++) {
                $out[] = $r[3 * $i] * $m[$j] + $r[3 * $i + 1] * $m[3 + $j] + $r[3 * $i + 2] * $m[6 + $j];
            }
        }
        $this->turn = $out;
    }

    /**
     * @param  list<float>  $m  a turn, row by row
     * @return array{array{float, float, float}, float} unit axis, degrees of 0 to 180
     */
    private static function axisAngle(array $m): array
    {
        $angle = acos(max(-1.0, min(1.0, ($m[0] + $m[4] + $m[8] - 1) / 2)));
        $axis = [$m[7] - $m[5], $m[2] - $m[6], $m[3] - $m[1]];
        $length = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);

        return $length < 1e-12 ? [[0.0, 0.0, 1.0], 0.0] : [[$axis[0] / $length, $axis[1] / $length, $axis[2] / $length], rad2deg($angle)];
    }

    /**
     * @param  array{float, float, float}  $axis
     */
    private static function named(array $axis): string
    {
        foreach (['x', 'y', 'z'] as $k => $name) {
            if (abs($axis[$k]) > 0.999) {
                return $name;
            }
        }

        return sprintf('(%.2f, %.2f, %.2f)', $axis[0], $axis[1], $axis[2]);
    }

    /**
     * @param  list<float>  $values
     */
    private static function median(array $values): float
    {
        sort($values);
        $count = count($values);
        if ($count === 0) {
            return 0.0;
        }
        $middle = intdiv($count, 2);

        return $count % 2 === 1 ? $values[$middle] : ($values[$middle - 1] + $values[$middle]) / 2;
    }
}
