<?php

declare(strict_types=1);

namespace Anvil\Tests\ColorId;

use Anvil\ColorId\RegionCut;
use Anvil\Geometry\Mesh;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use PHPUnit\Framework\TestCase;

/**
 * Regions of shapes with a closed form, and of surfaces that turn everywhere.
 */
final class RegionCutTest extends TestCase
{
    public function test_a_box_has_six_and_a_cylinder_three(): void
    {
        self::assertSame([6, 0], self::counted(Shapes::box(1, 2, 3, 4)->mesh(), 30.0));
        self::assertSame([3, 0], self::counted(Shapes::cylinder(1, 2, 24)->mesh(), 30.0));
        // 24 sides turn 15° each.
        self::assertSame([1 + 24 + 1, 0], self::counted(Shapes::cylinder(1, 2, 24)->mesh(), 14.9));
        self::assertSame([1, 0], self::counted(Shapes::box(1, 1, 1)->mesh(), 91.0));
        self::assertSame([2, 0], self::counted(Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(3, 0, 0))->mesh(), 91.0), 'what does not hang together is apart');
        self::assertSame([0, 0], self::counted(new Mesh([], []), 30.0));
    }

    /** A bevel of one step turns 45° at either side: 6 sides, 12 edges and 8 corners under it, one region over it. */
    public function test_a_bevelled_box_at_angles_either_side_of_the_bevels(): void
    {
        $bevelled = self::bevelled();
        self::assertSame([26, 0], self::counted($bevelled, 34.0));
        self::assertSame([1, 0], self::counted($bevelled, 56.0));
        // Corners of a bevel turn 35.26° to its edges, these 45° to the sides: between the two the edges and corners are one.
        self::assertSame([7, 0], self::counted($bevelled, 40.0));
    }

    public function test_winding_and_triangles_without_area_change_nothing(): void
    {
        $box = Shapes::box(1, 1, 1)->mesh();
        $turned = $box->triangles;
        [$turned[1], $turned[2]] = [$turned[2], $turned[1]];
        self::assertSame([6, 0], self::counted(new Mesh($box->positions, $turned), 30.0));
        $flat = new Mesh($box->positions, [...$box->triangles, $box->triangles[0], $box->triangles[0], $box->triangles[1]]);
        $cut = RegionCut::of($flat, 30.0);
        self::assertSame(6, $cut->count);
        self::assertContains($cut->of[12], range(0, 5));
    }

    public function test_every_triangle_has_a_region_numbered_in_order(): void
    {
        $cut = RegionCut::of(Shapes::box(1, 1, 1, 3)->mesh(), 30.0);
        self::assertCount(108, $cut->of);
        self::assertSame(range(0, 5), array_values(array_unique($cut->of)));
    }

    /** A box whose faces are rough like stone turns at every edge: cut on a coarser shape it has its six sides again, and each triangle has the one that it lies on. */
    public function test_a_rough_surface_is_cut_on_a_coarser_shape(): void
    {
        $rough = Shapes::box(1, 1, 1, 48)->mapped(static function (array $p): array {
            // Up and down by a little, by place alone, so that sides stay closed.
            $noise = static fn (int $k): float => 0.006 * sin(913.7 * $p[0] + 517.3 * $p[1] + 771.1 * $p[2] + 2.1 * $k);

            return [$p[0] + $noise(1), $p[1] + $noise(2), $p[2] + $noise(3)];
        })->mesh();
        $cut = RegionCut::of($rough, 30.0);
        self::assertGreaterThan(0, $cut->cells);
        $area = $side = [];
        foreach ($rough->triangleAreas() as $t => $one) {
            $middle = [0.0, 0.0, 0.0];
            for ($k = 0; $k < 9; $k++) {
                $middle[$k % 3] += $rough->positions[3 * $rough->triangles[3 * $t + intdiv($k, 3)] + $k % 3] / 3;
            }
            $far = array_map(abs(...), $middle);
            $axis = (int) array_search(max($far), $far, true);
            $key = 2 * $axis + ($middle[$axis] > 0 ? 1 : 0);
            $area[$cut->of[$t]] = ($area[$cut->of[$t]] ?? 0.0) + $one;
            $side[$cut->of[$t]][$key] = ($side[$cut->of[$t]][$key] ?? 0.0) + $one;
        }
        arsort($area);
        // Six regions hold nearly all of it, each on a side of its own.
        self::assertGreaterThan(0.9, array_sum(array_slice($area, 0, 6)) / array_sum($area));
        $sides = array_map(static fn (int $region): int => (int) array_search(max($side[$region]), $side[$region], true), array_slice(array_keys($area), 0, 6));
        sort($sides);
        self::assertSame(range(0, 5), $sides);
    }

    /**
     * @return array{int, int} regions, cells of a coarser shape
     */
    private static function counted(Mesh $mesh, float $degrees): array
    {
        $cut = RegionCut::of($mesh, $degrees);

        return [$cut->count, $cut->cells];
    }

    /** A box of 2, its edges cut off at 45°, its corners by triangles. */
    private static function bevelled(): Mesh
    {
        $points = $faces = [];
        $number = static function (array $p) use (&$points): int {
            $at = array_search($p, $points, true);
            if ($at === false) {
                $points[] = $p;
                $at = count($points) - 1;
            }

            return (int) $at;
        };
        [$a, $b] = [1.0, 0.8];
        // Outward whichever way round its corners came: the body is convex about the origin.
        $add = static function (array $corners) use (&$faces, $number): void {
            $middle = array_map(static fn (int $k): float => array_sum(array_column($corners, $k)) / count($corners), [0, 1, 2]);
            [$u, $v] = [array_map(static fn (float $x, float $y): float => $x - $y, $corners[1], $corners[0]), array_map(static fn (float $x, float $y): float => $x - $y, $corners[2], $corners[0])];
            $n = [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];
            $out = $n[0] * $middle[0] + $n[1] * $middle[1] + $n[2] * $middle[2];
            $faces[] = array_map($number, $out > 0 ? $corners : array_reverse($corners));
        };
        $at = static function (int $axis, float $x, int $other, float $y, int $third, float $z): array {
            $p = [0.0, 0.0, 0.0];
            [$p[$axis], $p[$other], $p[$third]] = [$x, $y, $z];

            return $p;
        };
        foreach ([0, 1, 2] as $axis) {
            [$u, $v] = [($axis + 1) % 3, ($axis + 2) % 3];
            foreach ([1.0, -1.0] as $s) {
                $add([$at($axis, $s * $a, $u, $b, $v, $b), $at($axis, $s * $a, $u, -$b, $v, $b), $at($axis, $s * $a, $u, -$b, $v, -$b), $at($axis, $s * $a, $u, $b, $v, -$b)]);
                foreach ([1.0, -1.0] as $t) {
                    $add([$at($axis, $s * $a, $u, $t * $b, $v, $b), $at($axis, $s * $a, $u, $t * $b, $v, -$b), $at($axis, $s * $b, $u, $t * $a, $v, -$b), $at($axis, $s * $b, $u, $t * $a, $v, $b)]);
                }
            }
        }
        foreach ([1.0, -1.0] as $x) {
            foreach ([1.0, -1.0] as $y) {
                foreach ([1.0, -1.0] as $z) {
                    $add([[$x * $a, $y * $b, $z * $b], [$x * $b, $y * $a, $z * $b], [$x * $b, $y * $b, $z * $a]]);
                }
            }
        }

        return (new Polygons($points, $faces))->mesh();
    }
}
