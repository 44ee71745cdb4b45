<?php

declare(strict_types=1);

namespace Anvil\Tests\ColorId;

use Anvil\Asset\GivenFile;
use Anvil\Asset\ReadFile;
use Anvil\ColorId\IdColor;
use Anvil\ColorId\IdColors;
use Anvil\ColorId\TouchGraph;
use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Report\Report;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySource;
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
        // What an ID stands for: the material of the high poly beneath, where that is one.
        self::assertSame(['ink'], $both->colors['#FF0000']->materials);
        self::assertSame(['plain'], $vertex->colors['#FF0000']->materials);
    }

    public function test_faces_between_two_colours_blend_and_faces_without_are_counted(): void
    {
        $box = Shapes::box(1, 1, 1);
        // Half of a box in each color: most of its area blends, so that these are no IDs unless they are said to be.
        $parts = ['a_high' => self::painted('a_high', $box, static fn (int $v): array => $v < 4 ? [0.0, 0.0, 1.0] : [0.0, 1.0, 0.0])];
        $half = self::ids(['a_low' => $box], $parts);
        self::assertSame(['none', [], []], [$half->source, $half->colors, $half->missing]);
        self::assertGreaterThan(0.3, $half->painted[0]['share']);
        $half = self::ids(['a_low' => $box], $parts, [], '{"vertexColors":"ids"}');
        self::assertSame(['#0000FF', '#00FF00'], array_keys($half->colors));
        self::assertSame([[], []], [$half->missing, $half->painted]);
        // Finely cut, a tenth of it may blend.
        $fine = Shapes::box(1, 1, 1, 40);
        $at = $fine->mesh()->positions;
        $cut = self::ids(['a_low' => $box], ['a_high' => self::painted('a_high', $fine, static fn (int $v): array => $at[3 * $v] < 0.01 ? [0.0, 0.0, 1.0] : [0.0, 1.0, 0.0])]);
        self::assertEqualsCanonicalizing(['#00FF00', '#0000FF'], array_keys($cut->colors));
        // More than 256 colors tell nothing apart, however flat.
        $many = [];
        foreach (range(0, 299) as $n) {
            $many["p{$n}_high"] = self::painted("p{$n}_high", $box, static fn (): array => [($n % 20) / 20, intdiv($n, 20) / 20, 0.5]);
        }
        $rock = self::ids(['a_low' => $box], $many);
        self::assertSame(['none', 300], [$rock->source, count($rock->painted)]);
        self::assertSame('vertex colours', self::ids(['a_low' => $box], array_slice($many, 0, 256))->source);
        // What is painted beside IDs is left out of them.
        $mixed = self::ids(['a_low' => $box, 'b_low' => $box], [...$parts, 'b_high' => self::painted('b_high', $box, static fn (): array => [1.0, 0.0, 0.0])]);
        self::assertSame(['vertex colours', ['#FF0000'], [], 'a_high'], [$mixed->source, array_keys($mixed->colors), $mixed->missing, $mixed->painted[0]['part']->part->name]);
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

    /** Colors in a picture are not taken for flat ones: an ID file of them is not judged, a high poly of them has no IDs. */
    public function test_colors_in_a_picture_are_told_and_not_read(): void
    {
        $mtl = "newmtl one\nKd 1 0 0\nmap_Kd -s 1 1 1 paint one.png\nnewmtl two\nKd 0 0 1\n";
        $obj = "mtllib x.mtl\no a_%s\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl one\nf 1 2 3\no b_%s\nv 5 0 0\nv 6 0 0\nv 5 1 0\nusemtl two\nf 4 5 6\n";
        $files = array_map(static fn (string $role): ReadFile => ReadFile::of(new GivenFile("x_$role.obj", null, new MemorySource("x_$role.obj", str_replace('%s', $role, $obj), ['x.mtl' => $mtl]))), ['high', 'id']);
        self::assertSame(['one' => 'paint one.png'], $files[0]->scene?->parts[0]->facts->pictures);
        self::assertEquals($files[0]->scene?->parts[0]->facts, PartFacts::ofArray($files[0]->scene?->parts[0]->facts->toArray() ?? []));
        $high = Assets::reportOf([$files[0]]);
        self::assertSame('the colors of a_high are in a picture (paint one.png), which is not read: give IDs as materials or vertex colors', self::outcome($high, 'id-missing'));
        $both = Assets::reportOf($files);
        self::assertSame('not-run', Assets::state($both, 'id-missing'));
        self::assertSame('the colors of a_id are in a picture (paint one.png), which is not read: give IDs as materials or vertex colors', self::outcome($both, 'id-missing'));
        $glb = json_encode(['asset' => ['version' => '2.0'], 'nodes' => [['name' => 'a_high', 'mesh' => 0]], 'scenes' => [['nodes' => [0]]], 'scene' => 0, 'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0], 'material' => 0]]]], 'materials' => [['name' => 'm', 'pbrMetallicRoughness' => ['baseColorFactor' => [1, 1, 1, 1], 'baseColorTexture' => ['index' => 0]]]], 'textures' => [['source' => 0]], 'images' => [['uri' => 'ink%20spot.png']], 'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3']], 'bufferViews' => [['buffer' => 0, 'byteLength' => 36]], 'buffers' => [['byteLength' => 36, 'uri' => 'data:application/octet-stream;base64,'.base64_encode(pack('g9', 0, 0, 0, 1, 0, 0, 0, 1, 0))]]], JSON_THROW_ON_ERROR);
        self::assertSame(['m' => 'ink spot.png'], ReadFile::of(new GivenFile('x_high.gltf', null, new MemorySource('x_high.gltf', $glb)))->scene?->parts[0]->facts->pictures);
    }

    /** Values past what a screen shows, and alpha, are said: an ID is a flat color. */
    public function test_what_is_no_flat_color_in_gltf_is_said(): void
    {
        $read = static function (float ...$colors): array {
            $bytes = pack('g9', 0, 0, 0, 1, 0, 0, 0, 1, 0).pack('g12', ...$colors);
            $root = ['asset' => ['version' => '2.0'], 'nodes' => [['name' => 'a_high', 'mesh' => 0]], 'scenes' => [['nodes' => [0]]], 'scene' => 0, 'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0, 'COLOR_0' => 1]]]]], 'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC4']], 'bufferViews' => [['buffer' => 0, 'byteLength' => 36], ['buffer' => 0, 'byteOffset' => 36, 'byteLength' => 48]], 'buffers' => [['byteLength' => 84, 'uri' => 'data:application/octet-stream;base64,'.base64_encode($bytes)]]];

            return ReadFile::of(new GivenFile('x_high.gltf', null, new MemorySource('x_high.gltf', json_encode($root, JSON_THROW_ON_ERROR))))->scene->remarks ?? ['not read'];
        };
        self::assertSame([], $read(...array_fill(0, 12, 1.0)));
        self::assertSame(['vertex colors over 1 are taken as 1'], $read(4.0, ...array_fill(0, 11, 1.0)));
        self::assertSame(['the alpha of vertex colors is passed over'], $read(1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 0.5, ...array_fill(0, 4, 1.0)));
    }

    private static function outcome(Report $report, string $code): ?string
    {
        foreach ($report->results as $result) {
            if ($result->about->code === $code) {
                return $result->reason;
            }
        }

        return null;
    }

    public function test_surfaces_touch_within_a_distance(): void
    {
        $a = Shapes::box(1, 1, 1)->mesh();
        $b = Shapes::box(1, 1, 1, 4)->moved(1.05, 0, 0)->mesh();
        $far = Shapes::box(1, 1, 1)->moved(9, 0, 0)->mesh();
        foreach ([[0.049, []], [0.051, [[3, 7]]]] as [$within, $pairs]) {
            self::assertSame($pairs, TouchGraph::of([[$a, 3], [$b, 7], [$far, 1]], $within));
            self::assertSame($pairs, TouchGraph::of([[$far, 1], [$b, 7], [$a, 3]], $within));
        }
        // One label on both is no pair; none is none.
        self::assertSame([], TouchGraph::of([[$a, 3], [$b, 3]], 0.1));
        self::assertSame([], TouchGraph::of([[$a, -1], [$b, 3]], 0.1));
        self::assertSame([[3, 7]], TouchGraph::of([[$a, 3], [$far, 7]], 0.0, [[7, 3]]), 'known to touch');
        // Boxes that meet while the surfaces do not: a ring around a post.
        $ring = Shapes::torus(2, 0.2, 48, 12)->mesh();
        self::assertSame([], TouchGraph::of([[$ring, 0], [Shapes::cylinder(0.5, 1, 24)->mesh(), 1]], 0.5));
        self::assertSame([[0, 1]], TouchGraph::of([[$ring, 0], [Shapes::cylinder(1.79, 1, 48)->mesh(), 1]], 0.05));
        self::assertSame([[0, 1]], TouchGraph::of([[Shapes::cylinder(1.79, 1, 48)->mesh(), 0], [$ring, 1]], 0.05), 'whichever comes first');
    }

    public function test_labels_of_one_part_touch_where_they_share_an_edge_or_where_its_shells_meet(): void
    {
        // Six sides of a box: each meets the four around it, none the one across.
        $box = Shapes::box(1, 1, 1)->mesh();
        $sides = array_map(static fn (int $t): int => intdiv($t, 2), range(0, 11));
        $pairs = TouchGraph::of([[$box, $sides]], 0.0);
        self::assertCount(12, $pairs);
        foreach ([[0, 1], [2, 3], [4, 5]] as $across) {
            self::assertNotContains($across, $pairs);
        }
        $two = Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(1.05, 0, 0))->mesh();
        $shells = array_map(static fn (int $t): int => intdiv($t, 12), range(0, 23));
        self::assertSame([], TouchGraph::of([[$two, $shells]], 0.04));
        self::assertSame([[0, 1]], TouchGraph::of([[$two, $shells]], 0.06));
    }

    /**
     * @param  array<string, Polygons|Mesh|Part>  $low
     * @param  array<string, Polygons|Mesh|Part>  $high
     * @param  array<string, Polygons|Mesh|Part>  $id
     */
    private static function ids(array $low, array $high, array $id = [], string $choices = '{}'): IdColors
    {
        return IdColors::of(Measures::of([Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high), ...($id === [] ? [] : [Assets::file('x_id.obj', $id, Role::Id)])], Standard::builtIn(), Choices::ofJson($choices))->asset);
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
}
