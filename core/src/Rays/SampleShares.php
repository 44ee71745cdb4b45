<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Geometry\Mesh;

/**
 * How many of an asset's samples each set gets: by UV area, or by 3D area where a set has no UVs (as a share of the asset's 3D area).
 */
final class SampleShares
{
    /**
     * @param  array<string, list<Mesh>>  $lowOfSets
     * @return array<string, int>
     */
    public static function of(array $lowOfSets, int $total): array
    {
        return self::ofAreas(array_map(static fn (array $meshes): array => array_map(static fn (Mesh $mesh): array => [$mesh->uvArea(), array_sum($mesh->triangleAreas())], $meshes), $lowOfSets), $total);
    }

    /**
     * @param  array<string, list<array{float, float}>>  $areas  set → UV area and 3D area of each of its low parts
     * @return array<string, int>
     */
    public static function ofAreas(array $areas, int $total): array
    {
        $uv = array_map(static fn (array $of): float => array_sum(array_column($of, 0)), $areas);
        $solid = array_map(static fn (array $of): float => array_sum(array_column($of, 1)), $areas);
        $allSolid = array_sum($solid);
        $shares = [];
        $byUv = array_sum($uv) > 1e-12;
        foreach (array_keys($areas) as $name) {
            $share = $allSolid > 0.0 ? $solid[$name] / $allSolid : 0.0;
            $shares[$name] = $byUv && $uv[$name] > 1e-12 ? $uv[$name] / array_sum($uv) : $share;
        }
        $sum = array_sum($shares);
        $out = [];
        foreach ($shares as $name => $share) {
            $out[$name] = $sum > 0.0 ? max(64, self::stepped((int) round($share / $sum * $total))) : 64;
        }

        return $out;
    }

    /** Down to one of 16 steps an octave, so that a change of one part leaves the other sets' samples, and what they met, as they were. */
    private static function stepped(int $count): int
    {
        $step = 1;
        while ($count >= 32 * $step) {
            $step *= 2;
        }

        return $count - $count % $step;
    }
}
