<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;

/**
 * The UV triangles of all low parts that lie in one tile of one page, moved to the tile's own corner and wound counter-clockwise: lists side by side.
 */
final class PageTile
{
    /** @var list<int> the part of each, among those given */
    public array $part = [];

    /** @var list<int> its number in the part */
    public array $triangle = [];

    /** @var list<int> its island, counted over all parts */
    public array $island = [];

    /** @var list<float> six a triangle: u and v of its corners */
    public array $uv = [];

    /** @var list<int> half-edges on the border of an island: 4·(position in these lists) + corner, in the order of the file */
    public array $border = [];

    /** @var list<bool> whether it is wound clockwise in the file */
    public array $mirrored = [];

    /**
     * @param  list<Mesh>  $meshes  of all parts
     */
    public function __construct(public readonly string $page, public readonly int $tileU, public readonly int $tileV, private readonly array $meshes)
    {
    }

    /**
     * Where on the model a place of a triangle's edge lies.
     *
     * @param  int  $edge  of the triangle as it is wound here, 0–2
     * @param  float  $at  along it, 0–1
     * @return array{float, float, float}
     */
    public function place(int $number, int $edge, float $at): array
    {
        $mesh = $this->meshes[$this->part[$number]];
        $order = $this->mirrored[$number] ? [0, 2, 1] : [0, 1, 2];
        $a = 3 * $mesh->triangles[3 * $this->triangle[$number] + $order[$edge]];
        $b = 3 * $mesh->triangles[3 * $this->triangle[$number] + $order[($edge + 1) % 3]];
        $p = $mesh->positions;

        return [$p[$a] + $at * ($p[$b] - $p[$a]), $p[$a + 1] + $at * ($p[$b + 1] - $p[$a + 1]), $p[$a + 2] + $at * ($p[$b + 2] - $p[$a + 2])];
    }

    /** How far the model goes on a triangle for a length in UV, by its areas. */
    public function lengthOf(int $number): float
    {
        $mesh = $this->meshes[$this->part[$number]];
        $t = $this->triangle[$number];
        $uv = abs(UvIslands::of($mesh)->uvAreas[$t]);

        return $uv > 0.0 ? sqrt(LowEdges::of($mesh)->areas[$t] / $uv) : 0.0;
    }

    /**
     * @param  list<Mesh>  $meshes
     * @param  list<Islands>  $islands  of each
     * @param  list<array<int, true>|true>  $exempt  islands of each that may lie on others; true: all
     * @return list<self> in the order of pages and tiles as they are met
     */
    public static function of(array $meshes, array $islands, array $exempt): array
    {
        $tiles = [];
        $base = 0;
        foreach ($meshes as $part => $mesh) {
            $of = UvIslands::of($mesh);
            $edges = $of->count() === 0 ? null : LowEdges::of($mesh);
            $facts = $islands[$part];
            $mine = [];
            for ($i = 0; $i < $of->count(); $i++) {
                if ($exempt[$part] === true || isset($exempt[$part][$i])) {
                    $mine[] = null;

                    continue;
                }
                [$u, $v] = $facts->tile($i);
                $mine[] = $tiles["{$facts->page[$i]} $u $v"] ??= new self($facts->page[$i], $u, $v, $meshes);
            }
            foreach ($of->of as $t => $i) {
                $tile = $i < 0 ? null : $mine[$i];
                $area = $of->uvAreas[$t];
                if ($tile === null || $area === 0.0 || $edges === null) {
                    continue;
                }
                $number = count($tile->part);
                $tile->part[] = $part;
                $tile->triangle[] = $t;
                $tile->island[] = $base + $i;
                $tile->mirrored[] = $area < 0.0;
                foreach ($area < 0.0 ? [0, 2, 1] : [0, 1, 2] as $k) {
                    $at = 2 * $mesh->triUvs[3 * $t + $k];
                    $tile->uv[] = $mesh->uvs[$at] - $tile->tileU;
                    $tile->uv[] = $mesh->uvs[$at + 1] - $tile->tileV;
                }
                for ($k = 0; $k < 3; $k++) {
                    $half = 3 * $t + $k;
                    if ($edges->seams[$half] || $of->uvAreas[intdiv($edges->twins[$half], 3)] === 0.0) {
                        // The corners of a mirrored triangle run the other way round: its edge k goes from 2−k there.
                        $tile->border[] = 4 * $number + ($area < 0.0 ? 2 - $k : $k);
                    }
                }
            }
            $base += $of->count();
        }

        return array_values($tiles);
    }

    public function count(): int
    {
        return count($this->part);
    }
}
