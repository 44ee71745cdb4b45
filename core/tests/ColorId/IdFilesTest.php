<?php

declare(strict_types=1);

namespace Anvil\Tests\ColorId;

use Anvil\Asset\GivenFile;
use Anvil\Asset\ReadFile;
use Anvil\ColorId\By;
use Anvil\ColorId\IdColors;
use Anvil\ColorId\IdFileWriter;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\IdSheet;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Formats\Source;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Measures\Measures;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use Anvil\Tests\Support\MemorySource;
use Anvil\Tests\Support\Outside;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * IDs in files: each triangle reads back in the color of its ID, on the same places, UVs and normals, in the same order.
 */
final class IdFilesTest extends TestCase
{
    /**
     * @return iterable<string, array{string, By, bool, bool}>
     */
    public static function ways(): iterable
    {
        foreach (['obj', 'glb', 'gltf', 'ply', 'ply text'] as $format) {
            foreach ([By::Part, By::Region] as $by) {
                foreach ([false, true] as $onto) {
                    foreach ([false, true] as $asVertexColors) {
                        // A PLY has no materials to write onto it.
                        if (! $onto || $asVertexColors || ! str_starts_with($format, 'ply')) {
                            yield "$format by $by->value, ".($onto ? 'onto the high poly' : 'a copy').', '.($asVertexColors ? 'vertex colors' : 'materials') => [$format, $by, $onto, $asVertexColors];
                        }
                    }
                }
            }
        }
    }

    #[DataProvider('ways')]
    public function test_every_triangle_reads_back_in_the_color_of_its_id(string $format, By $by, bool $onto, bool $asVertexColors): void
    {
        $source = self::source($format);
        $high = ReadFile::of(new GivenFile($source->name(), Role::High, $source));
        self::assertNull($high->error);
        $asset = Measures::of([$high], Standard::builtIn(), Choices::ofJson('{}'))->asset;
        $plan = IdPlan::of($asset, new IdSheet($by));
        $sink = new MemorySink;
        $written = (new IdFileWriter($asset, $plan, $onto, $asVertexColors))->write(0, $source, $sink);
        $isFresh = str_starts_with($format, 'ply') && ! $asVertexColors;
        $ending = $isFresh ? 'glb' : substr($format, 0, 4);
        self::assertSame($onto ? $source->name() : 'x_id.'.trim(explode(' ', $ending)[0]), $written);
        $back = ReadFile::of(new GivenFile($written, $onto ? Role::High : Role::Id, $sink->source($written)));
        self::assertNull($back->error);
        $read = Measures::of([$back], Standard::builtIn(), Choices::ofJson('{}'))->asset;
        $ids = IdColors::of($read);
        self::assertSame($asVertexColors ? ($onto ? 'vertex colours' : 'id file') : ($onto ? 'materials' : 'id file'), $ids->source);
        self::assertSame([], $ids->missing);
        self::assertSame([], array_filter(array_map(static fn ($part): array => $ids->labels($part)[1] ?? [], $read->judged())), 'nothing blends');
        $hex = array_map(strval(...), array_keys($ids->colors));
        self::assertEqualsCanonicalizing(array_map(static fn ($color): string => $color->hex(), $plan->colors()), $hex);
        // Materials part glTF into primitives, ordered by ID; all else keeps its order.
        $isSorted = in_array($ending, ['glb', 'gltf'], true) && ! $asVertexColors;
        foreach ($read->judged() as $n => $part) {
            $old = $asset->parts[$n]->part->mesh;
            $labels = $ids->labels($part)[0] ?? [];
            $worn = $plan->ofPart($n);
            $was = $is = [];
            for ($t = 0, $count = $old->triangleCount(); $t < $count; $t++) {
                $was[] = [self::corners($old, $t), $plan->ids[is_int($worn) ? $worn : $worn[$t]]->color->hex()];
                $is[] = [self::corners($part->part->mesh, $t), $hex[$labels[$t]] ?? 'none'];
            }
            if ($isSorted) {
                sort($was);
                sort($is);
            }
            self::assertSame($was, $is, $part->part->name);
            self::assertSame($old->faces !== [], $isFresh ? $old->faces !== [] : $part->part->mesh->faces !== [], 'faces of more corners stay that');
            self::assertSame($onto ? $asset->parts[$n]->part->name : (str_starts_with($format, 'ply') && ! $isFresh ? 'x_id' : $asset->parts[$n]->base.'_id'), $part->part->name);
        }
        if ($ending === 'glb') {
            $path = tempnam(sys_get_temp_dir(), 'anvil-id').'.glb';
            file_put_contents($path, $sink->content($written));
            $report = Outside::node('validate.mjs', [$path])[$path];
            unlink($path);
            self::assertIsArray($report);
            self::assertSame([0, 0], [$report['errors'], $report['warnings']], (string) json_encode($report));
            self::assertSame(! $asVertexColors, str_contains($sink->content($written), 'KHR_materials_unlit'));
        }
    }

    /** Two parts on one mesh get a color each; what has its own data beside (a morph target, a second UV set) keeps it. */
    public function test_instances_and_other_data_of_a_gltf_file_stay(): void
    {
        $source = self::instanced();
        $asset = Measures::of([ReadFile::of(new GivenFile('x_high.gltf', Role::High, $source))], Standard::builtIn(), Choices::ofJson('{}'))->asset;
        foreach ([false, true] as $asVertexColors) {
            $plan = IdPlan::of($asset, new IdSheet);
            $sink = new MemorySink;
            $name = (new IdFileWriter($asset, $plan, false, $asVertexColors))->write(0, $source, $sink);
            $read = Measures::of([ReadFile::of(new GivenFile($name, null, $sink->source($name)))], Standard::builtIn(), Choices::ofJson('{}'))->asset;
            self::assertSame(['a_id', 'b_id'], array_map(static fn ($part): string => $part->part->name, $read->parts));
            $ids = IdColors::of($read);
            self::assertSame(array_map(static fn ($color): string => $color->hex(), $plan->colors()), array_keys($ids->colors));
            $root = json_decode($sink->content($name), true);
            self::assertIsArray($root);
            self::assertSame('kept', $root['extras']['note'] ?? null);
            self::assertArrayHasKey('targets', $root['meshes'][0]['primitives'][0]);
        }
        $region = IdPlan::of($asset, new IdSheet(By::Region));
        $sink = new MemorySink;
        $name = (new IdFileWriter($asset, $region, false, true))->write(0, $source, $sink);
        $root = json_decode($sink->content($name), true);
        self::assertIsArray($root);
        // The two triangles share an edge and turn 90° there: two vertices stand twice now, in targets as in positions.
        $primitive = $root['meshes'][0]['primitives'][0];
        foreach ([$primitive['attributes']['POSITION'], $primitive['targets'][0]['POSITION'], $primitive['attributes']['COLOR_0']] as $accessor) {
            self::assertSame(6, $root['accessors'][$accessor]['count']);
        }
    }

    public function test_an_old_id_and_old_colors_make_room(): void
    {
        $text = "mtllib old.mtl\no a_high\nv 0 0 0 1 0 0\nv 1 0 0 1 0 0\nv 0 1 0 1 0 0\nv 1 1 0.0000 1 0 0 # corner\nusemtl old\nf 1 2 3\nf -3 -1 \\\n -2\no b_high\nv 5 0 0\nv 6 0 0\nv 5 1 0\nf 5 6 7\n";
        $source = new MemorySource('x_high.obj', $text);
        $asset = Measures::of([ReadFile::of(new GivenFile('x_high.obj', Role::High, $source))], Standard::builtIn(), Choices::ofJson('{}'))->asset;
        $plan = IdPlan::of($asset, new IdSheet);
        $sink = new MemorySink;
        (new IdFileWriter($asset, $plan))->write(0, $source, $sink);
        self::assertSame("mtllib x_id.mtl\no a_id\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 1 0.0000 1 0 0 # corner\nusemtl id_a\nf 1 2 3\nf -3 -1 \\\n -2\no b_id\nv 5 0 0\nv 6 0 0\nv 5 1 0\nusemtl id_b\nf 5 6 7\n", str_replace("\r", '', $sink->content('x_id.obj')));
        $sink = new MemorySink;
        (new IdFileWriter($asset, $plan, true, true))->write(0, $source, $sink);
        [$a, $b] = array_map(static fn ($color): string => sprintf('%.6F %.6F %.6F', $color->red / 255, $color->green / 255, $color->blue / 255), $plan->colors());
        self::assertStringContainsString("usemtl old\nf 1 2 3\nf 2 4 3\no b_high\nv 5 0 0 $b\n", $sink->content('x_high.obj'));
        self::assertStringContainsString("v 0 0 0 $a\n", $sink->content('x_high.obj'));
    }

    public function test_what_a_format_cannot_carry_is_refused_or_comes_as_a_glb(): void
    {
        $box = Shapes::box(1, 1, 1)->mesh();
        $asset = Measures::of([Assets::file('x_high.stl', ['x_high' => $box], Role::High)], Standard::builtIn(), Choices::ofJson('{}'))->asset;
        $plan = IdPlan::of($asset, new IdSheet(By::Region));
        $sink = new MemorySink;
        self::assertSame('x_id.glb', (new IdFileWriter($asset, $plan, false, true))->write(0, new MemorySource('x_high.stl', ''), $sink));
        $read = ReadFile::of(new GivenFile('x_id.glb', null, $sink->source('x_id.glb')));
        self::assertSame(24, $read->scene?->parts[0]->mesh->vertexCount());
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage('IDs are not written onto .stl files; write a copy, which is a GLB');
        (new IdFileWriter($asset, $plan, true))->write(0, new MemorySource('x_high.stl', ''), $sink);
    }

    public function test_two_files_of_one_name_are_refused_not_written_over_each_other(): void
    {
        $source = self::source('obj');
        $files = array_map(static fn (string $folder): ReadFile => ReadFile::of(new GivenFile("$folder/x_high.obj", Role::High, $source)), ['a', 'b']);
        $asset = Measures::of($files, Standard::builtIn(), Choices::ofJson('{}'))->asset;
        $sink = new FolderSink(sys_get_temp_dir().'/anvil-ids-'.bin2hex(random_bytes(4)));
        $writer = new IdFileWriter($asset, IdPlan::of($asset, new IdSheet));
        try {
            $writer->write(0, $source, $sink);
            $this->expectExceptionMessage('two high files would both be written as x_id.obj; give one of them another name');
            $writer->write(1, $source, $sink);
        } finally {
            $sink->discard();
        }
    }

    public function test_materials_of_a_ply_are_refused_onto_it(): void
    {
        $source = self::source('ply');
        $asset = Measures::of([ReadFile::of(new GivenFile('x_high.ply', Role::High, $source))], Standard::builtIn(), Choices::ofJson('{}'))->asset;
        $this->expectExceptionMessage('x_high.ply cannot carry materials; write vertex colors onto it, or a copy');
        (new IdFileWriter($asset, IdPlan::of($asset, new IdSheet), true))->write(0, $source, new MemorySink);
    }

    /** Places, UVs and normals of a triangle's corners, to float32. */
    private static function corners(Mesh $mesh, int $triangle): string
    {
        $out = [];
        for ($c = 3 * $triangle; $c < 3 * $triangle + 3; $c++) {
            $v = $mesh->triangles[$c];
            $u = $mesh->triUvs[$c] ?? -1;
            $n = $mesh->triNormals[$c] ?? -1;
            foreach ([...array_slice($mesh->positions, 3 * $v, 3), ...($u < 0 ? [] : array_slice($mesh->uvs, 2 * $u, 2)), ...($n < 0 ? [] : array_slice($mesh->normals, 3 * $n, 3))] as $value) {
                $out[] = sprintf('%.5F', $value + 0.0 === 0.0 ? 0.0 : $value);
            }
        }

        return str_replace('-0.00000', '0.00000', implode(' ', $out));
    }

    /** A box and a cylinder with quads, as files of these formats. */
    private static function source(string $format): Source
    {
        $box = Shapes::box(1, 1, 1, 2)->mesh(40, [[0, 'steel']]);
        $parts = [new Part('a_high', $box, ['steel' => '#808080']), new Part('b_high', Shapes::cylinder(1, 1, 12)->moved(3, 0, 0)->mesh(40, [[0, 'steel'], [20, 'brass']]), ['steel' => '#808080', 'brass' => '#806000'])];
        $sink = new MemorySink;
        if ($format === 'obj') {
            ObjWriter::write($parts, 'x_high.obj', $sink);

            return $sink->source('x_high.obj');
        }
        if ($format === 'glb') {
            GlbWriter::write($parts, 'x_high.glb', $sink);

            return $sink->source('x_high.glb');
        }
        if ($format === 'gltf') {
            GlbWriter::write($parts, 'x.glb', $sink);
            $glb = $sink->content('x.glb');
            /** @var array{n: int} $head */
            $head = unpack('Vn', $glb, 12);
            /** @var array{buffers: list<array<string, mixed>>} $root */
            $root = json_decode(substr($glb, 20, $head['n']), true);
            $root['buffers'][0]['uri'] = 'x%20data.bin';

            return new MemorySource('x_high.gltf', json_encode($root, JSON_THROW_ON_ERROR), ['x data.bin' => substr($glb, 28 + $head['n'])]);
        }
        // Quads, a property before and one behind, normals, old colors.
        $points = $faces = [];
        foreach (range(0, 7) as $k) {
            $points[] = [$k & 1, ($k >> 1) & 1, $k >> 2];
        }
        $faces = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]];
        $isText = $format === 'ply text';
        $head = "ply\nformat ".($isText ? 'ascii' : 'binary_big_endian')." 1.0\ncomment a box\nelement vertex 8\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nproperty short weight\nelement face 6\nproperty uchar flag\nproperty list uchar int vertex_indices\nproperty short group\nend_header\n";
        foreach ($points as $k => $p) {
            $head .= $isText ? implode(' ', [...$p, 9, 9, 9, $k])."\n" : pack('G3C3n', ...[...$p, 9, 9, 9, $k]);
        }
        foreach ($faces as $k => $face) {
            $head .= $isText ? implode(' ', [$k, 4, ...$face, $k])."\n" : pack('CCN4n', ...[$k, 4, ...$face, $k]);
        }

        return new MemorySource('x_high.ply', $head);
    }

    /** Two nodes on one mesh: two triangles at right angles with a morph target. */
    private static function instanced(): Source
    {
        $positions = pack('g*', 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1);
        $bytes = $positions.pack('g*', ...array_fill(0, 12, 0.5)).pack('v*', 0, 1, 2, 0, 3, 1);
        $root = [
            'asset' => ['version' => '2.0'], 'extras' => ['note' => 'kept'], 'nodes' => [['name' => 'a_high', 'mesh' => 0], ['name' => 'b_high', 'mesh' => 0, 'translation' => [3, 0, 0]]],
            'scenes' => [['nodes' => [0, 1]]], 'scene' => 0,
            'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0], 'indices' => 2, 'targets' => [['POSITION' => 1]]]]]],
            'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 4, 'type' => 'VEC3', 'min' => [0, 0, 0], 'max' => [1, 1, 1]], ['bufferView' => 1, 'componentType' => 5126, 'count' => 4, 'type' => 'VEC3'], ['bufferView' => 2, 'componentType' => 5123, 'count' => 6, 'type' => 'SCALAR']],
            'bufferViews' => [['buffer' => 0, 'byteLength' => 48], ['buffer' => 0, 'byteOffset' => 48, 'byteLength' => 48], ['buffer' => 0, 'byteOffset' => 96, 'byteLength' => 12]],
            'buffers' => [['byteLength' => 108, 'uri' => 'data:application/octet-stream;base64,'.base64_encode($bytes)]],
        ];

        return new MemorySource('x_high.gltf', json_encode($root, JSON_THROW_ON_ERROR));
    }
}
