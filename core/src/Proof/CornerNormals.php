<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Geometry\FaceNormal;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;

/**
 * The normals that shade a mesh: the file's own; without them what its smoothing groups give (faces of one group at a welded vertex, weighted by corner
 * angle); without either each face its own, as glTF says of a mesh without normals.
 */
final class CornerNormals
{
    /**
     * @param  list<float>  $normals  xyz
     * @param  list<int>  $corners  three numbers of normals a triangle; −1: its face's
     */
    private function __construct(private readonly Mesh $mesh, public readonly array $normals, public readonly array $corners)
    {
    }

    public static function of(Mesh $mesh): self
    {
        if ($mesh->triNormals !== []) {
            return new self($mesh, $mesh->normals, $mesh->triNormals);
        }

        return $mesh->smoothing === [] ? new self($mesh, [], []) : new self($mesh, ...self::ofGroups($mesh));
    }

    /**
     * At a place of a triangle, interpolated from its corners and not made unit; of the face where a corner has none or they vanish.
     *
     * @return array{float, float, float}
     */
    public function at(int $triangle, float $u, float $v, float $w): array
    {
        $i = 3 * $triangle;
        $a = $this->corners[$i] ?? -1;
        $b = $this->corners[$i + 1] ?? -1;
        $c = $this->corners[$i + 2] ?? -1;
        if ($a < 0 || $b < 0 || $c < 0) {
            return $this->ofFace($triangle);
        }
        $n = $this->normals;
        $a *= 3;
        $b *= 3;
        $c *= 3;
        $x = $u * $n[$a] + $v * $n[$b] + $w * $n[$c];
        $y = $u * $n[$a + 1] + $v * $n[$b + 1] + $w * $n[$c + 1];
        $z = $u * $n[$a + 2] + $v * $n[$b + 2] + $w * $n[$c + 2];

        return $x * $x + $y * $y + $z * $z > 1e-12 ? [$x, $y, $z] : $this->ofFace($triangle);
    }

    /**
     * Of one corner, unit.
     *
     * @return array{float, float, float}
     */
    public function corner(int $triangle, int $k): array
    {
        [$x, $y, $z] = $this->at($triangle, $k === 0 ? 1.0 : 0.0, $k === 1 ? 1.0 : 0.0, $k === 2 ? 1.0 : 0.0);
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? [$x / $length, $y / $length, $z / $length] : [0.0, 0.0, 0.0];
    }

    /**
     * @return array{float, float, float}
     */
    private function ofFace(int $triangle): array
    {
        return FaceNormal::unit($this->mesh->positions, $this->mesh->triangles, $triangle);
    }

    /**
     * @return array{list<float>, list<int>}
     */
    private static function ofGroups(Mesh $mesh): array
    {
        $welded = Weld::ofMesh($mesh);
        $p = $mesh->positions;
        $number = $sums = $corners = [];
        foreach ($mesh->smoothing as $t => $group) {
            [$x, $y, $z] = FaceNormal::unit($p, $mesh->triangles, $t);
            for ($k = 0; $k < 3; $k++) {
                $v = $welded[$mesh->triangles[3 * $t + $k]];
                // Group 0 smooths with nothing.
                $key = $group === 0 ? "face $t" : "$v $group";
                $at = $number[$key] ??= count($number);
                $corners[] = $at;
                $angle = $group === 0 ? 1.0 : self::angle($p, $mesh->triangles, $t, $k);
                $sums[3 * $at] = ($sums[3 * $at] ?? 0.0) + $angle * $x;
                $sums[3 * $at + 1] = ($sums[3 * $at + 1] ?? 0.0) + $angle * $y;
                $sums[3 * $at + 2] = ($sums[3 * $at + 2] ?? 0.0) + $angle * $z;
            }
        }
        $normals = [];
        for ($i = 0, $n = 3 * count($number); $i < $n; $i += 3) {
            $length = sqrt($sums[$i] ** 2 + $sums[$i + 1] ** 2 + $sums[$i + 2] ** 2);
            $scale = $length > 0.0 ? 1.0 / $length : 0.0;
            array_push($normals, $sums[$i] * $scale, $sums[$i + 1] * $scale, $sums[$i + 2] * $scale);
        }

        return [$normals, $corners];
    }

    /**
     * @param  list<float>  $p
     * @param  list<int>  $triangles
     */
    private static function angle(array $p, array $triangles, int $t, int $k): float
    {
        $a = 3 * $triangles[3 * $t + $k];
        $b = 3 * $triangles[3 * $t + ($k + 1) % 3];
        $c = 3 * $triangles[3 * $t + ($k + 2) % 3];
        [$ux, $uy, $uz] = [$p[$b] - $p[$a], $p[$b + 1] - $p[$a + 1], $p[$b + 2] - $p[$a + 2]];
        [$vx, $vy, $vz] = [$p[$c] - $p[$a], $p[$c + 1] - $p[$a + 1], $p[$c + 2] - $p[$a + 2]];
        $cross = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);

        return atan2($cross, $ux * $vx + $uy * $vy + $uz * $vz);
    }
}
