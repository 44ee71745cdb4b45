<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Pairing\RoledPart;
use Anvil\Surface\LowEdges;

/**
 * Whether a place lies near a hard edge of a high poly: where two bakers may well come out apart.
 */
final class HardEdges
{
    /** Facets that turn less come out alike, however a baker takes their edges. */
    private const TURN = 5.0;

    /**
     * @param  array<string, list<array{float, float, float, float, float, float}>>  $cells  edges by the cells of a grid that they pass
     */
    private function __construct(private readonly array $cells, private readonly float $within)
    {
    }

    /**
     * @param  list<RoledPart>  $parts
     */
    public static function of(array $parts, float $within): self
    {
        $cells = [];
        if ($within <= 0.0) {
            return new self([], 0.0);
        }
        foreach ($parts as $part) {
            $mesh = $part->part->mesh;
            $edges = LowEdges::of($mesh);
            $p = $mesh->positions;
            foreach ($edges->twins as $half => $twin) {
                if ($twin < $half || ! ($edges->hard[$half] ?? false) || $edges->turn($half) <= self::TURN) {
                    continue;
                }
                $a = 3 * $mesh->triangles[$half];
                $b = 3 * $mesh->triangles[LowEdges::after($half)];
                $edge = [$p[$a], $p[$a + 1], $p[$a + 2], $p[$b], $p[$b + 1], $p[$b + 2]];
                $length = sqrt(($edge[3] - $edge[0]) ** 2 + ($edge[4] - $edge[1]) ** 2 + ($edge[5] - $edge[2]) ** 2);
                $steps = (int) ceil($length / $within) + 1;
                $before = null;
                for ($s = 0; $s <= $steps; $s++) {
                    $at = $s / $steps;
                    $key = self::key($edge[0] + $at * ($edge[3] - $edge[0]), $edge[1] + $at * ($edge[4] - $edge[1]), $edge[2] + $at * ($edge[5] - $edge[2]), $within);
                    if ($key !== $before) {
                        $cells[$key][] = $edge;
                        $before = $key;
                    }
                }
            }
        }

        return new self($cells, $within);
    }

    public function isNear(float $x, float $y, float $z): bool
    {
        if ($this->cells === []) {
            return false;
        }
        $cell = 2 * $this->within;
        [$i, $j, $k] = [(int) floor($x / $cell), (int) floor($y / $cell), (int) floor($z / $cell)];
        for ($dx = -1; $dx <= 1; $dx++) {
            for ($dy = -1; $dy <= 1; $dy++) {
                for ($dz = -1; $dz <= 1; $dz++) {
                    foreach ($this->cells[($i + $dx).' '.($j + $dy).' '.($k + $dz)] ?? [] as [$ax, $ay, $az, $bx, $by, $bz]) {
                        [$ux, $uy, $uz] = [$bx - $ax, $by - $ay, $bz - $az];
                        $length = $ux * $ux + $uy * $uy + $uz * $uz;
                        $s = $length > 0.0 ? max(0.0, min(1.0, (($x - $ax) * $ux + ($y - $ay) * $uy + ($z - $az) * $uz) / $length)) : 0.0;
                        if (($x - $ax - $s * $ux) ** 2 + ($y - $ay - $s * $uy) ** 2 + ($z - $az - $s * $uz) ** 2 <= $this->within ** 2) {
                            return true;
                        }
                    }
                }
            }
        }

        return false;
    }

    private static function key(float $x, float $y, float $z, float $within): string
    {
        $cell = 2 * $within;

        return ((int) floor($x / $cell)).' '.((int) floor($y / $cell)).' '.((int) floor($z / $cell));
    }
}
