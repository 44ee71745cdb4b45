<?php

declare(strict_types=1);

namespace Anvil\Rays;

/**
 * At which height `t` a point lies on the surface `{p + t·n}` over a low poly.
 *
 * Over one triangle the condition that the point is in the plane of the three moved corners is a cubic in t; a root counts when
 * the point is inside the moved triangle. Of all triangles the root nearest to 0 is taken: the sheet that the point belongs to.
 */
final class HeightSolver
{
    /** A root is one only where the point lies on the moved triangle: squared, as a share of its squared edges. */
    private const OFF = 1e-8;

    /** The triangle of the last height. */
    public int $triangle = -1;

    /** Weights of its second and third corner. */
    public float $v = 0.0;

    public float $w = 0.0;

    private float $rootV = 0.0;

    private float $rootW = 0.0;

    public function __construct(private readonly LowSurface $low, private readonly bool $cageLength)
    {
    }

    /**
     * @param  float  $cap  heights past ±cap are not looked for
     * @param  int  $near  a triangle to look at first; the nearest one ends the search early
     * @return float|null null where no triangle has the point over or under it
     */
    public function height(float $x, float $y, float $z, float $cap, int $near = -1): ?float
    {
        $tree = $this->low->tree();
        $skip = $tree->skip;
        $nodes = count($skip);
        $best = $cap;
        $height = null;
        $seed = $this->triangle;
        $this->triangle = -1;
        foreach ($near < 0 ? [$seed] : [$near, ...$this->low->around($near)] as $first) {
            $t = $first < 0 ? null : $this->overTriangle($first, $x, $y, $z, $best);
            if ($t !== null) {
                $height = $t;
                $best = abs($t);
                $this->keep($first);
            }
        }
        $node = 0;
        while ($node < $nodes) {
            $d = 0.0;
            $e = $tree->minX[$node] - $x;
            $f = $x - $tree->maxX[$node];
            $e = $e > $f ? $e : $f;
            if ($e > 0.0) {
                $d = $e * $e;
            }
            $e = $tree->minY[$node] - $y;
            $f = $y - $tree->maxY[$node];
            $e = $e > $f ? $e : $f;
            if ($e > 0.0) {
                $d += $e * $e;
            }
            $e = $tree->minZ[$node] - $z;
            $f = $z - $tree->maxZ[$node];
            $e = $e > $f ? $e : $f;
            if ($e > 0.0) {
                $d += $e * $e;
            }
            // Directions are at most unit, so a root at height t is met within |t| of its triangle.
            if ($d > $best * $best) {
                $node = $skip[$node];

                continue;
            }
            if ($tree->second[$node] > 0) {
                $node++;

                continue;
            }
            for ($k = $tree->first[$node], $end = $k + $tree->size[$node]; $k < $end; $k++) {
                $triangle = $tree->order[$k];
                $t = $this->overTriangle($triangle, $x, $y, $z, $best);
                if ($t !== null) {
                    $height = $t;
                    $best = abs($t);
                    $this->keep($triangle);
                }
            }
            $node = $skip[$node];
        }
        if ($height === null) {
            $this->triangle = $seed;

            return null;
        }
        if ($this->cageLength) {
            return $height;
        }
        [$nx, $ny, $nz] = $this->direction();

        return $height * sqrt($nx * $nx + $ny * $ny + $nz * $nz);
    }

    /**
     * The interpolated direction, not made unit, at the place of the last height.
     *
     * @return array{float, float, float}
     */
    public function direction(): array
    {
        return $this->low->direction($this->triangle, $this->v, $this->w);
    }

    private function keep(int $triangle): void
    {
        $this->triangle = $triangle;
        $this->v = $this->rootV;
        $this->w = $this->rootW;
    }

    /** The root nearest to 0, of those under `cap`; null for none. */
    private function overTriangle(int $triangle, float $x, float $y, float $z, float $cap): ?float
    {
        $low = $this->low;
        $p = $low->positions;
        $d = $low->directions;
        $i = 3 * $triangle;
        $a = 3 * $low->triangles[$i];
        $b = 3 * $low->triangles[$i + 1];
        $c = 3 * $low->triangles[$i + 2];
        $da = 3 * $low->corners[$i];
        $db = 3 * $low->corners[$i + 1];
        $dc = 3 * $low->corners[$i + 2];
        $ax = $p[$a];
        $ay = $p[$a + 1];
        $az = $p[$a + 2];
        $nx = $d[$da];
        $ny = $d[$da + 1];
        $nz = $d[$da + 2];
        $ux = $p[$b] - $ax;
        $uy = $p[$b + 1] - $ay;
        $uz = $p[$b + 2] - $az;
        $vx = $p[$c] - $ax;
        $vy = $p[$c + 1] - $ay;
        $vz = $p[$c + 2] - $az;
        $sx = $d[$db] - $nx;
        $sy = $d[$db + 1] - $ny;
        $sz = $d[$db + 2] - $nz;
        $tx = $d[$dc] - $nx;
        $ty = $d[$dc + 1] - $ny;
        $tz = $d[$dc + 2] - $nz;
        $wx = $x - $ax;
        $wy = $y - $ay;
        $wz = $z - $az;
        // (u + t·s) × (v + t·t') = C0 + t·C1 + t²·C2, dotted with (w − t·n).
        $c0x = $uy * $vz - $uz * $vy;
        $c0y = $uz * $vx - $ux * $vz;
        $c0z = $ux * $vy - $uy * $vx;
        $c1x = $uy * $tz - $uz * $ty + $sy * $vz - $sz * $vy;
        $c1y = $uz * $tx - $ux * $tz + $sz * $vx - $sx * $vz;
        $c1z = $ux * $ty - $uy * $tx + $sx * $vy - $sy * $vx;
        $c2x = $sy * $tz - $sz * $ty;
        $c2y = $sz * $tx - $sx * $tz;
        $c2z = $sx * $ty - $sy * $tx;
        $k0 = $c0x * $wx + $c0y * $wy + $c0z * $wz;
        $k1 = $c1x * $wx + $c1y * $wy + $c1z * $wz - ($c0x * $nx + $c0y * $ny + $c0z * $nz);
        $k2 = $c2x * $wx + $c2y * $wy + $c2z * $wz - ($c1x * $nx + $c1y * $ny + $c1z * $nz);
        $k3 = -($c2x * $nx + $c2y * $ny + $c2z * $nz);
        $found = null;
        foreach (self::roots($k0, $k1 * $cap, $k2 * $cap * $cap, $k3 * $cap * $cap * $cap) as $root) {
            $t = $root * $cap;
            if (abs($t) > $cap || ($found !== null && abs($t) >= abs($found))) {
                continue;
            }
            $ex = $ux + $t * $sx;
            $ey = $uy + $t * $sy;
            $ez = $uz + $t * $sz;
            $fx = $vx + $t * $tx;
            $fy = $vy + $t * $ty;
            $fz = $vz + $t * $tz;
            $gx = $wx - $t * $nx;
            $gy = $wy - $t * $ny;
            $gz = $wz - $t * $nz;
            $mx = $ey * $fz - $ez * $fy;
            $my = $ez * $fx - $ex * $fz;
            $mz = $ex * $fy - $ey * $fx;
            $m = $mx * $mx + $my * $my + $mz * $mz;
            if ($m <= 0.0) {
                continue;
            }
            $v = (($gy * $fz - $gz * $fy) * $mx + ($gz * $fx - $gx * $fz) * $my + ($gx * $fy - $gy * $fx) * $mz) / $m;
            $w = (($ey * $gz - $ez * $gy) * $mx + ($ez * $gx - $ex * $gz) * $my + ($ex * $gy - $ey * $gx) * $mz) / $m;
            if ($v >= -1e-6 && $w >= -1e-6 && $v + $w <= 1.000001) {
                // Where the moved corners fall onto one line, as those of a thin plate's sides do at half its thickness, every point is in their plane.
                $rx = $gx - $v * $ex - $w * $fx;
                $ry = $gy - $v * $ey - $w * $fy;
                $rz = $gz - $v * $ez - $w * $fz;
                if ($rx * $rx + $ry * $ry + $rz * $rz > self::OFF * ($ux * $ux + $uy * $uy + $uz * $uz + $vx * $vx + $vy * $vy + $vz * $vz)) {
                    continue;
                }
                $found = $t;
                $this->rootV = $v;
                $this->rootW = $w;
            }
        }

        return $found;
    }

    /**
     * Real roots of k0 + k1·x + k2·x² + k3·x³, of which only those in [−1, 1] matter.
     *
     * @return list<float>
     */
    private static function roots(float $k0, float $k1, float $k2, float $k3): array
    {
        $size = max(abs($k0), abs($k1), abs($k2), abs($k3));
        if ($size === 0.0) {
            return [];
        }
        if (abs($k3) < 1e-11 * $size) {
            if (abs($k2) < 1e-11 * $size) {
                return abs($k1) < 1e-14 * $size ? [] : [-$k0 / $k1];
            }
            $disc = $k1 * $k1 - 4 * $k2 * $k0;
            if ($disc < 0.0) {
                return [];
            }
            $q = -0.5 * ($k1 + ($k1 < 0.0 ? -1.0 : 1.0) * sqrt($disc));

            return $q === 0.0 ? [0.0] : [$q / $k2, $k0 / $q];
        }
        $a = $k2 / $k3;
        $b = $k1 / $k3;
        $c = $k0 / $k3;
        $q = ($a * $a - 3 * $b) / 9;
        $r = (2 * $a * $a * $a - 9 * $a * $b + 27 * $c) / 54;
        if ($r * $r < $q * $q * $q) {
            $theta = acos(max(-1.0, min(1.0, $r / sqrt($q * $q * $q)))) / 3;
            $m = -2 * sqrt($q);
            $roots = [$m * cos($theta) - $a / 3, $m * cos($theta + 2.0943951023931953) - $a / 3, $m * cos($theta - 2.0943951023931953) - $a / 3];
        } else {
            $e = ($r < 0.0 ? 1.0 : -1.0) * (abs($r) + sqrt(max(0.0, $r * $r - $q * $q * $q))) ** (1 / 3);
            $roots = [$e + ($e !== 0.0 ? $q / $e : 0.0) - $a / 3];
        }
        foreach ($roots as $i => $x) {
            // Two Newton steps take the rounding of cosines and cube roots out.
            for ($n = 0; $n < 2; $n++) {
                $slope = $k1 + $x * (2 * $k2 + 3 * $k3 * $x);
                if (abs($slope) < 1e-300) {
                    break;
                }
                $x -= ($k0 + $x * ($k1 + $x * ($k2 + $x * $k3))) / $slope;
            }
            $roots[$i] = $x;
        }

        return $roots;
    }
}
