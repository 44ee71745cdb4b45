<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Topology;
use Anvil\Spatial\TriangleTree;

/**
 * All low parts of a set as one surface, with the directions that rays leave it in (METHODS, "Direction").
 */
final class LowSurface
{
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
     * @param  list<int>  $shells  a triangle's shell: the number of the first triangle that hangs together with it
     * @param  list<bool>  $borders  half-edge → whether no other triangle is beyond it
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
        $positions = $triangles = $directions = $corners = $normals = $areas = $uvAreas = $neighbours = $borders = $borderVertices = $parts = [];
        foreach ($meshes as $mesh) {
            $basePosition = intdiv(count($positions), 3);
            $baseTriangle = intdiv(count($triangles), 3);
            $baseDirection = intdiv(count($directions), 3);
            $parts[] = $baseTriangle;
            $topology = Topology::of($mesh);
            [$n, $a] = self::faces($mesh);
            array_push($normals, ...$n);
            array_push($areas, ...$a);
            array_push($uvAreas, ...self::uvAreas($mesh));
            if ($smooth || ! $mesh->hasNormals()) {
                array_push($directions, ...self::averaged($mesh, $topology->welded, $n));
                foreach ($mesh->triangles as $v) {
                    $corners[] = $baseDirection + $topology->welded[$v];
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
                    $border = $edge >= 0 && count($topology->edges[$edge]) === 1;
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

        return new self($positions, $triangles, $directions, $corners, $normals, $areas, $uvAreas, $neighbours, self::shells($neighbours), $borders, $borderVertices, $parts);
    }

    public function triangleCount(): int
    {
        return count($this->areas);
    }

    public function tree(): TriangleTree
    {
        return $this->tree ??= TriangleTree::of($this->positions, $this->triangles);
    }

    /**
     * @param  list<list<int>>  $neighbours
     * @return list<int>
     */
    private static function shells(array $neighbours): array
    {
        $shell = array_fill(0, count($neighbours), -1);
        foreach ($neighbours as $t => $_) {
            if ($shell[$t] >= 0) {
                continue;
            }
            $shell[$t] = $t;
            $queue = [$t];
            for ($head = 0; $head < count($queue); $head++) {
                $around = $neighbours[$queue[$head]];
                for ($i = 0, $n = count($around); $i < $n; $i += 2) {
                    if ($shell[$around[$i]] < 0) {
                        $shell[$around[$i]] = $t;
                        $queue[] = $around[$i];
                    }
                }
            }
        }

        return array_values($shell);
    }

    /**
     * @return array{list<float>, list<float>} unit normals and areas
     */
    private static function faces(Mesh $mesh): array
    {
        $p = $mesh->positions;
        $normals = $areas = [];
        foreach (array_chunk($mesh->triangles, 3) as [$a, $b, $c]) {
            $a *= 3;
            $b *= 3;
            $c *= 3;
            $ux = $p[$b] - $p[$a];
            $uy = $p[$b + 1] - $p[$a + 1];
            $uz = $p[$b + 2] - $p[$a + 2];
            $vx = $p[$c] - $p[$a];
            $vy = $p[$c + 1] - $p[$a + 1];
            $vz = $p[$c + 2] - $p[$a + 2];
            $x = $uy * $vz - $uz * $vy;
            $y = $uz * $vx - $ux * $vz;
            $z = $ux * $vy - $uy * $vx;
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
     * At each welded vertex the mean of all face normals, weighted by corner angle, made unit.
     *
     * @param  list<int>  $welded
     * @param  list<float>  $normals
     * @return list<float>
     */
    private static function averaged(Mesh $mesh, array $welded, array $normals): array
    {
        $p = $mesh->positions;
        $sum = array_fill(0, count($p), 0.0);
        $fallback = $sum;
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
                $fallback[$v] = $nx;
                $fallback[$v + 1] = $ny;
                $fallback[$v + 2] = $nz;
            }
        }
        $out = [];
        for ($v = 0, $n = count($p); $v < $n; $v += 3) {
            $length = sqrt($sum[$v] ** 2 + $sum[$v + 1] ** 2 + $sum[$v + 2] ** 2);
            // Faces back to back cancel out: such a vertex takes one of them.
            $from = $length > 1e-9 ? $sum : $fallback;
            $length = $length > 1e-9 ? $length : 1.0;
            $out[] = $from[$v] / $length;
            $out[] = $from[$v + 1] / $length;
            $out[] = $from[$v + 2] / $length;
        }

        return $out;
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
