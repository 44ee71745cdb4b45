<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Geometry\Mesh;

/**
 * Tangents as bakers and engines agree on them: M. Mikkelsen, "Simulation of Wrinkled Surfaces Revisited", 2008, and the rules of the reference
 * implementation that he gave with it: vertices weld where place, normal and UV are the same; corners of a vertex that hang together over edges of one
 * UV winding share a tangent, the mean of their faces' weighted by corner angle; triangles without UV area join any group; angular threshold 180°.
 */
final class MikkTSpace
{
    /** As the reference: what is no larger is zero. */
    private const TINY = 1.17549435e-38;

    /** @var list<int> welded vertex of each corner */
    private array $at = [];

    /** @var list<float> at each welded vertex */
    private array $normals = [];

    /** @var list<float> unit, or zero */
    private array $os = [];

    /** @var list<float> */
    private array $ot = [];

    /** @var array<int, bool> UV winding */
    private array $preserves = [];

    /** @var list<bool> joins any group */
    private array $any = [];

    /** @var array<int, int> triangle beyond each edge; −1 for none */
    private array $beyond = [];

    /** @var list<int> group of each corner; −1 for none */
    private array $group = [];

    /** @var list<bool> of each group */
    private array $groupPreserves = [];

    /** @var list<list<int>> triangles of each group */
    private array $members = [];

    /** @var list<bool> two of its corners stand at one place */
    private array $flat = [];

    private function __construct(private readonly Mesh $mesh, private readonly CornerNormals $own)
    {
    }

    /**
     * @param  CornerNormals  $normals  of the mesh
     * @return list<float> xyzw of each corner, three corners a triangle: unit tangent, and 1 or −1 for the bitangent `w·(n×t)`
     */
    public static function of(Mesh $mesh, CornerNormals $normals): array
    {
        return (new self($mesh, $normals))->tangents();
    }

    /**
     * @return list<float>
     */
    private function tangents(): array
    {
        $count = $this->mesh->triangleCount();
        $this->weld($count);
        $this->measure($count);
        $this->join($count);
        $this->gather($count);
        $tangents = $this->ofGroups();
        $out = [];
        $known = [];
        for ($c = 0, $n = 3 * $count; $c < $n; $c++) {
            $g = $this->group[$c];
            if ($g >= 0) {
                $known[$this->at[$c]] ??= [...$tangents[$g], $this->groupPreserves[$g] ? 1.0 : -1.0];
            }
        }
        for ($c = 0; $c < $n; $c++) {
            $g = $this->group[$c];
            // A triangle whose corners fall together takes what a sound one has at the same vertex.
            $other = $this->flat[intdiv($c, 3)] ? $known[$this->at[$c]] ?? null : null;
            array_push($out, ...($g >= 0 ? [...$tangents[$g], $this->groupPreserves[$g] ? 1.0 : -1.0] : $other ?? [1.0, 0.0, 0.0, -1.0]));
        }

        return $out;
    }

    private function weld(int $count): void
    {
        $mesh = $this->mesh;
        $numbers = [];
        for ($c = 0, $n = 3 * $count; $c < $n; $c++) {
            $v = 3 * $mesh->triangles[$c];
            $uv = 2 * ($mesh->triUvs[$c] ?? -1);
            [$x, $y, $z] = $this->own->corner(intdiv($c, 3), $c % 3);
            // What equals as a number is one, 0 and −0 too.
            $key = pack('d8', $mesh->positions[$v] + 0.0, $mesh->positions[$v + 1] + 0.0, $mesh->positions[$v + 2] + 0.0, $x + 0.0, $y + 0.0, $z + 0.0, $uv < 0 ? 0.0 : $mesh->uvs[$uv] + 0.0, $uv < 0 ? 0.0 : $mesh->uvs[$uv + 1] + 0.0);
            if (! isset($numbers[$key])) {
                $numbers[$key] = count($numbers);
                array_push($this->normals, $x, $y, $z);
            }
            $this->at[] = $numbers[$key];
        }
    }

    /** Of each triangle its directions of U and V, and which way round its UVs wind. */
    private function measure(int $count): void
    {
        $p = $this->mesh->positions;
        $uvs = $this->mesh->uvs;
        for ($t = 0; $t < $count; $t++) {
            [$a, $b, $c] = [3 * $this->mesh->triangles[3 * $t], 3 * $this->mesh->triangles[3 * $t + 1], 3 * $this->mesh->triangles[3 * $t + 2]];
            $same = static fn (int $i, int $j): bool => $p[$i] === $p[$j] && $p[$i + 1] === $p[$j + 1] && $p[$i + 2] === $p[$j + 2];
            $this->flat[] = $same($a, $b) || $same($b, $c) || $same($c, $a);
            $uv = [];
            for ($k = 0; $k < 3; $k++) {
                $i = 2 * ($this->mesh->triUvs[3 * $t + $k] ?? -1);
                $uv[] = $i < 0 ? 0.0 : $uvs[$i];
                $uv[] = $i < 0 ? 0.0 : $uvs[$i + 1];
            }
            [$x21, $y21, $x31, $y31] = [$uv[2] - $uv[0], $uv[3] - $uv[1], $uv[4] - $uv[0], $uv[5] - $uv[1]];
            $area = $x21 * $y31 - $y21 * $x31;
            $this->preserves[] = $area > 0.0;
            $os = $ot = [0.0, 0.0, 0.0];
            $any = true;
            if (abs($area) > self::TINY) {
                $sign = $area > 0.0 ? 1.0 : -1.0;
                for ($k = 0; $k < 3; $k++) {
                    $d1 = $p[$b + $k] - $p[$a + $k];
                    $d2 = $p[$c + $k] - $p[$a + $k];
                    $os[$k] = $y31 * $d1 - $y21 * $d2;
                    $ot[$k] = -$x31 * $d1 + $x21 * $d2;
                }
                $ls = sqrt($os[0] ** 2 + $os[1] ** 2 + $os[2] ** 2);
                $lt = sqrt($ot[0] ** 2 + $ot[1] ** 2 + $ot[2] ** 2);
                for ($k = 0; $k < 3; $k++) {
                    $os[$k] = $ls > self::TINY ? $sign * $os[$k] / $ls : $os[$k];
                    $ot[$k] = $lt > self::TINY ? $sign * $ot[$k] / $lt : $ot[$k];
                }
                $any = ! ($ls / abs($area) > self::TINY && $lt / abs($area) > self::TINY);
            }
            $this->any[] = $any;
            array_push($this->os, ...$os);
            array_push($this->ot, ...$ot);
        }
    }

    /** Which triangles meet over an edge: each edge with the first one that runs the other way and has no neighbour yet. */
    private function join(int $count): void
    {
        $this->beyond = $count === 0 ? [] : array_fill(0, 3 * $count, -1);
        $open = [];
        for ($t = 0; $t < $count; $t++) {
            if ($this->flat[$t]) {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                $a = $this->at[3 * $t + $k];
                $b = $this->at[3 * $t + ($k + 1) % 3];
                $back = "$b $a";
                if (isset($open[$back]) && $open[$back] !== []) {
                    $other = array_shift($open[$back]);
                    $this->beyond[3 * $t + $k] = intdiv($other, 3);
                    $this->beyond[$other] = $t;
                } else {
                    $open["$a $b"][] = 3 * $t + $k;
                }
            }
        }
    }

    private function gather(int $count): void
    {
        $this->group = $count === 0 ? [] : array_fill(0, 3 * $count, -1);
        for ($t = 0; $t < $count; $t++) {
            if ($this->flat[$t] || $this->any[$t]) {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                if ($this->group[3 * $t + $k] >= 0) {
                    continue;
                }
                $g = count($this->members);
                $this->members[] = [$t];
                $this->groupPreserves[] = $this->preserves[$t];
                $this->group[3 * $t + $k] = $g;
                $vertex = $this->at[3 * $t + $k];
                // Depth first, as a recursion would go: the right neighbour waits until all beyond the left one is done.
                $stack = [$this->beyond[3 * $t + ($k > 0 ? $k - 1 : 2)], $this->beyond[3 * $t + $k]];
                while ($stack !== []) {
                    $next = array_pop($stack);
                    if ($next < 0) {
                        continue;
                    }
                    $i = $this->at[3 * $next] === $vertex ? 0 : ($this->at[3 * $next + 1] === $vertex ? 1 : 2);
                    $corner = 3 * $next + $i;
                    if ($this->at[$corner] !== $vertex || $this->group[$corner] >= 0) {
                        continue;
                    }
                    if ($this->any[$next] && $this->group[3 * $next] < 0 && $this->group[3 * $next + 1] < 0 && $this->group[3 * $next + 2] < 0) {
                        // The first group that reaches a triangle without UV area decides how it winds.
                        $this->preserves[$next] = $this->groupPreserves[$g];
                    }
                    if ($this->preserves[$next] !== $this->groupPreserves[$g]) {
                        continue;
                    }
                    $this->members[$g][] = $next;
                    $this->group[$corner] = $g;
                    $stack[] = $this->beyond[3 * $next + ($i > 0 ? $i - 1 : 2)];
                    $stack[] = $this->beyond[$corner];
                }
            }
        }
    }

    /**
     * @return list<array{float, float, float}> the tangent of each group
     */
    private function ofGroups(): array
    {
        $p = $this->mesh->positions;
        $tri = $this->mesh->triangles;
        $out = [];
        foreach ($this->members as $g => $members) {
            [$sx, $sy, $sz] = [0.0, 0.0, 0.0];
            foreach ($members as $t) {
                if ($this->any[$t]) {
                    continue;
                }
                $k = $this->group[3 * $t] === $g ? 0 : ($this->group[3 * $t + 1] === $g ? 1 : 2);
                $n = 3 * $this->at[3 * $t + $k];
                [$nx, $ny, $nz] = [$this->normals[$n], $this->normals[$n + 1], $this->normals[$n + 2]];
                [$ox, $oy, $oz] = self::across($this->os[3 * $t], $this->os[3 * $t + 1], $this->os[3 * $t + 2], $nx, $ny, $nz);
                $here = 3 * $tri[3 * $t + $k];
                $before = 3 * $tri[3 * $t + ($k + 2) % 3];
                $after = 3 * $tri[3 * $t + ($k + 1) % 3];
                [$ax, $ay, $az] = self::across($p[$before] - $p[$here], $p[$before + 1] - $p[$here + 1], $p[$before + 2] - $p[$here + 2], $nx, $ny, $nz);
                [$bx, $by, $bz] = self::across($p[$after] - $p[$here], $p[$after + 1] - $p[$here + 1], $p[$after + 2] - $p[$here + 2], $nx, $ny, $nz);
                $angle = acos(max(-1.0, min(1.0, $ax * $bx + $ay * $by + $az * $bz)));
                $sx += $angle * $ox;
                $sy += $angle * $oy;
                $sz += $angle * $oz;
            }
            $length = sqrt($sx * $sx + $sy * $sy + $sz * $sz);
            $out[] = $length > self::TINY ? [$sx / $length, $sy / $length, $sz / $length] : [$sx, $sy, $sz];
        }

        return $out;
    }

    /**
     * A direction in the plane across a normal, made unit.
     *
     * @return array{float, float, float}
     */
    private static function across(float $x, float $y, float $z, float $nx, float $ny, float $nz): array
    {
        $dot = $x * $nx + $y * $ny + $z * $nz;
        $x -= $dot * $nx;
        $y -= $dot * $ny;
        $z -= $dot * $nz;
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > self::TINY ? [$x / $length, $y / $length, $z / $length] : [$x, $y, $z];
    }
}
