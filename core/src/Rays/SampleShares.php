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
        $uv = $solid = [];
        foreach ($lowOfSets as $name => $meshes) {
            $uv[$name] = $solid[$name] = 0.0;
            foreach ($meshes as $mesh) {
                [$u, $s] = self::areas($mesh);
                $uv[$name] += $u;
                $solid[$name] += $s;
            }
        }
        $allSolid = array_sum($solid);
        $shares = [];
        $byUv = array_sum($uv) > 1e-12;
        foreach (array_keys($lowOfSets) as $name) {
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

    /**
     * @return array{float, float} UV area, 3D area
     */
    public static function areas(Mesh $mesh): array
    {
        $p = $mesh->positions;
        $t = $mesh->uvs;
        $uv = $solid = 0.0;
        foreach (array_chunk($mesh->triangles, 3) as $i => [$a, $b, $c]) {
            $ux = $p[3 * $b] - $p[3 * $a];
            $uy = $p[3 * $b + 1] - $p[3 * $a + 1];
            $uz = $p[3 * $b + 2] - $p[3 * $a + 2];
            $vx = $p[3 * $c] - $p[3 * $a];
            $vy = $p[3 * $c + 1] - $p[3 * $a + 1];
            $vz = $p[3 * $c + 2] - $p[3 * $a + 2];
            $solid += sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2) / 2;
            $d = $mesh->triUvs[3 * $i] ?? -1;
            $e = $mesh->triUvs[3 * $i + 1] ?? -1;
            $f = $mesh->triUvs[3 * $i + 2] ?? -1;
            if ($d >= 0 && $e >= 0 && $f >= 0) {
                $uv += abs(($t[2 * $e] - $t[2 * $d]) * ($t[2 * $f + 1] - $t[2 * $d + 1]) - ($t[2 * $f] - $t[2 * $d]) * ($t[2 * $e + 1] - $t[2 * $d + 1])) / 2;
            }
        }

        return [$uv, $solid];
    }
}
