<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Geometry\Bytes;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Surface\LowEdges;
use Anvil\Surface\UvIslands;

/**
 * The low poly with its UVs, for whoever draws it: of each part the places (xyz) and UVs of its triangles' corners as float32, the island of each triangle as `UvSheet`
 * counts them (all ones: none), and its edges: bit 0–2 a seam, 3–5 hard, from the first corner on.
 */
final readonly class UvMeshes
{
    /**
     * @param  list<array{name: string, triangles: int}>  $head  of each part
     */
    private function __construct(public array $head, public string $body)
    {
    }

    /**
     * @param  Measures  $low  with the meshes of low parts
     */
    public static function of(Measures $low): self
    {
        $head = [];
        $body = '';
        $first = 0;
        foreach ($low->asset->judged(Role::Low) as $part) {
            $mesh = $part->part->mesh;
            $islands = UvIslands::of($mesh);
            $edges = LowEdges::of($mesh);
            $places = $uvs = $of = $kinds = [];
            foreach ($mesh->triangles as $half => $v) {
                array_push($places, $mesh->positions[3 * $v], $mesh->positions[3 * $v + 1], $mesh->positions[3 * $v + 2]);
                $uv = $mesh->triUvs[$half] ?? -1;
                array_push($uvs, $uv < 0 ? 0.0 : $mesh->uvs[2 * $uv], $uv < 0 ? 0.0 : $mesh->uvs[2 * $uv + 1]);
            }
            foreach ($islands->of as $t => $i) {
                $of[] = $i < 0 ? 0xFFFFFFFF : $first + $i;
                $kind = 0;
                for ($k = 0; $k < 3; $k++) {
                    $kind |= ($edges->seams[3 * $t + $k] ? 1 << $k : 0) | (($edges->hard[3 * $t + $k] ?? false) ? 8 << $k : 0);
                }
                $kinds[] = $kind;
            }
            $first += $islands->count();
            $head[] = ['name' => $part->part->name, 'triangles' => $mesh->triangleCount()];
            $body .= Bytes::packFloats($places).Bytes::packFloats($uvs).Bytes::packUints($of).Bytes::packUints($kinds);
        }

        return new self($head, $body);
    }
}
