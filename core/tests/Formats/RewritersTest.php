<?php

declare(strict_types=1);

namespace Anvil\Tests\Formats;

use Anvil\Asset\Frames;
use Anvil\Asset\GivenFile;
use Anvil\Asset\ReadFile;
use Anvil\ColorId\IdFileWriter;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\IdSheet;
use Anvil\Formats\Changes;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Rewriter;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Part;
use Anvil\Measures\Measures;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\MemorySink;
use Anvil\Tests\Support\MemorySource;
use Anvil\Unreadable;
use PHPUnit\Framework\TestCase;

/**
 * Mended files of every format: only what was asked to change changes.
 */
final class RewritersTest extends TestCase
{
    private const PLY = "ply\r\nformat ascii 1.0\r\ncomment made for a test\r\nelement vertex 4\r\nproperty float x\r\nproperty float y\r\nproperty float z\r\nproperty uchar red\r\nelement face 2\r\nproperty list uchar int vertex_indices\r\nend_header\r\n0.25 0 0 17\r\n1 0 0  18\r\n0 1 0 19\r\n0 0 1 20\r\n3 0 1 2\r\n3 0 2 3\r\n";

    private const STL = "solid sheave_high\n facet normal 0 0 1\n  outer loop\n   vertex 0 0 0.5\n   vertex 1 0 0.5\n   vertex 0 1 0.5\n  endloop\n endfacet\nendsolid sheave_high\n";

    public function test_a_ply_is_moved_in_its_positions_alone_in_every_encoding(): void
    {
        $moved = $this->write('x_high.ply', self::PLY, new Changes([], ['x_high' => [1.0, 0.0, -2.0]]));
        self::assertSame(str_replace(['0.25 0 0 17', '1 0 0  18', '0 1 0 19', '0 0 1 20'], ['1.25 0 -2 17', '2 0 -2  18', '1 1 -2 19', '1 0 -1 20'], self::PLY), $moved);
        foreach (['little' => 'g', 'big' => 'G'] as $order => $letter) {
            $whole = $order === 'little' ? 'V' : 'N';
            $head = "ply\nformat binary_{$order}_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n";
            $body = static fn (float $by): string => pack("{$letter}3C", 0 + $by, 0, 0, 7).pack("{$letter}3C", 1 + $by, 0, 0, 8).pack("{$letter}3C", 0 + $by, 1, 0, 9).pack("C{$whole}3", 3, 0, 1, 2);
            self::assertSame($head.$body(0.5), $this->write('x.ply', $head.$body(0.0), new Changes([], ['x' => [0.5, 0.0, 0.0]])), $order);
            self::assertSame(1, FormatCatalogue::read(new MemorySource('x.ply', $head.$body(0.0)))->triangleCount());
        }
        self::assertSame(self::PLY, $this->write('x.ply', self::PLY, new Changes));
    }

    public function test_an_stl_is_turned_with_its_facet_normals(): void
    {
        $turned = $this->write('x.stl', self::STL, new Changes(placed: self::quarterAboutX()));
        self::assertSame([[0.0, -0.5, 0.0], [1.0, -0.5, 0.0], [0.0, -0.5, 1.0]], array_chunk(FormatCatalogue::read(new MemorySource('x.stl', $turned))->parts[0]->mesh->positions, 3));
        self::assertStringContainsString('facet normal 0 -1 0', $turned);
        self::assertStringContainsString("solid sheave_high\n", $turned);
        $binary = str_pad('made for a test', 80, "\0").pack('V', 1).pack('g12', 0, 0, 1, 0, 0, 0.5, 1, 0, 0.5, 0, 1, 0.5).pack('v', 513);
        $back = $this->write('x.stl', $binary, new Changes(placed: Matrix::scaling(2.0)));
        self::assertSame([substr($binary, 0, 84), substr($binary, -2), strlen($binary)], [substr($back, 0, 84), substr($back, -2), strlen($back)]);
        self::assertSame([0.0, 0.0, 1.0, 2.0, 0.0, 1.0, 0.0, 2.0, 1.0], FormatCatalogue::read(new MemorySource('x.stl', $back))->parts[0]->mesh->positions);
    }

    public function test_collada_names_and_moves_change_their_own_bytes(): void
    {
        $dae = self::collada();
        $renamed = $this->write('x.dae', $dae, new Changes(['jib_high' => 'jib_arm_high']));
        self::assertSame(str_replace('name="jib_high"', 'name="jib_arm_high"', $dae), $renamed);
        self::assertSame(['jib_arm_high', 'post_high'], self::names($renamed));
        $moved = FormatCatalogue::read(new MemorySource('x.dae', $this->write('x.dae', $dae, new Changes([], ['jib_high' => [0.0, 0.0, 7.0]]))));
        $before = FormatCatalogue::read(new MemorySource('x.dae', $dae));
        self::assertEqualsWithDelta(array_map(static fn (float $v, int $i): float => $v + ($i % 3 === 2 ? 7.0 : 0.0), $before->parts[0]->mesh->positions, array_keys($before->parts[0]->mesh->positions)), $moved->parts[0]->mesh->positions, 1e-6);
        self::assertSame($before->parts[1]->mesh->positions, $moved->parts[1]->mesh->positions);
        // A name with signs that XML reserves.
        self::assertSame(['a&b<c_high', 'post_high'], self::names($this->write('x.dae', $dae, new Changes(['jib_high' => 'a&b<c_high']))));
    }

    public function test_a_scale_and_a_turn_of_a_whole_file_reach_every_part_in_every_format(): void
    {
        $place = self::quarterAboutX()->times(Matrix::scaling(0.01));
        $obj = "o jib_high\nv 100 0 0\nv 200 0 0\nv 100 100 50\nvn 0 0 1\nf 1//1 2//1 3//1\n";
        foreach (['x.obj' => $obj, 'x.ply' => self::PLY, 'x.stl' => self::STL, 'x.dae' => self::collada(), 'x.gltf' => self::gltf()] as $name => $content) {
            $before = FormatCatalogue::read(new MemorySource($name, $content));
            $after = FormatCatalogue::read(new MemorySource($name, $this->write($name, $content, new Changes(placed: $place))));
            self::assertSame(count($before->parts), count($after->parts), $name);
            foreach ($before->parts as $i => $part) {
                self::assertSame($part->name, $after->parts[$i]->name);
                self::assertEqualsWithDelta($place->points($part->mesh->positions), $after->parts[$i]->mesh->positions, 1e-6, $name);
                if ($part->mesh->hasNormals()) {
                    self::assertEqualsWithDelta($place->normals($part->mesh->normals), $after->parts[$i]->mesh->normals, 1e-6, "$name normals");
                }
            }
        }
    }

    public function test_what_cannot_be_written_is_said(): void
    {
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage('read here and not written');
        $this->write('x.usda', "#usda 1.0\n", new Changes(['a' => 'b']));
    }

    public function test_an_id_copy_of_a_format_without_materials_is_a_glb_that_lies_on_the_high_poly(): void
    {
        // The high poly says centimetres and Z up, the low poly nothing: as an ID copy in metres and Y up it comes back to the same place.
        $low = ReadFile::of(new GivenFile('rig_low.dae', null, new MemorySource('rig_low.dae', str_replace('_high', '_low', self::collada()))));
        foreach (['rig_high.dae' => self::collada(), 'jib_high.stl' => self::STL] as $name => $content) {
            $source = new MemorySource($name, $content);
            $files = [$low, ReadFile::of(new GivenFile($name, Role::High, $source))];
            $measures = Measures::of($files, Standard::builtIn(), Choices::ofJson('{}'));
            $sink = new MemorySink;
            $plan = IdPlan::of($measures->asset, new IdSheet);
            $written = (new IdFileWriter($measures->asset, $plan))->write(1, $source, $sink);
            self::assertMatchesRegularExpression('/_id\.glb$/', $written);
            $again = Measures::of([...$files, ReadFile::of(new GivenFile($written, null, $sink->source($written)))], Standard::builtIn(), Choices::ofJson('{}'));
            $id = $again->asset->judged(Role::Id);
            self::assertCount(count($again->asset->judged(Role::High)), $id);
            self::assertEqualsWithDelta($again->asset->boundsOf(Role::High)?->toArray(), $again->asset->boundsOf(Role::Id)?->toArray(), 1e-5);
            self::assertContains(array_values($id[0]->part->colors)[0], array_map(static fn ($color): string => $color->hex(), $plan->colors()));
        }
    }

    public function test_files_that_say_their_unit_and_axis_are_brought_together(): void
    {
        $dae = ReadFile::of(new GivenFile('rig_high.dae', null, new MemorySource('rig_high.dae', self::collada())));
        $gltf = ReadFile::of(new GivenFile('rig_low.gltf', null, new MemorySource('rig_low.gltf', self::gltf())));
        $matrix = Frames::of([$gltf, $dae], Standard::builtIn())[1];
        // Centimetres with Z up to metres with Y up: x stays, z becomes y, y becomes −z.
        self::assertEqualsWithDelta([0.01, 0.03, -0.02], $matrix->points([1.0, 2.0, 3.0]), 1e-12);
    }

    /**
     * @return list<string>
     */
    private static function names(string $dae): array
    {
        return array_map(static fn (Part $part): string => $part->name, FormatCatalogue::read(new MemorySource('x.dae', $dae))->parts);
    }

    private static function quarterAboutX(): Matrix
    {
        return Matrix::of([1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, -1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0]);
    }

    private static function collada(): string
    {
        $mesh = static fn (string $id, string $positions): string => "<geometry id=\"$id\" name=\"$id mesh\"><mesh><source id=\"$id-p\"><float_array id=\"$id-a\" count=\"9\">$positions</float_array><technique_common><accessor source=\"#$id-a\" count=\"3\" stride=\"3\"><param name=\"X\" type=\"float\"/><param name=\"Y\" type=\"float\"/><param name=\"Z\" type=\"float\"/></accessor></technique_common></source><vertices id=\"$id-v\"><input semantic=\"POSITION\" source=\"#$id-p\"/></vertices><triangles count=\"1\"><input semantic=\"VERTEX\" source=\"#$id-v\" offset=\"0\"/><p>0 1 2</p></triangles></mesh></geometry>";

        return "<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<COLLADA xmlns=\"http://www.collada.org/2005/11/COLLADASchema\" version=\"1.4.1\">\n<!-- made for a test -->\n<asset><unit name=\"centimeter\" meter=\"0.01\"/><up_axis>Z_UP</up_axis></asset>\n<library_geometries>".$mesh('g1', '0 0 0 1 0 0 0 1 0').$mesh('g2', '0 0 5 1 0 5 0 1 5').'</library_geometries>'
            ."\n<library_visual_scenes><visual_scene id=\"s\"><node id=\"n1\" name=\"jib_high\"><translate>1 2 3</translate><rotate>0 0 1 90</rotate><instance_geometry url=\"#g1\"/></node>\n<node id=\"n2\" name='post_high'><scale>2 2 2</scale><instance_geometry url=\"#g2\"/></node></visual_scene></library_visual_scenes>\n<scene><instance_visual_scene url=\"#s\"/></scene>\n</COLLADA>\n";
    }

    private static function gltf(): string
    {
        $data = base64_encode(pack('g18', 100, 0, 0, 200, 0, 0, 100, 100, 50, 0, 0, 1, 0, 0, 1, 0, 0, 1));

        return '{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"name":"jib_low","mesh":0,"translation":[0,5,0]}],"meshes":[{"primitives":[{"attributes":{"POSITION":0,"NORMAL":1}}]}],'
            .'"accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[100,0,0],"max":[200,100,50]},{"bufferView":0,"byteOffset":36,"componentType":5126,"count":3,"type":"VEC3"}],'
            .'"bufferViews":[{"buffer":0,"byteLength":72}],"buffers":[{"byteLength":72,"uri":"data:application/octet-stream;base64,'.$data.'"}]}';
    }

    private function write(string $name, string $content, Changes $changes): string
    {
        $sink = new MemorySink;
        Rewriter::write(new MemorySource($name, $content), $changes, $name, $sink);

        return $sink->content($name);
    }
}
