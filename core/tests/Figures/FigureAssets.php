<?php

declare(strict_types=1);

namespace Anvil\Tests\Figures;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Clearance\GoodAssetsTest;

/**
 * Assets that between them bring every measure about: each with its low parts, high parts, standard and choices.
 */
final class FigureAssets
{
    /**
     * @return iterable<string, array{0: array<string, Polygons|Mesh>, 1: array<string, Polygons|Mesh>, 2?: string, 3?: string, 4?: array<string, Polygons|Mesh|Part>}>
     */
    public static function all(): iterable
    {
        yield 'bolted plate' => [['plate_low' => Shapes::box(2, 0.2, 2)], ['plate_high' => self::boltedPlate()]];
        yield 'bolted plate in a short reach' => [['plate_low' => Shapes::box(2, 0.2, 2)], ['plate_high' => self::boltedPlate()], '{"reach":{"*":{"out":0.02,"in":0.01}}}'];
        yield 'bolted plate in a long reach' => [['plate_low' => Shapes::box(2, 0.2, 2)], ['plate_high' => self::boltedPlate()], '{"reach":{"*":{"out":0.4,"in":0.5}}}'];
        $wall = [['cup_low' => self::cup(20, 0.0)], ['cup_high' => self::cup(60, 0.02)]];
        yield 'cup' => $wall;
        yield 'cup of hard directions' => [...$wall, '{"rays":{"direction":"split"}}'];
        yield 'cup of unit directions, back faces met' => [...$wall, '{"rays":{"length":"unit","backFaces":true},"reach":{"*":{"out":0.15,"in":0.15}}}'];
        yield 'neighbours in each other\'s rays' => [self::row(static fn (float $wide): Polygons => Shapes::box($wide, 1, 1)), self::row(static fn (float $wide): Polygons => Shapes::roundedBox($wide, 1, 1, 0.02, 2)), '{"rays":{"setsKeptApart":false},"reach":{"*":{"out":0.5,"in":0.1}}}'];
        yield 'neighbours kept apart' => [self::row(static fn (float $wide): Polygons => Shapes::box($wide, 1, 1)), self::row(static fn (float $wide): Polygons => Shapes::roundedBox($wide, 1, 1, 0.02, 2))];
        yield 'cards past their leaves' => [['leaf_low' => self::cards()], ['leaf_high' => self::leaves()]];
        yield 'organic' => [['bell_low' => GoodAssetsTest::potato(9, 16)->triangulated()], ['bell_high' => GoodAssetsTest::potato(40, 72)]];
        yield 'a corner and its fillet' => [['rib_low' => GoodAssetsTest::corner(0.0, 0)], ['rib_high' => GoodAssetsTest::corner(0.3, 8)]];
        yield 'one shifted, one turned, one scaled' => [
            ['a_low' => self::block(), 'b_low' => self::block()->moved(4, 0, 0), 'c_low' => self::block()->moved(8, 0, 0), 'd_low' => self::block()->moved(12, 0, 0)],
            ['a_high' => self::fineBlock()->moved(0.02, 0.01, 0), 'b_high' => self::fineBlock()->turned(1, 2)->moved(4, 0, 0), 'c_high' => self::fineBlock()->scaled(1.03, 1.03, 1.03)->moved(8, 0, 0), 'd_high' => self::fineBlock()->moved(12, 0, 0)],
        ];
        yield 'turned shells' => [
            ['lamp_low' => Shapes::box(2, 1, 2), 'lid_low' => Shapes::sheet(1, 1)->moved(4, 0, 0)->flipped(), 'post_low' => Shapes::cylinder(0.4, 1, 12)->moved(8, 0, 0)->flipped()],
            ['lamp_high' => Shapes::roundedBox(2, 1, 2, 0.05, 2)->with(Shapes::cylinder(0.2, 0.1, 16)->moved(0, 0.56, 0)->flipped()), 'lid_high' => Shapes::sheet(1, 1, 6, 6)->moved(4, 0, 0), 'post_high' => Shapes::roundedCylinder(0.4, 1, 0.03, 32, 2)->moved(8, 0, 0)],
        ];
        yield 'a copy that hides a groove, and a doubled high' => [
            ['a_low' => Shapes::box(2, 1, 2), 'b_low' => Shapes::box(1, 1, 1)->moved(4, 0, 0)],
            ['a_high' => Shapes::box(2, 1, 2)->with(Shapes::roundedBox(1.9, 0.9, 1.9, 0.05, 2)), 'b_high_1' => Shapes::roundedBox(1, 1, 1, 0.04, 2)->moved(4, 0, 0), 'b_high_2' => Shapes::roundedBox(1, 1, 1, 0.04, 2)->moved(4, 0.0001, 0)],
            '{"suffixes":{"high":["_high","_high_*"]}}',
        ];
        yield 'a hole, a gap and a pipe within' => [
            ['tank_low' => Shapes::box(2, 2, 2, 2), 'pipe_low' => Shapes::cylinder(0.3, 1.2, 12)],
            ['tank_high' => self::holed(), 'pipe_high' => Shapes::roundedCylinder(0.3, 1.2, 0.03, 36, 2)],
        ];
        yield 'slats that lean' => [['rack_low' => Shapes::box(2, 0.1, 2)], ['rack_high' => self::studs()]];
        yield 'names in disorder' => [
            ['drum_low' => self::block(), 'Winch_LOW' => self::block()->moved(4, 0, 0), 'pawl_low.001' => self::block()->moved(8, 0, 0), 'one_low' => self::block()->moved(12, 0, 0), 'two_low' => self::block()->moved(16, 0, 0), 'three_low' => self::block()->moved(20, 0, 0), 'crank' => self::block()->moved(24, 0, 0), 'left_low' => self::block()->moved(28, 0, 0)],
            ['drum_high' => self::fineBlock(), 'winch_high' => self::fineBlock()->moved(4, 0, 0), 'pawk_high' => self::fineBlock()->moved(8, 0, 0), 'two_high' => self::fineBlock()->moved(12, 0, 0), 'three_high' => self::fineBlock()->moved(16, 0, 0), 'four_high' => self::fineBlock()->moved(20, 0, 0), 'crank-high' => self::fineBlock()->moved(24, 0, 0), 'other_high' => self::fineBlock()->moved(28, 0, 0)],
        ];
        yield 'a hundred times too large and turned' => [['mast_low' => Shapes::box(1, 6, 1)->moved(0, 3, 0), 'arm_low' => Shapes::box(4, 1, 1)->moved(2.5, 5.5, 0)], ['mast_high' => self::wrong(Shapes::box(1, 6, 1)->moved(0, 3, 0)), 'arm_high' => self::wrong(Shapes::box(4, 1, 1)->moved(2.5, 5.5, 0))]];
        yield 'ID colours' => [
            ['base_low' => Shapes::box(1, 1, 1), 'cap_low' => Shapes::box(1, 0.2, 1)->moved(0, 0.62, 0), 'foot_low' => Shapes::box(1, 1, 1)->moved(5, 0, 0)],
            ['base_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2), 'cap_high' => Shapes::roundedBox(1, 0.2, 1, 0.02, 2)->moved(0, 0.62, 0), 'foot_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)->moved(5, 0, 0)],
            '{}', '{}',
            ['base_id' => self::inked('base_id', Shapes::roundedBox(1, 1, 1, 0.05, 2), '#FF0000'), 'cap_id' => self::inked('cap_id', Shapes::roundedBox(1, 0.2, 1, 0.02, 2)->moved(0, 0.62, 0), '#FF0800'), 'foot_id' => self::inked('foot_id', Shapes::roundedBox(1, 1, 1, 0.05, 2)->moved(5, 0, 0), '#F80000')],
        ];
    }

    /**
     * The same standing askew somewhere in space: what is wrong along one axis alone is hidden by shapes that stand upright.
     *
     * @return iterable<string, array{0: array<string, Polygons|Mesh>, 1: array<string, Polygons|Mesh>, 2?: string, 3?: string}>
     */
    public static function slanting(): iterable
    {
        $low = static fn (array $parts): array => array_map(self::askew(...), $parts);
        $upright = iterator_to_array(self::all());
        foreach (['bolted plate', 'cup', 'slats that lean', 'a hole, a gap and a pipe within', 'neighbours in each other\'s rays', 'a corner and its fillet', 'cards past their leaves', 'a copy that hides a groove, and a doubled high', 'organic'] as $name) {
            yield "$name, askew" => [$low($upright[$name][0]), $low($upright[$name][1]), ...array_slice($upright[$name], 2, 2)];
        }
        $spike = Shapes::lathe([[0.05, 0.5], [0.0, 0.9]], 12);
        $beam = static fn (int $cuts): Polygons => Shapes::box(3, 0.3, 0.4, $cuts)->turned(1, 20)->moved(0.3, 0.2, 0.1);
        yield 'a beam through a post, and a lid that comes off, askew' => [
            $low(['post_low' => Shapes::box(1, 2, 0.8), 'beam_low' => $beam(1), 'lid_low' => Shapes::box(1.1, 0.1, 0.9)->moved(0, 1.08, 0), 'spiked_low' => Shapes::box(1, 1, 1)->moved(4, 0, 1)]),
            $low(['post_high' => Shapes::roundedBox(1, 2, 0.8, 0.03, 2, 2), 'beam_high' => $beam(4), 'lid_high' => Shapes::roundedBox(1.1, 0.1, 0.9, 0.02, 2)->moved(0, 1.08, 0), 'spiked_high' => Shapes::box(1, 1, 1, 4)->with($spike)->moved(4, 0, 1)]),
            '{"rays":{"setsKeptApart":false}}', '{"detachable":["lid"]}',
        ];
    }

    private static function askew(Polygons $shape): Polygons
    {
        return $shape->turned(0, 25)->turned(1, 40)->turned(2, -15)->moved(7, -3, 2);
    }

    private static function boltedPlate(): Polygons
    {
        $bolt = static fn (float $x, float $y, float $z): Polygons => Shapes::roundedCylinder(0.1, 0.08, 0.02, 20, 2)->moved($x, $y, $z);

        return Polygons::join([
            Shapes::roundedBox(2, 0.2, 2, 0.03, 2, 3), $bolt(-0.6, 0.13, -0.6), $bolt(0.6, 0.13, -0.6),
            // One stands free, one is a plate with a hole under it, one is sunk.
            $bolt(-0.6, 0.22, 0.6), $bolt(0.6, 0.08, 0.6), Shapes::sheet(0.4, 0.4, 2, 2)->moved(0, 0.16, 0), Shapes::torus(0.3, 0.05, 24, 8)->moved(0, -0.13, 0.3),
            Shapes::sphere(0.05, 6, 10),
        ]);
    }

    public static function cup(int $sides, float $rim): Polygons
    {
        return Shapes::lathe([[0.0, -1.0], [1 - $rim, -1.0], [1.0, -1 + $rim], [1.0, 1 - $rim], [1 - $rim, 1.0], [0.9 + $rim, 1.0], [0.9, 1 - $rim], [0.9, -0.9], [0.0, -0.9]], $sides);
    }

    /**
     * @param  callable(float): Polygons  $make
     * @return array<string, Polygons>
     */
    private static function row(callable $make): array
    {
        $suffix = $make(1.0)->faces === Shapes::box(1, 1, 1)->faces ? 'low' : 'high';

        return ["wall_$suffix" => $make(1.0), "plate_$suffix" => $make(0.05)->moved(0.7, 0, 0), "stand_$suffix" => $make(0.3)->moved(1.1, 0, 0.2), "far_$suffix" => $make(1.0)->moved(6, 0, 0)];
    }

    private static function cards(): Polygons
    {
        return Polygons::join([Shapes::sheet(1, 2, 1, 2)->placed(0, 0, 0.4), Shapes::sheet(1, 2, 1, 2)->turned(0, 30)->moved(2, 0, 0)->placed(0.5, 0, 0.4)]);
    }

    private static function leaves(): Polygons
    {
        $leaf = Shapes::sheet(0.7, 1.9, 6, 12)->mapped(static fn (array $p): array => [$p[0] * cos(1.4 * $p[2]), 0.03 * cos(2 * $p[2]), $p[2]]);

        return Polygons::join([$leaf, $leaf->turned(0, 30)->moved(2, 0, 0)]);
    }

    public static function block(): Polygons
    {
        return Shapes::box(2, 1, 1.5);
    }

    private static function fineBlock(): Polygons
    {
        return Shapes::roundedBox(2, 1, 1.5, 0.04, 2, 2);
    }

    /** A shell whose lid has a hole and whose side is dented by more than a fiftieth. */
    private static function holed(): Polygons
    {
        $box = Shapes::roundedBox(2, 2, 2, 0.05, 2, 8);
        $faces = array_values(array_filter($box->faces, static fn (array $face): bool => ! ($box->points[$face[0]][1] > 0.99 && max(array_map(static fn (int $v): float => max(abs($box->points[$v][0]), abs($box->points[$v][2])), $face)) < 0.4)));

        return (new Polygons($box->points, $faces))->mapped(static fn (array $p): array => [$p[0] > 0.99 && max(abs($p[1]), abs($p[2])) < 0.5 ? 0.7 : $p[0], $p[1], $p[2]]);
    }

    private static function studs(): Polygons
    {
        $all = [Shapes::roundedBox(2, 0.1, 2, 0.02, 2, 3)];
        for ($i = 0; $i < 5; $i++) {
            $all[] = Shapes::box(0.06, 0.25, 0.3)->moved(-0.85 + 0.42 * $i, 0.17, 0.8 - 0.4 * $i);
        }

        return Polygons::join($all);
    }

    private static function wrong(Polygons $shape): Polygons
    {
        return $shape->turned(0, -90)->scaled(100, 100, 100);
    }

    private static function inked(string $name, Polygons $shape, string $hex): Part
    {
        return new Part($name, $shape->mesh(40, [[0, 'ink']]), ['ink' => $hex]);
    }
}
