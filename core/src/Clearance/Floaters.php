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
 * most of its rays take. All that a card meets is its own, however much there is of it, and so is all that a low shell meets that no other surface
 * backs. A high shell that is some low shell's own does not float.
 */
final class Floaters
{
    /** A shell whose rays meet it lower than this, as a share of d, does not hover. */
    private const HOVERS = 1e-3;

    /**
     * @param  float  $density  texels to a unit of length; 0 without UVs
     * @param  array<int, true>  $cards  numbers of low parts that are cards
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
        private readonly array $cards,
    ) {
    }

    /**
     * @param  list<int>  $misses  samples whose rays meet nothing, without margins
     * @param  float  $missScale  share of seen low area that each of them stands for, over its own weight
     * @param  array<int, true>  $cards  numbers of low parts that are cards: masked or blended, or named so in the choices
     * @return list<Floater>
     */
    public static function of(LowSurface $low, HighSurface $high, HighShells $shells, Samples $samples, Hits $hits, Reach $reach, float $d, float $density, array $misses, float $missScale, array $cards = []): array
    {
        return $shells->count() < 2 ? [] : (new self($low, $high, $shells, $samples, $hits, $reach, $d, $density, $missScale, $cards))->floaters($misses);
    }

    /**
     * Low shells over which nothing but loose shells stands, so that what is missed around these is their margin: cards, and open low shells of whose
     * several high shells none lies on them or is backed by another.
     *
     * @param  array<int, true>  $cards  numbers of low parts that are cards
     * @return array<int, true>
     */
    public static function free(LowSurface $low, HighSurface $high, HighShells $shells, Samples $samples, Hits $hits, float $d, array $cards): array
    {
        $out = $isOpen = [];
        foreach (array_keys($cards) as $part) {
            for ($t = $low->parts[$part], $end = $low->parts[$part + 1] ?? $low->triangleCount(); $t < $end; $t++) {
                $out[$low->shells[$t]] = true;
            }
        }
        if ($shells->count() < 2) {
            return $out;
        }
        foreach ($low->borders as $half => $isBorder) {
            if ($isBorder) {
                $isOpen[$low->shells[intdiv($half, 3)]] = true;
            }
        }
        if ($isOpen === []) {
            return $out;
        }
        foreach ((new self($low, $high, $shells, $samples, $hits, new Reach($d, $d), $d, 0.0, 0.0, []))->met() as $shell => [$lies, , $isBacked, $met]) {
            if ($lies === [] && ! $isBacked && count($met) > 1 && isset($isOpen[$shell])) {
                $out[$shell] = true;
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
        $own = $hovers = [];
        foreach ($this->met() as [$lies, $taken, $isBacked, $met]) {
            foreach (array_keys($taken) as $shell) {
                $hovers[$shell] = ($hovers[$shell] ?? true) && $met[$shell] > self::HOVERS * $this->d;
            }
            if ($lies === [] && ! $isBacked) {
                $own += $met;
            } elseif ($lies === [] && $taken !== []) {
                $own[(int) array_search(max($taken), $taken, true)] = true;
            }
            $own += $lies;
        }

        return array_diff_key(array_filter($hovers), $own);
    }

    /**
     * What each low shell meets: the high shells that lie on it, those that its rays take with how many do, whether one of these is backed by another
     * over half of it, and the median height of all.
     *
     * @return array<int, array{array<int, true>, array<int, int>, bool, array<int, float>}>
     */
    private function met(): array
    {
        $taken = $heights = $backed = $isCard = [];
        $part = 0;
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $low = $this->low->shells[$this->samples->triangle[$i]];
            while (isset($this->low->parts[$part + 1]) && $this->low->parts[$part + 1] <= $this->samples->triangle[$i]) {
                $part++;
            }
            if (isset($this->cards[$part])) {
                $isCard[$low] = true;
            }
            $seen = [];
            for ($h = $this->hits->start[$i]; $h < $this->hits->start[$i + 1]; $h++) {
                $t = $this->hits->heights[$h];
                if ($this->hits->faces[$h] < 0 || $t > $this->reach->out || $t < -$this->reach->in) {
                    continue;
                }
                $shell = $this->shells->of[$this->hits->faces[$h]];
                if (! isset($seen[$shell])) {
                    $seen[$shell] = true;
                    $heights[$low][$shell][] = $t;
                }
            }
            $first = array_key_first($seen);
            if ($first !== null) {
                $taken[$low][$first] = ($taken[$low][$first] ?? 0) + 1;
                $backed[$low][$first] = ($backed[$low][$first] ?? 0) + (count($seen) > 1 ? 1 : 0);
            }
        }
        $out = [];
        foreach ($heights as $low => $met) {
            $lies = $medians = [];
            foreach ($met as $shell => $all) {
                sort($all);
                $medians[$shell] = $all[intdiv(count($all), 2)];
                if (isset($isCard[$low]) || abs($medians[$shell]) <= self::HOVERS * $this->d) {
                    $lies[$shell] = true;
                }
            }
            $isBacked = array_filter($backed[$low] ?? [], static fn (int $count, int $shell): bool => 2 * $count >= $taken[$low][$shell], ARRAY_FILTER_USE_BOTH) !== [];
            $out[$low] = [$lies, $taken[$low] ?? [], $isBacked, $medians];
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
