<?php

declare(strict_types=1);

namespace Anvil\Tests\Place;

use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Place\Facing;
use Anvil\Place\Offset;
use Anvil\Place\OffsetSearch;
use Anvil\Place\PlaceMend;
use Anvil\Place\QuarterTurn;
use Anvil\Place\ShellShape;
use Anvil\Place\SizeFactor;
use Anvil\Place\TiePlace;
use Anvil\Place\TiePlaces;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\TriangleTree;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Motions that are put in are read off again, exactly where the shape shows them, and nothing is made up where it does not.
 */
final class PlaceRulesTest extends TestCase
{
    /**
     * @return iterable<string, array{array{float, float, float}, array{int, float}, float}> shift as shares of d, axis and degrees, scale
     */
    public static function motions(): iterable
    {
        foreach (['x' => [0.01, 0.0, 0.0], 'y' => [0.0, -0.02, 0.0], 'z' => [0.0, 0.0, 0.004], 'all' => [0.01, 0.006, -0.008]] as $name => $shift) {
            yield "shift $name" => [$shift, [0, 0.0], 1.0];
        }
        foreach ([0, 1, 2] as $axis) {
            yield "turn about $axis" => [[0.0, 0.0, 0.0], [$axis, 1.5], 1.0];
            yield "turn back about $axis" => [[0.0, 0.0, 0.0], [$axis, -3.0], 1.0];
        }
        yield 'larger' => [[0.0, 0.0, 0.0], [0, 0.0], 1.03];
        yield 'smaller' => [[0.0, 0.0, 0.0], [0, 0.0], 0.98];
        yield 'shift and turn' => [[0.012, 0.0, 0.0], [1, 2.0], 1.0];
        yield 'far off' => [[0.6, 0.2, 0.0], [0, 0.0], 1.0];
        yield 'nothing' => [[0.0, 0.0, 0.0], [0, 0.0], 1.0];
    }

    /**
     * @return iterable<string, array{array{float, float, float}}> degrees about x, then y, then z
     */
    public static function slantingTurns(): iterable
    {
        yield 'x and y' => [[2.0, 2.0, 0.0]];
        yield 'y and z' => [[0.0, -2.5, 1.5]];
        yield 'x and z' => [[1.0, 0.0, 3.0]];
        yield 'all' => [[2.0, -1.5, 2.5]];
    }

    /**
     * A turn about an axis that slants, far from the origin: angle and axis by the trace and the skew part of the matrix (textbook, from memory).
     *
     * @param  array{float, float, float}  $degrees
     */
    #[DataProvider('slantingTurns')]
    public function test_a_turn_about_a_slanting_axis_is_read_off_anywhere(array $degrees): void
    {
        $turned = static fn (Polygons $p): Polygons => $p->turned(0, $degrees[0])->turned(1, $degrees[1])->turned(2, $degrees[2]);
        $low = self::stepped();
        $centre = $low->mesh()->bounds()?->centre() ?? [0.0, 0.0, 0.0];
        $low = $low->moved(-$centre[0], -$centre[1], -$centre[2]);
        $columns = [];
        foreach ([[1, 0, 0], [0, 1, 0], [0, 0, 1]] as $k => $unit) {
            $columns[$k] = $turned(new Polygons([[(float) $unit[0], (float) $unit[1], (float) $unit[2]]]))->points[0];
        }
        $angle = acos(max(-1.0, min(1.0, ($columns[0][0] + $columns[1][1] + $columns[2][2] - 1) / 2)));
        $axis = array_map(static fn (float $v): float => $v / (2 * sin($angle)), [$columns[1][2] - $columns[2][1], $columns[2][0] - $columns[0][2], $columns[0][1] - $columns[1][0]]);
        $high = $turned($low)->moved(20, -13, 8)->mesh();
        $offset = OffsetSearch::of([$low->moved(20, -13, 8)->mesh()], TriangleTree::of($high->positions, $high->triangles));
        self::assertNotNull($offset);
        self::assertEqualsWithDelta(rad2deg($angle), $offset->degrees, 0.02);
        foreach ($axis as $k => $value) {
            self::assertEqualsWithDelta($value, $offset->axis[$k], 0.01);
        }
        self::assertSame(1.0, $offset->scale);
        self::assertSame('turn', $offset->kind());
    }

    /**
     * Definition of METHODS, "Place": the motion is put in here.
     *
     * @param  array{float, float, float}  $shift
     * @param  array{int, float}  $turn
     */
    #[DataProvider('motions')]
    public function test_a_motion_that_was_put_in_is_read_off(array $shift, array $turn, float $scale): void
    {
        $low = self::stepped();
        $d = $low->mesh()->bounds()?->diagonal() ?? 0.0;
        $centre = $low->mesh()->bounds()?->centre() ?? [0.0, 0.0, 0.0];
        $about = static fn (Polygons $p): Polygons => $p->moved(-$centre[0], -$centre[1], -$centre[2])->scaled($scale, $scale, $scale)->turned(...$turn)->moved($centre[0] + $d * $shift[0], $centre[1] + $d * $shift[1], $centre[2] + $d * $shift[2]);
        $high = $about($low)->mesh();
        $offset = OffsetSearch::of([$low->mesh()], TriangleTree::of($high->positions, $high->triangles));
        self::assertNotNull($offset);
        self::assertEqualsWithDelta($turn[1] === 0.0 ? 0.0 : abs($turn[1]), $offset->degrees, 0.02);
        if ($turn[1] !== 0.0) {
            self::assertEqualsWithDelta($turn[1] <=> 0.0, $offset->axis[$turn[0]], 0.01);
        }
        self::assertEqualsWithDelta($scale, $offset->scale, 0.001);
        foreach ($shift as $k => $share) {
            self::assertEqualsWithDelta($share, $offset->shift[$k] / $d, 0.0005, "axis $k");
        }
        self::assertSame($d, $offset->d);
        self::assertSame([], $offset->hidden);
        $kind = match (true) {
            $shift !== [0.0, 0.0, 0.0] && $turn[1] === 0.0 => $scale === 1.0 ? 'shift' : null, $turn[1] !== 0.0 && $shift === [0.0, 0.0, 0.0] => 'turn', $shift === [0.0, 0.0, 0.0] && $scale !== 1.0 => 'scale', $turn[1] === 0.0 => 'none', default => null,
        };
        if ($kind !== null) {
            self::assertSame($kind, $offset->kind());
        }
    }

    public function test_what_a_shape_cannot_show_is_named(): void
    {
        $hidden = static function (Polygons $shape): array {
            $mesh = $shape->mesh();

            return OffsetSearch::of([$mesh], TriangleTree::of($mesh->positions, $mesh->triangles))->hidden ?? ['none at all'];
        };
        self::assertSame(['a shift along x', 'a shift along z'], array_values(array_filter($hidden(Shapes::sheet(2, 1, 4, 4)->with(Shapes::sheet(2, 1, 4, 4)->flipped()->moved(0, -0.05, 0))), static fn (string $one): bool => str_contains($one, 'shift'))));
        self::assertContains('a turn about y', $hidden(Shapes::cylinder(0.5, 2, 48)));
        self::assertSame([], $hidden(Shapes::box(2, 1, 1.5)));
        // A slanting box's axes are its own.
        self::assertStringContainsString('(', implode('', $hidden(Shapes::cylinder(0.5, 2, 48)->turned(2, 30))));
    }

    public function test_nothing_is_said_where_nothing_meets(): void
    {
        $low = Shapes::box(2, 1, 1.5)->mesh();
        $tiny = Shapes::sheet(0.1, 0.1)->moved(0, 0.5, 0)->mesh();
        self::assertNull(OffsetSearch::of([$low], TriangleTree::of($tiny->positions, $tiny->triangles)));
        self::assertNull(OffsetSearch::of([$low], TriangleTree::of([], [])));
        self::assertNull(OffsetSearch::of([], TriangleTree::of($low->positions, $low->triangles)));
    }

    /** A high poly that is thicker all round, or rounder, is not off; nor is one of which a single side was built out. */
    public function test_what_all_sides_share_or_one_side_has_is_no_motion(): void
    {
        $low = Shapes::box(2, 1, 1.5, 2);
        $thicker = Shapes::box(2.04, 1.04, 1.54, 2);
        foreach ([$thicker, Shapes::roundedBox(2, 1, 1.5, 0.2, 4, 2), Polygons::join([$low, Shapes::box(1.6, 0.04, 1.2)->moved(0, 0.52, 0)])] as $i => $high) {
            $mesh = $high->mesh();
            self::assertSame(0.0, OffsetSearch::of([$low->mesh()], TriangleTree::of($mesh->positions, $mesh->triangles))?->share(), "case $i");
        }
    }

    public function test_shares_of_an_offset_are_ways_of_a_corner(): void
    {
        $offset = new Offset([0.3, 0.0, 0.4], [0.0, 1.0, 0.0], 2.0, 1.0, 10.0, []);
        self::assertEqualsWithDelta(0.05, $offset->shiftShare(), 1e-12);
        self::assertEqualsWithDelta(sin(deg2rad(1.0)), $offset->turnShare(), 1e-12);
        self::assertSame(0.0, $offset->scaleShare());
        self::assertSame('shift', $offset->kind());
        self::assertEqualsWithDelta(0.05, $offset->share(), 1e-12);
        $scaled = new Offset([0.0, 0.0, 0.0], [0.0, 1.0, 0.0], -8.0, 0.8, 10.0, ['a shift along x']);
        self::assertEqualsWithDelta(0.1, $scaled->scaleShare(), 1e-12);
        self::assertSame('scale', $scaled->kind());
        self::assertSame('turn', (new Offset([0.0, 0.0, 0.0], [0.0, 1.0, 0.0], -8.0, 1.0, 10.0, []))->kind());
        self::assertSame('none', (new Offset([0.0, 0.0, 0.0], [0.0, 1.0, 0.0], 0.0, 1.0, 10.0, []))->kind());
        self::assertEquals($scaled, Offset::ofArray($scaled->toArray()));
        $place = new TiePlace('a', 'a_low', 'a_high', 'x.obj', $scaled, [['first' => 'p', 'second' => 'q', 'file' => 'x.obj', 'share' => 0.5, 'where' => [1.0, 2.0, 3.0]]], 0.25, [[0.0, 1.0, 2.0]]);
        self::assertEquals($place, TiePlace::ofArray($place->toArray()));
        self::assertEquals(new TiePlace('a', 'b', 'c', 'd', null, [], 0.0, []), TiePlace::ofArray((new TiePlace('a', 'b', 'c', 'd', null, [], 0.0, []))->toArray()));
    }

    /** All 23 turns by quarters of a shape without symmetry, about the origin and about its own middle. */
    public function test_every_quarter_turn_is_found_and_undone(): void
    {
        $low = self::stepped()->moved(3, 1, 2);
        $mesh = $low->mesh();
        $found = [];
        foreach ([0, 1, 2, 3] as $a) {
            foreach ([0, 1, 2, 3] as $b) {
                foreach ([0, 1, 2, 3] as $c) {
                    $high = $low->turned(0, 90 * $a)->turned(1, 90 * $b)->turned(2, 90 * $c)->mesh();
                    $key = implode(' ', array_map(static fn (float $v): string => (string) (round($v, 3) + 0.0), array_slice($high->positions, 0, 12)));
                    if (isset($found[$key])) {
                        continue;
                    }
                    $turn = QuarterTurn::of([$mesh], [$high]);
                    $found[$key] = $turn === null ? 'none' : $turn->words;
                    if ($a + $b + $c === 0) {
                        self::assertNull($turn);

                        continue;
                    }
                    self::assertNotNull($turn, "$a $b $c");
                    self::assertLessThan(1e-6, $turn->after);
                    self::assertGreaterThan(0.02, $turn->before);
                    $back = $turn->matrix->points($high->positions);
                    self::assertEqualsWithDelta($mesh->positions, $back, 1e-5);
                    self::assertStringNotContainsString('middle', $turn->words);
                    self::assertContains(round($turn->degrees), [90.0, 120.0, 180.0]);
                }
            }
        }
        self::assertCount(24, $found);
        self::assertCount(24, array_unique($found));
        // The simplest words for a plain turn: what is done to the high.
        self::assertSame('−90° about Y', QuarterTurn::of([$mesh], [$low->turned(1, 90)->mesh()])?->words);
        self::assertSame('180° about X', QuarterTurn::of([$mesh], [$low->turned(0, 180)->mesh()])?->words);
        // About its own middle, and of another size.
        $middle = $mesh->bounds()?->centre() ?? [0.0, 0.0, 0.0];
        $own = $low->moved(-$middle[0], -$middle[1], -$middle[2])->turned(1, 90)->moved(...$middle)->mesh();
        self::assertSame('−90° about Y, about its own middle', QuarterTurn::of([$mesh], [$own])?->words);
        self::assertSame('−90° about Y', QuarterTurn::of([$mesh], [$low->turned(1, 90)->scaled(100, 100, 100)->mesh()], 100.0)?->words);
        self::assertSame('−90° about Y, about its own middle', QuarterTurn::of([$mesh], [$low->moved(-$middle[0], -$middle[1], -$middle[2])->turned(1, 90)->moved(...$middle)->scaled(100, 100, 100)->mesh()], 100.0)?->words);
        // Next to turned by a quarter is not turned by a quarter.
        self::assertNull(QuarterTurn::of([$mesh], [$low->turned(1, 70)->mesh()]));
        self::assertNull(QuarterTurn::of([], [$mesh]));
        self::assertNull(QuarterTurn::of([Shapes::sheet(0, 0)->mesh()], [$mesh]));
        self::assertNull(QuarterTurn::of([$mesh], [$mesh], 0.0));
    }

    public function test_a_shell_tells_its_way_round_by_its_shape(): void
    {
        $shape = static function (Polygons $p): ShellShape {
            $mesh = $p->mesh();

            return ShellShape::of($mesh->positions, $mesh->triangles, Weld::of($mesh->positions), range(0, $mesh->triangleCount() - 1));
        };
        $box = $shape(Shapes::box(2, 3, 4));
        self::assertSame([true, true, false], [$box->isClosed, $box->isRightWayRound(), $box->isInsideOut()]);
        self::assertEqualsWithDelta(24.0, $box->volume, 1e-9);
        $turned = $shape(Shapes::box(2, 3, 4)->moved(5, 6, 7)->flipped());
        self::assertSame([true, false, true], [$turned->isClosed, $turned->isRightWayRound(), $turned->isInsideOut()]);
        self::assertEqualsWithDelta(-24.0, $turned->volume, 1e-9);
        $sheet = $shape(Shapes::sheet(1, 1));
        self::assertSame([false, false, false], [$sheet->isClosed, $sheet->isRightWayRound(), $sheet->isInsideOut()]);
        self::assertEqualsWithDelta(0.0, $sheet->outwards, 1e-9);
        // A ball's faces all look away from its middle.
        self::assertEqualsWithDelta(1.0, $shape(Shapes::sphere(1, 24, 48))->outwards, 0.01);
        self::assertEqualsWithDelta(1.0, $shape(Shapes::sphere(1, 24, 48)->moved(9, -7, 5))->outwards, 0.01);
        // A sheet with two sides is closed and neither.
        $card = $shape(Shapes::welded(Shapes::sheet(1, 1)->with(Shapes::sheet(1, 1)->flipped())));
        self::assertSame([true, false, false], [$card->isClosed, $card->isRightWayRound(), $card->isInsideOut()]);
    }

    public function test_faces_that_are_turned_are_numbered_by_part(): void
    {
        $set = new SetSurfaces('a', [Shapes::box(1, 1, 1)->mesh(), Shapes::box(1, 1, 1)->moved(3, 0, 0)->with(Shapes::sheet(0.8, 0.8)->moved(6, 0, 0)->flipped())->mesh()], [Shapes::roundedBox(1, 1, 1, 0.03, 2)->mesh(), Shapes::roundedBox(1, 1, 1, 0.03, 2)->moved(3, 0, 0)->mesh(), Shapes::sheet(0.8, 0.8, 4, 4)->moved(6, 0, 0)->mesh()], true);
        $facing = Facing::of($set);
        self::assertFalse($facing->isClear());
        self::assertSame([[1, 2, 12]], array_map(static fn (array $one): array => [$one['part'], $one['triangles'], $one['first']], $facing->low));
        self::assertSame([24, 25], array_keys($facing->lowTriangles));
        self::assertEqualsWithDelta(6.0, $facing->low[0]['where'][0], 0.4);
        self::assertSame([], $facing->high);
        self::assertTrue(Facing::of(new SetSurfaces('a', [Shapes::box(1, 1, 1)->mesh()], [Shapes::roundedBox(1, 1, 1, 0.03, 2)->mesh()], true))->isClear());
        // Inside out by itself: its triangles are known, but another check tells it.
        $inside = Facing::of(new SetSurfaces('a', [Shapes::box(1, 1, 1)->flipped()->mesh()], [Shapes::roundedBox(1, 1, 1, 0.03, 2)->mesh()], true));
        self::assertSame([12, [], []], [count($inside->lowTriangles), $inside->low, $inside->high]);
        // One face wound against its neighbours takes with it all that touch it.
        $box = Shapes::box(1, 1, 1, 4);
        $box->faces[5] = array_reverse($box->faces[5]);
        $one = Facing::of(new SetSurfaces('a', [$box->mesh()], [Shapes::roundedBox(1, 1, 1, 0.03, 2)->mesh()], true));
        self::assertGreaterThan(2, count($one->lowTriangles));
        self::assertLessThan(40, count($one->lowTriangles));
        // A high shell that is turned, the second of the second part.
        $bolt = Shapes::cylinder(0.1, 0.1, 16)->moved(3, 0.54, 0);
        $high = Facing::of(new SetSurfaces('a', [Shapes::box(1, 1, 1)->mesh(), Shapes::box(1, 1, 1)->moved(3, 0, 0)->mesh()], [Shapes::roundedBox(1, 1, 1, 0.03, 2)->mesh(), Shapes::roundedBox(1, 1, 1, 0.03, 2)->moved(3, 0, 0)->with($bolt->flipped())->mesh()], true));
        self::assertSame([[1, $bolt->mesh()->triangleCount(), Shapes::roundedBox(1, 1, 1, 0.03, 2)->mesh()->triangleCount()]], array_map(static fn (array $found): array => [$found['part'], $found['triangles'], $found['first']], $high->high));
        self::assertCount(1, $high->highShells);
    }

    /** The corner normals of two open sheets say which of them is turned. */
    public function test_of_two_open_sheets_the_normals_tell(): void
    {
        $flat = Shapes::sheet(1, 1, 4, 4);
        $against = static function (Mesh $mesh): Mesh {
            return new Mesh($mesh->positions, $mesh->triangles, $mesh->uvs, $mesh->triUvs, array_map(static fn (float $v): float => -$v, $mesh->normals), $mesh->triNormals, [], $mesh->faces, $mesh->materials, $mesh->materialRuns, $mesh->smoothing);
        };
        foreach ([$flat, $flat->turned(0, 25)->turned(1, 40), $flat->turned(2, 90), $flat->turned(0, 90)->moved(0, 0, 5)] as $sheet) {
            $low = $sheet->mesh();
            $high = $sheet->flipped()->mesh();
            self::assertSame([1, 0], self::found($low, $high), 'nothing tells: the low one');
            self::assertSame([0, 1], self::found($low, $against($high)), 'the normals of the high say that it is turned');
            self::assertSame([1, 0], self::found($against($low), $high));
            self::assertSame([1, 0], self::found($against($low), $against($high)), 'both the same: the low one');
        }
        // Further off than a twentieth of the diagonal nothing is said, whatever the size.
        foreach ([0.1, 1.0, 40.0] as $size) {
            $sheet = static fn (float $up): Mesh => Shapes::sheet($size, $size, 6, 6)->moved(0, $up * $size * M_SQRT2, 0)->mesh();
            $turned = Shapes::sheet($size, $size, 4, 4)->flipped()->mesh();
            self::assertSame([[1, 0], [0, 0]], [self::found($turned, $sheet(0.04)), self::found($turned, $sheet(0.07))], "$size");
        }
        // A dome tells by its shape.
        $dome = static function (int $rings, int $sides): Polygons {
            $ball = Shapes::sphere(1, $rings, $sides);

            return new Polygons($ball->points, array_values(array_filter($ball->faces, static fn (array $face): bool => $ball->points[$face[0]][1] > -0.1 && $ball->points[$face[2]][1] > -0.1)));
        };
        self::assertSame([0, 0], self::found($dome(12, 24)->mesh(), $dome(24, 48)->mesh()));
        self::assertSame([1, 0], self::found($dome(12, 24)->flipped()->mesh(), $dome(24, 48)->mesh()));
        self::assertSame([0, 1], self::found($dome(12, 24)->mesh(), $dome(24, 48)->flipped()->mesh()));
        // A low shell that is inside out is told by another check, whatever the normals of an open high say.
        $open = Shapes::roundedBox(1, 1, 1, 0.03, 2);
        $open = new Polygons($open->points, array_values(array_filter($open->faces, static fn (array $face): bool => $open->points[$face[0]][1] > -0.4)));
        self::assertSame([0, 0], self::found(Shapes::box(1, 1, 1)->flipped()->mesh(), $against($open->mesh())));
    }

    /**
     * @return array{int, int}
     */
    private static function found(Mesh $low, Mesh $high): array
    {
        $facing = Facing::of(new SetSurfaces('a', [$low], [$high], true));

        return [count($facing->low), count($facing->high)];
    }

    public function test_how_much_of_two_highs_lies_on_each_other_is_the_lesser_share(): void
    {
        $fine = Shapes::roundedBox(2, 1, 1, 0.05, 2, 2);
        $place = static fn (Polygons $second): array => self::places(['a_low' => Shapes::box(2, 1, 1), 'z_low' => Shapes::box(1, 1, 1)->moved(9, 0, 0)], ['a_high' => $fine, 'a_high_2' => $second, 'z_high' => Shapes::box(1, 1, 1)->moved(9, 0, 0)], '{"suffixes":{"high":["_high","_high_*"]}}')[0]->doubled;
        self::assertSame([], $place(Shapes::box(2, 1, 1)->moved(4, 0, 0)));
        $same = $place($fine);
        self::assertSame(['a_high', 'a_high_2', 1.0], [$same[0]['first'], $same[0]['second'], $same[0]['share']]);
        self::assertNotNull($same[0]['where']);
        // A shift of 0.0004 of d is the same; of 0.004 it is only what slides in itself: nothing.
        self::assertGreaterThan(0.9, $place($fine->moved(0.0004 * sqrt(6), 0, 0))[0]['share'] ?? 0.0);
        self::assertLessThan(0.75, $place($fine->moved(0.004 * sqrt(6), 0.004 * sqrt(6), 0.004 * sqrt(6)))[0]['share'] ?? 0.0);
        // Two without any area are not the same surface.
        self::assertSame([], self::places(['a_low' => Shapes::box(2, 1, 1), 'z_low' => Shapes::box(1, 1, 1)->moved(9, 0, 0)], ['a_high' => Shapes::sheet(1, 0), 'a_high_2' => Shapes::sheet(1, 0), 'z_high' => Shapes::box(1, 1, 1)->moved(9, 0, 0)], '{"suffixes":{"high":["_high","_high_*"]}}')[0]->doubled);
        // Turned inside out it faces the other way.
        self::assertSame([], $place($fine->flipped()));
        // Half of it.
        $half = new Polygons($fine->points, array_values(array_filter($fine->faces, static fn (array $face): bool => $fine->points[$face[0]][0] <= 0.0 && $fine->points[$face[2]][0] <= 0.0)));
        self::assertEqualsWithDelta(0.5, $place($half)[0]['share'] ?? 0.0, 0.1);
    }

    public function test_a_copy_of_the_low_hides_what_lies_under_it(): void
    {
        $covered = static fn (Polygons $high): TiePlace => self::places(['a_low' => Shapes::box(2, 1, 2), 'z_low' => Shapes::box(1, 1, 1)->moved(9, 0, 0)], ['a_high' => $high, 'z_high' => Shapes::box(1, 1, 1)->moved(9, 0, 0)])[0];
        // Floors under the top and the bottom, 1.5² of 2² each: of the area 2·4 + 4·2 = 16 that is 4.5.
        $copy = Shapes::box(2, 1, 2);
        $two = $covered(Polygons::join([$copy, Shapes::sheet(1.5, 1.5, 3, 3)->moved(0, 0.45, 0), Shapes::sheet(1.5, 1.5, 3, 3)->flipped()->moved(0, -0.45, 0)]));
        self::assertEqualsWithDelta(4.5 / 16, $two->covered, 0.01);
        self::assertCount(40, $two->coveredWhere);
        self::assertSame(0.0, $covered($copy)->covered);
        // Without the copy, a floor is a floor.
        self::assertSame(0.0, $covered(Shapes::box(2, 0.9, 2))->covered);
        // A bolt let into the copy stands out more than it lies under.
        self::assertSame(0.0, $covered(Polygons::join([$copy, Shapes::cylinder(0.2, 0.3, 24)->moved(0, 0.55, 0)]))->covered);
        // What is deeper than a tenth of d is not met at all.
        self::assertSame(0.0, $covered(Polygons::join([$copy, Shapes::sheet(1.5, 1.5)->moved(0, 0.15, 0)]))->covered);
    }

    public function test_points_are_spread_over_ties(): void
    {
        self::assertSame([720, 720, 720, 468, 234, 160, 160], array_map(TiePlaces::pointsEach(...), [0, 1, 256, 512, 1000, 2000, 100_000]));
        self::assertSame([2.54, 10.0, 100.0, null, 1000.0, 12.0], array_map(SizeFactor::likely(...), [2.54, 0.1, 0.0098, 7.0, 1040.0, 11.6]));
        self::assertEqualsWithDelta(1.2, SizeFactor::mending(1 / 1.2), 1e-12);
    }

    public function test_files_that_cannot_be_mended_are_told(): void
    {
        $wrong = Matrix::scaling(100.0);
        $low = Shapes::box(1, 6, 1)->moved(0, 3, 0);
        $mend = self::mend(self::inspection([Assets::file('a_low.obj', ['a_low' => $low]), Assets::file('a_high.usda', ['a_high' => $low->mesh()->placedBy($wrong)])]));
        self::assertSame(['a_high.usda is USD text, which is read here and not written'], $mend->stuck ?? []);
        self::assertSame('scaled by 1/100', $mend?->words());
        self::assertNull($mend->turn);
        // An ID copy of the size of the high goes along; one of the low's size, or elsewhere, does not; a cage with the high does not go.
        $id = static fn (Mesh $mesh): array => array_keys(self::mend(self::inspection([Assets::file('a_low.obj', ['a_low' => $low]), Assets::file('a_high.obj', ['a_high' => $low->mesh()->placedBy($wrong)]), Assets::file('a_id.obj', ['a_id' => $mesh])]))->ofFiles ?? []);
        self::assertSame([1, 2], $id($low->mesh()->placedBy($wrong)));
        self::assertSame([1], $id($low->mesh()));
        self::assertSame([1], $id($low->mesh()->placedBy($wrong)->placedBy(Matrix::ofTrs([9000.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0]))));
        $larger = self::mend(self::inspection([Assets::file('a_low.obj', ['a_low' => $low]), Assets::file('a_high.obj', ['a_high' => $low->mesh()->placedBy(Matrix::scaling(0.01))])]));
        self::assertSame('scaled by 100', $larger?->words());
        $turned = self::mend(self::inspection([Assets::file('a_low.obj', ['a_low' => self::stepped()]), Assets::file('a_high.obj', ['a_high' => self::stepped()->turned(0, 90)->mesh()])]));
        self::assertSame([null, 'turned −90° about X'], [$turned?->factor, $turned?->words()]);
    }

    /**
     * @param  array<string, Polygons>  $low
     * @param  array<string, Polygons>  $high
     * @return list<TiePlace>
     */
    private static function places(array $low, array $high, string $standard = '{}'): array
    {
        $measures = Measures::of([Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high)], Standard::ofJson($standard), Choices::ofJson('{}'));

        return TiePlaces::of($measures->asset->tiesOf($measures->asset->sets[0]), SetSurfaces::of($measures->asset->sets[0], true), 2);
    }

    /** A block with a step, so that no turn brings it onto itself. */
    private static function stepped(): Polygons
    {
        return Polygons::join([Shapes::box(2, 1, 1.4, 2), Shapes::box(0.6, 0.5, 0.4, 2)->moved(0.5, 0.75, 0.3), Shapes::box(0.3, 0.3, 0.5, 2)->moved(-1.15, 0.2, -0.2)])->moved(0.4, 0.2, 0.1);
    }

    /**
     * @param  list<\Anvil\Asset\ReadFile>  $files
     */
    private static function inspection(array $files): Measures
    {
        return Measures::of($files, Standard::builtIn(), Choices::ofJson('{}'));
    }

    private static function mend(Measures $measures): ?PlaceMend
    {
        return PlaceMend::of($measures->asset, $measures->quarterTurn());
    }
}
