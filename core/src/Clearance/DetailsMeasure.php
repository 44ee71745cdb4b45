<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\HighShells;
use Anvil\Rays\HighSurface;
use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\Spread;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Standard\Reach;
use Closure;

/**
 * Reads the details of a set from its ray field: no ray is shot twice, but points of high shells that the field passes by are looked at one by one.
 */
final class DetailsMeasure
{
    /** Within this share of d something that belongs must be met, or another surface lie. */
    private const GAP = 0.02;

    /** A shell of which less is met counts as unmet. */
    private const MET = 0.01;

    /** Points looked at on a shell that no ray of the field met. */
    private const SHELL_POINTS = 100;

    private const ALL_SHELL_POINTS = 20_000;

    /** Samples a low part on which is looked at what is seen. */
    private const SEEN_SAMPLES = 128;

    /** Steps of the curve of reaches, and samples that it is read from. */
    private const CURVE = 60;

    private const CURVE_SAMPLES = 4096;

    /**
     * @param  Closure(int): bool  $seen  whether a sample is seen
     */
    public function __construct(
        private readonly LowSurface $low,
        private readonly HighSurface $high,
        private readonly Samples $samples,
        private readonly Hits $hits,
        private readonly Closure $seen,
        private readonly float $seenShare,
        private readonly Reach $reach,
        private readonly float $d,
    ) {
    }

    /**
     * Share of seen low area that takes a wrong hit at the reach in use, and the samples that do.
     *
     * @return array{float, list<array{int, float}>} share; sample, height of what it takes
     */
    public function wrong(): array
    {
        $share = 0.0;
        $rays = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->hits->taken($i, $this->reach);
            if ($h >= 0 && $this->hits->kind($i, $h) < 1 && ($this->seen)($i)) {
                $share += $this->samples->weight[$i];
                $rays[] = [$i, $this->hits->heights[$h]];
            }
        }

        return [$this->ofSeen($share), $rays];
    }

    private function ofSeen(float $share): float
    {
        return $this->seenShare > 0.0 ? min(1.0, $share / $this->seenShare) : 0.0;
    }

    /**
     * What another reach outward would do, from the rays that were shot already.
     *
     * @param  float  $top  greatest reach outward that somebody may want to know of
     * @return array{top: float, miss: list<float>, wrong: list<float>}
     */
    public function curve(float $top): array
    {
        $miss = $wrong = array_fill(0, self::CURVE + 1, 0.0);
        $step = max(1, intdiv($this->samples->count(), self::CURVE_SAMPLES));
        $all = 0.0;
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i += $step) {
            $weight = $this->samples->weight[$i];
            $all += $weight;
            // The hit taken moves outward with the reach.
            $h = $this->hits->start[$i + 1] - 1;
            $first = $this->hits->start[$i];
            $taken = -1;
            for ($k = 0; $k <= self::CURVE; $k++) {
                $reach = $top * $k / self::CURVE;
                while ($h >= $first && $this->hits->heights[$h] <= $reach) {
                    $taken = $h--;
                }
                if ($taken < 0 || $this->hits->heights[$taken] < -$this->reach->in) {
                    $miss[$k] += $weight;
                } elseif ($this->hits->kind($i, $taken) < 1 && ($this->seen)($i)) {
                    $wrong[$k] += $weight;
                }
            }
        }
        $scale = $all > 0.0 ? 1.0 / $all : 0.0;
        $seen = $this->seenShare > 0.0 ? $scale / $this->seenShare : 0.0;

        return ['top' => $top, 'miss' => array_map(static fn (float $share): float => min(1.0, round($share * $scale, 6)), $miss), 'wrong' => array_map(static fn (float $share): float => min(1.0, round($share * $seen, 6)), $wrong)];
    }

    /**
     * Places with no high poly within 2 % of d, by low part: `gap` where nothing that belongs is met within that or within the reach in use,
     * `near` where the reach does meet it. Misses are told by themselves, so a gap is only where a ray does meet something.
     *
     * @return array{gap: list<float>, near: list<float>, where: list<array{float, float, float}>} shares of seen low area, a low part
     */
    public function gaps(): array
    {
        $limit = self::GAP * $this->d;
        $gap = $near = array_fill(0, count($this->low->parts), 0.0);
        $where = [];
        $nearest = new NearestPoint($this->high->tree());
        $s = $this->samples;
        $part = 0;
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            while (isset($this->low->parts[$part + 1]) && $this->low->parts[$part + 1] <= $s->triangle[$i]) {
                $part++;
            }
            $isClose = $isReached = false;
            for ($h = $this->hits->start[$i]; $h < $this->hits->start[$i + 1]; $h++) {
                $t = $this->hits->heights[$h];
                $isNear = abs($t) <= $limit;
                $within = $t <= $this->reach->out && $t >= -$this->reach->in;
                if (($isNear || $within) && ! $isClose && $this->hits->kind($i, $h) === 1) {
                    $isClose = $isNear;
                    $isReached = $isReached || $within;
                }
            }
            if ($isClose || $this->hits->taken($i, $this->reach) < 0 || $nearest->anyWithin($s->px[$i], $s->py[$i], $s->pz[$i], $limit) || ! ($this->seen)($i)) {
                continue;
            }
            if ($isReached) {
                $near[$part] += $this->ofSeen($s->weight[$i]);
            } else {
                $gap[$part] += $this->ofSeen($s->weight[$i]);
                $where[] = [$s->px[$i], $s->py[$i], $s->pz[$i]];
            }
        }

        return ['gap' => array_values($gap), 'near' => array_values($near), 'where' => Spread::of($where)];
    }

    /**
     * @return list<float> of each low part: share of its area that is not seen
     */
    public function buried(): array
    {
        $parts = $this->low->parts;
        if (count($parts) === 1) {
            return [1.0 - $this->seenShare];
        }
        $out = [];
        $i = 0;
        $count = $this->samples->count();
        foreach ($parts as $n => $first) {
            $end = $parts[$n + 1] ?? PHP_INT_MAX;
            $from = $i;
            while ($i < $count && $this->samples->triangle[$i] < $end) {
                $i++;
            }
            $step = max(1, intdiv($i - $from, self::SEEN_SAMPLES));
            $all = $seen = 0.0;
            for ($k = $from; $k < $i; $k += $step) {
                $all += $this->samples->weight[$k];
                $seen += ($this->seen)($k) ? $this->samples->weight[$k] : 0.0;
            }
            $out[] = $all > 0.0 ? 1.0 - $seen / $all : 0.0;
        }

        return $out;
    }

    /**
     * High shells that hardly any ray meets, within the reach in use or the one that is needed: what is clipped is told by itself.
     *
     * @return list<array{part: int, triangles: int, share: float, where: array{float, float, float}}>
     */
    public function unmet(HighShells $shells, Reach $needed): array
    {
        $reach = new Reach(max($this->reach->out, $needed->out), max($this->reach->in, $needed->in));
        if (count($shells->areas) < 2) {
            return [];
        }
        $met = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->hits->taken($i, $reach);
            if ($h >= 0 && $this->hits->faces[$h] >= 0) {
                $shell = $shells->of[$this->hits->faces[$h]];
                $met[$shell] = ($met[$shell] ?? 0) + 1;
            }
        }
        $lowArea = max(1e-30, array_sum($this->low->areas));
        $doubtful = [];
        foreach ($shells->areas as $shell => $area) {
            if (($met[$shell] ?? 0) < max(1.0, self::MET * $this->samples->count() * $area / $lowArea)) {
                $doubtful[$shell] = [];
            }
        }
        if ($doubtful === []) {
            return [];
        }
        foreach ($shells->of as $t => $shell) {
            if (isset($doubtful[$shell])) {
                $doubtful[$shell][] = $t;
            }
        }
        $each = min(self::SHELL_POINTS, max(8, intdiv(self::ALL_SHELL_POINTS, count($doubtful))));
        $nearest = new NearestPoint($this->low->tree());
        $cast = new SegmentCast($this->high->tree());
        $out = [];
        foreach ($doubtful as $shell => $triangles) {
            $step = max(1, intdiv(count($triangles), $each));
            $points = $reached = 0;
            for ($k = 0; $k < count($triangles); $k += $step) {
                $points++;
                $reached += $this->isMet($triangles[$k], $nearest, $cast, $reach) ? 1 : 0;
            }
            if ($reached < self::MET * $points) {
                $out[] = ['part' => $this->high->partOf($triangles[0]), 'triangles' => count($triangles), 'share' => (float) ($reached / max(1, $points)), 'where' => $this->high->centre($triangles[0])];
            }
        }

        return $out;
    }

    /** Whether a ray of a reach would come to the middle of a high triangle from its outer side with nothing in its way. */
    private function isMet(int $triangle, NearestPoint $nearest, SegmentCast $cast, Reach $reach): bool
    {
        [$x, $y, $z] = $this->high->centre($triangle);
        $face = $nearest->find($x, $y, $z, max($reach->out, $reach->in) * 1.5 + 1e-6 * $this->d);
        if ($face < 0) {
            return false;
        }
        [$nx, $ny, $nz] = $this->low->direction($face, $nearest->v, $nearest->w);
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        [$mx, $my, $mz] = $this->high->normal($triangle);
        if ($length <= 0.0 || $mx * $nx + $my * $ny + $mz * $nz <= 0.0) {
            return false;
        }
        $height = (($x - $nearest->x) * $nx + ($y - $nearest->y) * $ny + ($z - $nearest->z) * $nz) / ($length * $length);
        if ($height > $reach->out || $height < -$reach->in) {
            return false;
        }
        $step = 1e-6 * $this->d / $length;

        return $cast->all($x, $y, $z, $nx, $ny, $nz, $step, max($step, $reach->out - $height), 1) === 0;
    }
}
