<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Mesh;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\TriangleTree;

/**
 * Labels of the triangles of an ID copy, given to those of the high mesh at the same place: exporters part and order faces by material as they like.
 */
final class LabelsByPlace
{
    /** Of the copy's own size: what is nearest within this is the same place. */
    private const SAME = 1e-3;

    /**
     * @param  list<array{Mesh, list<int>}>  $copies  meshes of the ID copy, and a label for each of their triangles
     * @return list<int> a label for each triangle of the mesh; −1 where no copy lies there
     */
    public static function of(Mesh $mesh, array $copies): array
    {
        foreach ($copies as [$copy, $labels]) {
            if (self::isInOrder($mesh, $copy)) {
                return $labels;
            }
        }
        $positions = $triangles = $all = [];
        foreach ($copies as [$copy, $labels]) {
            $first = intdiv(count($positions), 3);
            array_push($positions, ...$copy->positions);
            foreach ($copy->triangles as $v) {
                $triangles[] = $first + $v;
            }
            array_push($all, ...$labels);
        }
        $count = $mesh->triangleCount();
        if ($triangles === []) {
            return array_fill(0, $count, -1);
        }
        $nearest = new NearestPoint(TriangleTree::of($positions, $triangles));
        $bounds = $mesh->bounds();
        $within = self::SAME * ($bounds?->diagonal() ?? 0.0);
        $out = [];
        for ($t = 0; $t < $count; $t++) {
            $found = $nearest->find(...[...self::middle($mesh, $t), $within]);
            $out[] = $found < 0 ? -1 : $all[$found];
        }

        return $out;
    }

    /** Whether the copy has the same faces in the same order. */
    private static function isInOrder(Mesh $mesh, Mesh $copy): bool
    {
        $count = $mesh->triangleCount();
        if ($copy->triangleCount() !== $count) {
            return false;
        }
        $slack = 1e-5 * ($mesh->bounds()?->diagonal() ?? 0.0);
        for ($t = 0; $t < $count; $t++) {
            [$x, $y, $z] = self::middle($mesh, $t);
            [$u, $v, $w] = self::middle($copy, $t);
            if (abs($x - $u) > $slack || abs($y - $v) > $slack || abs($z - $w) > $slack) {
                return false;
            }
        }

        return true;
    }

    /**
     * @return array{float, float, float}
     */
    private static function middle(Mesh $mesh, int $triangle): array
    {
        $p = $mesh->positions;
        [$a, $b, $c] = [3 * $mesh->triangles[3 * $triangle], 3 * $mesh->triangles[3 * $triangle + 1], 3 * $mesh->triangles[3 * $triangle + 2]];

        return [($p[$a] + $p[$b] + $p[$c]) / 3, ($p[$a + 1] + $p[$b + 1] + $p[$c + 1]) / 3, ($p[$a + 2] + $p[$b + 2] + $p[$c + 2]) / 3];
    }
}
