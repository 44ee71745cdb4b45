<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\TriangleTree;

/**
 * Whether two IDs meet: on one part, or on parts whose surfaces come within a distance of each other.
 */
final class Touching
{
    public static function of(IdColor $one, IdColor $two, float $within): bool
    {
        foreach ($one->parts as $a) {
            foreach ($two->parts as $b) {
                if ($a === $b) {
                    return true;
                }
                $boxA = $a->part->bounds();
                $boxB = $b->part->bounds();
                if ($boxA === null || $boxB === null || ! $boxA->grown($within)->meets($boxB)) {
                    continue;
                }
                [$fewer, $more] = $a->part->mesh->vertexCount() <= $b->part->mesh->vertexCount() ? [$a, $b] : [$b, $a];
                $nearest = new NearestPoint(TriangleTree::of($more->part->mesh->positions, $more->part->mesh->triangles));
                foreach (array_chunk($fewer->part->mesh->positions, 3) as [$x, $y, $z]) {
                    if ($nearest->anyWithin($x, $y, $z, $within)) {
                        return true;
                    }
                }
            }
        }

        return false;
    }
}
