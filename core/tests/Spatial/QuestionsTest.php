<?php

declare(strict_types=1);

namespace Anvil\Tests\Spatial;

use Anvil\Geometry\Mesh;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Every question that trees answer, against the same asked of each triangle by plain vector algebra that shares no code with them.
 */
final class QuestionsTest extends TestCase
{
    /**
     * @return iterable<string, array{TriangleTree, Mesh}>
     */
    public static function trees(): iterable
    {
        $soup = [];
        mt_srand(11);
        $at = static fn (float $spread): float => $spread * (mt_rand() / mt_getrandmax() - 0.5);
        for ($i = 0; $i < 300; $i++) {
            $p = [$at(4), $at(4), $at(4)];
            $soup[] = new Polygons([$p, [$p[0] + $at(0.8), $p[1] + $at(0.8), $p[2] + $at(0.8)], [$p[0] + $at(0.8), $p[1] + $at(0.8), $p[2] + $at(0.8)]], [[0, 1, 2]]);
        }
        $slab = [Shapes::box(4, 0.1, 4), new Polygons([[-2.0, 0.1, -2.0], [2.0, 0.9, 1.9], [2.0, 0.9, 2.0]], [[0, 1, 2]]), ...array_map(static fn (int $i): Polygons => Shapes::sphere(0.03, 5, 8)->moved(-1.5 + $i % 4, 0.06, intdiv($i, 4) - 1.0), range(0, 11))];
        foreach (['soup' => Polygons::join($soup)->mesh(), 'slab and rivets' => Polygons::join($slab)->mesh(), 'ball' => Shapes::sphere(1, 10, 16)->mesh()] as $name => $mesh) {
            yield "$name, fast" => [TriangleTree::of($mesh->positions, $mesh->triangles), $mesh];
            yield "$name, fine" => [TriangleTree::fine($mesh->positions, $mesh->triangles), $mesh];
        }
    }

    #[DataProvider('trees')]
    public function test_a_trees_boxes_hold_what_is_below_them(TriangleTree $tree, Mesh $mesh): void
    {
        $nodes = $tree->nodeCount();
        self::assertSame($nodes, count($tree->skip));
        $bounds = $tree->bounds();
        self::assertNotNull($bounds);
        self::assertEqualsWithDelta($mesh->bounds()?->toArray(), $bounds->toArray(), 1e-9);
        $inLeaves = [];
        for ($node = 0; $node < $nodes; $node++) {
            self::assertGreaterThan($node, $tree->skip[$node]);
            if ($tree->second[$node] > 0) {
                foreach ([$node + 1, $tree->second[$node]] as $child) {
                    self::assertGreaterThanOrEqual($tree->minX[$node], $tree->minX[$child]);
                    self::assertLessThanOrEqual($tree->maxZ[$node], $tree->maxZ[$child]);
                    self::assertGreaterThanOrEqual($tree->minY[$node], $tree->minY[$child]);
                    self::assertLessThanOrEqual($tree->maxX[$node], $tree->maxX[$child]);
                }
                self::assertSame($tree->size[$node], $tree->size[$node + 1] + $tree->size[$tree->second[$node]]);
                self::assertSame($tree->skip[$node + 1], $tree->second[$node]);
                self::assertSame($tree->skip[$node], $tree->skip[$tree->second[$node]]);
            } else {
                foreach (array_slice($tree->order, $tree->first[$node], $tree->size[$node]) as $triangle) {
                    $inLeaves[$triangle] = ($inLeaves[$triangle] ?? 0) + 1;
                    if (! $tree->hasPieces) {
                        foreach (self::corners($mesh, $triangle) as [$x, $y, $z]) {
                            self::assertTrue($x >= $tree->minX[$node] && $x <= $tree->maxX[$node] && $y >= $tree->minY[$node] && $y <= $tree->maxY[$node] && $z >= $tree->minZ[$node] && $z <= $tree->maxZ[$node]);
                        }
                    }
                }
                self::assertLessThanOrEqual(8, $tree->size[$node]);
            }
        }
        self::assertCount($mesh->triangleCount(), $inLeaves);
        self::assertSame($tree->hasPieces, max($inLeaves) > 1);
    }

    #[DataProvider('trees')]
    public function test_lines_meet_what_algebra_says(TriangleTree $tree, Mesh $mesh): void
    {
        $cast = new SegmentCast($tree);
        foreach (self::lines(40) as $k => [$p, $n]) {
            foreach ([[-5.0, 5.0], [-0.4, 0.3], [0.2, 1.7]] as [$from, $to]) {
                foreach ([0, 1] as $facing) {
                    $expected = [];
                    for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
                        $at = self::meets($mesh, $t, $p, $n, $facing);
                        if ($at !== null && $at >= $from && $at <= $to) {
                            $expected[$t] = $at;
                        }
                    }
                    self::assertSame(count($expected), $cast->all(...$p, ...$n, from: $from, to: $to, facing: $facing), "line $k");
                    $found = $cast->triangle === [] ? [] : array_combine($cast->triangle, $cast->t);
                    ksort($found);
                    self::assertEqualsWithDelta($expected, $found, 1e-9);
                    if ($facing === 0) {
                        self::assertSame($expected !== [], $cast->any(...$p, ...$n, from: $from, to: $to));
                    }
                    arsort($expected);
                    $first = $cast->first(...$p, ...$n, from: $from, to: $to, facing: $facing);
                    self::assertSame($expected === [] ? -1 : array_key_first($expected), $first);
                    self::assertCount($expected === [] ? 0 : 1, $cast->t);
                }
            }
        }
    }

    #[DataProvider('trees')]
    public function test_the_nearest_place_is_that_of_algebra(TriangleTree $tree, Mesh $mesh): void
    {
        $nearest = new NearestPoint($tree);
        foreach (self::lines(24) as $k => [$p, $n]) {
            $best = self::nearest($mesh, $p, null);
            $fresh = new NearestPoint($tree);
            foreach ([$nearest, $fresh] as $one) {
                // Over an edge or a corner several are as near, but for rounding.
                $found = $one->find(...$p);
                self::assertEqualsWithDelta($best, self::distance($mesh, $found, $p), 1e-9, "point $k");
                self::assertEqualsWithDelta($best, sqrt($one->squared), 1e-9);
                self::assertEqualsWithDelta($best, sqrt(($one->x - $p[0]) ** 2 + ($one->y - $p[1]) ** 2 + ($one->z - $p[2]) ** 2), 1e-9);
                [$a, $b, $c] = self::corners($mesh, $found);
                foreach ([$one->x, $one->y, $one->z] as $axis => $value) {
                    self::assertEqualsWithDelta((1 - $one->v - $one->w) * $a[$axis] + $one->v * $b[$axis] + $one->w * $c[$axis], $value, 1e-9);
                }
            }
            self::assertSame(-1, (new NearestPoint($tree))->find(...$p, within: 0.999 * $best));
            self::assertSame(-1, $nearest->find(...$p, within: 0.999 * $best), 'what was found last is no answer either');
            self::assertSame(INF, $nearest->squared);
            self::assertGreaterThanOrEqual(0, $nearest->find(...$p, within: 1.001 * $best));
            // Those that face alike.
            $normals = self::normals($mesh);
            $facing = self::nearest($mesh, $p, $n);
            foreach ([$nearest, new NearestPoint($tree)] as $one) {
                if ($facing < INF) {
                    self::assertTrue($one->anyFacingWithin(...$p, r: 1.0001 * $facing, normals: $normals, mx: $n[0], my: $n[1], mz: $n[2]));
                    self::assertFalse((new NearestPoint($tree))->anyFacingWithin(...$p, r: 0.9999 * $facing, normals: $normals, mx: $n[0], my: $n[1], mz: $n[2]));
                    self::assertFalse($one->anyFacingWithin(...$p, r: 0.9999 * $facing, normals: $normals, mx: $n[0], my: $n[1], mz: $n[2]));
                } else {
                    self::assertFalse($one->anyFacingWithin(...$p, r: 100.0, normals: $normals, mx: $n[0], my: $n[1], mz: $n[2]));
                }
            }
            self::assertFalse($nearest->anyFacingWithin(...$p, r: 0.0, normals: $normals, mx: $n[0], my: $n[1], mz: $n[2]));
            // Each triangle in a radius of its own.
            $scale = array_map(static fn (int $t): float => ($t * 7 % 10) / 10, range(0, $mesh->triangleCount() - 1));
            foreach ([0.3, 1.0, 2.5] as $r) {
                foreach ([0.0, 0.1] as $less) {
                    $any = false;
                    for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
                        $own = $r * $scale[$t] - $less;
                        $any = $any || ($own > 0.0 && self::distance($mesh, $t, $p) <= $own);
                    }
                    self::assertSame($any, (new NearestPoint($tree))->anyWithin(...$p, r: $r, scale: $scale, less: $less));
                    self::assertSame($any, $nearest->anyWithin(...$p, r: $r, scale: $scale, less: $less));
                    self::assertSame($best <= $r - $less, $nearest->anyWithin(...$p, r: $r, scale: [], less: $less));
                    self::assertSame($best <= $r - $less, (new NearestPoint($tree))->anyWithin(...$p, r: $r, scale: [], less: $less));
                }
            }
        }
    }

    public function test_what_was_found_last_is_held_against_others(): void
    {
        $mesh = Shapes::box(2, 2, 2)->mesh();
        $nearest = new NearestPoint(TriangleTree::of($mesh->positions, $mesh->triangles));
        self::assertFalse($nearest->lastIsNearerThan([0], 0.0, 0.0, 0.0), 'nothing was found');
        $top = $nearest->find(0.1, 3.0, 0.3);
        $others = array_values(array_diff(range(0, 11), [$top]));
        $far = array_values(array_filter($others, static fn (int $t): bool => self::normals($mesh)[3 * $t + 1] < 0.5));
        self::assertTrue($nearest->lastIsNearerThan($far, 0.1, 3.0, 0.3));
        self::assertTrue($nearest->lastIsNearerThan([], 0.1, 3.0, 0.3));
        self::assertFalse($nearest->lastIsNearerThan([...$far, $top], 0.1, 3.0, 0.3), 'as near is not nearer');
        self::assertFalse($nearest->lastIsNearerThan($far, 0.1, -3.0, 0.3));
    }

    public function test_equal_distances_and_heights_go_to_the_lowest_number(): void
    {
        $mesh = Shapes::sheet(2, 2)->with(Shapes::sheet(2, 2))->with(Shapes::sheet(2, 2))->mesh();
        $cast = new SegmentCast(TriangleTree::of($mesh->positions, $mesh->triangles));
        self::assertSame(3, $cast->all(0.3, 0.0, 0.1, 0.0, 1.0, 0.0, -1.0, 1.0, 1));
        $lowest = min($cast->triangle);
        self::assertSame($lowest, $cast->first(0.3, 0.0, 0.1, 0.0, 1.0, 0.0, -1.0, 1.0, 1));
        self::assertSame($lowest, (new NearestPoint(TriangleTree::of($mesh->positions, $mesh->triangles)))->find(0.3, 0.5, 0.1));
        self::assertSame(0, $cast->all(0.3, 0.0, 0.1, 0.0, -1.0, 0.0, -1.0, 1.0, 1), 'from behind');
        self::assertSame(3, $cast->all(0.3, 0.0, 0.1, 0.0, -1.0, 0.0, -1.0, 1.0, 0));
        // A line along the sheet meets none of it; one through its edge does.
        self::assertSame(0, $cast->all(0.3, 0.0, 0.1, 1.0, 0.0, 0.0, -5.0, 5.0, 0));
        self::assertGreaterThan(0, $cast->all(1.0, 0.0, 0.1, 0.0, 1.0, 0.0, -5.0, 5.0, 0));
        self::assertGreaterThan(0, $cast->all(0.0, 0.0, 0.0, 0.0, 1.0, 0.0, -5.0, 5.0, 0));
    }

    public function test_a_tree_of_nothing_answers_no(): void
    {
        foreach ([TriangleTree::of([], []), TriangleTree::fine([], [])] as $tree) {
            self::assertNull($tree->bounds());
            self::assertSame(-1, (new NearestPoint($tree))->find(0.0, 0.0, 0.0));
            self::assertFalse((new NearestPoint($tree))->anyWithin(0.0, 0.0, 0.0, 5.0));
            self::assertSame(0, (new SegmentCast($tree))->all(0.0, 0.0, 0.0, 0.0, 1.0, 0.0, -1.0, 1.0, 0));
            self::assertFalse((new SegmentCast($tree))->any(0.0, 0.0, 0.0, 0.0, 1.0, 0.0, -1.0, 1.0));
        }
        // Triangles without area, and all in one place.
        $flat = TriangleTree::of([1.0, 1.0, 1.0], array_fill(0, 60, 0));
        self::assertSame(0, (new NearestPoint($flat))->find(1.0, 1.0, 2.0));
        self::assertSame(0, (new SegmentCast($flat))->all(1.0, 1.0, 1.0, 0.0, 1.0, 0.0, -1.0, 1.0, 0));
    }

    /**
     * @return list<array{array{float, float, float}, array{float, float, float}}>
     */
    private static function lines(int $count): array
    {
        mt_srand(5);
        $out = [];
        for ($i = 0; $i < $count; $i++) {
            $n = [mt_rand() / mt_getrandmax() - 0.5, mt_rand() / mt_getrandmax() - 0.5, mt_rand() / mt_getrandmax() - 0.5];
            // Some along an axis, which have no inverse.
            $n = match ($i % 8) {
                0 => [1.0, 0.0, 0.0], 1 => [0.0, -1.0, 0.0], 2 => [0.0, 0.0, 1.0], default => $n,
            };
            $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
            $out[] = [[3 * (mt_rand() / mt_getrandmax() - 0.5), 3 * (mt_rand() / mt_getrandmax() - 0.5), 3 * (mt_rand() / mt_getrandmax() - 0.5)], [$n[0] / $l, $n[1] / $l, $n[2] / $l]];
        }

        return $out;
    }

    /**
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private static function corners(Mesh $mesh, int $triangle): array
    {
        $at = static fn (int $v): array => [$mesh->positions[3 * $v], $mesh->positions[3 * $v + 1], $mesh->positions[3 * $v + 2]];

        return [$at($mesh->triangles[3 * $triangle]), $at($mesh->triangles[3 * $triangle + 1]), $at($mesh->triangles[3 * $triangle + 2])];
    }

    /**
     * By the plane, then by the signs of the three areas.
     *
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $n
     */
    private static function meets(Mesh $mesh, int $triangle, array $p, array $n, int $facing): ?float
    {
        [$a, $b, $c] = self::corners($mesh, $triangle);
        $normal = self::cross(self::minus($b, $a), self::minus($c, $a));
        $along = self::dot($normal, $n);
        if ($along === 0.0 || ($facing === 1 && $along < 0.0)) {
            return null;
        }
        $t = self::dot($normal, self::minus($a, $p)) / $along;
        $at = [$p[0] + $t * $n[0], $p[1] + $t * $n[1], $p[2] + $t * $n[2]];
        foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$from, $to]) {
            if (self::dot($normal, self::cross(self::minus($to, $from), self::minus($at, $from))) < -1e-9 * self::dot($normal, $normal)) {
                return null;
            }
        }

        return $t;
    }

    /**
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}|null  $facing
     */
    private static function nearest(Mesh $mesh, array $p, ?array $facing): float
    {
        $best = INF;
        $normals = self::normals($mesh);
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            if ($facing !== null && $normals[3 * $t] * $facing[0] + $normals[3 * $t + 1] * $facing[1] + $normals[3 * $t + 2] * $facing[2] < 0.5) {
                continue;
            }
            $best = min($best, self::distance($mesh, $t, $p));
        }

        return $best;
    }

    /**
     * The least over the plane's foot, where it lies inside, and the three edges.
     *
     * @param  array{float, float, float}  $p
     */
    private static function distance(Mesh $mesh, int $triangle, array $p): float
    {
        [$a, $b, $c] = self::corners($mesh, $triangle);
        $best = INF;
        $normal = self::cross(self::minus($b, $a), self::minus($c, $a));
        $length = sqrt(self::dot($normal, $normal));
        if ($length > 0.0) {
            $unit = [$normal[0] / $length, $normal[1] / $length, $normal[2] / $length];
            if (self::meets($mesh, $triangle, $p, $unit, 0) !== null) {
                $best = abs(self::dot($unit, self::minus($p, $a)));
            }
        }
        foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$from, $to]) {
            $edge = self::minus($to, $from);
            $square = self::dot($edge, $edge);
            $s = $square > 0.0 ? max(0.0, min(1.0, self::dot(self::minus($p, $from), $edge) / $square)) : 0.0;
            $off = self::minus($p, [$from[0] + $s * $edge[0], $from[1] + $s * $edge[1], $from[2] + $s * $edge[2]]);
            $best = min($best, sqrt(self::dot($off, $off)));
        }

        return $best;
    }

    /**
     * @return list<float>
     */
    private static function normals(Mesh $mesh): array
    {
        $out = [];
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            [$a, $b, $c] = self::corners($mesh, $t);
            $n = self::cross(self::minus($b, $a), self::minus($c, $a));
            $l = max(1e-30, sqrt(self::dot($n, $n)));
            array_push($out, $n[0] / $l, $n[1] / $l, $n[2] / $l);
        }

        return $out;
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return array{float, float, float}
     */
    private static function minus(array $a, array $b): array
    {
        return [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return array{float, float, float}
     */
    private static function cross(array $a, array $b): array
    {
        return [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }
}
