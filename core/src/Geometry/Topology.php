<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Who touches whom in a mesh, on welded vertices.
 */
final class Topology
{
    /**
     * @param  list<int>  $welded  position → welded vertex
     * @param  list<list<int>>  $edges  the half-edges (3·triangle + corner) of each edge, in order of first use
     * @param  list<int>  $halfEdgeEdge  half-edge → edge, −1 where both ends are one vertex
     */
    private function __construct(
        public readonly array $welded,
        public readonly array $edges,
        public readonly array $halfEdgeEdge,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        $welded = Weld::ofMesh($mesh);
        $triangles = $mesh->triangles;
        $count = count($triangles);
        $numbers = [];
        $edges = [];
        $edgeOf = [];
        for ($t = 0; $t < $count; $t += 3) {
            $a = $welded[$triangles[$t]];
            $b = $welded[$triangles[$t + 1]];
            $c = $welded[$triangles[$t + 2]];
            $ends = [$a, $b, $b, $c, $c, $a];
            for ($k = 0; $k < 3; $k++) {
                $from = $ends[2 * $k];
                $to = $ends[2 * $k + 1];
                if ($from === $to) {
                    $edgeOf[] = -1;

                    continue;
                }
                $key = $from < $to ? ($from << 32) | $to : ($to << 32) | $from;
                $edge = $numbers[$key] ?? null;
                if ($edge === null) {
                    $edge = count($edges);
                    $numbers[$key] = $edge;
                    $edges[] = [];
                }
                $edges[$edge][] = $t + $k;
                $edgeOf[] = $edge;
            }
        }

        return new self($welded, array_values($edges), $edgeOf);
    }
}
