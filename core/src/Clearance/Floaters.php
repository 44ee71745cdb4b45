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

/**
 * High shells that float over the low poly (METHODS, "Floats"): which they are, whether anything lies beneath them, what their rims look
 * like.
 *
 * Of each low shell the high shells that lie on it (median height within 0.1 % of d) are its own surface; where none does, the one that
 * most of its rays take. A high shell that is some low shell's own does not float.
 */
final class Floaters
{
    /** A shell whose rays meet it lower than this, as a share of d, does not hover. */
    private const HOVERS = 1e-3;

    /** A shell that less of a low shell's rays meet is not its own surface. */
    private const OWN = 0.1;

    /** A surface further under a rim than this, as a share of d, is not the one that it floats over. */
    private const BENEATH = 0.1;

    /** Places on a closed shell that are looked at for how far it goes down. */
    private const PLACES = 1200;

    private const RIM_DEGREES = 15.0;

    private const RIM_PIXELS = 4.0;

    /** So much of the outer loop may turn or stand away before it is told. */
    private const RIM_SHARE = 0.1;

    /**
     * @param  float  $density  texels to a unit of length; 0 without UVs
     */
    private function __construct(
        private readonly LowSurface $low,
        private readonly HighSurface $high,
        private readonly HighShells $shells,
        private readonly Samples $samples,
        private readonly Hits $hits,
        private readonly Reach $reach,
        private readonly float $d,
        private readonly float $density,
        private readonly float $missScale,
    ) {
    }

    /**
     * @param  list<int>  $misses  samples whose rays meet nothing, without margins
     * @param  float  $missScale  share of seen low area that each of them stands for, over its own weight
     * @return list<Floater>
     */
    public static function of(LowSurface $low, HighSurface $high, HighShells $shells, Samples $samples, Hits $hits, Reach $reach, float $d, float $density, array $misses, float $missScale): array
    {
        return $shells->count() < 2 ? [] : (new self($low, $high, $shells, $samples, $hits, $reach, $d, $density, $missScale))->floaters($misses);
    }

    /**
     * @param  list<int>  $misses
     * @return list<Floater>
     */
    private function floaters(array $misses): array
    {
        $floating = $this->floating();
        if ($floating === []) {
            return [];
        }
        $number = $backed = $first = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->hits->taken($i, $this->reach);
            $shell = $h < 0 || $this->hits->faces[$h] < 0 ? -1 : $this->shells->of[$this->hits->faces[$h]];
            if (! isset($floating[$shell])) {
                continue;
            }
            $number[$shell] = ($number[$shell] ?? 0) + 1;
            $first[$shell] ??= $h;
            for ($k = $h + 1; $k < $this->hits->start[$i + 1]; $k++) {
                if ($this->hits->faces[$k] >= 0 && $this->shells->of[$this->hits->faces[$k]] !== $shell && $this->hits->heights[$k] > -0.5 * $this->d) {
                    $backed[$shell] = ($backed[$shell] ?? 0) + 1;
                    break;
                }
            }
        }
        $loose = [];
        foreach ($number as $shell => $count) {
            if (2 * ($backed[$shell] ?? 0) < $count) {
                $loose[$shell] = true;
            }
        }
        $around = $this->around($misses, $loose);
        $rims = $this->rims(array_diff_key($number, $loose));
        $out = [];
        foreach (array_keys($number) as $shell) {
            $triangle = $this->hits->faces[$first[$shell]];
            [$share, $where] = $around[$shell] ?? [0.0, []];
            if (isset($loose[$shell])) {
                $out[] = new Floater($this->high->partOf($triangle), $this->high->centre($triangle), false, $share, Spread::of($where), 0.0, null, null);
            } elseif (isset($rims[$shell])) {
                [$rimShare, $degrees, $height, $at] = $rims[$shell];
                $out[] = new Floater($this->high->partOf($triangle), $at, true, 0.0, [], $rimShare, $degrees, $height);
            }
        }

        return $out;
    }

    /**
     * @return array<int, true> the shells that float
     */
    private function floating(): array
    {
        // Of each low shell: its rays, those that take a high shell, the heights at which they meet it at all.
        $rays = $taken = $heights = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $low = $this->low->shells[$this->samples->triangle[$i]];
            $rays[$low] = ($rays[$low] ?? 0) + 1;
            $seen = [];
            $isTaken = false;
            for ($h = $this->hits->start[$i]; $h < $this->hits->start[$i + 1]; $h++) {
                $t = $this->hits->heights[$h];
                if ($this->hits->faces[$h] < 0 || $t > $this->reach->out || $t < -$this->reach->in) {
                    continue;
                }
                $shell = $this->shells->of[$this->hits->faces[$h]];
                if (! $isTaken) {
                    $isTaken = true;
                    $taken[$low][$shell] = ($taken[$low][$shell] ?? 0) + 1;
                }
                if (! isset($seen[$shell])) {
                    $seen[$shell] = true;
                    $heights[$low][$shell][] = $t;
                }
            }
        }
        $own = $hovers = [];
        foreach ($heights as $low => $met) {
            $lies = [];
            foreach ($met as $shell => $all) {
                sort($all);
                $median = $all[intdiv(count($all), 2)];
                if (abs($median) <= self::HOVERS * $this->d && count($all) >= self::OWN * $rays[$low]) {
                    $lies[$shell] = true;
                }
                if (isset($taken[$low][$shell])) {
                    $hovers[$shell] = ($hovers[$shell] ?? true) && $median > self::HOVERS * $this->d;
                }
            }
            if ($lies === [] && isset($taken[$low])) {
                $lies = [array_search(max($taken[$low]), $taken[$low], true) => true];
            }
            $own += $lies;
        }

        return array_diff_key(array_filter($hovers), $own);
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
        foreach ($this->shells->of as $t => $shell) {
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
                $out[$best][0] += $this->missScale * $this->samples->weight[$i];
                $out[$best][1][] = $p;
            }
        }

        return $out;
    }

    /**
     * The outer loops of shells that float over a surface, held against it.
     *
     * @param  array<int, int>  $candidates  shells with a surface beneath
     * @return array<int, array{float, float|null, float|null, array{float, float, float}}> share of the loop, mean degrees, mean height, where
     */
    private function rims(array $candidates): array
    {
        $cast = new SegmentCast($this->high->tree());
        $nearest = new NearestPoint($this->low->tree());
        $p = $this->high->positions;
        $out = [];
        foreach ($this->outlines($candidates, $nearest) as $shell => [$loop, $isClosed]) {
            $foot = $isClosed ? $this->places($shell) : null;
            $all = $bad = $stands = $turned = $turnedBy = $high = $highBy = 0.0;
            $at = null;
            foreach ($loop as [$a, $b, $triangle]) {
                $x = ($p[3 * $a] + $p[3 * $b]) / 2;
                $y = ($p[3 * $a + 1] + $p[3 * $b + 1]) / 2;
                $z = ($p[3 * $a + 2] + $p[3 * $b + 2]) / 2;
                $length = sqrt(($p[3 * $a] - $p[3 * $b]) ** 2 + ($p[3 * $a + 1] - $p[3 * $b + 1]) ** 2 + ($p[3 * $a + 2] - $p[3 * $b + 2]) ** 2);
                $direction = $this->directionAt($nearest, $x, $y, $z);
                if ($direction === null) {
                    continue;
                }
                $all += $length;
                [$gap, $under] = $this->beneath($cast, $shell, $x, $y, $z, $direction, $foot) ?? [0.0, -1];
                if ($under < 0) {
                    $stands += $length;

                    continue;
                }
                [$ax, $ay, $az] = $this->high->normal($triangle);
                [$bx, $by, $bz] = $this->high->normal($under);
                $degrees = rad2deg(acos(max(-1.0, min(1.0, $ax * $bx + $ay * $by + $az * $bz))));
                $isTurned = $degrees > self::RIM_DEGREES;
                $isHigh = $this->density > 0.0 && $gap * $this->density > self::RIM_PIXELS;
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
            // What goes into the surface along most of its rim stands in it; near an edge of the low poly, where rays lean, the rest cannot tell.
            if ($at !== null && $bad > self::RIM_SHARE * $all && $bad > $stands) {
                $out[$shell] = [$bad / $all, $turned > 0.0 ? $turnedBy / $turned : null, $high > 0.0 ? $highBy / $high : null, $at];
            }
        }

        return $out;
    }

    /**
     * How far a rim stands over the surface of another shell under it, and that surface's triangle; null where there is none, or where the
     * shell goes into that surface.
     *
     * @param  array{float, float, float}  $n  unit
     * @param  list<array{float, float, float}>|null  $foot  places of a closed shell: how far it goes on beneath the rim counts then
     * @return array{float, int}|null
     */
    private function beneath(SegmentCast $cast, int $shell, float $x, float $y, float $z, array $n, ?array $foot): ?array
    {
        [$nx, $ny, $nz] = $n;
        $slack = 1e-6 * $this->d;
        // A rim that another surface covers goes into it.
        $cast->all($x, $y, $z, $nx, $ny, $nz, $slack, self::BENEATH * $this->d, 1);
        foreach ($cast->triangle as $triangle) {
            if ($this->shells->of[$triangle] !== $shell) {
                return null;
            }
        }
        $best = null;
        $cast->all($x, $y, $z, $nx, $ny, $nz, -self::BENEATH * $this->d, $slack, 1);
        foreach ($cast->t as $k => $t) {
            if ($this->shells->of[$cast->triangle[$k]] !== $shell && ($best === null || -$t < $best[0])) {
                $best = [-$t, $cast->triangle[$k]];
            }
        }
        if ($foot === null || $best === null) {
            return $best;
        }
        $under = $this->under($foot, $x, $y, $z, $n);

        return $under >= $best[0] - $slack ? null : [$best[0] - $under, $best[1]];
    }

    /**
     * How far a shell goes on beneath a place of its rim, not further to the side than a quarter of its size.
     *
     * @param  list<array{float, float, float}>  $foot
     * @param  array{float, float, float}  $n  unit
     */
    private function under(array $foot, float $x, float $y, float $z, array $n): float
    {
        $reach = 0.0;
        foreach ($foot as [$fx, $fy, $fz]) {
            $reach = max($reach, ($fx - $foot[0][0]) ** 2 + ($fy - $foot[0][1]) ** 2 + ($fz - $foot[0][2]) ** 2);
        }
        $deepest = 0.0;
        foreach ($foot as [$fx, $fy, $fz]) {
            [$dx, $dy, $dz] = [$fx - $x, $fy - $y, $fz - $z];
            $height = $dx * $n[0] + $dy * $n[1] + $dz * $n[2];
            if (-$height > $deepest && $dx * $dx + $dy * $dy + $dz * $dz - $height * $height <= $reach / 16) {
                $deepest = -$height;
            }
        }

        return $deepest;
    }

    /**
     * Of open shells the outer one of their loops, by length; of closed ones the edges between faces that rays meet and faces that they do
     * not.
     *
     * @param  array<int, int>  $shells
     * @return array<int, array{list<array{int, int, int}>, bool}> shell → from, to, triangle; whether it is closed
     */
    private function outlines(array $shells, NearestPoint $nearest): array
    {
        if ($shells === []) {
            return [];
        }
        $tri = $this->high->triangles;
        $welded = $this->high->welded();
        $edges = $meets = [];
        foreach ($this->shells->of as $t => $shell) {
            if (! isset($shells[$shell])) {
                continue;
            }
            [$x, $y, $z] = $this->high->centre($t);
            [$mx, $my, $mz] = $this->high->normal($t);
            $n = $this->directionAt($nearest, $x, $y, $z) ?? [$mx, $my, $mz];
            $meets[$t] = $mx * $n[0] + $my * $n[1] + $mz * $n[2] > 1e-6;
            for ($k = 0; $k < 3; $k++) {
                $a = $welded[$tri[3 * $t + $k]];
                $b = $welded[$tri[3 * $t + ($k + 1) % 3]];
                $key = $a < $b ? $a << 32 | $b : $b << 32 | $a;
                $edges[$key][] = [$a, $b, $t];
            }
        }
        $next = $outlines = [];
        foreach ($edges as $sides) {
            if (count($sides) === 1) {
                $next[$sides[0][0]][] = $sides[0];
            } elseif (count($sides) === 2 && $meets[$sides[0][2]] !== $meets[$sides[1][2]]) {
                $met = $meets[$sides[0][2]] ? $sides[0] : $sides[1];
                $outlines[$this->shells->of[$met[2]]][] = $met;
            }
        }
        $loops = $this->longest($next);
        $out = [];
        foreach (array_keys($shells) as $shell) {
            if (isset($loops[$shell])) {
                $out[$shell] = [$loops[$shell], false];
            } elseif (isset($outlines[$shell])) {
                $out[$shell] = [$outlines[$shell], true];
            }
        }

        return $out;
    }

    /**
     * Some hundred places along the edges of a shell.
     *
     * @return list<array{float, float, float}>
     */
    private function places(int $shell): array
    {
        $out = [];
        $p = $this->high->positions;
        foreach ($this->shells->of as $t => $of) {
            for ($k = 0; $of === $shell && $k < 3; $k++) {
                $a = 3 * $this->high->triangles[3 * $t + $k];
                $b = 3 * $this->high->triangles[3 * $t + ($k + 1) % 3];
                foreach ([0.0, 0.25, 0.5, 0.75] as $f) {
                    $out[] = [$p[$a] + $f * ($p[$b] - $p[$a]), $p[$a + 1] + $f * ($p[$b + 1] - $p[$a + 1]), $p[$a + 2] + $f * ($p[$b + 2] - $p[$a + 2])];
                }
            }
        }

        return Spread::of($out, self::PLACES);
    }

    /**
     * @param  array<int, list<array{int, int, int}>>  $next  border edges by where they begin
     * @return array<int, list<array{int, int, int}>> shell → its loop of greatest length
     */
    private function longest(array $next): array
    {
        $p = $this->high->positions;
        $best = $length = [];
        foreach (array_keys($next) as $from) {
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
                $shell = $this->shells->of[$edge[2]];
                if ($sum > ($length[$shell] ?? 0.0)) {
                    $length[$shell] = $sum;
                    $best[$shell] = $loop;
                }
            }
        }

        return $best;
    }

    /**
     * The unit direction of rays at the low place nearest to a point; null where none is near.
     *
     * @return array{float, float, float}|null
     */
    private function directionAt(NearestPoint $nearest, float $x, float $y, float $z): ?array
    {
        $face = $nearest->find($x, $y, $z, 0.5 * $this->d);
        if ($face < 0) {
            return null;
        }
        [$nx, $ny, $nz] = $this->low->direction($face, $nearest->v, $nearest->w);
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);

        return $length > 0.0 ? [$nx / $length, $ny / $length, $nz / $length] : null;
    }
}
