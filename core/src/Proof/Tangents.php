<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Geometry\Mesh;

/**
 * The tangents that a low poly is shaded with: those of its file where it has them at each corner, else MikkTSpace on its own normals.
 */
final class Tangents
{
    /**
     * @return list<float> xyzw of each corner, three corners a triangle
     */
    public static function of(Mesh $mesh, CornerNormals $normals): array
    {
        return self::ofFile($mesh) ?? MikkTSpace::of($mesh, $normals);
    }

    /**
     * @return list<float>|null null where a corner has none
     */
    private static function ofFile(Mesh $mesh): ?array
    {
        if ($mesh->tangents === [] || $mesh->triNormals === []) {
            return null;
        }
        $out = [];
        foreach ($mesh->triNormals as $n) {
            $i = 4 * $n;
            if ($n < 0 || ! isset($mesh->tangents[$i + 3])) {
                return null;
            }
            [$x, $y, $z] = [$mesh->tangents[$i], $mesh->tangents[$i + 1], $mesh->tangents[$i + 2]];
            if ($x * $x + $y * $y + $z * $z < 1e-12) {
                return null;
            }
            array_push($out, $x, $y, $z, $mesh->tangents[$i + 3] < 0.0 ? -1.0 : 1.0);
        }

        return $out;
    }
}
