<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\HighShells;
use Anvil\Rays\HighSurface;
use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\Spread;
use Anvil\Standard\Reach;

/**
 * High shells that float over the low poly (METHODS, "Floats"): which they are, whether anything lies beneath them, what their rims look
 * like (Rims).
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
        $rims = Rims::of(array_diff_key($number, $loose), $this->low, $this->high, $this->shells, $this->d, $this->density);
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
}
