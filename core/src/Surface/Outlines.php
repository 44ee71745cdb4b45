<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\SegmentCast;

/**
 * The greatest distance between the outlines of a set's low and high poly, seen from 26 fixed directions (METHODS, "Silhouette loss"): of a point on the outline of
 * either, to what the other one covers. Opposite directions see one outline.
 *
 * The outline of a mesh lies on its contour: edges between faces that look to the eye and faces that look away, and borders. Of a high poly of over `EXACT`
 * triangles some 16,000 of its vertices stand for its outline, and what it covers is asked with rays.
 */
final class Outlines
{
    private const DIRECTIONS = [[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 1, 0], [1, -1, 0], [1, 0, 1], [1, 0, -1], [0, 1, 1], [0, 1, -1], [1, 1, 1], [1, 1, -1], [1, -1, 1], [1, -1, -1]];

    /** Triangles up to which a mesh's own contour is followed. */
    private const EXACT = 40_000;

    private const VERTICES = 16_384;

    /** An edge of a contour is looked at in a place for each of so many parts of the set's size. */
    private const STEPS = 60;

    /** @var list<float> u v of the corners of all triangles of the mesh that covers, six a triangle; of vertices, two each */
    private array $covers = [];

    /** @var list<float> u v of both ends of its contour, four a segment */
    private array $contour = [];

    /** @var array<int, list<int>> cell → triangles */
    private array $cells = [];

    private float $lowU = 0.0;

    private float $lowV = 0.0;

    private float $scale = 1.0;

    /** Cells a side at most: of few large triangles a coarse grid holds each in few cells. */
    private const GRID = 96;

    private int $grid = self::GRID;

    /**
     * @param  array<int, true>  $cards  numbers of low parts that are cards: their mask hides what reaches past their high poly
     * @param  int  $exact  triangles up to which the contour of a high poly itself is followed
     * @return array{loss: float, at: array{float, float, float}|null, outside: bool} in file units; where; whether the high poly reaches past the low one there
     */
    public static function of(SetSurfaces $surfaces, array $cards = [], int $exact = self::EXACT): array
    {
        $low = $surfaces->lowMeshes();
        $high = $surfaces->highMeshes();
        $isDense = array_sum(array_map(static fn (Mesh $mesh): int => $mesh->triangleCount(), $high)) > $exact;
        $cast = new SegmentCast($surfaces->high()->tree());
        $step = max(1e-30, ($surfaces->lowBounds()?->diagonal() ?? 0.0) / self::STEPS);
        $far = 2 * (($surfaces->lowBounds()?->diagonal() ?? 0.0) + ($surfaces->highBounds()?->diagonal() ?? 0.0));
        $loss = 0.0;
        $at = null;
        $outside = true;
        foreach (self::DIRECTIONS as $direction) {
            [$right, $up, $eye] = self::frame($direction);
            $ofLow = array_map(static fn (Mesh $mesh): array => self::contour($mesh, $eye), $low);
            $ofHigh = $isDense ? [] : array_map(static fn (Mesh $mesh): array => self::contour($mesh, $eye), $high);
            foreach ([[$high, $low, true], [$low, $high, false]] as [$these, $those, $isHigh]) {
                $self = new self;
                if ($isHigh) {
                    $self->cover($those, $right, $up);
                    $self->follow($those, $ofLow, $right, $up);
                } elseif ($isDense) {
                    $self->sow(self::vertices($high), $right, $up);
                } else {
                    $self->follow($those, $ofHigh, $right, $up);
                }
                foreach ($isHigh && $isDense ? self::vertices($high) : self::points($these, $isHigh ? $ofHigh : array_diff_key($ofLow, $cards), $step) as $point) {
                    $u = $point[0] * $right[0] + $point[1] * $right[1] + $point[2] * $right[2];
                    $v = $point[0] * $up[0] + $point[1] * $up[1] + $point[2] * $up[2];
                    if ($isHigh && $self->isCovered($u, $v)) {
                        continue;
                    }
                    // What cannot be further than what was found is not asked about.
                    $off = ! $isHigh && $isDense ? $self->toVertex($u, $v) : $self->distance($u, $v, $loss);
                    if ($off <= $loss || (! $isHigh && $cast->any($point[0], $point[1], $point[2], $eye[0], $eye[1], $eye[2], -$far, $far))) {
                        continue;
                    }
                    [$loss, $at, $outside] = [$off, $point, $isHigh];
                }
            }
        }

        return ['loss' => $loss, 'at' => $at, 'outside' => $outside];
    }

    /**
     * @param  array{int, int, int}  $direction
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function frame(array $direction): array
    {
        $l = sqrt($direction[0] ** 2 + $direction[1] ** 2 + $direction[2] ** 2);
        $eye = [$direction[0] / $l, $direction[1] / $l, $direction[2] / $l];
        $helper = abs($eye[0]) < 0.6 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0];
        $right = [$eye[1] * $helper[2] - $eye[2] * $helper[1], $eye[2] * $helper[0] - $eye[0] * $helper[2], $eye[0] * $helper[1] - $eye[1] * $helper[0]];
        $l = sqrt($right[0] ** 2 + $right[1] ** 2 + $right[2] ** 2);
        $right = [$right[0] / $l, $right[1] / $l, $right[2] / $l];

        return [$right, [$eye[1] * $right[2] - $eye[2] * $right[1], $eye[2] * $right[0] - $eye[0] * $right[2], $eye[0] * $right[1] - $eye[1] * $right[0]], $eye];
    }

    /**
     * Edges of the contour of a mesh.
     *
     * @param  array{float, float, float}  $eye
     * @return list<int> half-edges
     */
    private static function contour(Mesh $mesh, array $eye): array
    {
        $edges = LowEdges::of($mesh);
        $n = $edges->normals;
        $looks = [];
        foreach ($edges->areas as $t => $area) {
            $dot = $n[3 * $t] * $eye[0] + $n[3 * $t + 1] * $eye[1] + $n[3 * $t + 2] * $eye[2];
            $looks[] = $area > 0.0 ? ($dot > 1e-9 ? 1 : ($dot < -1e-9 ? -1 : 0)) : 0;
        }
        $out = [];
        foreach ($edges->twins as $half => $twin) {
            // A face seen from its edge hides nothing; its edges lie on the outline of those beside it.
            if ($twin < 0 || ($looks[intdiv($half, 3)] !== $looks[intdiv($twin, 3)] && ($twin < $half || $edges->twins[$twin] !== $half))) {
                $out[] = $half;
            }
        }

        return $out;
    }

    /**
     * @param  list<Mesh>  $meshes
     * @param  array<int, list<int>>  $contours  half-edges of each that is asked about
     * @return list<array{float, float, float}> on the contour
     */
    private static function points(array $meshes, array $contours, float $step): array
    {
        $out = [];
        foreach ($contours as $number => $halves) {
            $mesh = $meshes[$number];
            $p = $mesh->positions;
            foreach ($halves as $half) {
                $a = 3 * $mesh->triangles[$half];
                $b = 3 * $mesh->triangles[LowEdges::after($half)];
                $steps = max(1, (int) ceil(sqrt(($p[$b] - $p[$a]) ** 2 + ($p[$b + 1] - $p[$a + 1]) ** 2 + ($p[$b + 2] - $p[$a + 2]) ** 2) / $step));
                // The far end is the near one of the next edge.
                for ($k = 0; $k < $steps; $k++) {
                    $s = $k / $steps;
                    $out[] = [$p[$a] + $s * ($p[$b] - $p[$a]), $p[$a + 1] + $s * ($p[$b + 1] - $p[$a + 1]), $p[$a + 2] + $s * ($p[$b + 2] - $p[$a + 2])];
                }
            }
        }

        return $out;
    }

    /**
     * @param  list<Mesh>  $meshes
     * @return list<array{float, float, float}> some vertices, evenly over all
     */
    private static function vertices(array $meshes): array
    {
        $all = array_sum(array_map(static fn (Mesh $mesh): int => $mesh->vertexCount(), $meshes));
        $step = max(1, intdiv($all, self::VERTICES));
        $out = [];
        foreach ($meshes as $mesh) {
            $p = $mesh->positions;
            for ($v = 0, $count = 3 * $mesh->vertexCount(); $v < $count; $v += 3 * $step) {
                $out[] = [$p[$v], $p[$v + 1], $p[$v + 2]];
            }
        }

        return $out;
    }

    /**
     * Puts vertices into the grid.
     *
     * @param  list<array{float, float, float}>  $vertices
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     */
    private function sow(array $vertices, array $right, array $up): void
    {
        foreach ($vertices as $p) {
            $this->covers[] = $p[0] * $right[0] + $p[1] * $right[1] + $p[2] * $right[2];
            $this->covers[] = $p[0] * $up[0] + $p[1] * $up[1] + $p[2] * $up[2];
        }
        $this->measure();
        for ($i = 0, $n = count($this->covers); $i < $n; $i += 2) {
            $this->cells[(int) (($this->covers[$i + 1] - $this->lowV) * $this->scale) * $this->grid + (int) (($this->covers[$i] - $this->lowU) * $this->scale)][] = $i;
        }
    }

    /** To the nearest vertex in the grid. */
    private function toVertex(float $u, float $v): float
    {
        $x = max(0, min($this->grid - 1, (int) floor(($u - $this->lowU) * $this->scale)));
        $y = max(0, min($this->grid - 1, (int) floor(($v - $this->lowV) * $this->scale)));
        $best = INF;
        for ($ring = 0; $ring < $this->grid; $ring++) {
            // A point beside the grid is nearest to a cell of its border.
            if ($best < INF && ($ring - 1) / $this->scale > $best) {
                break;
            }
            for ($j = max(0, $y - $ring); $j <= min($this->grid - 1, $y + $ring); $j++) {
                $isSide = abs($j - $y) === $ring;
                for ($i = $x - $ring; $i <= $x + $ring; $i += $isSide || $ring === 0 ? 1 : 2 * $ring) {
                    foreach ($i < 0 || $i >= $this->grid ? [] : $this->cells[$j * $this->grid + $i] ?? [] as $k) {
                        $best = min($best, hypot($this->covers[$k] - $u, $this->covers[$k + 1] - $v));
                    }
                }
            }
        }

        return $best === INF ? 0.0 : $best;
    }

    private function measure(): void
    {
        $highU = $highV = -INF;
        $this->lowU = $this->lowV = INF;
        for ($i = 0, $n = count($this->covers); $i < $n; $i += 2) {
            $this->lowU = min($this->lowU, $this->covers[$i]);
            $this->lowV = min($this->lowV, $this->covers[$i + 1]);
            $highU = max($highU, $this->covers[$i]);
            $highV = max($highV, $this->covers[$i + 1]);
        }
        $this->scale = $this->grid / max(1e-30, $highU - $this->lowU, $highV - $this->lowV) * (1 - 1e-9);
    }

    /**
     * Takes the contour of meshes.
     *
     * @param  list<Mesh>  $meshes
     * @param  list<list<int>>  $contours  half-edges of each
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     */
    private function follow(array $meshes, array $contours, array $right, array $up): void
    {
        foreach ($meshes as $number => $mesh) {
            $p = $mesh->positions;
            foreach ($contours[$number] as $half) {
                foreach ([$half, LowEdges::after($half)] as $corner) {
                    $v = 3 * $mesh->triangles[$corner];
                    $this->contour[] = $p[$v] * $right[0] + $p[$v + 1] * $right[1] + $p[$v + 2] * $right[2];
                    $this->contour[] = $p[$v] * $up[0] + $p[$v + 1] * $up[1] + $p[$v + 2] * $up[2];
                }
            }
        }
    }

    /**
     * Makes the shadow of meshes.
     *
     * @param  list<Mesh>  $meshes
     * @param  array{float, float, float}  $right
     * @param  array{float, float, float}  $up
     */
    private function cover(array $meshes, array $right, array $up): void
    {
        foreach ($meshes as $mesh) {
            $p = $mesh->positions;
            $u = $v = [];
            for ($i = 0, $n = count($p); $i < $n; $i += 3) {
                $u[] = $p[$i] * $right[0] + $p[$i + 1] * $right[1] + $p[$i + 2] * $right[2];
                $v[] = $p[$i] * $up[0] + $p[$i + 1] * $up[1] + $p[$i + 2] * $up[2];
            }
            foreach ($mesh->triangles as $at) {
                $this->covers[] = $u[$at];
                $this->covers[] = $v[$at];
            }
        }
        $this->grid = (int) max(4, min(self::GRID, sqrt(count($this->covers) / 6)));
        $this->measure();
        $c = $this->covers;
        for ($t = 0, $n = count($c); $t < $n; $t += 6) {
            $toU = (int) ((max($c[$t], $c[$t + 2], $c[$t + 4]) - $this->lowU) * $this->scale);
            $toV = (int) ((max($c[$t + 1], $c[$t + 3], $c[$t + 5]) - $this->lowV) * $this->scale);
            $fromU = (int) ((min($c[$t], $c[$t + 2], $c[$t + 4]) - $this->lowU) * $this->scale);
            for ($y = (int) ((min($c[$t + 1], $c[$t + 3], $c[$t + 5]) - $this->lowV) * $this->scale); $y <= $toV; $y++) {
                for ($x = $fromU; $x <= $toU; $x++) {
                    $this->cells[$y * $this->grid + $x][] = $t;
                }
            }
        }
    }

    private function isCovered(float $u, float $v): bool
    {
        $x = ($u - $this->lowU) * $this->scale;
        $y = ($v - $this->lowV) * $this->scale;
        if ($x < 0.0 || $y < 0.0 || $x >= $this->grid || $y >= $this->grid) {
            return false;
        }
        $c = $this->covers;
        foreach ($this->cells[(int) $y * $this->grid + (int) $x] ?? [] as $t) {
            $one = ($c[$t + 2] - $c[$t]) * ($v - $c[$t + 1]) - ($c[$t + 3] - $c[$t + 1]) * ($u - $c[$t]);
            $two = ($c[$t + 4] - $c[$t + 2]) * ($v - $c[$t + 3]) - ($c[$t + 5] - $c[$t + 3]) * ($u - $c[$t + 2]);
            $three = ($c[$t] - $c[$t + 4]) * ($v - $c[$t + 5]) - ($c[$t + 1] - $c[$t + 5]) * ($u - $c[$t + 4]);
            if (($one >= 0.0 && $two >= 0.0 && $three >= 0.0) || ($one <= 0.0 && $two <= 0.0 && $three <= 0.0)) {
                return true;
            }
        }

        return false;
    }

    private int $last = 0;

    /** From a point outside to the contour; 0 as soon as it is known to be no more than `least`. */
    private function distance(float $u, float $v, float $least): float
    {
        $c = $this->contour;
        $best = INF;
        $enough = $least * $least;
        $count = count($c);
        if ($count === 0) {
            return 0.0;
        }
        // Where the point before it came near, this one often does.
        for ($i = 0; $i < $count; $i += 4) {
            $k = ($this->last + $i) % $count;
            $eu = $c[$k + 2] - $c[$k];
            $ev = $c[$k + 3] - $c[$k + 1];
            $pu = $u - $c[$k];
            $pv = $v - $c[$k + 1];
            $square = $eu * $eu + $ev * $ev;
            $s = $square > 0.0 ? ($pu * $eu + $pv * $ev) / $square : 0.0;
            $s = $s < 0.0 ? 0.0 : ($s > 1.0 ? 1.0 : $s);
            $d = ($pu - $s * $eu) ** 2 + ($pv - $s * $ev) ** 2;
            if ($d < $best) {
                $best = $d;
                if ($d <= $enough) {
                    $this->last = $k;

                    return 0.0;
                }
            }
        }

        return sqrt($best);
    }
}
