<?php

declare(strict_types=1);

namespace Anvil\Occlusion;

use Anvil\Asset\Asset;
use Anvil\Clearance\AssetClearance;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Samples;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;

/**
 * Who shades whom: of the directions over a set's faces, cosine-weighted, the share in which another set's low poly stands nearest. What a bake
 * of ambient occlusion with all sets together would darken; on the low poly, which stands close enough to the high one to decide by.
 */
final class Shading
{
    private const DIRECTIONS = 16;

    /** Less is not worth a word. */
    private const LEAST = 0.0005;

    /** Places looked at in all, and on one set at least and at most. */
    private const PLACES = 6144;

    private const LEAST_PLACES = 16;

    private const MOST_PLACES = 192;

    /**
     * Every set that is whole, by name.
     *
     * @return array<string, list<array{other: string, share: float}>>
     */
    public static function ofAll(Asset $asset): array
    {
        $surfaces = $out = [];
        foreach ($asset->sets as $set) {
            $surfaces[$set->name] = SetSurfaces::of($set, $asset->standard->rays->smooth);
        }
        [$assembled, $firsts] = AssetClearance::assembled($asset, $surfaces);
        // Of many sets each is looked at in fewer places.
        $points = max(self::LEAST_PLACES, min(self::MOST_PLACES, intdiv(self::PLACES, max(1, count($surfaces)))));
        foreach ($asset->sets as $set) {
            if ($set->low !== []) {
                $out[$set->name] = self::of($surfaces[$set->name]->low(), $assembled, $firsts, $set->name, $points);
            }
        }

        return $out;
    }

    /**
     * @param  TriangleTree  $assembled  the low poly of all sets
     * @param  list<array{int, string}>  $sets  first triangle in it, and name, of each set, ascending
     * @param  string  $name  of the set that is shaded
     * @return list<array{other: string, share: float}> greatest first
     */
    public static function of(LowSurface $low, TriangleTree $assembled, array $sets, string $name, int $points): array
    {
        $samples = Samples::of($low, $points, true);
        $cast = new SegmentCast($assembled);
        $far = 2 * ($assembled->bounds()?->diagonal() ?? 0.0);
        $step = max(1, intdiv($samples->count(), $points));
        $met = [];
        $all = 0.0;
        for ($i = 0, $count = $samples->count(); $i < $count; $i += $step) {
            $f = 3 * $samples->triangle[$i];
            foreach (Occlusion::directions($low->normals[$f], $low->normals[$f + 1], $low->normals[$f + 2], self::DIRECTIONS, $i) as [$x, $y, $z]) {
                // The ray of a cast travels down from `to`: shot backward, what is nearest comes first.
                $triangle = $cast->first($samples->px[$i], $samples->py[$i], $samples->pz[$i], -$x, -$y, -$z, -$far, -2.5e-6 * $far, 0);
                $all += $samples->weight[$i];
                if ($triangle >= 0) {
                    $set = self::setOf($triangle, $sets);
                    $met[$set] = ($met[$set] ?? 0.0) + $samples->weight[$i];
                }
            }
        }
        unset($met[$name]);
        arsort($met);
        $out = [];
        foreach ($met as $other => $sum) {
            if ($all > 0.0 && $sum / $all >= self::LEAST) {
                $out[] = ['other' => (string) $other, 'share' => $sum / $all];
            }
        }

        return $out;
    }

    /**
     * @param  list<array{int, string}>  $sets
     */
    private static function setOf(int $triangle, array $sets): string
    {
        $from = 0;
        $to = count($sets);
        while ($to - $from > 1) {
            $m = ($from + $to) >> 1;
            if ($sets[$m][0] <= $triangle) {
                $from = $m;
            } else {
                $to = $m;
            }
        }

        return $sets[$from][1] ?? '';
    }
}
