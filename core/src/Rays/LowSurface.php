<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Geometry\FaceNormal;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Shells;
use Anvil\Geometry\Topology;
use Anvil\Spatial\TriangleTree;

/**
 * All low parts of a set as one surface, with the directions that rays leave it in (METHODS, "Direction").
 */
final class LowSurface
{
    /** A mean of normals that is no longer than this share of its weights is none. */
    private const VANISHES = 1e-3;

    private ?TriangleTree $tree = null;

    /**
     * @param  list<float>  $positions  xyz
     * @param  list<int>  $triangles  three position numbers a triangle
     * @param  list<float>  $directions  xyz, unit
     * @param  list<int>  $corners  three direction numbers a triangle
     * @param  list<float>  $normals  unit face normals, xyz a triangle; 0 where it has no area
     * @param  list<float>  $areas  3D, a triangle
     * @param  list<float>  $uvAreas  share of the page, a triangle
     * @param  list<list<int>>  $neighbours  a triangle's over its edges: neighbour and the edge's number 0–2, in turn
     * @param  list<int>  $shells  a triangle's shell: those that hang together over shared places bear one number
     * @param  list<bool>  $borders  half-edge → whether no other triangle is beyond it, or only the back of a sheet with two sides
     * @param  list<bool>  $borderVertices  by position
     * @param  list<int>  $parts  first triangle of each part
     */
    private function __construct(
        public readonly array $positions,
        public readonly array $triangles,
        public readonly array $directions,
        public readonly array $corners,
        public readonly array $normals,
        public readonly array $areas,
        public readonly array $uvAreas,
        public readonly array $neighbours,
        public readonly array $shells,
        public readonly array $borders,
        public readonly array $borderVertices,
        public readonly array $parts,
    ) {
    }

    /**
     * @param  list<Mesh>  $meshes
     * @param  bool  $smooth  directions averaged over all faces at a welded vertex; false: the file's own normals where it has them
     */
    public static function of(array $meshes, bool $smooth): self
    {
        $positions = $triangles = $directions = $corners = $normals = $areas = $uvAreas = $neighbours = $borders = $borderVertices = $parts = $shells = [];
        foreach ($meshes as $mesh) {
            $basePosition = intdiv(count($positions), 3);
            $baseTriangle = intdiv(count($triangles), 3);
            $baseDirection = intdiv(count($directions), 3);
            $parts[] = $baseTriangle;
            $topology = Topology::of($mesh);
            foreach (Shells::joined($topology->welded, $mesh->triangles) as $shell) {
                $shells[] = $basePosition + $shell;
            }
            [$n, $a] = self::faces($mesh);
            array_push($normals, ...$n);
            array_push($areas, ...$a);
            array_push($uvAreas, ...self::uvAreas($mesh));
            if ($smooth || ! $mesh->hasNormals()) {
                [$averaged, $at] = self::averaged($mesh, $topology->welded, $n);
                array_push($directions, ...$averaged);
                foreach ($at as $v) {
                    $corners[] = $baseDirection + $v;
                }
            } else {
                array_push($directions, ...self::unit($mesh->normals));
                foreach ($mesh->triNormals as $v) {
                    $corners[] = $baseDirection + $v;
                }
            }
            array_push($positions, ...$mesh->positions);
            $onBorder = array_fill(0, $mesh->vertexCount(), false);
            $count = $mesh->triangleCount();
            for ($t = 0; $t < $count; $t++) {
                $around = [];
                for ($k = 0; $k < 3; $k++) {
                    $edge = $topology->halfEdgeEdge[3 * $t + $k];
                    foreach ($edge < 0 ? [] : $topology->edges[$edge] as $half) {
                        $other = intdiv($half, 3);
                        if ($other !== $t) {
                            $around[] = $baseTriangle + $other;
                            $around[] = $k;
                        }
                    }
                    $halves = $edge < 0 ? [] : $topology->edges[$edge];
                    $border = count($halves) === 1 || (count($halves) === 2 && self::backToBack($n, intdiv($halves[0], 3), intdiv($halves[1], 3)));
                    $borders[] = $border;
                    if ($border) {
                        $onBorder[$topology->welded[$mesh->triangles[3 * $t + $k]]] = true;
                        $onBorder[$topology->welded[$mesh->triangles[3 * $t + ($k + 1) % 3]]] = true;
                    }
                    $triangles[] = $basePosition + $mesh->triangles[3 * $t + $k];
                }
                $neighbours[] = $around;
            }
            foreach ($topology->welded as $v) {
                $borderVertices[] = $onBorder[$v];
            }
        }

        return new self($positions, $triangles, $directions, $corners, $normals, $areas, $uvAreas, $neighbours, $shells, $borders, $borderVertices, $parts);
    }

    /**
     * @return list<int> the faces over the edges of a face
     */
    public function around(int $triangle): array
    {
        $out = [];
        $neighbours = $this->neighbours[$triangle];
        for ($i = 0, $n = count($neighbours); $i < $n; $i += 2) {
            $out[] = $neighbours[$i];
        }

        return $out;
    }

    public function triangleCount(): int
    {
        return count($this->areas);
    }

    /**
     * The interpolated direction at a place of a triangle, not made unit.
     *
     * @param  float  $v  weight of its second corner
     * @param  float  $w  of its third
     * @return array{float, float, float}
     */
    public function direction(int $triangle, float $v, float $w): array
    {
        $u = 1.0 - $v - $w;
        $d = $this->directions;
        $a = 3 * $this->corners[3 * $triangle];
        $b = 3 * $this->corners[3 * $triangle + 1];
        $c = 3 * $this->corners[3 * $triangle + 2];

        return [$u * $d[$a] + $v * $d[$b] + $w * $d[$c], $u * $d[$a + 1] + $v * $d[$b + 1] + $w * $d[$c + 1], $u * $d[$a + 2] + $v * $d[$b + 2] + $w * $d[$c + 2]];
    }

    public function tree(): TriangleTree
    {
        return $this->tree ??= TriangleTree::of($this->positions, $this->triangles);
    }

    /**
     * Whether two faces are the two sides of one sheet, folded over their edge by over 178.8°.
     *
     * @param  list<float>  $normals
     */
    private static function backToBack(array $normals, int $a, int $b): bool
    {
        return $normals[3 * $a] * $normals[3 * $b] + $normals[3 * $a + 1] * $normals[3 * $b + 1] + $normals[3 * $a + 2] * $normals[3 * $b + 2] < -0.9998;
    }

    /**
     * @return array{list<float>, list<float>} unit normals and areas
     */
    private static function faces(Mesh $mesh): array
    {
        $p = $mesh->positions;
        $normals = $areas = [];
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            [$x, $y, $z] = FaceNormal::long($p, $mesh->triangles, $t);
            $length = sqrt($x * $x + $y * $y + $z * $z);
            $areas[] = $length / 2;
            $scale = $length > 0.0 ? 1.0 / $length : 0.0;
            $normals[] = $x * $scale;
            $normals[] = $y * $scale;
            $normals[] = $z * $scale;
        }

        return [$normals, $areas];
    }

    /**
     * @return list<float>
     */
    private static function uvAreas(Mesh $mesh): array
    {
        $uv = $mesh->uvs;
        $out = [];
        $count = count($mesh->triangles);
        for ($i = 0; $i < $count; $i += 3) {
            $a = $mesh->triUvs[$i] ?? -1;
            $b = $mesh->triUvs[$i + 1] ?? -1;
            $c = $mesh->triUvs[$i + 2] ?? -1;
            $out[] = $a < 0 || $b < 0 || $c < 0 ? 0.0 : abs(
                ($uv[2 * $b] - $uv[2 * $a]) * ($uv[2 * $c + 1] - $uv[2 * $a + 1]) - ($uv[2 * $c] - $uv[2 * $a]) * ($uv[2 * $b + 1] - $uv[2 * $a + 1])
            ) / 2;
        }

        return $out;
    }

    /**
     * At each welded vertex the mean of all face normals, weighted by corner angle, made unit. Where the mean vanishes (two shells that
     * meet in a point, the two sides of a card) each face keeps its own.
     *
     * @param  list<int>  $welded
     * @param  list<float>  $normals
     * @return array{list<float>, list<int>} directions, and the number of each corner's
     */
    private static function averaged(Mesh $mesh, array $welded, array $normals): array
    {
        $p = $mesh->positions;
        $sum = array_fill(0, count($p), 0.0);
        $angles = array_fill(0, count($p), 0.0);
        $count = count($mesh->triangles);
        for ($i = 0; $i < $count; $i += 3) {
            $nx = $normals[$i];
            $ny = $normals[$i + 1];
            $nz = $normals[$i + 2];
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $welded[$mesh->triangles[$i + $k]];
                $b = 3 * $mesh->triangles[$i + ($k + 1) % 3];
                $c = 3 * $mesh->triangles[$i + ($k + 2) % 3];
                $ux = $p[$b] - $p[$v];
                $uy = $p[$b + 1] - $p[$v + 1];
                $uz = $p[$b + 2] - $p[$v + 2];
                $vx = $p[$c] - $p[$v];
                $vy = $p[$c + 1] - $p[$v + 1];
                $vz = $p[$c + 2] - $p[$v + 2];
                $cross = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);
                $angle = atan2($cross, $ux * $vx + $uy * $vy + $uz * $vz);
                $sum[$v] += $angle * $nx;
                $sum[$v + 1] += $angle * $ny;
                $sum[$v + 2] += $angle * $nz;
                $angles[$v] += $angle;
            }
        }
        $out = $gone = [];
        for ($v = 0, $n = count($p); $v < $n; $v += 3) {
            $length = sqrt($sum[$v] ** 2 + $sum[$v + 1] ** 2 + $sum[$v + 2] ** 2);
            $vanishes = $length <= self::VANISHES * $angles[$v];
            $scale = $vanishes ? 0.0 : 1.0 / $length;
            $out[] = $sum[$v] * $scale;
            $out[] = $sum[$v + 1] * $scale;
            $out[] = $sum[$v + 2] * $scale;
            $gone[] = $vanishes;
        }
        $corners = [];
        $number = intdiv(count($out), 3);
        foreach ($mesh->triangles as $i => $v) {
            $v = $welded[$v];
            if ($gone[$v]) {
                $n = 3 * intdiv($i, 3);
                array_push($out, $normals[$n], $normals[$n + 1], $normals[$n + 2]);
                $v = $number++;
            }
            $corners[] = $v;
        }

        return [$out, $corners];
    }

    /**
     * @param  list<float>  $xyz
     * @return list<float>
     */
    private static function unit(array $xyz): array
    {
        $out = [];
        for ($i = 0, $n = count($xyz); $i < $n; $i += 3) {
            $length = sqrt($xyz[$i] ** 2 + $xyz[$i + 1] ** 2 + $xyz[$i + 2] ** 2);
            $scale = $length > 0.0 ? 1.0 / $length : 0.0;
            $out[] = $xyz[$i] * $scale;
            $out[] = $xyz[$i + 1] * $scale;
            $out[] = $xyz[$i + 2] * $scale;
        }

        return $out;
    }
}
