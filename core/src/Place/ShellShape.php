<?php

declare(strict_types=1);

namespace Anvil\Place;

/**
 * Which way round a shell is, by its shape alone.
 */
final readonly class ShellShape
{
    /**
     * @param  bool  $isClosed  every edge has two faces
     * @param  float  $outwards  −1–1: how much of its faces look away from the shell's middle, less how much look to it
     * @param  float  $volume  signed, about the shell's middle
     */
    private function __construct(public bool $isClosed, public float $outwards, public float $volume)
    {
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $corners  three positions a triangle
     * @param  list<int>  $welded  for each position the first one at the same place
     * @param  list<int>  $triangles  of the shell
     */
    public static function of(array $positions, array $corners, array $welded, array $triangles): self
    {
        $edges = [];
        $x = $y = $z = $area = 0.0;
        $faces = [];
        foreach ($triangles as $t) {
            $v = [$corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]];
            for ($k = 0; $k < 3; $k++) {
                $a = $welded[$v[$k]];
                $b = $welded[$v[($k + 1) % 3]];
                $key = $a < $b ? $a << 32 | $b : $b << 32 | $a;
                $edges[$key] = ($edges[$key] ?? 0) + 1;
            }
            [$a, $b, $c] = [3 * $v[0], 3 * $v[1], 3 * $v[2]];
            $u = [$positions[$b] - $positions[$a], $positions[$b + 1] - $positions[$a + 1], $positions[$b + 2] - $positions[$a + 2]];
            $w = [$positions[$c] - $positions[$a], $positions[$c + 1] - $positions[$a + 1], $positions[$c + 2] - $positions[$a + 2]];
            $n = [($u[1] * $w[2] - $u[2] * $w[1]) / 2, ($u[2] * $w[0] - $u[0] * $w[2]) / 2, ($u[0] * $w[1] - $u[1] * $w[0]) / 2];
            $size = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
            $at = [($positions[$a] + $positions[$b] + $positions[$c]) / 3, ($positions[$a + 1] + $positions[$b + 1] + $positions[$c + 1]) / 3, ($positions[$a + 2] + $positions[$b + 2] + $positions[$c + 2]) / 3];
            $faces[] = [$n, $at, $size];
            $area += $size;
            $x += $size * $at[0];
            $y += $size * $at[1];
            $z += $size * $at[2];
        }
        $signed = $all = 0.0;
        if ($area > 0.0) {
            foreach ($faces as [$n, $at, $size]) {
                [$dx, $dy, $dz] = [$at[0] - $x / $area, $at[1] - $y / $area, $at[2] - $z / $area];
                $signed += $n[0] * $dx + $n[1] * $dy + $n[2] * $dz;
                $all += $size * sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            }
        }

        return new self(! in_array(1, $edges, true), $all > 0.0 ? $signed / $all : 0.0, $signed / 3);
    }

    /** A sheet with two sides encloses nothing and is neither. */
    public function isInsideOut(): bool
    {
        return $this->isClosed && $this->outwards < -1e-3;
    }

    public function isRightWayRound(): bool
    {
        return $this->isClosed && $this->outwards > 1e-3;
    }
}
