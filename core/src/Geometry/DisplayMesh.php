<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * A light copy of a mesh for the screen: positions and triangles, thinned by joining the vertices of a grid cell where there are
 * more triangles than asked for (J. Rossignac, P. Borrel, "Multi-resolution 3D approximations for rendering complex scenes", 1993).
 */
final readonly class DisplayMesh
{
    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @param  list<array{int, int}>  $materialRuns  [first triangle, material number or −1]
     */
    private function __construct(public array $positions, public array $triangles, public array $materialRuns)
    {
    }

    public static function of(Mesh $mesh, int $most): self
    {
        if ($mesh->triangleCount() <= $most) {
            return new self($mesh->positions, $mesh->triangles, $mesh->materialRuns);
        }
        $cells = max(4, (int) sqrt($most / 3));
        do {
            $out = self::clustered($mesh, $cells);
            $cells = (int) ($cells * 0.8);
        } while (count($out->triangles) > 3 * $most && $cells > 2);

        return $out;
    }

    private static function clustered(Mesh $mesh, int $cells): self
    {
        $bounds = $mesh->bounds();
        if ($bounds === null) {
            return new self([], [], []);
        }
        $size = max(1e-30, $bounds->max[0] - $bounds->min[0], $bounds->max[1] - $bounds->min[1], $bounds->max[2] - $bounds->min[2]) / $cells;
        $number = $map = $positions = [];
        $p = $mesh->positions;
        for ($i = 0, $n = count($p); $i < $n; $i += 3) {
            $key = (int) (($p[$i] - $bounds->min[0]) / $size) << 42 | (int) (($p[$i + 1] - $bounds->min[1]) / $size) << 21 | (int) (($p[$i + 2] - $bounds->min[2]) / $size);
            if (! isset($number[$key])) {
                $number[$key] = count($number);
                $positions[] = $p[$i];
                $positions[] = $p[$i + 1];
                $positions[] = $p[$i + 2];
            }
            $map[] = $number[$key];
        }
        $triangles = $runs = [];
        $worn = $mesh->triangleMaterials();
        $wears = -2;
        foreach ($worn as $t => $material) {
            $a = $map[$mesh->triangles[3 * $t]];
            $b = $map[$mesh->triangles[3 * $t + 1]];
            $c = $map[$mesh->triangles[3 * $t + 2]];
            if ($a === $b || $b === $c || $c === $a) {
                continue;
            }
            if ($material !== $wears) {
                $runs[] = [intdiv(count($triangles), 3), $material];
                $wears = $material;
            }
            array_push($triangles, $a, $b, $c);
        }

        return new self($positions, $triangles, $runs);
    }
}
