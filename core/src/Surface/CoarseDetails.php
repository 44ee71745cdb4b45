<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Rays\Samples;
use Anvil\Rays\Spread;
use Anvil\Rays\Visibility;

/**
 * Where details of the high poly are narrower than two texels: its normals turn over 30° and back within 2 px (METHODS, "Coarse detail").
 */
final class CoarseDetails
{
    /** Map sizes that are asked about. */
    public const SIZES = [512, 1024, 2048, 4096, 8192];

    private const TURN = 0.8660254037844387;

    /** Cosine of the 15° within which the normals on both sides of a detail are the same. */
    private const BACK = 0.9659258262890683;

    /** Samples at the standard's map size, and at the others. */
    private const SAMPLES = 2048;

    private const OTHERS = 512;

    /**
     * @param  Visibility|null  $visibility  null: all is seen
     * @param  int  $count  samples
     * @return array{shares: array<int, float>, samples: int, where: list<array{float, float, float}>, texels: float} share of the seen low area by map size, samples at the standard's own; texels of the set there
     */
    public static function of(Relief $relief, ?Visibility $visibility, int $count): array
    {
        $count = min(self::SAMPLES, max(256, $count));
        $samples = Samples::of($relief->low, $count, true);
        $texels = $samples->byUv ? $samples->uvArea * $relief->mapSize ** 2 : 0.0;
        $shares = $where = [];
        $looked = $others = 0;
        if (! $samples->byUv) {
            return ['shares' => [], 'samples' => 0, 'where' => [], 'texels' => 0.0];
        }
        $sizes = array_unique([$relief->mapSize, ...self::SIZES]);
        sort($sizes);
        $isNone = false;
        foreach ($sizes as $size) {
            $isOwn = $size === $relief->mapSize;
            if ($isNone) {
                // What is wide enough at one size is so at every larger one.
                $shares[$size] = 0.0;
                $looked = $isOwn ? $others : $looked;

                continue;
            }
            $step = max(1, intdiv($samples->count(), $isOwn ? $count : min($count, self::OTHERS)));
            $all = $coarse = 0.0;
            $others = 0;
            for ($i = 0, $n = $samples->count(); $i < $n; $i += $step) {
                $is = self::isCoarse($relief, $samples, $i, $size);
                $weight = $samples->weight[$i];
                if ($is === null) {
                    continue;
                }
                // What is hidden is looked for only where it would count.
                if ($is && $visibility !== null && ! self::isSeen($relief, $visibility, $samples, $i)) {
                    continue;
                }
                $all += $weight;
                $looked += $isOwn ? 1 : 0;
                $others++;
                if ($is) {
                    $coarse += $weight;
                    if ($isOwn) {
                        $where[] = $samples->at($i, 0.0);
                    }
                }
            }
            $shares[$size] = $all > 0.0 ? $coarse / $all : 0.0;
            $isNone = $all > 0.0 && $coarse === 0.0;
        }
        ksort($shares);

        return ['shares' => $shares, 'samples' => $looked, 'where' => Spread::of($where, 200), 'texels' => $texels];
    }

    private static function isSeen(Relief $relief, Visibility $visibility, Samples $samples, int $i): bool
    {
        $f = 3 * $samples->triangle[$i];

        return $visibility->seen($samples->px[$i], $samples->py[$i], $samples->pz[$i], $relief->low->normals[$f], $relief->low->normals[$f + 1], $relief->low->normals[$f + 2]);
    }

    /** Whether the high poly turns and turns back within two texels around a sample; null where its ray meets nothing. */
    private static function isCoarse(Relief $relief, Samples $samples, int $i, int $size): ?bool
    {
        $t = $samples->triangle[$i];
        $density = $relief->density($t) * $size / $relief->mapSize;
        [$dx, $dy, $dz] = [$samples->nx[$i], $samples->ny[$i], $samples->nz[$i]];
        $middle = $relief->taken($samples->px[$i], $samples->py[$i], $samples->pz[$i], $dx, $dy, $dz);
        if ($middle < 0 || $density <= 0.0) {
            return null;
        }
        $n = $relief->low->normals;
        [$fx, $fy, $fz] = [$n[3 * $t], $n[3 * $t + 1], $n[3 * $t + 2]];
        $helper = abs($fx) < 0.6 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0];
        $ax = $fy * $helper[2] - $fz * $helper[1];
        $ay = $fz * $helper[0] - $fx * $helper[2];
        $az = $fx * $helper[1] - $fy * $helper[0];
        $l = max(1e-30, sqrt($ax * $ax + $ay * $ay + $az * $az));
        [$ax, $ay, $az] = [$ax / $l, $ay / $l, $az / $l];
        [$bx, $by, $bz] = [$fy * $az - $fz * $ay, $fz * $ax - $fx * $az, $fx * $ay - $fy * $ax];
        // Two directions at right angles, turned a little further at each sample, so that no direction of a groove escapes all of them.
        $angle = $i * 2.399963229728653;
        foreach ([$angle, $angle + M_PI / 2] as $way) {
            $c = cos($way) / $density;
            $s = sin($way) / $density;
            $normals = [];
            foreach ([-1.0, -0.5, 0.0, 0.5, 1.0] as $k => $r) {
                $met = $k === 2 ? $middle : $relief->taken(
                    $samples->px[$i] + $r * ($c * $ax + $s * $bx), $samples->py[$i] + $r * ($c * $ay + $s * $by), $samples->pz[$i] + $r * ($c * $az + $s * $bz), $dx, $dy, $dz,
                );
                $normals[] = $met < 0 ? null : $relief->high->normal($met);
            }
            if (self::turnsAndBack($normals)) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }

    /**
     * @param  list<array{float, float, float}|null>  $normals  in a row
     */
    public static function turnsAndBack(array $normals): bool
    {
        $count = count($normals);
        for ($i = 0; $i < $count - 2; $i++) {
            for ($k = $i + 2; $k < $count; $k++) {
                if ($normals[$i] === null || $normals[$k] === null || self::dot($normals[$i], $normals[$k]) < self::BACK) {
                    continue;
                }
                for ($j = $i + 1; $j < $k; $j++) {
                    if ($normals[$j] !== null && self::dot($normals[$i], $normals[$j]) < self::TURN && self::dot($normals[$k], $normals[$j]) < self::TURN) {
                        return true;
                    }
                }
            }
        }

        return false;
    }
}
