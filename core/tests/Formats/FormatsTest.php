<?php

declare(strict_types=1);

namespace Anvil\Tests\Formats;

use Anvil\Asset\GivenFile;
use Anvil\Asset\ReadFile;
use Anvil\ColorId\IdFileWriter;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\IdSheet;
use Anvil\Formats\Changes;
use Anvil\Formats\FileSource;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Formats\Rewriter;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\DisplayMesh;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\MeshStore;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Measures;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\MemorySink;
use Anvil\Tests\Support\MemorySource;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Reading, refusing and writing. OBJ by Wavefront's appendix B1; glTF by the Khronos glTF 2.0 specification.
 */
final class FormatsTest extends TestCase
{
    /**
     * @return iterable<string, array{string, string, string}>
     */
    public static function broken(): iterable
    {
        yield 'NaN' => ['a.obj', "v 0 0 nan\nv 1 0 0\nv 0 1 0\nf 1 2 3\n", 'line 1'];
        yield 'index out of range' => ['a.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\n\nf 1 2 9\n", 'line 5'];
        yield 'index 0' => ['a.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 0 1 2\n", 'line 4'];
        yield 'back past the first' => ['a.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -1 -2 -9\n", 'line 4'];
        yield 'a face of two corners' => ['a.obj', "v 0 0 0\nv 1 0 0\nf 1 2\n", 'line 3'];
        yield 'cut in the middle of a vertex' => ['a.obj', "v 0 0 0\nv 1 0", 'line 2'];
        yield 'zero bytes' => ['a.obj', "v 0 0 0\n\0\0\0", 'byte 8'];
        yield 'too far out' => ['a.obj', "v 1e300 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n", 'vertex 1'];
        yield 'one endless line' => ['a.obj', str_repeat('x', 3 << 20), 'line 1'];
        yield 'an empty file' => ['a.glb', '', 'empty'];
        yield 'another format inside' => ['a.obj', 'glTF'.str_repeat("\1", 40), 'begins like'];
        yield 'a format that is not read' => ['a.fbx', 'Kaydara FBX Binary', 'export the same meshes as .glb'];
        yield 'a PLY' => ['a.ply', "ply\n", 'never comes to end_header'];
        yield 'a cut GLB' => ['a.glb', substr(self::glb(), 0, -10), 'cut short'];
        yield 'a GLB of another version' => ['a.glb', 'glTF'.pack('VV', 1, 12), 'byte 4'];
        yield 'broken JSON' => ['a.gltf', '{"asset":{"version":"2.0"', 'JSON'];
        yield 'an accessor that lies' => ['a.gltf', self::gltf(['count' => 4_000_000_000]), 'accessors[0].count'];
        yield 'a buffer that lies' => ['a.gltf', self::gltf([], ['byteLength' => 99999]), 'byteLength'];
        yield 'a loop of nodes' => ['a.gltf', '{"asset":{"version":"2.0"},"scenes":[{"nodes":[0]}],"nodes":[{"children":[1]},{"children":[0]}]}', 'tree'];
        yield 'an unknown required extension' => ['a.gltf', '{"asset":{"version":"2.0"},"extensionsRequired":["KHR_draco_mesh_compression"]}', 'KHR_draco_mesh_compression'];
        yield 'a path out of the folder' => ['a.gltf', self::gltf([], ['uri' => '../../etc/passwd']), 'outside its own folder'];
        yield 'NaN in glTF' => ['a.gltf', self::gltf([], ['uri' => 'data:application/octet-stream;base64,'.base64_encode(pack('g9', NAN, 0, 0, 1, 0, 0, 0, 1, 0))]), 'NaN'];
        yield 'an index out of range in glTF' => ['a.gltf', (string) str_replace('"attributes":{"POSITION":0}', '"attributes":{"POSITION":0},"indices":1', self::gltf([], [], [['bufferView' => 1, 'componentType' => 5121, 'count' => 3, 'type' => 'SCALAR']])), 'names vertex'];
    }

    #[DataProvider('broken')]
    public function test_a_broken_or_hostile_file_is_refused_with_its_place(string $name, string $content, string $words): void
    {
        $folder = sys_get_temp_dir().'/anvil-formats-'.bin2hex(random_bytes(4));
        mkdir($folder);
        file_put_contents("$folder/$name", $content);
        try {
            FormatCatalogue::read(new FileSource("$folder/$name"));
            self::fail('it was read');
        } catch (Unreadable $error) {
            self::assertStringContainsString($words, $error->getMessage());
        } finally {
            unlink("$folder/$name");
            rmdir($folder);
        }
    }

    public function test_obj_in_all_its_dialects(): void
    {
        $scene = $this->read('x.obj', "# head\r\nmtllib m.mtl\r\ng default\r\nv 0 0 0 # origin\r\nv\t1 0 0\r\nv 1 1 0\r\nv 0  1 0\r\nvt 0 0\r\nvt 1 0\r\nvn 0 0 1\r\ng quad_low\r\nusemtl steel\r\ns 1\r\nf 1/1/1 2/2/1 \\\r\n 3/1/1 4/2/1\r\ng tri_low\r\nf -4 -3 -2\r\nf 1//1 2//1 3//1\r\ng quad_low\r\nf 1 3 4\r\n", ['m.mtl' => "newmtl steel\nKd 1 0 0\n"]);
        self::assertSame(['quad_low', 'tri_low'], array_map(static fn (Part $p): string => $p->name, $scene->parts));
        self::assertSame([3, 2], array_map(static fn (Part $p): int => $p->mesh->triangleCount(), $scene->parts));
        self::assertSame(['steel' => '#FF0000'], $scene->parts[0]->colors);
        self::assertSame(3, $scene->parts[0]->mesh->cornersWithoutUv());
        self::assertFalse($scene->parts[0]->mesh->hasNormals());
    }

    public function test_parts_are_objects_where_a_file_has_them_and_a_repeated_object_is_a_second_part(): void
    {
        $scene = $this->read('x.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\no a\ng inner\nf 1 2 3\no a\nf 1 2 3\no empty\n");
        self::assertSame(['a', 'a'], array_map(static fn (Part $p): string => $p->name, $scene->parts));
        $alone = $this->read('winch_low.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        self::assertSame('winch_low', $alone->parts[0]->name);
    }

    public function test_vertex_colours_behind_the_position_are_srgb(): void
    {
        $scene = $this->read('x.obj', "v 0 0 0 1 0.5 0\nv 1 0 0 1 0.5 0\nv 0 1 0 1 0.5 0\nf 1 2 3\n");
        self::assertSame([1.0, 0.5, 0.0], array_slice($scene->parts[0]->mesh->colors, 0, 3));
    }

    public function test_a_concave_face_is_cut_right(): void
    {
        // An arrow head: a fan from its first corner would reach outside; its area is 0.5.
        $mesh = $this->read('x.obj', "v 0 0 0\nv 1 1 0\nv 0 0.5 0\nv -1 1 0\nf 1 2 3 4\n")->parts[0]->mesh;
        $area = 0.0;
        foreach (array_chunk($mesh->triangles, 3) as [$a, $b, $c]) {
            $p = $mesh->positions;
            $area += (($p[3 * $b] - $p[3 * $a]) * ($p[3 * $c + 1] - $p[3 * $a + 1]) - ($p[3 * $b + 1] - $p[3 * $a + 1]) * ($p[3 * $c] - $p[3 * $a])) / 2;
        }
        self::assertEqualsWithDelta(0.5, $area, 1e-9);
    }

    public function test_gltf_nodes_place_scale_and_mirror(): void
    {
        $json = self::gltf();
        $json = (string) str_replace('"nodes":[{"name":"a_low","mesh":0}]', '"nodes":[{"translation":[10,0,0],"children":[1]},{"name":"a_low","mesh":0,"scale":[-2,2,2]}]', $json);
        $mesh = $this->read('x.gltf', $json)->parts[0]->mesh;
        self::assertSame([10.0, 0.0, 0.0, 8.0, 0.0, 0.0, 10.0, 2.0, 0.0], $mesh->positions);
        self::assertSame([0, 2, 1], $mesh->triangles, 'the winding of a mirrored node is put right');
    }

    public function test_gltf_sparse_normalised_and_strided_values(): void
    {
        // Positions as normalised bytes with a stride of 4; the third is put elsewhere by sparse values.
        $data = pack('c*', 0, 0, 0, 0, 127, 0, 0, 0, 0, 127, 0, 0).pack('C', 2)."\0\0\0".pack('c*', 0, 0, 127, 0);
        $json = json_encode([
            'asset' => ['version' => '2.0'], 'scenes' => [['nodes' => [0]]], 'nodes' => [['name' => 'a', 'mesh' => 0]],
            'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0]]]]],
            'accessors' => [['bufferView' => 0, 'componentType' => 5120, 'normalized' => true, 'count' => 3, 'type' => 'VEC3', 'sparse' => ['count' => 1, 'indices' => ['bufferView' => 1, 'componentType' => 5121], 'values' => ['bufferView' => 2]]]],
            'bufferViews' => [['buffer' => 0, 'byteLength' => 12, 'byteStride' => 4], ['buffer' => 0, 'byteOffset' => 12, 'byteLength' => 1], ['buffer' => 0, 'byteOffset' => 16, 'byteLength' => 4]],
            'buffers' => [['byteLength' => 20, 'uri' => 'data:application/octet-stream;base64,'.base64_encode($data)]],
        ], JSON_THROW_ON_ERROR);
        self::assertSame([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0], $this->read('x.gltf', $json)->parts[0]->mesh->positions);
    }

    public function test_a_mesh_written_as_obj_and_glb_reads_back_as_it_was(): void
    {
        $mesh = Shapes::roundedBox(1, 2, 3, 0.2, 2)->mesh(30, [[0, 'one'], [9, 'two']]);
        $part = new Part('a_low', $mesh, ['one' => '#FF8000', 'two' => '#0080FF']);
        foreach (['obj', 'glb'] as $format) {
            $sink = new MemorySink;
            $format === 'obj' ? ObjWriter::write([$part], 'a_low.obj', $sink) : GlbWriter::write([$part], 'a_low.glb', $sink);
            $back = FormatCatalogue::read($sink->source("a_low.$format"))->parts[0];
            self::assertSame('a_low', $back->name);
            self::assertSame($mesh->triangleCount(), $back->mesh->triangleCount());
            self::assertEquals($part->colors, $back->colors);
            self::assertTrue($back->mesh->hasNormals());
            self::assertSame(0, $back->mesh->cornersWithoutUv());
            self::assertEquals($mesh->bounds()?->toArray(), $back->bounds()?->toArray());
        }
        $text = new MemorySink;
        ObjWriter::write([$part], 'a_low.obj', $text);
        self::assertMatchesRegularExpression('/^f( \d+\/\d+\/\d+){4}$/m', $text->content('a_low.obj'), 'quads stay quads');
    }

    public function test_a_rename_changes_name_bytes_and_nothing_else(): void
    {
        $obj = "# keep  me\r\no Dial_high\r\nv 0 0 0\r\nv 1 0 0\r\nv 0 1 0\r\nf 1 2 3\r\no other\r\nf 1 2 3";
        self::assertSame(str_replace('o Dial_high', 'o dial_high', $obj), $this->rewrite('x.obj', $obj, new Changes(['Dial_high' => 'dial_high'])));
        $gltf = self::gltf();
        self::assertSame(str_replace('"a_low"', '"much longer name_low"', $gltf), $this->rewrite('x.gltf', $gltf, new Changes(['a_low' => 'much longer name_low'])));
        // In a GLB the lengths that count the names change too.
        $glb = self::glb();
        $back = $this->rewrite('x.glb', $glb, new Changes(['a_low' => 'a_low_2']));
        self::assertSame(strlen($back), unpack('V', substr($back, 8, 4))[1] ?? 0);
        self::assertSame(substr($glb, -36), substr($back, -36));
        self::assertSame('a_low_2', FormatCatalogue::read(new MemorySource('x.glb', $back))->parts[0]->name);
        self::assertSame($glb, $this->rewrite('x.glb', $glb, new Changes));
    }

    public function test_a_move_changes_positions_and_nothing_else(): void
    {
        $obj = "o a\nv 0.25 0 0\nv 1 0 0 # corner\nv 0 1 0\nvt 0 0\nf 1 2 3\no b\nv 5 5 5\nv 6 5 5\nv 5 6 5\nf 4 5 6\n";
        self::assertSame(str_replace(['v 0.25 0 0', 'v 1 0 0', 'v 0 1 0'], ['v 1.75 0 0', 'v 2.5 0 0', 'v 1.5 1 0'], $obj), $this->rewrite('x.obj', $obj, new Changes([], ['a' => [1.5, 0.0, 0.0]])));
        $moved = FormatCatalogue::read(new MemorySource('x.glb', $this->rewrite('x.glb', self::glb(), new Changes([], ['a_low' => [0.0, 0.5, -2.0]]))));
        self::assertSame([0.0, 0.5, -2.0, 1.0, 0.5, -2.0, 0.0, 1.5, -2.0], $moved->parts[0]->mesh->positions);
    }

    public function test_a_child_node_stays_where_it_is_when_its_parent_moves(): void
    {
        $json = (string) str_replace('"nodes":[{"name":"a_low","mesh":0}]', '"nodes":[{"name":"a_low","mesh":0,"children":[1],"rotation":[0,0,0.7071068,0.7071068]},{"name":"b_low","mesh":0,"translation":[3,0,0]}]', self::gltf());
        $before = $this->read('x.gltf', $json);
        $after = FormatCatalogue::read(new MemorySource('x.gltf', $this->rewrite('x.gltf', $json, new Changes([], ['a_low' => [1.0, 2.0, 0.0]]))));
        self::assertEqualsWithDelta($before->parts[1]->mesh->positions, $after->parts[1]->mesh->positions, 1e-5);
        self::assertEqualsWithDelta($before->parts[0]->mesh->moved([1.0, 2.0, 0.0])->positions, $after->parts[0]->mesh->positions, 1e-5);
    }

    public function test_vertices_shared_by_parts_that_part_are_refused(): void
    {
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage('shares vertices');
        $this->rewrite('x.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 1 0\no a\nf 1 2 3\no b\nf 2 4 3\n", new Changes([], ['a' => [1.0, 0.0, 0.0]]));
    }

    public function test_an_id_file_wears_the_colours_of_its_plan_to_the_last_bit(): void
    {
        foreach (['obj', 'glb'] as $format) {
            $sink = new MemorySink;
            $parts = [new Part('a_high', Shapes::box(1, 1, 1)->mesh(), []), new Part('b_high', Shapes::box(1, 1, 1)->moved(2, 0, 0)->mesh(40, [[0, 'old']]), ['old' => '#123456'])];
            $format === 'obj' ? ObjWriter::write($parts, 'x_high.obj', $sink) : GlbWriter::write($parts, 'x_high.glb', $sink);
            $source = $sink->source("x_high.$format");
            $measures = Measures::of([ReadFile::of(new GivenFile("x_high.$format", null, $source))], Standard::builtIn(), new Choices);
            $plan = IdPlan::of($measures->asset, new IdSheet);
            self::assertGreaterThan(20.0, $plan->leastDistance());
            $out = new MemorySink;
            $name = (new IdFileWriter($measures->asset, $plan))->write(0, $source, $out);
            self::assertSame("x_id.$format", $name);
            $back = Measures::of([ReadFile::of(new GivenFile($name, null, $out->source($name)))], Standard::builtIn(), new Choices);
            self::assertSame(['a_id', 'b_id'], array_map(static fn (Part $p): string => $p->name, $back->asset->files[0]->scene->parts ?? []));
            self::assertSame(array_map(static fn ($c): string => $c->hex(), $plan->colors()), array_keys($back->ofAsset(Colors::class)->colors));
            self::assertSame([], $back->ofAsset(Colors::class)->missing);
        }
    }

    public function test_the_geometry_store_keeps_a_mesh_and_refuses_a_cut_one(): void
    {
        $mesh = Shapes::roundedBox(1, 1, 1, 0.1, 2)->mesh(30, [[0, 'one']]);
        $bytes = MeshStore::encode($mesh);
        $back = MeshStore::decode($bytes);
        self::assertSame($mesh->positions, $back->positions);
        self::assertSame([$mesh->triangles, $mesh->triUvs, $mesh->faces, $mesh->materialRuns], [$back->triangles, $back->triUvs, $back->faces, $back->materialRuns]);
        $this->expectExceptionMessage('cut short');
        MeshStore::decode(substr($bytes, 0, -4));
    }

    public function test_a_display_mesh_is_thinned_to_what_was_asked(): void
    {
        $mesh = Shapes::sphere(1, 60, 120)->mesh();
        $light = DisplayMesh::of($mesh, 2000);
        self::assertLessThanOrEqual(2000, intdiv(count($light->triangles), 3));
        self::assertGreaterThan(300, intdiv(count($light->triangles), 3));
        self::assertSame($mesh->triangles, DisplayMesh::of($mesh, 100_000)->triangles);
        self::assertSame([0.0, 1.5], Bytes::floats(Bytes::packFloats([0.0, 1.5])));
        self::assertNull((new Mesh([], []))->bounds());
    }

    /**
     * @param  array<string, string>  $sides
     */
    private function read(string $name, string $content, array $sides = []): Scene
    {
        return FormatCatalogue::read(new MemorySource($name, $content, $sides));
    }

    private function rewrite(string $name, string $content, Changes $changes): string
    {
        $sink = new MemorySink;
        Rewriter::write(new MemorySource($name, $content), $changes, $name, $sink);

        return $sink->content($name);
    }

    /**
     * A triangle as .gltf with embedded data.
     *
     * @param  array<string, mixed>  $accessor
     * @param  array<string, mixed>  $buffer
     * @param  list<array<string, mixed>>  $moreAccessors
     */
    private static function gltf(array $accessor = [], array $buffer = [], array $moreAccessors = []): string
    {
        $data = pack('g9', 0, 0, 0, 1, 0, 0, 0, 1, 0).pack('C4', 0, 1, 7, 0);

        return json_encode([
            'asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => [0]]], 'nodes' => [['name' => 'a_low', 'mesh' => 0]],
            'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0]]]]],
            'accessors' => [[...['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'], ...$accessor], ...$moreAccessors],
            'bufferViews' => [['buffer' => 0, 'byteLength' => 36], ['buffer' => 0, 'byteOffset' => 36, 'byteLength' => 4]],
            'buffers' => [[...['byteLength' => isset($buffer['uri']) ? 36 : 40, 'uri' => 'data:application/octet-stream;base64,'.base64_encode($data)], ...$buffer]],
        ], JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES);
    }

    private static function glb(): string
    {
        $json = '{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"name":"a_low","mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3"}],"bufferViews":[{"buffer":0,"byteLength":36}],"buffers":[{"byteLength":36}]}';
        $json .= str_repeat(' ', (4 - strlen($json) % 4) % 4);
        $bin = pack('g9', 0, 0, 0, 1, 0, 0, 0, 1, 0);

        return pack('VVV', 0x46546C67, 2, 28 + strlen($json) + strlen($bin)).pack('VV', strlen($json), 0x4E4F534A).$json.pack('VV', strlen($bin), 0x004E4942).$bin;
    }
}
