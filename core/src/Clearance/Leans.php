<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\Belonging;
use Anvil\Rays\HighShells;
use Anvil\Rays\HighSurface;
use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\Spread;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Standard\Reach;

/**
 * Details that move sideways because their rays lean (METHODS, "Lean shift").
 */
final class Leans
{
    /** How far a detail may move sideways, in px at the map size. */
    private const PIXELS = 4.0;

    /** The high poly's normals must vary so much around a place, beside the low's own, for it to hold a detail there. */
    private const DEGREES = 15.0;

    private const AROUND = 0.01;

    /** Samples of a set at which is looked for leaning details; of more, every so many-th. */
    private const SAMPLES = 1536;

    /** Samples looked at on each shell but the main one, and how many it takes to speak of a whole shell. */
    private const SHELL_SAMPLES = 24;

    private const LEAST_SAMPLES = 5;

    private readonly SegmentCast $cast;

    private readonly Belonging $belonging;

    private readonly NearestPoint $nearest;

    private function __construct(
        private readonly LowSurface $low,
        private readonly HighSurface $high,
        private readonly HighShells $shells,
        private readonly Samples $samples,
        private readonly Hits $hits,
        private readonly Reach $reach,
        private readonly float $d,
    ) {
        $this->cast = new SegmentCast($high->tree());
        $this->belonging = new Belonging($low, $d);
        $this->nearest = new NearestPoint($low->tree());
    }

    /**
     * @param  float  $density  texels to a unit of length; 0 without UVs
     * @return list<array{part: int, share: float, shift: float, samples: int, shell: bool, where: list<array{float, float, float}>}>
     */
    public static function of(LowSurface $low, HighSurface $high, HighShells $shells, Samples $samples, Hits $hits, Reach $reach, float $d, float $density): array
    {
        return $density <= 0.0 ? [] : (new self($low, $high, $shells, $samples, $hits, $reach, $d))->leans($density);
    }

    /**
     * Details that move sideways because their rays lean (METHODS, "Lean shift"): around each sample six more rays are shot along its own
     * direction, 1 % of d at most to its side.
     *
     * @return list<array{part: int, share: float, shift: float, samples: int, shell: bool, where: list<array{float, float, float}>}>
     */
    private function leans(float $density): array
    {
        $s = $this->samples;
        $step = max(1, intdiv($s->count(), max(self::SAMPLES, min(2 * self::SAMPLES, intdiv($s->count(), 16)))));
        $n = $this->low->normals;
        $parts = $shells = [];
        $part = 0;
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $t = $s->triangle[$i];
            while (isset($this->low->parts[$part + 1]) && $this->low->parts[$part + 1] <= $t) {
                $part++;
            }
            $isShare = $i % $step === 0;
            $parts[$part] ??= [0.0, 0.0, 0.0, [], 0];
            $parts[$part][4] += $isShare ? 1 : 0;
            $parts[$part][0] += $isShare ? $s->weight[$i] : 0.0;
            $own = $this->own($i);
            $shell = $own < 0 ? -1 : $this->shells->of[$this->hits->faces[$own]];
            // Small shells, screws as they are, get more samples than the share of the part is read from.
            if ($own < 0 || (! $isShare && ($shell === $this->shells->main || ($shells[$shell][0] ?? 0) >= self::SHELL_SAMPLES))) {
                continue;
            }
            $shells[$shell] ??= [0, 0, $part, 0.0, []];
            $shells[$shell][0]++;
            $up = $s->nx[$i] * $n[3 * $t] + $s->ny[$i] * $n[3 * $t + 1] + $s->nz[$i] * $n[3 * $t + 2];
            $length = $s->nx[$i] ** 2 + $s->ny[$i] ** 2 + $s->nz[$i] ** 2;
            if ($up <= 1e-6) {
                continue;
            }
            $lean = sqrt(max(0.0, $length - $up * $up)) / $up;
            // Even a detail as high as all that is needed would not move far enough.
            if ($lean * ($this->reach->out + $this->reach->in) * $density < self::PIXELS) {
                continue;
            }
            $rise = $this->riseAround($i, $this->hits->heights[$own], $this->hits->faces[$own], $up, self::PIXELS / ($lean * $density));
            $shift = $lean * $density * $rise;
            if ($shift > self::PIXELS) {
                $parts[$part][1] += $isShare ? $s->weight[$i] : 0.0;
                $parts[$part][2] = max($parts[$part][2], $shift / $density);
                $parts[$part][3][] = $s->at($i, $this->hits->heights[$own]);
                $shells[$shell][1]++;
                $shells[$shell][3] = max($shells[$shell][3], $shift / $density);
                $shells[$shell][4][] = $s->at($i, $this->hits->heights[$own]);
            }
        }
        $out = [];
        foreach ($parts as $number => [$all, $leaning, $shift, $where, $looked]) {
            if ($shift > 0.0 && $all > 0.0) {
                $out[$number] = ['part' => $number, 'share' => $leaning / $all, 'shift' => $shift, 'samples' => $looked, 'shell' => false, 'where' => Spread::of($where)];
            }
        }
        foreach ($shells as $shell => [$met, $leaning, $number, $shift, $where]) {
            if ($shell !== $this->shells->main && $met >= self::LEAST_SAMPLES && $leaning === $met && isset($out[$number])) {
                $out[$number]['shell'] = true;
            }
        }

        return array_values($out);
    }

    /** The hit of a sample that belongs to it, from the outside; −1 for none. */
    private function own(int $i): int
    {
        $own = $this->hits->own($i);

        return $own >= 0 && $this->hits->faces[$own] >= 0 ? $own : -1;
    }

    /** How far the high poly rises and falls over the low face around a sample, where its normals vary there; 0 where they do not. */
    private function riseAround(int $i, float $height, int $face, float $up, float $least): float
    {
        $s = $this->samples;
        $t = $s->triangle[$i];
        [$fx, $fy, $fz] = [$this->low->normals[3 * $t], $this->low->normals[3 * $t + 1], $this->low->normals[3 * $t + 2]];
        // Two directions in the face.
        $helper = abs($fx) < 0.6 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0];
        $ax = $fy * $helper[2] - $fz * $helper[1];
        $ay = $fz * $helper[0] - $fx * $helper[2];
        $az = $fx * $helper[1] - $fy * $helper[0];
        $l = max(1e-30, sqrt($ax * $ax + $ay * $ay + $az * $az));
        [$ax, $ay, $az] = [$ax / $l, $ay / $l, $az / $l];
        [$bx, $by, $bz] = [$fy * $az - $fz * $ay, $fz * $ax - $fx * $az, $fx * $ay - $fy * $ax];
        $most = max($this->reach->out, $this->reach->in) * 1.5 + 1e-6 * $this->d;
        $met = [[0.0, 0.0, 0.0, $height, $face]];
        for ($k = 0; $k < 6; $k++) {
            $r = self::AROUND * $this->d * ($k % 2 === 0 ? 0.95 : 0.5);
            $cos = $r * cos($k * M_PI / 3);
            $sin = $r * sin($k * M_PI / 3);
            [$ox, $oy, $oz] = [$cos * $ax + $sin * $bx, $cos * $ay + $sin * $by, $cos * $az + $sin * $bz];
            $hits = $this->cast->all($s->px[$i] + $ox, $s->py[$i] + $oy, $s->pz[$i] + $oz, $s->nx[$i], $s->ny[$i], $s->nz[$i], -$most, $most, 1);
            $best = -INF;
            $at = -1;
            for ($h = 0; $h < $hits; $h++) {
                if ($this->cast->t[$h] > $best) {
                    $best = $this->cast->t[$h];
                    $at = $this->cast->triangle[$h];
                }
            }
            if ($at >= 0) {
                $met[] = [$ox, $oy, $oz, $best, $at];
            }
        }
        // What all of them together do not show, those that belong do not either.
        $heights = array_column($met, 3);
        if ((max($heights) - min($heights)) * $up <= $least) {
            return 0.0;
        }
        $normals = array_map(fn (array $one): array => $this->high->normal($one[4]), $met);
        $beside = [];
        foreach ($met as $k => [$ox, $oy, $oz]) {
            $beside[] = $this->besideLow($normals[$k], $s->px[$i] + $ox, $s->py[$i] + $oy, $s->pz[$i] + $oz);
        }
        if (! self::vary($beside)) {
            return 0.0;
        }
        foreach ($met as $k => [$ox, $oy, $oz, $h]) {
            [$x, $y, $z] = [$s->px[$i] + $ox, $s->py[$i] + $oy, $s->pz[$i] + $oz];
            [$mx, $my, $mz] = $normals[$k];
            [$hx, $hy, $hz] = [$x + $h * $s->nx[$i], $y + $h * $s->ny[$i], $z + $h * $s->nz[$i]];
            if (! $this->belonging->holds($t, $x, $y, $z, $hx, $hy, $hz, $mx, $my, $mz) || $this->belonging->turnsToNeighbour($t, $x, $y, $z, $hx, $hy, $hz, $mx, $my, $mz, 3 * self::AROUND * $this->d)) {
                unset($beside[$k], $heights[$k]);
            }
        }

        return $heights !== [] && self::vary($beside) ? (max($heights) - min($heights)) * $up : 0.0;
    }

    /**
     * A high normal with the low's own interpolated normal at a place taken out, so that a surface that turns as its low does has none left.
     *
     * @param  array{float, float, float}  $normal  unit
     * @return array{float, float, float}
     */
    private function besideLow(array $normal, float $x, float $y, float $z): array
    {
        $face = $this->nearest->find($x, $y, $z);
        [$nx, $ny, $nz] = $this->low->direction($face, $this->nearest->v, $this->nearest->w);
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        $scale = $length > 0.0 ? 1.0 / $length : 0.0;

        return [$normal[0] - $scale * $nx, $normal[1] - $scale * $ny, $normal[2] - $scale * $nz];
    }

    /**
     * Whether two of these differ by so much that there may be a detail.
     *
     * @param  array<int, array{float, float, float}>  $normals
     */
    private static function vary(array $normals): bool
    {
        $chord = 2 * sin(deg2rad(self::DEGREES / 2));
        foreach ($normals as $k => $one) {
            foreach ($normals as $l => $other) {
                if ($l > $k && ($one[0] - $other[0]) ** 2 + ($one[1] - $other[1]) ** 2 + ($one[2] - $other[2]) ** 2 > $chord * $chord) {
                    return true;
                }
            }
        }

        return false;
    }
}
