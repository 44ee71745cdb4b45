<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\HighShells;
use Anvil\Rays\HighSurface;
use Anvil\Rays\LowSurface;
use Anvil\Rays\Spread;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;

/**
 * The rims of high shells that float over a surface: how far they turn from it, how high they stand over it.
 */
final readonly class Rims
{
    /** A surface further under a rim than this, as a share of d, is not the one that it floats over. */
    private const BENEATH = 0.1;

    /** Places on a closed shell that are looked at for how far it goes down. */
    private const PLACES = 1200;

    private const RIM_DEGREES = 15.0;

    private const RIM_PIXELS = 4.0;

    /** So much of the outer loop may turn or stand away before it is told. */
    private const RIM_SHARE = 0.1;

    private function __construct(private LowSurface $low, private HighSurface $high, private HighShells $shells, private float $d, private float $density)
    {
    }

    /**
     * @param  array<int, int>  $candidates  shells with a surface beneath
     * @param  float  $density  texels to a unit of length; 0 without UVs
     * @return array<int, array{float, float|null, float|null, array{float, float, float}}> share of the loop, mean degrees, mean height, where
     */
    public static function of(array $candidates, LowSurface $low, HighSurface $high, HighShells $shells, float $d, float $density): array
    {
        return (new self($low, $high, $shells, $d, $density))->held($candidates);
    }

    /**
     * The outer loops of shells that float over a surface, held against it.
     *
     * @param  array<int, int>  $candidates  shells with a surface beneath
     * @return array<int, array{float, float|null, float|null, array{float, float, float}}> share of the loop, mean degrees, mean height, where
     */
    private function held(array $candidates): array
    {
        $cast = new SegmentCast($this->high->tree());
        $nearest = new NearestPoint($this->low->tree());
        $triangles = $this->trianglesOf($candidates);
        $p = $this->high->positions;
        $out = [];
        foreach ($this->outlines($triangles, $nearest) as $shell => [$loop, $isClosed]) {
            $foot = $isClosed ? $this->foot($triangles[$shell]) : null;
            $all = $bad = $stands = $turned = $turnedBy = $high = $highBy = 0.0;
            $at = null;
            foreach ($loop as [$a, $b, $triangle]) {
                $x = ($p[3 * $a] + $p[3 * $b]) / 2;
                $y = ($p[3 * $a + 1] + $p[3 * $b + 1]) / 2;
                $z = ($p[3 * $a + 2] + $p[3 * $b + 2]) / 2;
                $length = sqrt(($p[3 * $a] - $p[3 * $b]) ** 2 + ($p[3 * $a + 1] - $p[3 * $b + 1]) ** 2 + ($p[3 * $a + 2] - $p[3 * $b + 2]) ** 2);
                $direction = $this->directionAt($nearest, $x, $y, $z);
                if ($direction === null) {
                    continue;
                }
                $all += $length;
                [$gap, $under] = $this->beneath($cast, $shell, $x, $y, $z, $direction, $foot) ?? [0.0, -1];
                if ($under < 0) {
                    $stands += $length;

                    continue;
                }
                [$ax, $ay, $az] = $this->high->normal($triangle);
                [$bx, $by, $bz] = $this->high->normal($under);
                $degrees = rad2deg(acos(max(-1.0, min(1.0, $ax * $bx + $ay * $by + $az * $bz))));
                $isTurned = $degrees > self::RIM_DEGREES;
                $isHigh = $this->density > 0.0 && $gap * $this->density > self::RIM_PIXELS;
                if ($isTurned) {
                    $turned += $length;
                    $turnedBy += $length * $degrees;
                }
                if ($isHigh) {
                    $high += $length;
                    $highBy += $length * $gap;
                }
                if ($isTurned || $isHigh) {
                    $bad += $length;
                    $at ??= [$x, $y, $z];
                }
            }
            // What goes into the surface along most of its rim stands in it; near an edge of the low poly, where rays lean, the rest cannot tell.
            if ($at !== null && $bad > self::RIM_SHARE * $all && $bad > $stands) {
                $out[$shell] = [$bad / $all, $turned > 0.0 ? $turnedBy / $turned : null, $high > 0.0 ? $highBy / $high : null, $at];
            }
        }

        return $out;
    }

    /**
     * How far a rim stands over the surface of another shell under it, and that surface's triangle; null where there is none, or where the
     * shell goes into that surface.
     *
     * @param  array{float, float, float}  $n  unit
     * @param  Foot|null  $foot  of a closed shell: how far it goes on beneath the rim counts then
     * @return array{float, int}|null
     */
    private function beneath(SegmentCast $cast, int $shell, float $x, float $y, float $z, array $n, ?Foot $foot): ?array
    {
        [$nx, $ny, $nz] = $n;
        $slack = 1e-6 * $this->d;
        // A rim that another surface covers goes into it.
        $cast->all($x, $y, $z, $nx, $ny, $nz, $slack, self::BENEATH * $this->d, 1);
        foreach ($cast->triangle as $triangle) {
            if ($this->shells->of[$triangle] !== $shell) {
                return null;
            }
        }
        $best = null;
        $cast->all($x, $y, $z, $nx, $ny, $nz, -self::BENEATH * $this->d, $slack, 1);
        foreach ($cast->t as $k => $t) {
            if ($this->shells->of[$cast->triangle[$k]] !== $shell && ($best === null || -$t < $best[0])) {
                $best = [-$t, $cast->triangle[$k]];
            }
        }
        if ($foot === null || $best === null) {
            return $best;
        }
        // Upright over the surface beneath: along a ray that leans, places beside the rim would seem to lie deeper.
        $normal = $this->high->normal($best[1]);
        $height = $best[0] * abs($nx * $normal[0] + $ny * $normal[1] + $nz * $normal[2]);
        $under = $foot->under($x, $y, $z, $normal);

        return $under >= $height - $slack ? null : [$height - $under, $best[1]];
    }

    /**
     * @param  array<int, int>  $shells
     * @return array<int, list<int>> shell → its triangles
     */
    private function trianglesOf(array $shells): array
    {
        $out = [];
        foreach ($shells === [] ? [] : $this->shells->of as $t => $shell) {
            if (isset($shells[$shell])) {
                $out[$shell][] = $t;
            }
        }

        return $out;
    }

    /**
     * Of open shells the outer one of their loops, by length; of closed ones the edges between faces that rays meet and faces that they do
     * not.
     *
     * @param  array<int, list<int>>  $shells  their triangles
     * @return array<int, array{list<array{int, int, int}>, bool}> shell → from, to, triangle; whether it is closed
     */
    private function outlines(array $shells, NearestPoint $nearest): array
    {
        $tri = $this->high->triangles;
        $welded = $shells === [] ? [] : $this->high->welded();
        $out = [];
        foreach ($shells as $shell => $triangles) {
            $edges = $meets = [];
            foreach ($triangles as $t) {
                [$x, $y, $z] = $this->high->centre($t);
                [$mx, $my, $mz] = $this->high->normal($t);
                $n = $this->directionAt($nearest, $x, $y, $z) ?? [$mx, $my, $mz];
                $meets[$t] = $mx * $n[0] + $my * $n[1] + $mz * $n[2] > 1e-6;
                for ($k = 0; $k < 3; $k++) {
                    $a = $welded[$tri[3 * $t + $k]];
                    $b = $welded[$tri[3 * $t + ($k + 1) % 3]];
                    $key = $a < $b ? $a << 32 | $b : $b << 32 | $a;
                    $edges[$key][] = [$a, $b, $t];
                }
            }
            $next = $between = [];
            foreach ($edges as $sides) {
                if (count($sides) === 1) {
                    $next[$sides[0][0]][] = $sides[0];
                } elseif (count($sides) === 2 && $meets[$sides[0][2]] !== $meets[$sides[1][2]]) {
                    $between[] = $meets[$sides[0][2]] ? $sides[0] : $sides[1];
                }
            }
            $loop = $this->longest($next);
            if ($loop !== [] || $between !== []) {
                $out[$shell] = $loop !== [] ? [$loop, false] : [$between, true];
            }
        }

        return $out;
    }

    /**
     * Some hundred places along the edges of a shell.
     *
     * @param  list<int>  $triangles
     */
    private function foot(array $triangles): Foot
    {
        $out = [];
        $p = $this->high->positions;
        foreach ($triangles as $t) {
            for ($k = 0; $k < 3; $k++) {
                $a = 3 * $this->high->triangles[3 * $t + $k];
                $b = 3 * $this->high->triangles[3 * $t + ($k + 1) % 3];
                foreach ([0.0, 0.25, 0.5, 0.75] as $f) {
                    $out[] = [$p[$a] + $f * ($p[$b] - $p[$a]), $p[$a + 1] + $f * ($p[$b + 1] - $p[$a + 1]), $p[$a + 2] + $f * ($p[$b + 2] - $p[$a + 2])];
                }
            }
        }

        return new Foot(Spread::of($out, self::PLACES));
    }

    /**
     * @param  array<int, list<array{int, int, int}>>  $next  border edges of a shell by where they begin
     * @return list<array{int, int, int}> its loop of greatest length; none where it has no border
     */
    private function longest(array $next): array
    {
        $p = $this->high->positions;
        $best = [];
        $length = 0.0;
        foreach (array_keys($next) as $from) {
            while (($edge = array_pop($next[$from])) !== null) {
                $loop = [$edge];
                $sum = 0.0;
                $at = $edge;
                do {
                    [$a, $b] = $at;
                    $sum += sqrt(($p[3 * $a] - $p[3 * $b]) ** 2 + ($p[3 * $a + 1] - $p[3 * $b + 1]) ** 2 + ($p[3 * $a + 2] - $p[3 * $b + 2]) ** 2);
                    $at = isset($next[$b]) ? array_pop($next[$b]) : null;
                    if ($at !== null) {
                        $loop[] = $at;
                    }
                } while ($at !== null);
                if ($sum > $length) {
                    $length = $sum;
                    $best = $loop;
                }
            }
        }

        return $best;
    }

    /**
     * The unit direction of rays at the low place nearest to a point; null where none is near.
     *
     * @return array{float, float, float}|null
     */
    private function directionAt(NearestPoint $nearest, float $x, float $y, float $z): ?array
    {
        $face = $nearest->find($x, $y, $z, 0.5 * $this->d);
        if ($face < 0) {
            return null;
        }
        [$nx, $ny, $nz] = $this->low->direction($face, $nearest->v, $nearest->w);
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);

        return $length > 0.0 ? [$nx / $length, $ny / $length, $nz / $length] : null;
    }
}
