<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
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
                if (self::reaches($a->part->mesh, $b->part->mesh, $boxB->grown($within), $within) || self::reaches($b->part->mesh, $a->part->mesh, $boxA->grown($within), $within)) {
                    return true;
                }
            }
        }

        return false;
    }

    /** Whether a vertex of one mesh lies within a distance of another's faces; most lie outside its box, and no tree is built for them. */
    private static function reaches(Mesh $from, Mesh $to, Bounds $box, float $within): bool
    {
        $nearest = null;
        foreach (array_chunk($from->positions, 3) as [$x, $y, $z]) {
            if ($x < $box->min[0] || $y < $box->min[1] || $z < $box->min[2] || $x > $box->max[0] || $y > $box->max[1] || $z > $box->max[2]) {
                continue;
            }
            $nearest ??= new NearestPoint(TriangleTree::of($to->positions, $to->triangles));
            if ($nearest->anyWithin($x, $y, $z, $within)) {
                return true;
            }
        }

        return false;
    }
}
