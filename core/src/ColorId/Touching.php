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
                // Each one's vertices against the other's faces: a coarse drum in a fine ring is met by the ring's alone.
                foreach ([[$a, $b], [$b, $a]] as [$from, $to]) {
                    $nearest = new NearestPoint(TriangleTree::of($to->part->mesh->positions, $to->part->mesh->triangles));
                    foreach (array_chunk($from->part->mesh->positions, 3) as [$x, $y, $z]) {
                        if ($nearest->anyWithin($x, $y, $z, $within)) {
                            return true;
                        }
                    }
                }
            }
        }

        return false;
    }
}
