<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\Spread;
use Closure;

/**
 * Samples whose ray runs within 3° of their own face, since averaged directions of opposite faces cancel there: what they meet is chance (METHODS, "Grazing").
 */
final readonly class GrazingRays
{
    /** The sine of 3°. */
    public const SINE = 0.05;

    /** Samples of a part on which is looked at what is seen. */
    private const ASKED = 1024;

    /**
     * Whether a direction runs along a face.
     *
     * @param  list<float>  $normals  unit, three a triangle
     */
    public static function isOne(array $normals, int $triangle, float $x, float $y, float $z): bool
    {
        $f = 3 * $triangle;
        $dot = $x * $normals[$f] + $y * $normals[$f + 1] + $z * $normals[$f + 2];

        return $dot * $dot <= self::SINE ** 2 * ($x * $x + $y * $y + $z * $z);
    }

    /**
     * @return list<int> numbers of samples
     */
    public static function of(LowSurface $low, Samples $samples): array
    {
        $out = [];
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            if (self::isOne($low->normals, $samples->triangle[$i], $samples->nx[$i], $samples->ny[$i], $samples->nz[$i])) {
                $out[] = $i;
            }
        }

        return $out;
    }

    /**
     * Of each low part that has any: their share of its seen area.
     *
     * @param  list<int>  $grazing  numbers of samples, ascending
     * @param  Closure(int): bool  $seen
     * @return list<array{part: int, share: float, samples: float, where: list<array{float, float, float}>}> `samples` of one weight that say as much as those of the part's seen area
     */
    public static function byPart(LowSurface $low, Samples $samples, array $grazing, Closure $seen): array
    {
        $out = [];
        $grazes = array_fill_keys($grazing, true);
        $end = $samples->count();
        $i = 0;
        foreach (array_keys($low->parts) as $part) {
            $until = $low->parts[$part + 1] ?? PHP_INT_MAX;
            $all = $here = [];
            for (; $i < $end && $samples->triangle[$i] < $until; $i++) {
                if (isset($grazes[$i])) {
                    $here[] = $i;
                } else {
                    $all[] = $i;
                }
            }
            if ($here === []) {
                continue;
            }
            $at = array_values(array_filter(Spread::of($here, self::ASKED), $seen));
            $along = $samples->weightOf($here) * count($at) / min(count($here), self::ASKED);
            $asked = Spread::of($all, self::ASKED);
            $rest = $asked === [] ? 0.0 : $samples->weightOf($all) * count(array_filter($asked, $seen)) / count($asked);
            if ($along > 0.0) {
                $squares = array_sum(array_map(static fn (int $k): float => $samples->weight[$k] ** 2, [...$here, ...$all]));
                $whole = $samples->weightOf($here) + $samples->weightOf($all);
                $out[] = [
                    'part' => $part, 'share' => $along / ($along + $rest), 'samples' => $squares > 0.0 ? $whole ** 2 / $squares * ($along + $rest) / $whole : 0.0,
                    'where' => array_map(static fn (int $k): array => $samples->at($k, 0.0), Spread::of($at)),
                ];
            }
        }

        return $out;
    }
}
