<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Topology;

/**
 * UV islands of a part: faces joined over edges that are no seams, on one page (METHODS, "Parts and topology").
 */
final readonly class UvIslands
{
    private const SAME = 1e-6;

    /**
     * @param  list<array{triangles: list<int>, min: array{float, float}, max: array{float, float}}>  $islands  in the order of their first triangle
     */
    private function __construct(public array $islands)
    {
    }

    public static function of(Mesh $mesh): self
    {
        $count = $mesh->triangleCount();
        if ($mesh->triUvs === []) {
            return new self([]);
        }
        $topology = Topology::of($mesh);
        $materials = $mesh->triangleMaterials();
        $root = range(0, max(0, $count - 1));
        foreach ($topology->edges as $halves) {
            for ($i = 1, $n = count($halves); $i < $n; $i++) {
                for ($j = 0; $j < $i; $j++) {
                    $a = intdiv($halves[$i], 3);
                    $b = intdiv($halves[$j], 3);
                    if ($materials[$a] !== $materials[$b] || ! self::joined($mesh, $topology, $halves[$i], $halves[$j])) {
                        continue;
                    }
                    while ($root[$a] !== $a) {
                        $root[$a] = $root[$root[$a]];
                        $a = $root[$a];
                    }
                    while ($root[$b] !== $b) {
                        $root[$b] = $root[$root[$b]];
                        $b = $root[$b];
                    }
                    $root[max($a, $b)] = min($a, $b);
                }
            }
        }
        $islands = [];
        for ($t = 0; $t < $count; $t++) {
            $a = $t;
            while ($root[$a] !== $a) {
                $a = $root[$a];
            }
            $corners = [$mesh->triUvs[3 * $t], $mesh->triUvs[3 * $t + 1], $mesh->triUvs[3 * $t + 2]];
            if (min($corners) < 0) {
                continue;
            }
            $island = $islands[$a] ?? ['triangles' => [], 'min' => [INF, INF], 'max' => [-INF, -INF]];
            $island['triangles'][] = $t;
            foreach ($corners as $uv) {
                [$u, $v] = [$mesh->uvs[2 * $uv], $mesh->uvs[2 * $uv + 1]];
                $island['min'] = [min($island['min'][0], $u), min($island['min'][1], $v)];
                $island['max'] = [max($island['max'][0], $u), max($island['max'][1], $v)];
            }
            $islands[$a] = $island;
        }

        return new self(array_values($islands));
    }

    /**
     * Islands that go over the border of the tile that their middle lies in.
     *
     * @param  Mesh  $mesh  that they are of
     * @return list<array{over: float, at: array{float, float, float}}> how far, in pages, and a vertex of their first triangle
     */
    public function overBorders(Mesh $mesh): array
    {
        $out = [];
        foreach ($this->islands as $island) {
            $over = 0.0;
            for ($k = 0; $k < 2; $k++) {
                $tile = floor(($island['min'][$k] + $island['max'][$k]) / 2);
                $over = max($over, $tile - $island['min'][$k], $island['max'][$k] - $tile - 1);
            }
            if ($over > 0.0) {
                $v = 3 * $mesh->triangles[3 * $island['triangles'][0]];
                $out[] = ['over' => $over, 'at' => [$mesh->positions[$v], $mesh->positions[$v + 1], $mesh->positions[$v + 2]]];
            }
        }

        return $out;
    }

    private static function joined(Mesh $mesh, Topology $topology, int $one, int $two): bool
    {
        [$a, $b] = self::ends($one);
        [$c, $d] = self::ends($two);
        // Neighbours run along their edge in opposite ways; flipped ones the same way.
        if ($topology->welded[$mesh->triangles[$a]] !== $topology->welded[$mesh->triangles[$d]]) {
            [$c, $d] = [$d, $c];
        }

        return self::same($mesh, $a, $d) && self::same($mesh, $b, $c);
    }

    /**
     * @return array{int, int}
     */
    private static function ends(int $half): array
    {
        return [$half, $half % 3 === 2 ? $half - 2 : $half + 1];
    }

    private static function same(Mesh $mesh, int $a, int $b): bool
    {
        $a = $mesh->triUvs[$a];
        $b = $mesh->triUvs[$b];

        return $a >= 0 && $b >= 0 && ($a === $b || (abs($mesh->uvs[2 * $a] - $mesh->uvs[2 * $b]) <= self::SAME
            && abs($mesh->uvs[2 * $a + 1] - $mesh->uvs[2 * $b + 1]) <= self::SAME));
    }
}
