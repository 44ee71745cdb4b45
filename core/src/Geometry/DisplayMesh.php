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
        // Of a closed surface there are twice as many triangles as vertices, and four times as many cells in a grid twice as fine.
        $left = 2 * self::occupied($mesh, $cells);
        if ($left > $most) {
            $cells = max(4, (int) (0.97 * $cells * sqrt($most / $left)));
        }
        do {
            $out = self::clustered($mesh, $cells);
            $cells = (int) ($cells * 0.8);
        } while (count($out->triangles) > 3 * $most && $cells > 2);

        return $out;
    }

    /**
     * The grid over a mesh.
     *
     * @return array{float, float, float, float}|null its corner and the size of a cell; null without vertices
     */
    private static function grid(Mesh $mesh, int $cells): ?array
    {
        $bounds = $mesh->bounds();

        return $bounds === null ? null : [...$bounds->min, max(1e-30, $bounds->max[0] - $bounds->min[0], $bounds->max[1] - $bounds->min[1], $bounds->max[2] - $bounds->min[2]) / $cells];
    }

    /** Cells of a grid that hold a vertex. */
    private static function occupied(Mesh $mesh, int $cells): int
    {
        [$x, $y, $z, $size] = self::grid($mesh, $cells) ?? [0.0, 0.0, 0.0, 1.0];
        // One number after the other, not bits side by side: numbers that share their low bits all lie in one place of a hash table.
        $row = $cells + 1;
        $seen = [];
        $p = $mesh->positions;
        for ($i = 0, $n = count($p); $i < $n; $i += 3) {
            $seen[((int) (($p[$i] - $x) / $size) * $row + (int) (($p[$i + 1] - $y) / $size)) * $row + (int) (($p[$i + 2] - $z) / $size)] = true;
        }

        return count($seen);
    }

    private static function clustered(Mesh $mesh, int $cells): self
    {
        $grid = self::grid($mesh, $cells);
        if ($grid === null) {
            return new self([], [], []);
        }
        [$x, $y, $z, $size] = $grid;
        $row = $cells + 1;
        $number = $map = $positions = [];
        $p = $mesh->positions;
        $next = 0;
        for ($i = 0, $n = count($p); $i < $n; $i += 3) {
            $key = ((int) (($p[$i] - $x) / $size) * $row + (int) (($p[$i + 1] - $y) / $size)) * $row + (int) (($p[$i + 2] - $z) / $size);
            $at = $number[$key] ?? -1;
            if ($at < 0) {
                $at = $next++;
                $number[$key] = $at;
                $positions[] = $p[$i];
                $positions[] = $p[$i + 1];
                $positions[] = $p[$i + 2];
            }
            $map[] = $at;
        }
        $triangles = $runs = [];
        $tri = $mesh->triangles;
        $all = $mesh->materialRuns;
        $material = -1;
        $wears = -2;
        $run = 0;
        $until = 3 * ($all[0][0] ?? PHP_INT_MAX >> 2);
        for ($i = 0, $n = count($tri); $i < $n; $i += 3) {
            while ($i >= $until) {
                $material = $all[$run++][1];
                $until = 3 * ($all[$run][0] ?? PHP_INT_MAX >> 2);
            }
            $a = $map[$tri[$i]];
            $b = $map[$tri[$i + 1]];
            $c = $map[$tri[$i + 2]];
            if ($a === $b || $b === $c || $c === $a) {
                continue;
            }
            if ($material !== $wears) {
                $runs[] = [intdiv(count($triangles), 3), $material];
                $wears = $material;
            }
            $triangles[] = $a;
            $triangles[] = $b;
            $triangles[] = $c;
        }

        return new self($positions, $triangles, $runs);
    }
}
