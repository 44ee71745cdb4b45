<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Geometry\Bytes;
use Anvil\Measures\Measures;
use Anvil\Proof\CornerNormals;
use Anvil\Proof\ProofPage;
use Anvil\Proof\Tangents;

/**
 * The low poly as it is shaded with its maps, for whoever draws it: page by page, of each part on it the places (xyz), normals (xyz), tangents (xyzw) and UVs (v upward, within
 * the page's tile) of its triangles' corners as float32.
 */
final readonly class LitMeshes
{
    /**
     * @param  list<array{name: string, page: string, triangles: int}>  $head
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
        $known = [];
        foreach (ProofPage::of($low->asset) as $page) {
            $byPart = [];
            foreach ($page->partOf as $number => $part) {
                $byPart[$part][] = $number;
            }
            foreach ($byPart as $place => $numbers) {
                $part = $page->parts[$place];
                $mesh = $part->part->mesh;
                $id = spl_object_id($mesh);
                if (! isset($known[$id])) {
                    $normals = CornerNormals::of($mesh);
                    $known[$id] = [$normals, Tangents::of($mesh, $normals)];
                }
                [$normals, $tangents] = $known[$id];
                $places = $facing = $along = $uvs = [];
                foreach ($numbers as $number) {
                    $t = $page->triangles[$number];
                    for ($k = 0; $k < 3; $k++) {
                        $v = 3 * $mesh->triangles[3 * $t + $k];
                        array_push($places, $mesh->positions[$v], $mesh->positions[$v + 1], $mesh->positions[$v + 2]);
                        array_push($facing, ...$normals->corner($t, $k));
                        $i = 4 * (3 * $t + $k);
                        array_push($along, $tangents[$i], $tangents[$i + 1], $tangents[$i + 2], $tangents[$i + 3]);
                        array_push($uvs, $page->uvs[6 * $number + 2 * $k], $page->uvs[6 * $number + 2 * $k + 1]);
                    }
                }
                $head[] = ['name' => $part->part->name, 'page' => $page->name, 'triangles' => count($numbers)];
                $body .= Bytes::packFloats($places).Bytes::packFloats($facing).Bytes::packFloats($along).Bytes::packFloats($uvs);
            }
        }

        return new self($head, $body);
    }
}
