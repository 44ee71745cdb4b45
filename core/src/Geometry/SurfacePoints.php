<?php

declare(strict_types=1);

namespace Anvil\Geometry;

use Closure;

/**
 * Points spread over meshes by 3D area: the same ones on every run (additive recurrence on the plastic number, M. Roberts, "The
 * Unreasonable Effectiveness of Quasirandom Sequences", 2018).
 */
final readonly class SurfacePoints
{
    /**
     * @param  list<float>  $at  xyz a point
     * @param  list<float>  $normals  unit face normal, xyz a point
     * @param  list<int>  $triangles  the triangle of each, counted over all meshes
     */
    private function __construct(public array $at, public array $normals, public array $triangles)
    {
    }

    /**
     * @param  list<Mesh>  $meshes
     * @param  int  $count  how many at most; fewer where there is no area
     */
    public static function of(array $meshes, int $count): self
    {
        $areas = [];
        $total = 0.0;
        foreach ($meshes as $mesh) {
            $p = $mesh->positions;
            $t = $mesh->triangles;
            for ($i = 0, $n = count($t); $i < $n; $i += 3) {
                $a = 3 * $t[$i];
                $b = 3 * $t[$i + 1];
                $c = 3 * $t[$i + 2];
                $ux = $p[$b] - $p[$a];
                $uy = $p[$b + 1] - $p[$a + 1];
                $uz = $p[$b + 2] - $p[$a + 2];
                $vx = $p[$c] - $p[$a];
                $vy = $p[$c + 1] - $p[$a + 1];
                $vz = $p[$c + 2] - $p[$a + 2];
                $x = $uy * $vz - $uz * $vy;
                $y = $uz * $vx - $ux * $vz;
                $z = $ux * $vy - $uy * $vx;
                $total += $areas[] = sqrt($x * $x + $y * $y + $z * $z);
            }
        }
        if ($total <= 0.0 || ! is_finite($total)) {
            return new self([], [], []);
        }
        $at = $normals = $of = [];
        $step = $total / $count;
        $next = $step / 2;
        $sum = 0.0;
        $k = 0;
        $triangle = 0;
        foreach ($meshes as $mesh) {
            $p = $mesh->positions;
            $t = $mesh->triangles;
            for ($i = 0, $n = count($t); $i < $n; $i += 3, $triangle++) {
                $sum += $areas[$triangle];
                while ($next < $sum && $k < $count) {
                    $u = 0.5 + 0.7548776662466927 * $k;
                    $v = 0.5 + 0.5698402909980532 * $k;
                    $u -= floor($u);
                    $v -= floor($v);
                    if ($u + $v > 1.0) {
                        $u = 1.0 - $u;
                        $v = 1.0 - $v;
                    }
                    $a = 3 * $t[$i];
                    $b = 3 * $t[$i + 1];
                    $c = 3 * $t[$i + 2];
                    $ux = $p[$b] - $p[$a];
                    $uy = $p[$b + 1] - $p[$a + 1];
                    $uz = $p[$b + 2] - $p[$a + 2];
                    $vx = $p[$c] - $p[$a];
                    $vy = $p[$c + 1] - $p[$a + 1];
                    $vz = $p[$c + 2] - $p[$a + 2];
                    array_push($at, $p[$a] + $u * $ux + $v * $vx, $p[$a + 1] + $u * $uy + $v * $vy, $p[$a + 2] + $u * $uz + $v * $vz);
                    $area = $areas[$triangle];
                    array_push($normals, ($uy * $vz - $uz * $vy) / $area, ($uz * $vx - $ux * $vz) / $area, ($ux * $vy - $uy * $vx) / $area);
                    $of[] = $triangle;
                    $k++;
                    $next += $step;
                }
            }
        }

        return new self($at, $normals, $of);
    }

    /** One in so many of them, from a number on. */
    public function every(int $step, int $from): self
    {
        return $this->only(static fn (int $i): bool => $i % $step === $from);
    }

    /**
     * Those on one in so many pairs of triangles, for each number others: no two numbers share a triangle, nor the halves of a quad. By the golden ratio, so that no
     * number gets a row of a grid to itself.
     */
    public function onEvery(int $step, int $from): self
    {
        return $this->only(static function (int $i, int $triangle) use ($step, $from): bool {
            $turn = intdiv($triangle, 2) * 0.6180339887498949;

            return (int) (($turn - floor($turn)) * $step) === $from;
        });
    }

    /**
     * @param  Closure(int, int): bool  $holds  of the number of a point and its triangle
     */
    private function only(Closure $holds): self
    {
        $at = $normals = $triangles = [];
        foreach ($this->triangles as $i => $triangle) {
            if ($holds($i, $triangle)) {
                array_push($at, $this->at[3 * $i], $this->at[3 * $i + 1], $this->at[3 * $i + 2]);
                array_push($normals, $this->normals[3 * $i], $this->normals[3 * $i + 1], $this->normals[3 * $i + 2]);
                $triangles[] = $triangle;
            }
        }

        return new self($at, $normals, $triangles);
    }

    public function count(): int
    {
        return count($this->triangles);
    }
}
