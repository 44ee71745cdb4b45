<?php

declare(strict_types=1);

namespace Anvil\Tests\ColorId;

use Anvil\Asset\ReadFile;
use Anvil\ColorId\IdColor;
use Anvil\ColorId\IdColors;
use Anvil\ColorId\IdFileWriter;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\Palette;
use Anvil\ColorId\Touching;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Colours by their published formulas, IDs from every source, and the files that bear them.
 */
final class ColorIdTest extends TestCase
{
    /**
     * Pairs of G. Sharma, W. Wu, E. N. Dalal 2005, table 1 (from memory; the whole table is held against a library in References).
     *
     * @return iterable<string, array{array{float, float, float}, array{float, float, float}, float}>
     */
    public static function pairs(): iterable
    {
        yield '1' => [[50.0, 2.6772, -79.7751], [50.0, 0.0, -82.7485], 2.0425];
        yield '4' => [[50.0, -1.3802, -84.2814], [50.0, 0.0, -82.7485], 1.0];
        yield '7' => [[50.0, 0.0, 0.0], [50.0, -1.0, 2.0], 2.3669];
        yield '9' => [[50.0, 2.49, -0.001], [50.0, -2.49, 0.0009], 7.1792];
        yield '11' => [[50.0, 2.49, -0.001], [50.0, -2.49, 0.0011], 7.2195];
        yield '13' => [[50.0, -0.001, 2.49], [50.0, 0.0009, -2.49], 4.8045];
        yield '16' => [[50.0, 2.5, 0.0], [50.0, 0.0, -2.5], 4.3065];
        yield '17' => [[50.0, 2.5, 0.0], [73.0, 25.0, -18.0], 27.1492];
        yield '20' => [[50.0, 2.5, 0.0], [58.0, 24.0, 15.0], 19.4535];
        yield '25' => [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644];
        yield '33' => [[6.7747, -0.2908, -2.4247], [5.8714, -0.0985, -2.2286], 0.6377];
        yield '34' => [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082];
    }

    /**
     * @param  array{float, float, float}  $one
     * @param  array{float, float, float}  $two
     */
    #[DataProvider('pairs')]
    public function test_differences_are_those_of_the_published_pairs(array $one, array $two, float $expected): void
    {
        self::assertEqualsWithDelta($expected, DeltaE00::of($one, $two), 5e-5);
        self::assertEqualsWithDelta($expected, DeltaE00::of($two, $one), 5e-5);
        self::assertSame(0.0, DeltaE00::of($one, $one));
    }

    /** Hues just before and just after 0° are as good as one, on whichever side the other lies. */
    public function test_differences_do_not_jump_where_hues_go_round(): void
    {
        $at = static fn (float $hue): array => [50.0, 30 * cos(deg2rad($hue)), 30 * sin(deg2rad($hue))];
        foreach ([1.0, 5.0, 60.0, 150.0, 210.0, 300.0, 355.0, 359.0] as $hue) {
            self::assertEqualsWithDelta(DeltaE00::of($at(0.0005), $at($hue)), DeltaE00::of($at(359.9995), $at($hue)), 2e-3, "$hue");
            self::assertEqualsWithDelta(DeltaE00::of($at($hue), $at(0.0005)), DeltaE00::of($at($hue), $at(359.9995)), 2e-3, "$hue");
        }
    }

    /** sRGB of IEC 61966-2-1: 0.5 in linear light is 188 (from memory); Lab of pure red 53.24, 80.09, 67.20 (from memory); OKLCH chroma of red 0.2577 (from memory). */
    public function test_colours_go_between_their_spaces(): void
    {
        self::assertSame('#BCBCBC', Color::ofLinear(0.5, 0.5, 0.5)->hex());
        self::assertSame('#000D16', Color::ofLinear(0.0, 0.0040, 0.008)->hex());
        self::assertSame('#FF0080', Color::ofSrgb(1.7, -0.2, 0.5)->hex());
        self::assertSame('#FF00FF', Color::of(300, -5, 255)->hex());
        self::assertEquals(Color::of(18, 52, 86), Color::ofHex('#123456'));
        self::assertEqualsWithDelta([53.24, 80.09, 67.20], Color::of(255, 0, 0)->lab(), 0.02);
        self::assertEqualsWithDelta([100.0, 0.0, 0.0], Color::of(255, 255, 255)->lab(), 0.02);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], Color::of(0, 0, 0)->lab(), 1e-6);
        self::assertEqualsWithDelta([1.0 / 255 / 12.92, 0.0, 1.0], Color::of(1, 0, 255)->linear(), 1e-9);
        self::assertEqualsWithDelta(0.2577, Color::of(255, 0, 0)->chroma(), 5e-4);
        self::assertEqualsWithDelta(0.0, Color::of(128, 128, 128)->chroma(), 1e-4);
        self::assertEqualsWithDelta(sqrt(9 + 16 + 144), Color::of(3, 4, 12)->rgbDistance(Color::of(0, 0, 0)), 1e-12);
        self::assertEqualsWithDelta(Color::of(3, 4, 12)->deltaE(Color::of(200, 0, 0)), Color::of(200, 0, 0)->deltaE(Color::of(3, 4, 12)), 1e-9);
        foreach ([0, 1, 10, 11, 100, 254, 255] as $byte) {
            $color = Color::of($byte, $byte, $byte);
            self::assertEquals($color, Color::ofLinear(...$color->linear()));
        }
    }

    public function test_a_palette_keeps_away_from_what_is_kept_and_from_grey(): void
    {
        $kept = [Color::of(255, 0, 0), Color::of(0, 255, 0)];
        foreach (Palette::spread(6, $kept) as $color) {
            self::assertTrue($color->chroma() >= 0.12 || in_array($color->hex(), ['#000000', '#FFFFFF'], true));
            self::assertGreaterThan(25.0, min($color->deltaE($kept[0]), $color->deltaE($kept[1])));
        }
        self::assertSame([], Palette::spread(0));
        self::assertSame(['#FF0000'], array_map(static fn (Color $c): string => $c->hex(), Palette::spread(1)));
        self::assertSame(INF, Palette::leastDistance([Color::of(1, 2, 3)]));
        self::assertSame(0.0, Palette::leastDistance([Color::of(1, 2, 3), Color::of(200, 0, 0), Color::of(1, 2, 3)]));
        // Exchanging never leaves less than going on greedily did: the greedy seven are known to be under 40.
        self::assertGreaterThan(34.0, Palette::leastDistance(Palette::spread(7)));
        self::assertGreaterThan(17.0, Palette::leastDistance(Palette::spread(24)));
        self::assertGreaterThan(12.0, Palette::leastDistance(Palette::spread(40)));
    }

    public function test_ids_come_from_the_id_file_then_vertex_colours_then_materials(): void
    {
        $box = Shapes::box(1, 1, 1);
        $dyed = static fn (string $name, string $hex): Part => new Part($name, $box->mesh(40, [[0, 'ink']]), ['ink' => $hex]);
        $high = ['a_high' => $dyed('a_high', '#112233'), 'b_high' => $dyed('b_high', '#445566')];
        $both = self::ids(['a_low' => $box, 'b_low' => $box], $high, ['a_id' => $dyed('a_id', '#FF0000'), 'b_id' => $dyed('b_id', '#00FF00')]);
        self::assertSame(['id file', ['#FF0000', '#00FF00'], []], [$both->source, array_keys($both->colors), $both->missing]);
        $materials = self::ids(['a_low' => $box, 'b_low' => $box], $high);
        self::assertSame(['materials', ['#112233', '#445566']], [$materials->source, array_keys($materials->colors)]);
        self::assertSame('ink', $materials->colors['#112233']->name());
        // One colour on all of it is no ID.
        $one = self::ids(['a_low' => $box, 'b_low' => $box], ['a_high' => $dyed('a_high', '#112233'), 'b_high' => $dyed('b_high', '#112233')]);
        self::assertSame(['none', [], []], [$one->source, $one->colors, $one->missing]);
        // Vertex colours come before materials; parts without them are missing.
        $vertex = self::ids(['a_low' => $box, 'b_low' => $box], ['a_high' => self::painted('a_high', $box, static fn (int $v): array => [1.0, 0.0, 0.0]), 'b_high' => $high['b_high']]);
        self::assertSame(['vertex colours', ['#FF0000']], [$vertex->source, array_keys($vertex->colors)]);
        self::assertSame([['b_high', 12, 12]], array_map(static fn (array $one): array => [$one['part']->part->name, $one['without'], $one['of']], $vertex->missing));
        self::assertSame('a_high', $vertex->colors['#FF0000']->name());
        self::assertSame('#FF0000', (new IdColor(Color::of(255, 0, 0), [], []))->name());
    }

    public function test_faces_between_two_colours_blend_and_faces_without_are_counted(): void
    {
        $box = Shapes::box(1, 1, 1);
        $half = self::ids(['a_low' => $box], ['a_high' => self::painted('a_high', $box, static fn (int $v): array => $v < 4 ? [0.0, 0.0, 1.0] : [0.0, 1.0, 0.0])]);
        self::assertSame(['#0000FF', '#00FF00'], array_keys($half->colors));
        self::assertSame([], $half->missing);
        $without = self::ids(['a_low' => $box], ['a_high' => self::painted('a_high', $box, static fn (int $v): array => $v < 4 ? [0.0, 0.0, 1.0] : [-1.0, -1.0, -1.0])]);
        self::assertSame([['a_high', 12]], array_map(static fn (array $one): array => [$one['part']->part->name, $one['of']], $without->missing));
        self::assertGreaterThan(0, $without->missing[0]['without']);
        self::assertLessThan(12, $without->missing[0]['without']);
        $file = self::ids(['a_low' => $box], ['a_high' => $box], ['a_id' => self::painted('a_id', $box, static fn (int $v): array => [0.0, 0.0, 1.0])]);
        self::assertSame(['id file', ['#0000FF']], [$file->source, array_keys($file->colors)]);
        // A material that the file gives no colour.
        $bare = self::ids(['a_low' => $box, 'b_low' => $box], ['a_high' => $box->mesh(40, [[0, 'x']]), 'b_high' => $box->mesh(40, [[0, 'y']])], ['a_id' => new Part('a_id', $box->mesh(40, [[0, 'ink'], [3, 'bare']]), ['ink' => '#FF0000']), 'b_id' => new Part('b_id', $box->mesh(), [])]);
        self::assertSame(['id file', ['#FF0000']], [$bare->source, array_keys($bare->colors)]);
        self::assertSame([['a_id', 6, 12], ['b_id', 12, 12]], array_map(static fn (array $one): array => [$one['part']->part->name, $one['without'], $one['of']], $bare->missing));
    }

    public function test_ids_touch_within_a_distance_of_their_surfaces(): void
    {
        $part = static fn (Polygons $shape, string $name): RoledPart => Measures::of([Assets::file('x_high.obj', [$name => $shape])], Standard::builtIn(), Choices::ofJson('{}'))->asset->parts[0];
        $id = static fn (RoledPart ...$parts): IdColor => new IdColor(Color::of(0, 0, 0), [], array_values($parts));
        $a = $part(Shapes::box(1, 1, 1), 'a_high');
        $b = $part(Shapes::box(1, 1, 1, 4)->moved(1.05, 0, 0), 'b_high');
        $c = $part(Shapes::box(1, 1, 1)->moved(9, 0, 0), 'c_high');
        foreach ([[0.049, false], [0.051, true]] as [$within, $touch]) {
            self::assertSame($touch, Touching::of($id($a), $id($b), $within));
            self::assertSame($touch, Touching::of($id($b), $id($a), $within));
            self::assertSame($touch, Touching::of($id($c, $a), $id($b), $within));
        }
        self::assertTrue(Touching::of($id($a), $id($c, $a), 0.0), 'on one part');
        self::assertFalse(Touching::of($id($a), $id($c), 0.5));
        self::assertFalse(Touching::of($id(), $id($c), 0.5));
        // Boxes that meet while the surfaces do not: a ring around a post.
        $ring = $part(Shapes::torus(2, 0.2, 48, 12), 'ring_high');
        self::assertFalse(Touching::of($id($ring), $id($part(Shapes::cylinder(0.5, 1, 24), 'post_high')), 0.5));
        self::assertTrue(Touching::of($id($ring), $id($part(Shapes::cylinder(1.79, 1, 48), 'drum_high')), 0.05));
    }

    public function test_plans_spread_colours_over_parts_or_materials(): void
    {
        $box = Shapes::box(1, 1, 1);
        $measures = Measures::of([Assets::file('x_low.obj', ['a_low' => $box, 'b_low' => $box]), Assets::file('x_high.obj', ['b_high_2' => $box->mesh(40, [[0, 'steel'], [3, 'brass']]), 'a_high' => $box->mesh(40, [[0, 'steel']]), 'b_high' => new Mesh($box->mesh()->positions, $box->mesh()->triangles)])], Standard::ofJson('{"suffixes":{"high":["_high","_high_*"]}}'), Choices::ofJson('{}'));
        $byPart = IdPlan::byPart($measures->asset);
        self::assertSame(['part', ['a', 'b'], ['a' => ['a_id'], 'b' => ['b_id', 'b_id']]], [$byPart->by, array_keys($byPart->colors), $byPart->parts]);
        $byMaterial = IdPlan::byMaterial($measures->asset);
        self::assertSame(['material', ['brass', 'plain', 'steel']], [$byMaterial->by, array_keys($byMaterial->colors)]);
        self::assertSame(['b_id', 'a_id'], $byMaterial->parts['steel']);
        $legend = $byMaterial->legend();
        self::assertSame(round($byMaterial->leastDistance(), 4), $legend['leastDeltaE00']);
        self::assertSame(['name' => 'brass', 'hex' => $byMaterial->colors['brass']->hex(), 'parts' => ['b_id'], 'material' => 'brass'], $legend['ids'][0]);
        self::assertArrayNotHasKey('material', $byPart->legend()['ids'][0]);
        self::assertSame(['b_id'], $byPart->legend()['ids'][1]['parts']);
        self::assertSame("name,hex,parts\na,{$byPart->colors['a']->hex()},a_id\nb,{$byPart->colors['b']->hex()},b_id\n", $byPart->legendCsv());
        self::assertSame(sprintf("GIMP Palette\nName: bell\nColumns: 8\n#\n%3d %3d %3d\ta\n%3d %3d %3d\tb\n", ...[$byPart->colors['a']->red, $byPart->colors['a']->green, $byPart->colors['a']->blue, $byPart->colors['b']->red, $byPart->colors['b']->green, $byPart->colors['b']->blue]), $byPart->paletteGpl('bell'));
        $empty = IdPlan::byPart(Measures::of([Assets::file('x_low.obj', ['a_low' => $box])], Standard::builtIn(), Choices::ofJson('{}'))->asset);
        self::assertSame([[], null], [$empty->colors, $empty->legend()['leastDeltaE00']]);
        $quoted = IdPlan::byPart(Measures::of([Assets::file('x_high.obj', ['a "b",c_high' => $box])], Standard::builtIn(), Choices::ofJson('{}'))->asset);
        self::assertStringContainsString('"a ""b"",c",#', $quoted->legendCsv());
    }

    public function test_an_id_file_reads_back_with_the_plans_colours(): void
    {
        $box = Shapes::box(1, 1, 1);
        $parts = [new Part('a_high', $box->mesh(40, [[0, 'steel']]), ['steel' => '#808080']), new Part('b_high', $box->moved(3, 0, 0)->mesh(40, [[0, 'steel'], [3, 'brass']]), ['steel' => '#808080', 'brass' => '#806000'])];
        foreach (['x_high.obj', 'x_high.glb'] as $name) {
            $sink = new MemorySink;
            match (pathinfo($name, PATHINFO_EXTENSION)) {
                'obj' => ObjWriter::write($parts, $name, $sink), default => GlbWriter::write($parts, $name, $sink),
            };
            $source = $sink->source($sink->names()[0]);
            $scene = FormatCatalogue::read($source);
            $measures = Measures::of([Assets::file('x_low.obj', ['a_low' => $box, 'b_low' => $box->moved(3, 0, 0)]), new ReadFile($source->name(), null, 'x', $scene, null)], Standard::builtIn(), Choices::ofJson('{}'));
            foreach ([IdPlan::byPart($measures->asset), IdPlan::byMaterial($measures->asset)] as $plan) {
                $out = new MemorySink;
                $written = IdFileWriter::write($measures->asset, 1, $source, $plan, $out);
                self::assertSame('x_id.'.($name === 'x_high.obj' ? 'obj' : 'glb'), $written);
                $back = FormatCatalogue::read($out->source($written));
                if (str_ends_with($written, '.glb')) {
                    // Flat: neither metal nor gloss, and opaque.
                    self::assertStringContainsString('1.0],"metallicFactor":0.0,"roughnessFactor":1.0', $out->content($written));
                    self::assertStringNotContainsString('COLOR_0', $out->content($written));
                }
                self::assertSame(['a_id', 'b_id'], array_map(static fn (Part $part): string => $part->name, $back->parts));
                $wanted = $plan->by === 'part' ? [[$plan->colors['a']->hex()], [$plan->colors['b']->hex()]] : [[$plan->colors['steel']->hex()], [$plan->colors['steel']->hex(), $plan->colors['brass']->hex()]];
                self::assertSame($wanted, array_map(static fn (Part $part): array => array_map(static fn (string $material): string => $part->colors[$material] ?? '', $part->mesh->materials), $back->parts));
                foreach ($back->parts as $i => $part) {
                    self::assertEqualsWithDelta($scene->parts[$i]->mesh->positions, $part->mesh->positions, 1e-6);
                    self::assertSame($scene->parts[$i]->mesh->triangles, $part->mesh->triangles);
                }
            }
        }
    }

    /**
     * @param  array<string, Polygons|Mesh|Part>  $low
     * @param  array<string, Polygons|Mesh|Part>  $high
     * @param  array<string, Polygons|Mesh|Part>  $id
     */
    private static function ids(array $low, array $high, array $id = []): IdColors
    {
        return IdColors::of(Measures::of([Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high), ...($id === [] ? [] : [Assets::file('x_id.obj', $id, Role::Id)])], Standard::builtIn(), Choices::ofJson('{}'))->asset);
    }

    /**
     * @param  callable(int): array{float, float, float}  $of
     */
    private static function painted(string $name, Polygons $shape, callable $of): Part
    {
        $mesh = $shape->mesh();
        $colors = [];
        for ($v = 0, $count = $mesh->vertexCount(); $v < $count; $v++) {
            array_push($colors, ...$of($v));
        }

        return new Part($name, new Mesh($mesh->positions, $mesh->triangles, $mesh->uvs, $mesh->triUvs, $mesh->normals, $mesh->triNormals, $colors, $mesh->faces, ['plain'], [[0, 0]], $mesh->smoothing), []);
    }

    public function test_id_files_are_named_after_the_high_file(): void
    {
        $names = static fn (string $path): string => IdFileWriter::fileName(new ReadFile($path, null, 'x', null, null), Measures::of([], Standard::builtIn(), Choices::ofJson('{}'))->asset);
        self::assertSame(['bell_id.obj', 'bell_id.gltf', 'bell_id.glb', 'bell_id.glb', 'bell_id.glb', 'bell_lo_id.obj'], array_map($names, ['a/bell_high.obj', 'bell_HIGH.gltf', 'bell_high.ply', 'bell.STL', 'bell_high.glb', 'bell_lo.OBJ']));
    }
}
