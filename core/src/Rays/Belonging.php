<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Spatial\NearestPoint;

/**
 * Whether what a ray meets belongs to the place that it was met from (METHODS, "Belongs").
 *
 * (a) No other place of the low poly that the hit could be the surface of, one that faces within 60° of it, is much closer to it. (b) The hit is a rounding between the place's own face and a face
 * reached over the low poly nearby. For (b) three things are asked beyond METHODS: the low place nearest to the hit lies on the
 * faces so reached, the way there turns along the arc, and it is convex for a hit inside and concave for one outside. Without them
 * a parallel slat passes as a rounding of the flat it faces, and the far rim of a cup as a rounding of its inner wall.
 */
final class Belonging
{
    private readonly NearestPoint $nearest;

    private readonly float $slack;

    private readonly float $cos10;

    private readonly float $cos20;

    private readonly float $sin20;

    /** Over this many faces no way is followed: a rounding spans a few. */
    private const FARTHEST_WALK = 256;

    public function __construct(private readonly LowSurface $low, float $d)
    {
        $this->nearest = new NearestPoint($low->tree());
        $this->slack = 1e-4 * $d;
        $this->cos10 = cos(deg2rad(10));
        $this->cos20 = cos(deg2rad(20));
        $this->sin20 = sin(deg2rad(20));
    }

    /**
     * @param  int  $triangle  of the place
     * @param  float  $mx  unit normal of the hit
     * @param  bool  $faces  whether the hit faces the ray; a back face is no rounding
     */
    public function holds(int $triangle, float $px, float $py, float $pz, float $hx, float $hy, float $hz, float $mx, float $my, float $mz, bool $faces = true): bool
    {
        $n = $this->low->normals;
        $i = 3 * $triangle;
        $dx = $hx - $px;
        $dy = $hy - $py;
        $dz = $hz - $pz;
        $height = abs($dx * $n[$i] + $dy * $n[$i + 1] + $dz * $n[$i + 2]);
        // Only low faces that the hit could be the surface of count: those within 60° of its normal. Where there are none, it belongs.
        if ($height <= $this->slack || ! $this->nearest->anyFacingWithin($hx, $hy, $hz, ($height - $this->slack) / 2, $n, $mx, $my, $mz)) {
            return true;
        }

        return $faces && $this->isRounding($triangle, $px, $py, $pz, $hx, $hy, $hz, $mx, $my, $mz);
    }

    /**
     * Whether a hit turns along the arc between the place's own face and one reached nearby, whichever of the two it is met from: a
     * rounding in the sense of (b), where it is no detail either.
     *
     * @param  float  $more  how much further than (b) says ways may go: places beside a sample may lie past the border of its face
     */
    public function turnsToNeighbour(int $triangle, float $px, float $py, float $pz, float $hx, float $hy, float $hz, float $mx, float $my, float $mz, float $more): bool
    {
        $n = $this->low->normals;
        [$fx, $fy, $fz] = [$n[3 * $triangle], $n[3 * $triangle + 1], $n[3 * $triangle + 2]];
        if ($mx * $fx + $my * $fy + $mz * $fz >= $this->cos10) {
            return false;
        }
        $farthest = 3 * sqrt(($hx - $px) ** 2 + ($hy - $py) ** 2 + ($hz - $pz) ** 2) + $more;
        $reached = [];
        foreach (array_keys($this->walk($triangle, $px, $py, $pz, $farthest, 0.0, 0.0, 0.0)) as $face) {
            [$gx, $gy, $gz] = [$n[3 * $face], $n[3 * $face + 1], $n[3 * $face + 2]];
            $turn = $fx * $gx + $fy * $gy + $fz * $gz;
            if ($turn >= 0.99999 || $turn <= -0.99999 || $gx * $gx + $gy * $gy + $gz * $gz < 0.5) {
                continue;
            }
            if ($this->nearArc($fx, $fy, $fz, $gx, $gy, $gz, $mx, $my, $mz)) {
                return true;
            }
            // At a corner of three faces it may lie anywhere between them.
            foreach ($reached as [$ex, $ey, $ez]) {
                if (self::isBetween([$fx, $fy, $fz], [$gx, $gy, $gz], [$ex, $ey, $ez], [$mx, $my, $mz])) {
                    return true;
                }
            }
            if (count($reached) < 12) {
                $reached[] = [$gx, $gy, $gz];
            }
        }

        return false;
    }

    /**
     * Whether a direction is a sum of three others, none of them taken away.
     *
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @param  array{float, float, float}  $c
     * @param  array{float, float, float}  $m
     */
    private static function isBetween(array $a, array $b, array $c, array $m): bool
    {
        $all = self::determinant($a, $b, $c);
        if (abs($all) < 1e-6) {
            return false;
        }

        return self::determinant($m, $b, $c) / $all >= -1e-6 && self::determinant($a, $m, $c) / $all >= -1e-6 && self::determinant($a, $b, $m) / $all >= -1e-6;
    }

    /**
     * @param  array{float, float, float}  $u
     * @param  array{float, float, float}  $v
     * @param  array{float, float, float}  $w
     */
    private static function determinant(array $u, array $v, array $w): float
    {
        return $u[0] * ($v[1] * $w[2] - $v[2] * $w[1]) - $u[1] * ($v[0] * $w[2] - $v[2] * $w[0]) + $u[2] * ($v[0] * $w[1] - $v[1] * $w[0]);
    }

    private function isRounding(int $triangle, float $px, float $py, float $pz, float $hx, float $hy, float $hz, float $mx, float $my, float $mz): bool
    {
        $n = $this->low->normals;
        // Facing as f does, the hit can round off only an edge of the face itself: its nearest face is one of those around it.
        $isParallel = $mx * $n[3 * $triangle] + $my * $n[3 * $triangle + 1] + $mz * $n[3 * $triangle + 2] >= $this->cos10;
        $around = $isParallel ? $this->low->around($triangle) : [];
        if ($isParallel && $this->nearest->lastIsNearerThan($around, $hx, $hy, $hz)) {
            return false;
        }
        $near = $this->nearest->find($hx, $hy, $hz);
        if ($near < 0 || $this->low->shells[$near] !== $this->low->shells[$triangle]) {
            return false;
        }
        $fx = $n[3 * $triangle];
        $fy = $n[3 * $triangle + 1];
        $fz = $n[3 * $triangle + 2];
        $side = ($hx - $px) * $fx + ($hy - $py) * $fy + ($hz - $pz) * $fz >= 0.0 ? 1.0 : -1.0;
        // The cheap questions first: most of what does not belong is a far wall.
        if ($near !== $triangle && ! $this->turnsTo($side, $near, $px, $py, $pz)) {
            return false;
        }
        if ($side * (($this->nearest->x - $px) * $fx + ($this->nearest->y - $py) * $fy + ($this->nearest->z - $pz) * $fz) < -$this->slack) {
            return false;
        }
        // The plane of the arc, from f towards m.
        $cx = $fy * $mz - $fz * $my;
        $cy = $fz * $mx - $fx * $mz;
        $cz = $fx * $my - $fy * $mx;
        $length = sqrt($cx * $cx + $cy * $cy + $cz * $cz);
        if ($isParallel) {
            if (! in_array($near, $around, true)) {
                return false;
            }
            $length = 0.0;
        }
        $scale = $length > 0.0 ? 1.0 / $length : 0.0;
        $farthest = 3 * sqrt(($hx - $px) ** 2 + ($hy - $py) ** 2 + ($hz - $pz) ** 2);
        $before = $this->walk($triangle, $px, $py, $pz, $farthest, $cx * $scale, $cy * $scale, $cz * $scale);
        if (! isset($before[$near])) {
            return false;
        }
        foreach ($before as $face => $_) {
            $gx = $n[3 * $face];
            $gy = $n[3 * $face + 1];
            $gz = $n[3 * $face + 2];
            $turn = $fx * $gx + $fy * $gy + $fz * $gz;
            // Faces in one plane, or back to back, span no arc.
            if ($turn > 0.99999 || $turn < -0.99999) {
                continue;
            }
            if ($turn < $this->cos20 && $mx * $gx + $my * $gy + $mz * $gz >= $this->cos10) {
                continue;
            }
            if (! $this->turnsTo($side, $face, $px, $py, $pz)) {
                continue;
            }
            if ($this->nearArc($fx, $fy, $fz, $gx, $gy, $gz, $mx, $my, $mz) && $this->wayLiesOnArc($before, $near, $side, $px, $py, $pz, $fx, $fy, $fz, $gx, $gy, $gz)) {
                return true;
            }
        }

        return false;
    }

    /**
     * Whether the faces on the way to the low place nearest to the hit all turn along the arc.
     *
     * @param  array<int, int>  $before
     */
    private function wayLiesOnArc(array $before, int $near, float $side, float $px, float $py, float $pz, float $fx, float $fy, float $fz, float $gx, float $gy, float $gz): bool
    {
        $n = $this->low->normals;
        for ($face = $near; $before[$face] >= 0; $face = $before[$face]) {
            if (! $this->turnsTo($side, $face, $px, $py, $pz) || ! $this->nearArc($fx, $fy, $fz, $gx, $gy, $gz, $n[3 * $face], $n[3 * $face + 1], $n[3 * $face + 2])) {
                return false;
            }
        }

        return true;
    }

    /** A convex edge is rounded off inside (−1), a concave one filled outside (1): the place has to lie on the right side of the far face. */
    private function turnsTo(float $side, int $face, float $px, float $py, float $pz): bool
    {
        $v = 3 * $this->low->triangles[3 * $face];
        $p = $this->low->positions;
        $n = $this->low->normals;

        return $side * (($p[$v] - $px) * $n[3 * $face] + ($p[$v + 1] - $py) * $n[3 * $face + 1] + ($p[$v + 2] - $pz) * $n[3 * $face + 2]) <= $this->slack;
    }

    /** Whether m lies within 10° of the great arc from f to g. */
    private function nearArc(float $fx, float $fy, float $fz, float $gx, float $gy, float $gz, float $mx, float $my, float $mz): bool
    {
        if ($mx * $fx + $my * $fy + $mz * $fz >= $this->cos10 || $mx * $gx + $my * $gy + $mz * $gz >= $this->cos10) {
            return true;
        }
        $cx = $fy * $gz - $fz * $gy;
        $cy = $fz * $gx - $fx * $gz;
        $cz = $fx * $gy - $fy * $gx;
        $length = max(1e-30, sqrt($cx * $cx + $cy * $cy + $cz * $cz));
        $off = ($mx * $cx + $my * $cy + $mz * $cz) / $length;
        if (abs($off) > sin(deg2rad(10))) {
            return false;
        }
        // m's foot on the arc's plane has to be between f and g.
        $qx = $mx - $off * $cx / $length;
        $qy = $my - $off * $cy / $length;
        $qz = $mz - $off * $cz / $length;

        return ($fy * $qz - $fz * $qy) * $cx + ($fz * $qx - $fx * $qz) * $cy + ($fx * $qy - $fy * $qx) * $cz >= 0.0
            && ($qy * $gz - $qz * $gy) * $cx + ($qz * $gx - $qx * $gz) * $cy + ($qx * $gy - $qy * $gx) * $cz >= 0.0;
    }

    /**
     * Faces reached from a place by ways over the low poly no longer than `farthest`; ways go from edge to edge at their nearest
     * places, over faces whose normals lie within 20° of the plane across (cx, cy, cz), where that is not 0.
     *
     * @return array<int, int> face → the face before it, −1 for the first
     */
    private function walk(int $triangle, float $px, float $py, float $pz, float $farthest, float $cx, float $cy, float $cz): array
    {
        $normals = $this->low->normals;
        $best = [$triangle => 0.0];
        $before = [$triangle => -1];
        $queue = [[$triangle, $px, $py, $pz, 0.0]];
        for ($head = 0; $head < count($queue) && count($best) < self::FARTHEST_WALK; $head++) {
            [$face, $x, $y, $z, $way] = $queue[$head];
            if ($way > $best[$face]) {
                continue;
            }
            $around = $this->low->neighbours[$face];
            for ($i = 0, $n = count($around); $i < $n; $i += 2) {
                $other = $around[$i];
                $off = $normals[3 * $other] * $cx + $normals[3 * $other + 1] * $cy + $normals[3 * $other + 2] * $cz;
                if ($off > $this->sin20 || $off < -$this->sin20) {
                    continue;
                }
                [$ex, $ey, $ez] = $this->onEdge(3 * $face + $around[$i + 1], 3 * $face + ($around[$i + 1] + 1) % 3, $x, $y, $z);
                $length = $way + sqrt(($ex - $x) ** 2 + ($ey - $y) ** 2 + ($ez - $z) ** 2);
                if ($length <= $farthest && $length < ($best[$other] ?? INF)) {
                    $best[$other] = $length;
                    $before[$other] = $face;
                    $queue[] = [$other, $ex, $ey, $ez, $length];
                }
            }
        }

        return $before;
    }

    /**
     * The place nearest to (x, y, z) on an edge between two corners.
     *
     * @return array{float, float, float}
     */
    private function onEdge(int $from, int $to, float $x, float $y, float $z): array
    {
        $p = $this->low->positions;
        $a = 3 * $this->low->triangles[$from];
        $b = 3 * $this->low->triangles[$to];
        $ux = $p[$b] - $p[$a];
        $uy = $p[$b + 1] - $p[$a + 1];
        $uz = $p[$b + 2] - $p[$a + 2];
        $length = $ux * $ux + $uy * $uy + $uz * $uz;
        $s = $length > 0.0 ? (($x - $p[$a]) * $ux + ($y - $p[$a + 1]) * $uy + ($z - $p[$a + 2]) * $uz) / $length : 0.0;
        $s = max(0.0, min(1.0, $s));

        return [$p[$a] + $s * $ux, $p[$a + 1] + $s * $uy, $p[$a + 2] + $s * $uz];
    }
}
