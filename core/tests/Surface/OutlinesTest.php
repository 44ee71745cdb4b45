<?php

declare(strict_types=1);

namespace Anvil\Tests\Surface;

use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Rays\SetSurfaces;
use Anvil\Surface\Outlines;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Silhouette loss of convex shapes, where the outline from any side is the convex hull of the vertices (A. M. Andrew, "Another efficient algorithm for
 * convex hulls in two dimensions", 1979): computed here from the vertices alone, without faces, edges or grids.
 */
final class OutlinesTest extends TestCase
{
    /**
     * @return iterable<string, array{Polygons, Polygons}>
     */
    public static function convex(): iterable
    {
        yield 'a larger box' => [Shapes::box(1, 1, 1), Shapes::box(1.1, 1.1, 1.1)];
        yield 'a smaller box' => [Shapes::box(1, 1, 1), Shapes::box(0.9, 0.8, 0.95)];
        yield 'a box and its rounding' => [Shapes::box(1, 2, 1.5), Shapes::roundedBox(1, 2, 1.5, 0.2, 5, 2)];
        yield 'six sides of a round post' => [Shapes::cylinder(1, 3, 6), Shapes::cylinder(1, 3, 96)];
        yield 'a coarse ball and a fine one' => [Shapes::sphere(1, 6, 8), Shapes::sphere(1, 24, 48)];
        yield 'beside each other' => [Shapes::box(1, 1, 1), Shapes::box(1, 1, 1)->moved(0.07, -0.03, 0.02)];
        yield 'turned' => [Shapes::box(2, 0.4, 0.7), Shapes::box(2, 0.4, 0.7)->turned(11, 0)];
    }

    #[DataProvider('convex')]
    public function test_the_loss_of_convex_shapes_is_that_of_their_hulls(Polygons $low, Polygons $high): void
    {
        $found = Outlines::of(self::surfaces($low, $high));
        $expected = self::byHulls($low, $high);
        // Between places on an edge, of which there are sixty to the size of the set, it may be a little more.
        self::assertEqualsWithDelta($expected, $found['loss'], 0.02 * $expected + 1e-9);
        self::assertNotNull($found['at']);
    }

    /** Above a number of triangles the vertices stand for the outline; here that is so for all. */
    public function test_the_loss_is_the_same_by_the_vertices_of_a_dense_high_poly(): void
    {
        $box = Shapes::box(1.1, 1, 1, 24)->moved(0.33, 5.02, -2);
        foreach ([[Shapes::box(1.2, 1.1, 1)->moved(0.3, 5, -2), $box], [Shapes::box(0.9, 1, 1)->moved(0.3, 5, -2), $box], [Shapes::sphere(1, 6, 8), Shapes::sphere(1, 20, 32)]] as [$low, $high]) {
            $expected = self::byHulls($low, $high);
            self::assertEqualsWithDelta($expected, Outlines::of(self::surfaces($low, $high), exact: 0)['loss'], 0.02 * $expected);
        }
    }

    public function test_it_says_on_which_side_the_greater_outline_is(): void
    {
        self::assertTrue(Outlines::of(self::surfaces(Shapes::box(1, 1, 1), Shapes::box(1.1, 1.1, 1.1)))['outside']);
        self::assertFalse(Outlines::of(self::surfaces(Shapes::box(1.1, 1.1, 1.1), Shapes::box(1, 1, 1)))['outside']);
    }

    /** From the front a knob lies within the outline of its box, far from it; only from the side it stands out, by its height. */
    public function test_what_lies_before_the_low_poly_is_covered(): void
    {
        foreach ([[0, 0.55, 0], [0.55, 0, 0], [0, 0, -0.55]] as $at) {
            foreach ([[0.0, 0.0, 0.0], [7.0, -3.0, 2.0]] as $moved) {
                $found = Outlines::of(self::surfaces(Shapes::box(1, 1, 1)->moved(...$moved), Shapes::box(1, 1, 1)->with(Shapes::box(0.1, 0.1, 0.1)->moved(...$at))->moved(...$moved)));
                self::assertEqualsWithDelta(0.1, $found['loss'], 1e-6);
                self::assertTrue($found['outside']);
            }
        }
    }

    public function test_one_outline_is_no_loss_however_it_is_cut(): void
    {
        foreach ([Shapes::box(1, 1, 1, 7), Shapes::box(1, 1, 1)->triangulated()] as $high) {
            self::assertEqualsWithDelta(0.0, Outlines::of(self::surfaces(Shapes::box(1, 1, 1), $high))['loss'], 1e-9);
        }
    }

    /** Where it is told lies on one of the two shapes. */
    public function test_the_place_lies_on_a_corner_that_stands_out(): void
    {
        $at = Outlines::of(self::surfaces(Shapes::box(1, 1, 1), Shapes::box(1.2, 1.0, 1.0)))['at'];
        self::assertNotNull($at);
        self::assertEqualsWithDelta(0.6, abs($at[0]), 1e-6);
    }

    /** Grids of few cells and of many give one answer. */
    public function test_many_small_triangles_and_few_large_ones_cover_alike(): void
    {
        $high = Shapes::roundedBox(1.05, 1.02, 1.0, 0.1, 6, 2);
        $few = Outlines::of(self::surfaces(Shapes::box(1, 1, 1), $high));
        $many = Outlines::of(self::surfaces(Shapes::box(1, 1, 1, 40), $high));
        self::assertEqualsWithDelta($few['loss'], $many['loss'], 1e-9);
        self::assertSame($few['outside'], $many['outside']);
    }

    private static function surfaces(Polygons $low, Polygons $high): SetSurfaces
    {
        $report = Assets::report(['a_low' => $low], ['a_high' => $high], rays: 64);

        return SetSurfaces::of($report->measures->asset->sets[0], true);
    }

    private static function byHulls(Polygons $low, Polygons $high): float
    {
        $loss = 0.0;
        for ($x = -1; $x <= 1; $x++) {
            for ($y = -1; $y <= 1; $y++) {
                for ($z = -1; $z <= 1; $z++) {
                    if ([$x, $y, $z] !== [0, 0, 0]) {
                        [$a, $b] = [self::hull(self::seen($low, [$x, $y, $z])), self::hull(self::seen($high, [$x, $y, $z]))];
                        $loss = max($loss, self::furthest($a, $b), self::furthest($b, $a));
                    }
                }
            }
        }

        return $loss;
    }

    /**
     * @param  array{int, int, int}  $eye
     * @return list<array{float, float}> the vertices as seen along a direction
     */
    private static function seen(Polygons $shape, array $eye): array
    {
        $length = sqrt($eye[0] ** 2 + $eye[1] ** 2 + $eye[2] ** 2);
        $e = [$eye[0] / $length, $eye[1] / $length, $eye[2] / $length];
        $h = abs($e[1]) < 0.8 ? [0.0, 1.0, 0.0] : [1.0, 0.0, 0.0];
        $r = [$e[1] * $h[2] - $e[2] * $h[1], $e[2] * $h[0] - $e[0] * $h[2], $e[0] * $h[1] - $e[1] * $h[0]];
        $length = sqrt($r[0] ** 2 + $r[1] ** 2 + $r[2] ** 2);
        $r = [$r[0] / $length, $r[1] / $length, $r[2] / $length];
        $u = [$e[1] * $r[2] - $e[2] * $r[1], $e[2] * $r[0] - $e[0] * $r[2], $e[0] * $r[1] - $e[1] * $r[0]];
        $p = $shape->mesh()->positions;
        $out = [];
        for ($i = 0; $i < count($p); $i += 3) {
            $out[] = [$p[$i] * $r[0] + $p[$i + 1] * $r[1] + $p[$i + 2] * $r[2], $p[$i] * $u[0] + $p[$i + 1] * $u[1] + $p[$i + 2] * $u[2]];
        }

        return $out;
    }

    /**
     * @param  list<array{float, float}>  $points
     * @return list<array{float, float}>
     */
    private static function hull(array $points): array
    {
        sort($points);
        $half = static function (array $points): array {
            $out = [];
            foreach ($points as $p) {
                while (count($out) > 1) {
                    [$a, $b] = array_slice($out, -2);
                    if (($b[0] - $a[0]) * ($p[1] - $a[1]) - ($b[1] - $a[1]) * ($p[0] - $a[0]) > 0.0) {
                        break;
                    }
                    array_pop($out);
                }
                $out[] = $p;
            }
            array_pop($out);

            return $out;
        };

        /** @var list<array{float, float}> */
        return [...$half($points), ...$half(array_reverse($points))];
    }

    /**
     * The greatest distance from a corner of one hull to the other one, 0 inside it.
     *
     * @param  list<array{float, float}>  $from
     * @param  list<array{float, float}>  $to
     */
    private static function furthest(array $from, array $to): float
    {
        $most = 0.0;
        foreach ($from as [$x, $y]) {
            $least = INF;
            foreach ($to as $i => [$ax, $ay]) {
                [$bx, $by] = $to[($i + 1) % count($to)];
                $s = (($x - $ax) * ($bx - $ax) + ($y - $ay) * ($by - $ay)) / max(1e-300, ($bx - $ax) ** 2 + ($by - $ay) ** 2);
                $s = max(0.0, min(1.0, $s));
                $least = min($least, hypot($x - $ax - $s * ($bx - $ax), $y - $ay - $s * ($by - $ay)));
            }
            // A corner inside is off the outline as far as one outside: what is told is between the two lines.
            $most = max($most, $least);
        }

        return $most;
    }
}
