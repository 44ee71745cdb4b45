<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;
use Anvil\Rays\Spread;

/**
 * How far the height of a round high poly over its low one swings along a rim, between corner and middle of an edge (METHODS, "Rim wave").
 */
final class RimWaves
{
    /** Edges that turn by more than this are a rim's. */
    private const RIM = 60.0;

    /** From one edge of a rim to the next it turns by this much where it is round: five sides or more. */
    private const ROUND = [2.0, 75.0];

    /** How far beside the rim the high poly is looked at, in shares of the face: beyond its rounding. */
    private const BESIDE = [0.05, 0.15, 0.3, 0.5];

    /** What the height at a quarter is of that in the middle: 0.75 on a circle, 0 on a flat side with rounded corners. */
    private const BOWED = [0.5, 0.95];

    /** What swings by more times what a circle would is another shape. */
    private const MOST = 1.5;

    /**
     * @return list<array{swing: float, pixels: float, sides: float, radius: float, count: int, where: list<array{float, float, float}>}> a low part: the greatest
     *                                                                                                                            swing in px and in units of length, sides of a whole round there, its radius, edges
     */
    public static function of(Relief $relief): array
    {
        $out = [];
        foreach ($relief->lowMeshes as $part => $mesh) {
            $worst = ['swing' => 0.0, 'pixels' => 0.0, 'sides' => 0.0, 'radius' => 0.0, 'count' => 0, 'where' => []];
            $edges = LowEdges::of($mesh);
            foreach (self::rims($mesh, $edges) as [$half, $turn]) {
                foreach ([$half, $edges->twins[$half]] as $side) {
                    $density = $relief->density($relief->low->parts[$part] + intdiv($side, 3));
                    $swing = self::swing($relief, $mesh, $edges, $side, $turn);
                    $pixels = $swing * $density;
                    if ($pixels <= 0.0) {
                        continue;
                    }
                    $worst['count']++;
                    $worst['where'][] = EdgeFaults::middle($mesh, $half)[0];
                    if ($pixels > $worst['pixels']) {
                        $worst = [...$worst, 'swing' => $swing, 'pixels' => $pixels, 'sides' => 360.0 / $turn, 'radius' => $swing / (1.0 - cos(deg2rad($turn / 2)))];
                    }
                }
            }
            $worst['where'] = Spread::of($worst['where'], 200);
            $out[] = $worst;
        }

        return $out;
    }

    /**
     * Edges of rims that go round: each with the mean of its turns to the next ones.
     *
     * @return list<array{int, float}> half-edge, degrees
     */
    private static function rims(Mesh $mesh, LowEdges $edges): array
    {
        $welded = Weld::ofMesh($mesh);
        $at = $rims = [];
        foreach ($edges->twins as $half => $twin) {
            if ($twin < 0 || ($twin > $half && $edges->twins[$twin] === $half) || ($edges->turn($half) ?? 0.0) <= self::RIM || ! self::isConvex($mesh, $edges, $half)) {
                continue;
            }
            $a = $welded[$mesh->triangles[$half]];
            $b = $welded[$mesh->triangles[LowEdges::after($half)]];
            $rims[] = [$half, $a, $b];
            $at[$a][] = $b;
            $at[$b][] = $a;
        }
        $out = [];
        foreach ($rims as [$half, $a, $b]) {
            $turns = [];
            foreach ([[$a, $b], [$b, $a]] as [$from, $to]) {
                // A corner of a box, where three sharp edges meet, is no part of a round.
                $next = count($at[$to]) === 2 ? $at[$to][$at[$to][0] === $from ? 1 : 0] : -1;
                $turn = $next < 0 ? 0.0 : self::turn($mesh->positions, $from, $to, $next);
                if ($turn >= self::ROUND[0] && $turn <= self::ROUND[1]) {
                    $turns[] = $turn;
                }
            }
            if (count($turns) === 2) {
                $out[] = [$half, array_sum($turns) / 2];
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $p
     */
    private static function turn(array $p, int $a, int $b, int $c): float
    {
        $dot = $one = $two = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $u = $p[3 * $b + $k] - $p[3 * $a + $k];
            $v = $p[3 * $c + $k] - $p[3 * $b + $k];
            $dot += $u * $v;
            $one += $u * $u;
            $two += $v * $v;
        }

        return $one > 0.0 && $two > 0.0 ? rad2deg(acos(max(-1.0, min(1.0, $dot / sqrt($one * $two))))) : 0.0;
    }

    /** Whether the face beyond an edge falls away: in a groove there is no rim to see. */
    private static function isConvex(Mesh $mesh, LowEdges $edges, int $half): bool
    {
        $n = 3 * intdiv($half, 3);
        $a = 3 * $mesh->triangles[$half];
        $c = 3 * $mesh->triangles[LowEdges::after(LowEdges::after($edges->twins[$half]))];
        $p = $mesh->positions;

        return ($p[$c] - $p[$a]) * $edges->normals[$n] + ($p[$c + 1] - $p[$a + 1]) * $edges->normals[$n + 1] + ($p[$c + 2] - $p[$a + 2]) * $edges->normals[$n + 2] < 0.0;
    }

    /**
     * The swing along the edge of a face, measured on that face; 0 where the high poly is not round there.
     *
     * @param  float  $turn  degrees from one edge of the rim to the next
     */
    private static function swing(Relief $relief, Mesh $mesh, LowEdges $edges, int $half, float $turn): float
    {
        $t = intdiv($half, 3);
        $p = $mesh->positions;
        $n = [$edges->normals[3 * $t], $edges->normals[3 * $t + 1], $edges->normals[3 * $t + 2]];
        $a = 3 * $mesh->triangles[$half];
        $b = 3 * $mesh->triangles[LowEdges::after($half)];
        $c = 3 * $mesh->triangles[LowEdges::after(LowEdges::after($half))];
        $along = [$p[$b] - $p[$a], $p[$b + 1] - $p[$a + 1], $p[$b + 2] - $p[$a + 2]];
        $length = sqrt($along[0] ** 2 + $along[1] ** 2 + $along[2] ** 2);
        // Into the face, at right angles to its edge, as far as its third corner lies.
        $in = [$n[1] * $along[2] - $n[2] * $along[1], $n[2] * $along[0] - $n[0] * $along[2], $n[0] * $along[1] - $n[1] * $along[0]];
        if ($length <= 0.0) {
            return 0.0;
        }
        $in = [$in[0] / $length, $in[1] / $length, $in[2] / $length];
        $deep = ($p[$c] - $p[$a]) * $in[0] + ($p[$c + 1] - $p[$a + 1]) * $in[1] + ($p[$c + 2] - $p[$a + 2]) * $in[2];
        $within = max($relief->reach->out, $relief->reach->in) + $length / 2;
        // A circle through the corners bows out by this much.
        $bow = $length / 2 * tan(deg2rad($turn / 4));
        foreach (self::BESIDE as $share) {
            $heights = [];
            foreach ([0.0, 0.25, 0.5, 0.75, 1.0] as $s) {
                // A hair within the edge's ends, so that the corner's own line is met.
                $r = 0.001 + 0.998 * $s;
                $d = $share * $deep;
                $at = [$p[$a] + $r * $along[0] + $d * $in[0], $p[$a + 1] + $r * $along[1] + $d * $in[1], $p[$a + 2] + $r * $along[2] + $d * $in[2]];
                $height = $relief->height($at, $n, $within);
                if ($height === null) {
                    continue 2;
                }
                $heights[] = $height;
            }
            $ends = ($heights[0] + $heights[4]) / 2;
            $swing = abs($heights[2] - $ends);
            $quarter = abs(($heights[1] + $heights[3]) / 2 - $ends);

            return $swing < self::MOST * $bow && abs($heights[0] - $heights[4]) < 0.3 * $swing && $quarter > self::BOWED[0] * $swing && $quarter < self::BOWED[1] * $swing ? $swing : 0.0;
        }

        return 0.0;
    }
}
