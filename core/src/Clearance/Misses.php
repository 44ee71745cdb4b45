<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\Spread;
use Anvil\Standard\Reach;
use Closure;

/**
 * Low area from which rays meet no high poly within the reach in use: seen and not seen, margins apart, and where a longer reach would
 * end it.
 */
final readonly class Misses
{
    /** A share of seen low area that no check tells. */
    private const NONE = 0.0005;

    /** Misses of which is looked at whether they are seen. */
    private const ASKED = 1024;

    /**
     * @param  float  $share  of seen low area, margins apart
     * @param  float  $unseenShare  of all low area
     * @param  list<float>  $byPart  shares of seen low area, a low part; their sum is `share`
     * @param  list<int>  $rays  samples that miss and are seen, margins apart: all, or some that tell for all
     * @param  float  $scale  how many misses each of them stands for
     * @param  list<float>  $marginShares  of each low part's own area
     * @param  list<array{part: int, share: float, where: list<array{float, float, float}>}>  $margins  of the low parts that have one
     * @param  array{out: float, in: float, left: float}  $ending  the reach at which the seen misses end that a reach can end, and the share of seen low area that no reach ends
     */
    private function __construct(
        public float $share,
        public float $unseenShare,
        public array $byPart,
        public array $rays,
        public float $scale,
        public array $marginShares,
        public array $margins,
        public array $ending,
    ) {
    }

    /**
     * @param  Closure(int): bool  $seen
     * @param  array<int, true>  $free  low shells on which all misses are margin
     */
    public static function of(LowSurface $low, Samples $samples, Hits $hits, Reach $reach, Closure $seen, float $seenShare, array $free = []): self
    {
        $missing = [];
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            // Other sets' hits are in the list only where sets are not kept apart; then they are no miss, but bleed.
            if ($hits->taken($i, $reach) < 0) {
                $missing[] = $i;
            }
        }
        $parts = count($low->parts);
        $ofParts = array_fill(0, $parts, 0.0);
        $byPart = $ofMargins = $ofParts;
        $places = array_fill(0, $parts, []);
        $margin = Margins::of($low, $samples, $missing, $free);
        $part = 0;
        if ($margin !== []) {
            foreach ($samples->triangle as $i => $t) {
                while (isset($low->parts[$part + 1]) && $low->parts[$part + 1] <= $t) {
                    $part++;
                }
                $ofParts[$part] += $samples->weight[$i];
            }
            // Of the whole part, and not of what was left to judge of it.
            foreach ($samples->kept < 1.0 ? self::areaShares($samples->byUv ? $low->uvAreas : $low->areas, $low->parts) : [] as $number => $own) {
                $ofParts[$number] = max($ofParts[$number], $own / max(1e-12, $samples->kept));
            }
        }
        $share = $unseen = $left = $out = $in = 0.0;
        $rays = $others = [];
        $all = 0.0;
        foreach ($missing as $i) {
            if (! isset($margin[$i])) {
                $others[] = $i;
                $all += $samples->weight[$i];
            }
        }
        // So few that it makes no difference whether they are seen; or so many that some tell for all.
        $isAny = $all <= self::NONE * $seenShare;
        $asked = array_fill_keys(Spread::of($others, self::ASKED), true);
        $scale = 0.0;
        foreach (array_keys($asked) as $i) {
            $scale += $samples->weight[$i];
        }
        $scale = $scale > 0.0 ? $all / $scale : 0.0;
        $part = 0;
        foreach ($missing as $i) {
            while (isset($low->parts[$part + 1]) && $low->parts[$part + 1] <= $samples->triangle[$i]) {
                $part++;
            }
            if (isset($margin[$i])) {
                $ofMargins[$part] += $samples->weight[$i];
                $places[$part][] = $samples->at($i, 0.0);

                continue;
            }
            if (! isset($asked[$i])) {
                continue;
            }
            if (! $isAny && ! $seen($i)) {
                $unseen += $scale * $samples->weight[$i];

                continue;
            }
            $weight = $seenShare > 0.0 ? $scale * $samples->weight[$i] / $seenShare : 0.0;
            $share += $weight;
            $byPart[$part] += $weight;
            $rays[] = $i;
            $ends = self::end($hits, $i);
            if ($ends === null) {
                $left += $weight;
            } else {
                $out = max($out, $ends);
                $in = max($in, -$ends);
            }
        }
        $marginShares = $margins = [];
        foreach ($ofMargins as $number => $weight) {
            $one = $weight > 0.0 ? min(1.0, $weight / $ofParts[$number]) : 0.0;
            $marginShares[] = $one;
            if ($one > 0.0) {
                $margins[] = ['part' => $number, 'share' => $one, 'where' => Spread::of($places[$number])];
            }
        }

        return new self(
            min(1.0, $share), min(1.0, $unseen), array_values($byPart), $rays, $scale, $marginShares, $margins,
            ['out' => max($reach->out, $out), 'in' => max($reach->in, $in), 'left' => min(1.0, $left)],
        );
    }

    /**
     * @param  list<float>  $areas  a triangle, as samples are shared out by
     * @param  list<int>  $parts  first triangle of each
     * @return list<float> of each part of the low poly, its share of the area
     */
    private static function areaShares(array $areas, array $parts): array
    {
        $shares = array_fill(0, count($parts), 0.0);
        $all = array_sum($areas);
        $part = 0;
        foreach ($areas as $t => $area) {
            while (isset($parts[$part + 1]) && $parts[$part + 1] <= $t) {
                $part++;
            }
            $shares[$part] += $all > 0.0 ? $area / $all : 0.0;
        }

        return array_values($shares);
    }

    /** The height at which a sample that misses meets what belongs to it, the nearer of both sides; null where it never does. */
    private static function end(Hits $hits, int $i): ?float
    {
        $best = null;
        for ($h = $hits->start[$i]; $h < $hits->start[$i + 1]; $h++) {
            if (($best === null || abs($hits->heights[$h]) < abs($best)) && $hits->kind($i, $h) === 1) {
                $best = $hits->heights[$h];
            }
        }

        return $best;
    }
}
