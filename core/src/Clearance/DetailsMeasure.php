<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Standard\Reach;

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
    private const SEEN_SAMPLES = 192;

    /** A shell whose rays meet it lower than this, as a share of d, does not hover. */
    private const HOVERS = 1e-3;

    /** A surface further under a rim than this, as a share of d, is not the one that it floats over. */
    private const BENEATH = 0.1;

    private const RIM_DEGREES = 15.0;

    private const RIM_PIXELS = 4.0;

    /** So much of the outer loop may turn or stand away before it is told. */
    private const RIM_SHARE = 0.1;

    /** How far a detail may move sideways, in px at the map size. */
    private const LEAN_PIXELS = 4.0;

    /** The high poly's normals must vary so much around a place for it to hold a detail there. */
    private const LEAN_DEGREES = 15.0;

    private const LEAN_AROUND = 0.01;

    /** Samples of a set at which is looked for leaning details; of more, every so many-th. */
    private const LEAN_SAMPLES = 3072;

    /** Steps of the curve of reaches, and samples that it is read from. */
    private const CURVE = 60;

    private const CURVE_SAMPLES = 8192;

    private const WHERE = 8;

    /** @var list<int> shell of each high triangle */
    private array $shells = [];

    /** @var array<int, float> area of each shell */
    private array $shellAreas = [];

    private int $main = -1;

    /**
     * @param  list<int>  $start  first hit of each sample, and one more for the end
     * @param  list<float>  $heights
     * @param  list<int>  $kinds  1 belongs, 0 wrong, −1 another set's
     * @param  list<int>  $faces  high triangle of each hit, −1 for another set's
     * @param  callable(int): bool  $seen  whether a sample is seen
     * @param  float  $texelsOfAll  texels that the set covers; 0 without UVs
     * @param  float  $top  greatest reach outward that somebody may want to know of
     */
    public function __construct(
        private readonly LowSurface $low,
        private readonly HighSurface $high,
        private readonly Samples $samples,
        private readonly array $start,
        private readonly array $heights,
        private readonly array $kinds,
        private readonly array $faces,
        private readonly mixed $seen,
        private readonly float $seenShare,
        private readonly Reach $reach,
        private readonly float $d,
        private readonly float $texelsOfAll,
        private readonly float $top,
    ) {
    }

    public function details(): SetDetails
    {
        $this->shellsOfHigh();
        [$wrongShare, $wrongWhere] = $this->wrong();
        [$gapShare, $gapWhere] = $this->gaps();
        $misses = $this->misses();

        return new SetDetails(
            $wrongShare, $wrongWhere, $gapShare, $gapWhere, $this->buried(), $this->unmet(), $this->floaters($misses), $this->leans(), array_sum($this->low->areas), $this->curve(),
        );
    }

    private function shellsOfHigh(): void
    {
        $this->shells = $this->high->shells();
        $p = $this->high->positions;
        $tri = $this->high->triangles;
        $areas = [];
        foreach ($this->shells as $t => $shell) {
            $a = 3 * $tri[3 * $t];
            $b = 3 * $tri[3 * $t + 1];
            $c = 3 * $tri[3 * $t + 2];
            $ux = $p[$b] - $p[$a];
            $uy = $p[$b + 1] - $p[$a + 1];
            $uz = $p[$b + 2] - $p[$a + 2];
            $vx = $p[$c] - $p[$a];
            $vy = $p[$c + 1] - $p[$a + 1];
            $vz = $p[$c + 2] - $p[$a + 2];
            $x = $uy * $vz - $uz * $vy;
            $y = $uz * $vx - $ux * $vz;
            $z = $ux * $vy - $uy * $vx;
            $areas[$shell] = ($areas[$shell] ?? 0.0) + sqrt($x * $x + $y * $y + $z * $z) / 2;
        }
        $this->shellAreas = $areas;
        $most = -1.0;
        foreach ($areas as $shell => $area) {
            if ($area > $most) {
                $most = $area;
                $this->main = $shell;
            }
        }
    }

    /**
     * The hit that a sample's ray takes at the reach in use; −1 for none.
     */
    private function taken(int $i): int
    {
        for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
            if ($this->heights[$h] <= $this->reach->out) {
                return $this->heights[$h] >= -$this->reach->in ? $h : -1;
            }
        }

        return -1;
    }

    /**
     * @return array{float, list<array{float, float, float}>}
     */
    private function wrong(): array
    {
        $share = 0.0;
        $where = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->taken($i);
            if ($h >= 0 && $this->kinds[$h] < 1 && ($this->seen)($i)) {
                $share += $this->samples->weight[$i];
                $where[] = $this->place($i, $this->heights[$h]);
            }
        }

        return [$this->seenShare > 0.0 ? min(1.0, $share / $this->seenShare) : 0.0, self::spread($where)];
    }

    /**
     * What another reach outward would do, from the rays that were shot already.
     *
     * @return array{top: float, miss: list<float>, wrong: list<float>}
     */
    private function curve(): array
    {
        $miss = $wrong = array_fill(0, self::CURVE + 1, 0.0);
        $step = max(1, intdiv($this->samples->count(), self::CURVE_SAMPLES));
        $all = 0.0;
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i += $step) {
            $weight = $this->samples->weight[$i];
            $all += $weight;
            // The hit taken moves outward with the reach.
            $h = $this->start[$i + 1] - 1;
            $first = $this->start[$i];
            $taken = -1;
            for ($k = 0; $k <= self::CURVE; $k++) {
                $reach = $this->top * $k / self::CURVE;
                while ($h >= $first && $this->heights[$h] <= $reach) {
                    $taken = $h--;
                }
                if ($taken < 0 || $this->heights[$taken] < -$this->reach->in) {
                    $miss[$k] += $weight;
                } elseif ($this->kinds[$taken] < 1 && ($this->seen)($i)) {
                    $wrong[$k] += $weight;
                }
            }
        }
        $scale = $all > 0.0 ? 1.0 / $all : 0.0;
        $seen = $this->seenShare > 0.0 ? $scale / $this->seenShare : 0.0;

        return ['top' => $this->top, 'miss' => array_map(static fn (float $share): float => min(1.0, round($share * $scale, 6)), $miss), 'wrong' => array_map(static fn (float $share): float => min(1.0, round($share * $seen, 6)), $wrong)];
    }

    /**
     * Misses are told by themselves, so a gap is only where a ray does meet something.
     *
     * @return array{float, list<array{float, float, float}>}
     */
    private function gaps(): array
    {
        $limit = self::GAP * $this->d;
        $share = 0.0;
        $where = [];
        $nearest = new NearestPoint($this->high->tree());
        $s = $this->samples;
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $belongs = false;
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                if ($this->kinds[$h] === 1 && abs($this->heights[$h]) <= $limit) {
                    $belongs = true;
                    break;
                }
            }
            if ($belongs || $this->taken($i) < 0 || $nearest->anyWithin($s->px[$i], $s->py[$i], $s->pz[$i], $limit) || ! ($this->seen)($i)) {
                continue;
            }
            $share += $s->weight[$i];
            $where[] = [$s->px[$i], $s->py[$i], $s->pz[$i]];
        }

        return [$this->seenShare > 0.0 ? min(1.0, $share / $this->seenShare) : 0.0, self::spread($where)];
    }

    /**
     * @return list<float>
     */
    private function buried(): array
    {
        $parts = $this->low->parts;
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
     * @return list<array{part: int, triangles: int, share: float, where: array{float, float, float}}>
     */
    private function unmet(): array
    {
        if (count($this->shellAreas) < 2) {
            return [];
        }
        $met = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->taken($i);
            if ($h >= 0 && $this->faces[$h] >= 0) {
                $shell = $this->shells[$this->faces[$h]];
                $met[$shell] = ($met[$shell] ?? 0) + 1;
            }
        }
        $lowArea = max(1e-30, array_sum($this->low->areas));
        $doubtful = [];
        foreach ($this->shellAreas as $shell => $area) {
            if (($met[$shell] ?? 0) < max(1.0, self::MET * $this->samples->count() * $area / $lowArea)) {
                $doubtful[$shell] = [];
            }
        }
        if ($doubtful === []) {
            return [];
        }
        foreach ($this->shells as $t => $shell) {
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
                $reached += $this->isMet($triangles[$k], $nearest, $cast) ? 1 : 0;
            }
            if ($reached < self::MET * $points) {
                $out[] = ['part' => $this->high->partOf($triangles[0]), 'triangles' => count($triangles), 'share' => (float) ($reached / max(1, $points)), 'where' => $this->centre($triangles[0])];
            }
        }

        return $out;
    }

    /** Whether a ray of the reach in use would come to the middle of a high triangle from its outer side with nothing in its way. */
    private function isMet(int $triangle, NearestPoint $nearest, SegmentCast $cast): bool
    {
        [$x, $y, $z] = $this->centre($triangle);
        $face = $nearest->find($x, $y, $z, max($this->reach->out, $this->reach->in) * 1.5 + 1e-6 * $this->d);
        if ($face < 0) {
            return false;
        }
        [$nx, $ny, $nz] = $this->directionAt($face, $nearest->v, $nearest->w);
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        [$mx, $my, $mz] = $this->high->normal($triangle);
        if ($length <= 0.0 || $mx * $nx + $my * $ny + $mz * $nz <= 0.0) {
            return false;
        }
        $height = (($x - $nearest->x) * $nx + ($y - $nearest->y) * $ny + ($z - $nearest->z) * $nz) / ($length * $length);
        if ($height > $this->reach->out || $height < -$this->reach->in) {
            return false;
        }
        $step = 1e-6 * $this->d / $length;

        return $cast->all($x, $y, $z, $nx, $ny, $nz, $step, max($step, $this->reach->out - $height), 1) === 0;
    }

    /**
     * Details that move sideways because their rays lean (METHODS, "Lean shift"): around each sample six more rays are shot along its own
     * direction, 1 % of d at most to its side.
     *
     * @return list<array{part: int, share: float, shift: float, shell: bool, where: list<array{float, float, float}>}>
     */
    private function leans(): array
    {
        $lowArea = array_sum($this->low->areas);
        if ($this->texelsOfAll <= 0.0 || $lowArea <= 0.0) {
            return [];
        }
        $density = sqrt($this->texelsOfAll / $lowArea);
        $s = $this->samples;
        $cast = new SegmentCast($this->high->tree());
        $belonging = new Belonging($this->low, $this->d);
        $step = max(1, intdiv($s->count(), self::LEAN_SAMPLES));
        $n = $this->low->normals;
        $parts = $shells = [];
        $part = 0;
        for ($i = 0, $count = $s->count(); $i < $count; $i += $step) {
            $t = $s->triangle[$i];
            while (isset($this->low->parts[$part + 1]) && $this->low->parts[$part + 1] <= $t) {
                $part++;
            }
            $parts[$part] ??= [0.0, 0.0, 0.0, []];
            $parts[$part][0] += $s->weight[$i];
            $own = $this->firstOwn($i);
            if ($own < 0) {
                continue;
            }
            $shell = $this->shells[$this->faces[$own]];
            $shells[$shell] ??= [0, 0, $part, 0.0, []];
            $shells[$shell][0]++;
            $up = $s->nx[$i] * $n[3 * $t] + $s->ny[$i] * $n[3 * $t + 1] + $s->nz[$i] * $n[3 * $t + 2];
            $length = $s->nx[$i] ** 2 + $s->ny[$i] ** 2 + $s->nz[$i] ** 2;
            if ($up <= 1e-6) {
                continue;
            }
            $lean = sqrt(max(0.0, $length - $up * $up)) / $up;
            // Even a detail as high as all that is needed would not move far enough.
            if ($lean * ($this->reach->out + $this->reach->in) * $density < self::LEAN_PIXELS) {
                continue;
            }
            $rise = $this->riseAround($cast, $belonging, $i, $this->heights[$own], $this->faces[$own], $up, self::LEAN_PIXELS / ($lean * $density));
            $shift = $lean * $density * $rise;
            if ($shift > self::LEAN_PIXELS) {
                $parts[$part][1] += $s->weight[$i];
                $parts[$part][2] = max($parts[$part][2], $shift / $density);
                $parts[$part][3][] = $this->place($i, $this->heights[$own]);
                $shells[$shell][1]++;
                $shells[$shell][3] = max($shells[$shell][3], $shift / $density);
                $shells[$shell][4][] = $this->place($i, $this->heights[$own]);
            }
        }
        $out = [];
        foreach ($parts as $number => [$all, $leaning, $shift, $where]) {
            if ($leaning > 0.0 && $all > 0.0) {
                $out[$number] = ['part' => $number, 'share' => $leaning / $all, 'shift' => $shift, 'where' => self::spread($where), 'shell' => false];
            }
        }
        foreach ($shells as $shell => [$met, $leaning, $number, $shift, $where]) {
            if ($shell !== $this->main && $met >= 3 && $leaning === $met && isset($out[$number])) {
                $out[$number]['shell'] = true;
            }
        }

        return array_values($out);
    }

    /** The hit of a sample that belongs to it, from the outside; −1 for none. */
    private function firstOwn(int $i): int
    {
        for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
            if ($this->kinds[$h] === 1 && $this->faces[$h] >= 0) {
                return $h;
            }
        }

        return -1;
    }

    /** How far the high poly rises and falls over the low face around a sample, where its normals vary there; 0 where they do not. */
    private function riseAround(SegmentCast $cast, Belonging $belonging, int $i, float $height, int $face, float $up, float $least): float
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
            $r = self::LEAN_AROUND * $this->d * ($k % 2 === 0 ? 0.95 : 0.5);
            $cos = $r * cos($k * M_PI / 3);
            $sin = $r * sin($k * M_PI / 3);
            [$ox, $oy, $oz] = [$cos * $ax + $sin * $bx, $cos * $ay + $sin * $by, $cos * $az + $sin * $bz];
            $hits = $cast->all($s->px[$i] + $ox, $s->py[$i] + $oy, $s->pz[$i] + $oz, $s->nx[$i], $s->ny[$i], $s->nz[$i], -$most, $most, 1);
            $best = -INF;
            $at = -1;
            for ($h = 0; $h < $hits; $h++) {
                if ($cast->t[$h] > $best) {
                    $best = $cast->t[$h];
                    $at = $cast->triangle[$h];
                }
            }
            if ($at >= 0) {
                $met[] = [$ox, $oy, $oz, $best, $at];
            }
        }
        // What all of them together do not show, those that belong do not either.
        $heights = array_column($met, 3);
        $normals = array_map(fn (array $one): array => $this->high->normal($one[4]), $met);
        if ((max($heights) - min($heights)) * $up <= $least || ! self::vary($normals)) {
            return 0.0;
        }
        foreach ($met as $k => [$ox, $oy, $oz, $h]) {
            [$x, $y, $z] = [$s->px[$i] + $ox, $s->py[$i] + $oy, $s->pz[$i] + $oz];
            [$mx, $my, $mz] = $normals[$k];
            [$hx, $hy, $hz] = [$x + $h * $s->nx[$i], $y + $h * $s->ny[$i], $z + $h * $s->nz[$i]];
            if (! $belonging->holds($t, $x, $y, $z, $hx, $hy, $hz, $mx, $my, $mz) || $belonging->turnsToNeighbour($t, $x, $y, $z, $hx, $hy, $hz, $mx, $my, $mz, 3 * self::LEAN_AROUND * $this->d)) {
                unset($normals[$k], $heights[$k]);
            }
        }

        return $heights !== [] && self::vary($normals) ? (max($heights) - min($heights)) * $up : 0.0;
    }

    /**
     * Whether two of these unit normals differ by so much that there may be a detail.
     *
     * @param  array<int, array{float, float, float}>  $normals
     */
    private static function vary(array $normals): bool
    {
        $cos = cos(deg2rad(self::LEAN_DEGREES));
        foreach ($normals as $k => $one) {
            foreach ($normals as $l => $other) {
                if ($l > $k && $cos > $one[0] * $other[0] + $one[1] * $other[1] + $one[2] * $other[2]) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * @return list<int> samples whose ray meets nothing at the reach in use
     */
    private function misses(): array
    {
        $out = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            if ($this->taken($i) < 0) {
                $out[] = $i;
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $misses
     * @return list<Floater>
     */
    private function floaters(array $misses): array
    {
        if (count($this->shellAreas) < 2) {
            return [];
        }
        // Of every shell but the largest: how often it is met, how often another lies beneath, how high it stands.
        $hits = $backed = $heights = $first = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->taken($i);
            if ($h < 0 || $this->faces[$h] < 0) {
                continue;
            }
            $shell = $this->shells[$this->faces[$h]];
            if ($shell === $this->main) {
                continue;
            }
            $hits[$shell] = ($hits[$shell] ?? 0) + 1;
            $heights[$shell][] = $this->heights[$h];
            $first[$shell] ??= $h;
            for ($k = $h + 1; $k < $this->start[$i + 1]; $k++) {
                if ($this->faces[$k] >= 0 && $this->shells[$this->faces[$k]] !== $shell && $this->heights[$k] > -0.5 * $this->d) {
                    $backed[$shell] = ($backed[$shell] ?? 0) + 1;
                    break;
                }
            }
        }
        $loose = [];
        foreach ($hits as $shell => $number) {
            if (2 * ($backed[$shell] ?? 0) < $number) {
                sort($heights[$shell]);
                if ($heights[$shell][intdiv($number, 2)] > self::HOVERS * $this->d) {
                    $loose[$shell] = true;
                }
            }
        }
        $around = $this->around($misses, $loose);
        $rims = $this->rims(array_diff_key($hits, $loose));
        $out = [];
        foreach ($hits as $shell => $number) {
            $triangle = $this->faces[$first[$shell]];
            [$share, $where] = $around[$shell] ?? [0.0, []];
            if (isset($loose[$shell])) {
                $out[] = new Floater($this->high->partOf($triangle), $this->centre($triangle), false, $share, self::spread($where), 0.0, null, null);
            } elseif (isset($rims[$shell])) {
                [$rimShare, $degrees, $height, $at] = $rims[$shell];
                $out[] = new Floater($this->high->partOf($triangle), $at, true, 0.0, [], $rimShare, $degrees, $height);
            }
        }

        return $out;
    }

    /**
     * Misses told of the shell without backing that they lie nearest to.
     *
     * @param  list<int>  $misses
     * @param  array<int, true>  $loose
     * @return array<int, array{float, list<array{float, float, float}>}>
     */
    private function around(array $misses, array $loose): array
    {
        $out = [];
        if ($loose === [] || $misses === []) {
            return $out;
        }
        $boxes = [];
        foreach ($this->shells as $t => $shell) {
            if (! isset($loose[$shell])) {
                continue;
            }
            for ($c = 0; $c < 3; $c++) {
                $v = 3 * $this->high->triangles[3 * $t + $c];
                for ($k = 0; $k < 3; $k++) {
                    $value = $this->high->positions[$v + $k];
                    $boxes[$shell][$k] = min($boxes[$shell][$k] ?? INF, $value);
                    $boxes[$shell][3 + $k] = max($boxes[$shell][3 + $k] ?? -INF, $value);
                }
            }
        }
        foreach ($misses as $i) {
            $p = [$this->samples->px[$i], $this->samples->py[$i], $this->samples->pz[$i]];
            $best = null;
            $least = INF;
            foreach ($boxes as $shell => $box) {
                $squared = $size = 0.0;
                for ($k = 0; $k < 3; $k++) {
                    $squared += max(0.0, $box[$k] - $p[$k], $p[$k] - $box[3 + $k]) ** 2;
                    $size += ($box[3 + $k] - $box[$k]) ** 2;
                }
                // Around it: as far as it is large.
                if ($squared <= $size && $squared < $least) {
                    $least = $squared;
                    $best = $shell;
                }
            }
            if ($best !== null) {
                $out[$best] ??= [0.0, []];
                $out[$best][0] += $this->samples->weight[$i];
                $out[$best][1][] = $p;
            }
        }

        return $out;
    }

    /**
     * The outer loops of open shells that float over a surface, held against it.
     *
     * @param  array<int, int>  $candidates  shells with a surface beneath
     * @return array<int, array{float, float|null, float|null, array{float, float, float}}> share of the loop, mean degrees, mean height, where
     */
    private function rims(array $candidates): array
    {
        $edges = $this->borders($candidates);
        if ($edges === []) {
            return [];
        }
        $lowArea = max(1e-30, array_sum($this->low->areas));
        $density = $this->texelsOfAll > 0.0 ? sqrt($this->texelsOfAll / $lowArea) : 0.0;
        $cast = new SegmentCast($this->high->tree());
        $nearest = new NearestPoint($this->low->tree());
        $p = $this->high->positions;
        $out = [];
        foreach ($edges as $shell => $loop) {
            $all = $bad = $turned = $turnedBy = $high = $highBy = 0.0;
            $at = null;
            foreach ($loop as [$a, $b, $triangle]) {
                $x = ($p[3 * $a] + $p[3 * $b]) / 2;
                $y = ($p[3 * $a + 1] + $p[3 * $b + 1]) / 2;
                $z = ($p[3 * $a + 2] + $p[3 * $b + 2]) / 2;
                $length = sqrt(($p[3 * $a] - $p[3 * $b]) ** 2 + ($p[3 * $a + 1] - $p[3 * $b + 1]) ** 2 + ($p[3 * $a + 2] - $p[3 * $b + 2]) ** 2);
                $face = $nearest->find($x, $y, $z, 0.5 * $this->d);
                if ($face < 0) {
                    continue;
                }
                [$nx, $ny, $nz] = $this->directionAt($face, $nearest->v, $nearest->w);
                $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                if ($l <= 0.0) {
                    continue;
                }
                [$nx, $ny, $nz] = [$nx / $l, $ny / $l, $nz / $l];
                $beneath = $this->beneath($cast, $shell, $x, $y, $z, $nx, $ny, $nz);
                if ($beneath === null) {
                    continue;
                }
                [$gap, $under] = $beneath;
                $all += $length;
                [$ax, $ay, $az] = $this->high->normal($triangle);
                [$bx, $by, $bz] = $this->high->normal($under);
                $degrees = rad2deg(acos(max(-1.0, min(1.0, $ax * $bx + $ay * $by + $az * $bz))));
                $isTurned = $degrees > self::RIM_DEGREES;
                $isHigh = $density > 0.0 && $gap * $density > self::RIM_PIXELS;
                if ($isTurned) {
                    $turned += $length;
                    $turnedBy += $length * $degrees;
                }
                if ($isHigh) {
                    $high += $length;
                    $highBy += $length * $gap;
                }
                if ($isTurned || $isHigh) {
                    $bad += $length;
                    $at ??= [$x, $y, $z];
                }
            }
            if ($at !== null && $bad > self::RIM_SHARE * $all) {
                $out[$shell] = [$bad / $all, $turned > 0.0 ? $turnedBy / $turned : null, $high > 0.0 ? $highBy / $high : null, $at];
            }
        }

        return $out;
    }

    /**
     * The nearest surface of another shell under a place: how far, and its triangle.
     *
     * @return array{float, int}|null
     */
    private function beneath(SegmentCast $cast, int $shell, float $x, float $y, float $z, float $nx, float $ny, float $nz): ?array
    {
        $best = null;
        $cast->all($x, $y, $z, $nx, $ny, $nz, -self::BENEATH * $this->d, 0.0, 1);
        foreach ($cast->t as $k => $t) {
            if ($this->shells[$cast->triangle[$k]] !== $shell && ($best === null || -$t < $best[0])) {
                $best = [-$t, $cast->triangle[$k]];
            }
        }

        return $best;
    }

    /**
     * Border edges of these shells, of each only its outer loop: the one of greatest length.
     *
     * @param  array<int, int>  $shells
     * @return array<int, list<array{int, int, int}>> shell → from, to, triangle
     */
    private function borders(array $shells): array
    {
        if ($shells === []) {
            return [];
        }
        $tri = $this->high->triangles;
        $welded = $this->high->welded();
        $once = [];
        foreach ($this->shells as $t => $shell) {
            if (! isset($shells[$shell])) {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                $a = $welded[$tri[3 * $t + $k]];
                $b = $welded[$tri[3 * $t + ($k + 1) % 3]];
                $key = $a < $b ? $a << 32 | $b : $b << 32 | $a;
                if (isset($once[$key])) {
                    $once[$key] = false;
                } else {
                    $once[$key] = [$a, $b, $t];
                }
            }
        }
        $next = [];
        foreach ($once as $edge) {
            if ($edge !== false) {
                $next[$edge[0]][] = $edge;
            }
        }
        $p = $this->high->positions;
        $best = $length = [];
        foreach ($next as $from => $edges) {
            while (($edge = array_pop($next[$from])) !== null) {
                $loop = [$edge];
                $sum = 0.0;
                $at = $edge;
                do {
                    [$a, $b] = $at;
                    $sum += sqrt(($p[3 * $a] - $p[3 * $b]) ** 2 + ($p[3 * $a + 1] - $p[3 * $b + 1]) ** 2 + ($p[3 * $a + 2] - $p[3 * $b + 2]) ** 2);
                    $at = isset($next[$b]) ? array_pop($next[$b]) : null;
                    if ($at !== null) {
                        $loop[] = $at;
                    }
                } while ($at !== null);
                $shell = $this->shells[$edge[2]];
                if ($sum > ($length[$shell] ?? 0.0)) {
                    $length[$shell] = $sum;
                    $best[$shell] = $loop;
                }
            }
        }

        return $best;
    }

    /**
     * @return array{float, float, float}
     */
    private function directionAt(int $face, float $v, float $w): array
    {
        $u = 1.0 - $v - $w;
        $a = 3 * $this->low->corners[3 * $face];
        $b = 3 * $this->low->corners[3 * $face + 1];
        $c = 3 * $this->low->corners[3 * $face + 2];
        $n = $this->low->directions;

        return [$u * $n[$a] + $v * $n[$b] + $w * $n[$c], $u * $n[$a + 1] + $v * $n[$b + 1] + $w * $n[$c + 1], $u * $n[$a + 2] + $v * $n[$b + 2] + $w * $n[$c + 2]];
    }

    /**
     * @return array{float, float, float}
     */
    private function centre(int $triangle): array
    {
        $p = $this->high->positions;
        $out = [0.0, 0.0, 0.0];
        for ($c = 0; $c < 3; $c++) {
            $v = 3 * $this->high->triangles[3 * $triangle + $c];
            for ($k = 0; $k < 3; $k++) {
                $out[$k] += $p[$v + $k] / 3;
            }
        }

        return $out;
    }

    /**
     * @return array{float, float, float}
     */
    private function place(int $i, float $t): array
    {
        $s = $this->samples;

        return [$s->px[$i] + $t * $s->nx[$i], $s->py[$i] + $t * $s->ny[$i], $s->pz[$i] + $t * $s->nz[$i]];
    }

    /**
     * @param  list<array{float, float, float}>  $points
     * @return list<array{float, float, float}> up to eight, spread over all
     */
    private static function spread(array $points): array
    {
        $count = count($points);
        $out = [];
        for ($k = 0; $k < min(self::WHERE, $count); $k++) {
            $out[] = $points[intdiv($k * $count, min(self::WHERE, $count))];
        }

        return $out;
    }
}
