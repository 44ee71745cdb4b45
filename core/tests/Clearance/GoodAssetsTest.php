<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Modelling\Atlas;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Severity;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Good assets stay quiet (CHECKS.md): no blocker and no caution. Common practice, no published source.
 */
final class GoodAssetsTest extends TestCase
{
    /**
     * @return iterable<string, array{array<string, Polygons>, array<string, Polygons>, string}>
     */
    public static function good(): iterable
    {
        $cup = static fn (int $sides, float $rim): Polygons => Shapes::lathe([[0.0, -1.0], [1 - $rim, -1.0], [1.0, -1 + $rim], [1.0, 1 - $rim], [1 - $rim, 1.0], [0.9 + $rim, 1.0], [0.9, 1 - $rim], [0.9, -0.9], [0.0, -0.9]], $sides);
        yield 'bevelled box' => [['a_low' => Shapes::box(2, 1, 1)], ['a_high' => Shapes::roundedBox(2, 1, 1, 0.08, 3, 4)], '{}'];
        yield 'rounded cylinder of enough sides' => [['a_low' => Shapes::cylinder(1, 2, 32)], ['a_high' => Shapes::roundedCylinder(1, 2, 0.06, 96, 6)], '{}'];
        yield 'all-smooth organic shape' => [['a_low' => self::potato(12, 24)->triangulated()], ['a_high' => self::potato(60, 120)], '{}'];
        yield 'blade' => [['a_low' => Shapes::box(3, 0.02, 1)], ['a_high' => Shapes::roundedBox(3, 0.02, 1, 0.009, 4, 3)], '{}'];
        yield 'spike' => [['a_low' => Shapes::lathe([[0.0, -1.0], [0.3, -1.0], [0.0, 1.0]], 32)], ['a_high' => Shapes::lathe([[0.0, -1.0], [0.29, -1.0], [0.3, -0.98], [0.15, 0.0], [0.01, 0.98], [0.0, 1.0]], 64)], '{}'];
        yield 'filleted corner' => [['a_low' => self::corner(0.0, 0)], ['a_high' => self::corner(0.15, 8)], '{}'];
        yield 'hollow cup' => [['a_low' => $cup(32, 0.0)], ['a_high' => $cup(96, 0.01)], '{}'];
        $tuft = static function (int $cuts): Polygons {
            $strands = [];
            for ($i = 0; $i < 9; $i++) {
                $strand = Shapes::sheet(0.1, 1.0, 1, $cuts)->turned(0, 90)->mapped(static fn (array $p): array => [$p[0], $p[1] + 0.5, $p[2] + 0.15 * ($p[1] + 0.5) ** 2]);
                $strands[] = $strand->turned(1, 40 * $i)->moved(0.3 * cos($i), 0, 0.3 * sin($i))->placed(($i % 3) / 3, intdiv($i, 3) / 3, 1 / 3);
            }

            return Polygons::join($strands);
        };
        yield 'tuft of strands' => [['a_low' => $tuft(6)], ['a_high' => $tuft(6)], '{}'];
        yield 'panel with backed floaters' => [['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2, 2, 12, 12)->with(Shapes::cylinder(0.1, 0.03, 24)->moved(0.3, 0.017, 0.3))], '{}'];
        yield 'high that includes its low' => [['a_low' => Shapes::box(2, 1, 1)], ['a_high' => Shapes::box(2, 1, 1)->with(Shapes::cylinder(0.2, 0.1, 32)->moved(0, 0.5, 0))], '{}'];
        yield 'flat capped n-gon' => [['a_low' => self::prism(48)], ['a_high' => Shapes::roundedCylinder(1, 1, 0.05, 96, 5)], '{}'];
        yield 'bolts and pipes through walls' => [
            ['wall_low' => Shapes::box(2, 0.2, 2)->placed(0, 0, 0.5), 'pipe_low' => Shapes::cylinder(0.2, 1.2, 24)->placed(0.5, 0.5, 0.5)],
            ['wall_high' => Shapes::roundedBox(2, 0.2, 2, 0.02, 3, 4), 'pipe_high' => Shapes::roundedCylinder(0.2, 1.2, 0.02, 64, 4)], '{}',
        ];
        yield 'part baked on itself' => [['a_low' => Shapes::box(1, 1, 1), 'b_low' => Shapes::box(1, 1, 1)->moved(3, 0, 0)], ['b_high' => Shapes::roundedBox(1, 1, 1, 0.05, 3)->moved(3, 0, 0)], '{"bakedOnItself":["a"]}'];
    }

    /**
     * @param  array<string, Polygons>  $low
     * @param  array<string, Polygons>  $high
     */
    #[DataProvider('good')]
    public function test_a_good_asset_gives_no_blocker_and_no_caution(array $low, array $high, string $choices): void
    {
        $report = Assets::report(Atlas::packed($low), $high, '{}', $choices, [], 16384);
        self::assertSame([], array_values(array_filter(Assets::codes($report), static fn (string $code): bool => ! str_ends_with($code, ' note'))));
        self::assertTrue($report->isReady());
    }

    public function test_two_materials_on_purpose_are_good(): void
    {
        $box = Shapes::box(2, 1, 1)->mesh(40, [[0, 'steel'], [3, 'paint']]);
        $high = Shapes::roundedBox(2, 1, 1, 0.05, 3)->mesh(30, [[0, 'steel'], [40, 'paint']]);
        $report = Assets::reportOf([
            Assets::file('a_low.obj', ['a_low' => new Part('a_low', $box, ['steel' => '#808080', 'paint' => '#C02020'])]),
            Assets::file('a_high.obj', ['a_high' => new Part('a_high', $high, ['steel' => '#0000FF', 'paint' => '#FFFF00'])]),
        ], '{"pages":2}');
        self::assertSame([], Assets::codesBesideSurface($report));
        self::assertSame(0, $report->count(Severity::Blocker));
    }

    public static function potato(int $rings, int $sides): Polygons
    {
        return Shapes::sphere(1, $rings, $sides)->mapped(static function (array $p): array {
            $r = 1 + 0.18 * sin(2 * $p[0] + 1) * cos(1.5 * $p[1]) + 0.1 * sin(2.2 * $p[2]);

            return [$p[0] * $r, 1.3 * $p[1] * $r, $p[2] * $r];
        });
    }

    /** An L of 2 × 2 × 1; its inner corner filled with a radius. */
    public static function corner(float $radius, int $segments): Polygons
    {
        $profile = [[0.0, 0.0], [2.0, 0.0], [2.0, 0.5]];
        for ($i = 0; $i <= $segments; $i++) {
            $angle = $segments === 0 ? 0.0 : M_PI / 2 * $i / $segments;
            $profile[] = [0.5 + $radius - $radius * sin($angle), 0.5 + $radius - $radius * cos($angle)];
        }
        array_push($profile, [0.5, 2.0], [0.0, 2.0]);
        $n = count($profile);
        $points = $uvs = [];
        foreach ([0.0, 1.0] as $z) {
            foreach ($profile as [$x, $y]) {
                $points[] = [$x, $y, $z];
            }
        }
        $faces = [array_reverse(range(0, $n - 1)), range($n, 2 * $n - 1)];
        $flat = static fn (array $face, float $u): array => array_map(static fn (int $v): array => [$u + 0.1 * $points[$v][0], 0.02 + 0.1 * $points[$v][1]], $face);
        $uvs[] = $flat($faces[0], 0.02);
        $uvs[] = $flat($faces[1], 0.3);
        for ($i = 0; $i < $n; $i++) {
            $j = ($i + 1) % $n;
            $faces[] = [$i, $j, $j + $n, $i + $n];
            [$a, $b] = [0.02 + 0.94 * $i / $n, 0.02 + 0.94 * ($i + 1) / $n];
            $uvs[] = [[$a, 0.4], [$b, 0.4], [$b, 0.6], [$a, 0.6]];
        }

        return new Polygons($points, $faces, $uvs);
    }

    /** A prism of n sides with one n-gon for each cap. */
    public static function prism(int $sides): Polygons
    {
        $points = $faces = $uvs = [];
        foreach ([-0.5, 0.5] as $y) {
            for ($i = 0; $i < $sides; $i++) {
                $points[] = [cos(2 * M_PI * $i / $sides), $y, -sin(2 * M_PI * $i / $sides)];
            }
        }
        $ring = range(0, $sides - 1);
        foreach ([[array_reverse($ring), 0.25], [array_map(static fn (int $v): int => $v + $sides, $ring), 0.75]] as [$face, $u]) {
            $faces[] = $face;
            $uvs[] = array_map(static fn (int $v): array => [$u + 0.2 * $points[$v][0], 0.75 + 0.2 * $points[$v][2]], $face);
        }
        for ($i = 0; $i < $sides; $i++) {
            $j = ($i + 1) % $sides;
            $faces[] = [$i, $j, $j + $sides, $i + $sides];
            [$a, $b] = [0.02 + 0.94 * $i / $sides, 0.02 + 0.94 * ($i + 1) / $sides];
            $uvs[] = [[$a, 0.1], [$b, 0.1], [$b, 0.4], [$a, 0.4]];
        }

        return new Polygons($points, $faces, $uvs);
    }

    public function test_meshes_are_what_the_fixtures_say(): void
    {
        // Ear clipping of a 12-gon gives 10 triangles a cap; 24 for the sides.
        self::assertSame(2 * 10 + 24, self::prism(12)->mesh()->triangleCount());
        self::assertInstanceOf(Mesh::class, self::potato(4, 6)->mesh());
    }
}
