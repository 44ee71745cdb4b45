<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Rays\Spread;

/**
 * Smooth edges of a low poly that turn sharply, inside an island, beside a face over which the high poly is flat: the map has to bend the shading back.
 */
final class SharpEdges
{
    private const TURN = 75.0;

    private const FLAT = 2.0;

    private const OFF = 45.0;

    /** Where on a face the high poly is looked at: weights of its second and third corner. */
    private const PLACES = [[1 / 3, 1 / 3], [0.15, 0.15], [0.7, 0.15], [0.15, 0.7], [0.45, 0.1], [0.1, 0.45], [0.45, 0.45]];

    /** So many of these have to agree. */
    private const AGREE = 5;

    /**
     * @return list<array{count: int, off: float, hasHard: bool, where: list<array{float, float, float}>}> a low part
     */
    public static function of(Relief $relief): array
    {
        $out = [];
        foreach ($relief->lowMeshes as $part => $mesh) {
            $edges = LowEdges::of($mesh);
            $first = $relief->low->parts[$part];
            $flat = $where = [];
            $count = 0;
            $most = 0.0;
            foreach ($edges->twins as $half => $twin) {
                // Each edge once.
                if ($twin < 0 || ($twin > $half && $edges->twins[$twin] === $half) || $edges->seams[$half] || ($edges->hard[$half] ?? false) || ($edges->turn($half) ?? 0.0) <= self::TURN) {
                    continue;
                }
                $off = 0.0;
                foreach ([$half, $twin] as $side) {
                    $t = intdiv($side, 3);
                    $flat[$t] ??= self::flat($relief, $first + $t);
                    $normal = $flat[$t];
                    if ($normal !== []) {
                        $off = max($off, self::off($mesh, $relief, $first, $side, $normal), self::off($mesh, $relief, $first, LowEdges::after($side), $normal));
                    }
                }
                if ($off > self::OFF) {
                    $count++;
                    $most = max($most, $off);
                    $where[] = EdgeFaults::middle($mesh, $half)[0];
                }
            }
            $out[] = ['count' => $count, 'off' => $most, 'hasHard' => in_array(true, $edges->hard ?? [], true), 'where' => Spread::of($where, 200)];
        }

        return $out;
    }

    /**
     * The normal of the high poly over a face where it is flat there; empty where it is not.
     *
     * @return array{}|array{float, float, float}
     */
    private static function flat(Relief $relief, int $triangle): array
    {
        $normals = [];
        foreach (self::PLACES as [$v, $w]) {
            $met = $relief->taken(...$relief->at($triangle, $v, $w), ...$relief->low->direction($triangle, $v, $w));
            if ($met >= 0) {
                $normals[] = $relief->high->normal($met);
            }
        }
        $cos = cos(deg2rad(self::FLAT));
        foreach (array_slice($normals, 0, 3) as $one) {
            $agree = count(array_filter($normals, static fn (array $n): bool => $cos <= $n[0] * $one[0] + $n[1] * $one[1] + $n[2] * $one[2]));
            if ($agree >= self::AGREE) {
                return $one;
            }
        }

        return [];
    }

    /**
     * Degrees by which the shading normal of a corner is off.
     *
     * @param  array{float, float, float}  $normal  unit
     */
    private static function off(Mesh $mesh, Relief $relief, int $first, int $corner, array $normal): float
    {
        if ($mesh->triNormals === [] || $mesh->triNormals[$corner] < 0) {
            // By smoothing groups: what the faces around it give.
            $d = 3 * $relief->low->corners[3 * $first + $corner];
            [$x, $y, $z] = [$relief->low->directions[$d], $relief->low->directions[$d + 1], $relief->low->directions[$d + 2]];
        } else {
            $n = 3 * $mesh->triNormals[$corner];
            [$x, $y, $z] = [$mesh->normals[$n], $mesh->normals[$n + 1], $mesh->normals[$n + 2]];
        }
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? rad2deg(acos(max(-1.0, min(1.0, ($x * $normal[0] + $y * $normal[1] + $z * $normal[2]) / $length)))) : 0.0;
    }
}
