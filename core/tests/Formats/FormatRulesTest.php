<?php

declare(strict_types=1);

namespace Anvil\Tests\Formats;

use Anvil\Formats\Changes;
use Anvil\Formats\Decimal;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Rewriter;
use Anvil\Formats\Units;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Tests\Support\MemorySink;
use Anvil\Tests\Support\MemorySource;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Every way that the open formats may write the same numbers: PLY (G. Turk 1994), glTF 2.0 (Khronos), COLLADA 1.4.1 (Khronos), USD text (OpenUSD's crate-free layers), STL, OBJ.
 */
final class FormatRulesTest extends TestCase
{
    private const QUAD = [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [1.0, 2.0, 0.0], [0.0, 2.0, 0.5]];

    /**
     * @return iterable<string, array{string, string, string, string, string}> encoding, type of positions, of colours, of the list's length, of its numbers
     */
    public static function plys(): iterable
    {
        foreach (['ascii', 'binary_little_endian', 'binary_big_endian'] as $encoding) {
            foreach ([['float', 'uchar', 'uchar', 'int'], ['double', 'ushort', 'ushort', 'uint'], ['float32', 'uint8', 'int', 'short'], ['float64', 'float', 'uint', 'uchar'], ['short', 'uint16', 'int8', 'ushort'], ['int', 'double', 'char', 'int16'], ['int8', 'uchar', 'short', 'int8']] as $types) {
                yield "$encoding ".implode(' ', $types) => [$encoding, ...$types];
            }
        }
    }

    public function test_a_run_of_triangles_of_any_length_is_read_as_it_stands(): void
    {
        foreach (['little' => ['e', 'g', 'V', 'v'], 'big' => ['E', 'G', 'N', 'n']] as $order => [, $float, $int, $short]) {
            foreach (['int' => $int, 'uint' => $int, 'ushort' => $short] as $type => $code) {
                foreach ([1, 3, 4, 5, 8, 11] as $count) {
                    $out = "ply\nformat binary_{$order}_endian 1.0\nelement vertex 12\nproperty float x\nproperty float y\nproperty float z\nelement face ".($count + 2)."\nproperty list uchar $type vertex_indices\nend_header\n";
                    for ($v = 0; $v < 12; $v++) {
                        $out .= pack("{$float}3", $v % 4, intdiv($v, 4), $v);
                    }
                    $wanted = [];
                    // A face of four ends a run; another begins after it.
                    for ($t = 0; $t < $count + 2; $t++) {
                        $face = $t === $count ? [0, 1, 5, 4] : [$t % 12, ($t + 5) % 12, ($t + 7) % 12];
                        $out .= pack("C{$code}".count($face), count($face), ...$face);
                        array_push($wanted, ...($t === $count ? [0, 1, 5, 0, 5, 4] : $face));
                    }
                    $read = FormatCatalogue::read(new MemorySource('gauge_low.ply', $out))->parts[0]->mesh->triangles;
                    self::assertSame($count + 3, intdiv(count($read), 3), "$order $type $count");
                    self::assertSame(array_slice($wanted, 0, 3 * $count), array_slice($read, 0, 3 * $count), "$order $type $count");
                    self::assertSame(array_slice($wanted, -3), array_slice($read, -3), "$order $type $count");
                }
            }
            // A number under nothing is told, not taken for four thousand millions.
            $out = "ply\nformat binary_{$order}_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 5\nproperty list uchar int vertex_indices\nend_header\n".pack("{$float}9", 0, 0, 0, 1, 0, 0, 0, 1, 0).str_repeat(pack("C{$int}3", 3, 0, 1, 2), 4).pack("C{$int}3", 3, 0, -1, 2);
            try {
                FormatCatalogue::read(new MemorySource('gauge_low.ply', $out));
                self::fail('read');
            } catch (Unreadable $error) {
                self::assertStringContainsString('-1', $error->getMessage());
            }
        }
    }

    #[DataProvider('plys')]
    public function test_a_ply_says_the_same_in_every_encoding_and_type(string $encoding, string $position, string $color, string $length, string $index): void
    {
        $whole = in_array($position, ['short', 'int', 'int8'], true);
        $points = array_map(static fn (array $p): array => $whole ? array_map(static fn (float $v): int => (int) (-50 * $v), $p) : $p, self::QUAD);
        $full = match ($color) {
            'uchar', 'uint8' => 255, 'ushort', 'uint16' => 65535, default => 1.0,
        };
        $head = "ply\nformat $encoding 1.0\ncomment a gauge of the station\nobj_info none\nelement vertex 4\nproperty $position x\nproperty uchar flag\nproperty $position y\nproperty $position z\nproperty float nx\nproperty float ny\nproperty float nz\nproperty $color red\nproperty $color green\nproperty $color blue\nproperty float s\nproperty float t\nelement extra 2\nproperty list uchar short weights\nproperty double mass\nelement face 2\nproperty list $length $index vertex_indices\nend_header\n";
        $out = $head;
        $put = static function (string $type, int|float $value) use ($encoding): string {
            if ($encoding === 'ascii') {
                return "$value ";
            }
            $big = $encoding === 'binary_big_endian';

            return match ($type) {
                'char', 'int8' => pack('c', $value), 'uchar', 'uint8' => pack('C', $value),
                'short', 'int16', 'ushort', 'uint16' => pack($big ? 'n' : 'v', $value & 0xFFFF),
                'int', 'int32', 'uint', 'uint32' => pack($big ? 'N' : 'V', $value & 0xFFFFFFFF),
                'double', 'float64' => pack($big ? 'E' : 'e', $value), default => pack($big ? 'G' : 'g', $value),
            };
        };
        $end = $encoding === 'ascii' ? "\n" : '';
        foreach ($points as $i => [$x, $y, $z]) {
            $out .= $put($position, $x).$put('uchar', 7).$put($position, $y).$put($position, $z).$put('float', 0.0).$put('float', 0.0).$put('float', -1.0)
                .$put($color, $i === 0 ? $full : 0).$put($color, $i === 1 ? $full : 0).$put($color, 0).$put('float', 0.25 * $i).$put('float', 0.5).$end;
        }
        foreach ([[3, -2, 9], []] as $weights) {
            $out .= $put('uchar', count($weights)).implode('', array_map(static fn (int $w): string => $put('short', $w), $weights)).$put('double', 1.5).$end;
        }
        foreach ([[0, 1, 2, 3], [2, 1, 0]] as $face) {
            $out .= $put($length, count($face)).implode('', array_map(static fn (int $v): string => $put($index, $v), $face)).$end;
        }
        $scene = FormatCatalogue::read(new MemorySource('gauge_low.ply', $out));
        self::assertSame(['named by the file', 'the element extra is passed over'], $scene->remarks);
        $mesh = $scene->parts[0]->mesh;
        self::assertSame('gauge_low', $scene->parts[0]->name);
        self::assertEqualsWithDelta(array_merge(...$points), $mesh->positions, 1e-6);
        self::assertCount(9, $mesh->triangles);
        self::assertSame([2, 1, 0], array_slice($mesh->triangles, 6));
        self::assertSame([0, 0, 1], $mesh->faces);
        self::assertEqualsWithDelta([1.0, 0.0, 0.0, 0.0, 1.0, 0.0], array_slice($mesh->colors, 0, 6), 1e-6);
        self::assertEqualsWithDelta([0.0, 0.5, 0.25, 0.5, 0.5, 0.5, 0.75, 0.5], $mesh->uvs, 1e-6);
        self::assertSame([0.0, 0.0, -1.0], array_slice($mesh->normals, 0, 3));
        self::assertSame($mesh->triangles, $mesh->triUvs);
        self::assertSame($mesh->triangles, $mesh->triNormals);
        self::assertSame(0, $scene->parts[0]->facts->looseVertices);
    }

    public function test_a_ply_may_bear_strips_corner_uvs_and_other_names(): void
    {
        $strip = self::mesh('s.ply', "ply\rformat ascii 1.0\relement vertex 5\rproperty float x\rproperty float y\rproperty float z\relement tristrips 1\rproperty list int int vertex_indices\rend_header\r0 0 0\r1 0 0\r0 1 0\r1 1 0\r9 9 9\r8 0 1 2 3 -1 2 1 0\r");
        self::assertSame([0, 1, 2, 2, 1, 3, 2, 1, 0], $strip->triangles);
        $corners = self::mesh('c.ply', "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nproperty float texture_u\nproperty float texture_v\nelement face 1\nproperty list uchar int vertex_index\nproperty list uchar float texcoord\nproperty uchar flags\nend_header\n0 0 0 9 9\n1 0 0 9 9\n0 1 0 9 9\n3 0 1 2 6 0 0 1 0 0 1 5\n");
        self::assertSame([0.0, 0.0, 1.0, 0.0, 0.0, 1.0], array_map(floatval(...), $corners->uvs));
        self::assertSame([0, 1, 2], $corners->triUvs);
        $named = self::mesh('n.ply', "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nproperty float u\nproperty float v\nproperty float r\nproperty float g\nproperty float b\nelement face 1\nproperty list uchar int vertex_index\nend_header\n0 0 0 .5 .25 1 0 .5\n1 0 0 0 0 1 0 .5\n0 1 0 0 0 1 0 .5\n3 0 1 2\n");
        self::assertSame([[0.5, 0.25], [1.0, 0.0, 0.5]], [array_slice($named->uvs, 0, 2), array_slice($named->colors, 0, 3)]);
    }

    /**
     * @return iterable<string, array{string, string}>
     */
    public static function brokenPlys(): iterable
    {
        $head = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n";
        $points = "0 0 0\n1 0 0\n0 1 0\n";
        yield 'no x' => ["ply\nformat ascii 1.0\nelement vertex 1\nproperty float y\nend_header\n0\n", 'no property x'];
        yield 'a list in a vertex' => ["ply\nformat ascii 1.0\nelement vertex 1\nproperty list uchar int x\nend_header\n0\n", 'is a list'];
        yield 'faces first' => ["ply\nformat ascii 1.0\nelement face 1\nproperty list uchar int vertex_indices\nelement vertex 1\nproperty float x\nend_header\n3 0 0 0\n", 'before the vertices'];
        yield 'two elements vertex' => ["{$head}element vertex 1\nproperty float x\nend_header\n$points", 'two elements'];
        yield 'no vertex' => ["ply\nformat ascii 1.0\nend_header\n", 'no element "vertex"'];
        yield 'no format' => ["ply\nelement vertex 0\nend_header\n", 'no format'];
        yield 'another format' => ["ply\nformat ebcdic 1.0\nend_header\n", 'line 2'];
        yield 'a count that is none' => ["ply\nformat ascii 1.0\nelement vertex many\n", 'line 3'];
        yield 'a property before an element' => ["ply\nformat ascii 1.0\nproperty float x\n", 'line 3'];
        yield 'a type that is none' => ["{$head}property half w\n", 'line 7'];
        yield 'a list counted by floats' => ["{$head}element face 1\nproperty list float int vertex_indices\n", 'line 8'];
        yield 'a line that is none' => ["{$head}what is this\n", 'line 7'];
        yield 'faces without a list' => ["{$head}element face 1\nproperty int a\nend_header\n{$points}1\n", 'no list vertex_indices'];
        yield 'an index out of range' => ["{$head}element face 1\nproperty list uchar int vertex_indices\nend_header\n{$points}3 0 1 3\n", 'names vertex 3, and there are 3'];
        yield 'a negative index' => ["{$head}element face 1\nproperty list uchar int vertex_indices\nend_header\n{$points}3 0 1 -1\n", 'names vertex -1'];
        yield 'NaN' => ["{$head}element face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 nan 0\n3 0 1 2\n", 'line 12'];
        yield 'cut short' => ["{$head}element face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0", 'line'];
    }

    #[DataProvider('brokenPlys')]
    public function test_a_broken_ply_is_refused_with_its_place(string $content, string $words): void
    {
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage($words);
        FormatCatalogue::read(new MemorySource('x.ply', $content));
    }

    /**
     * @return iterable<string, array{int, string, float}> component type, pack code, what its greatest value stands for where it is normalised
     */
    public static function components(): iterable
    {
        yield 'byte' => [5120, 'c', 127.0];
        yield 'unsigned byte' => [5121, 'C', 255.0];
        yield 'short' => [5122, 's', 32767.0];
        yield 'unsigned short' => [5123, 'v', 65535.0];
    }

    /** Normalised integers as the glTF 2.0 specification, 3.6.2.2, decodes them. */
    #[DataProvider('components')]
    public function test_gltf_reads_uvs_of_every_component_type(int $type, string $code, float $full): void
    {
        $uv = pack("$code*", 0, (int) $full, (int) $full, 0, 100, 100);
        $points = pack('g*', 0, 0, 0, 1, 0, 0, 0, 1, 0);
        $mesh = self::mesh('x.gltf', self::gltf($points.$uv, [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => $type, 'normalized' => true, 'count' => 3, 'type' => 'VEC2']], [[0, 36], [36, strlen($uv)]], ['POSITION' => 0, 'TEXCOORD_0' => 1]));
        // V points down in the file, and up in the core.
        self::assertEqualsWithDelta([0.0, 0.0, 1.0, 1.0, 100 / $full, 1 - 100 / $full], $mesh->uvs, 1e-6);
        if ($type === 5120 || $type === 5122) {
            $least = pack("$code*", -(int) $full - 1, 0, 0, 0, 0, 0);
            self::assertEqualsWithDelta([-1.0, 1.0], array_slice(self::mesh('x.gltf', self::gltf($points.$least, [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => $type, 'normalized' => true, 'count' => 3, 'type' => 'VEC2']], [[0, 36], [36, strlen($least)]], ['POSITION' => 0, 'TEXCOORD_0' => 1]))->uvs, 0, 2), 1e-6);
        }
    }

    /**
     * @return iterable<string, array{int, list<int>}> mode, triangles from the row 0 1 2 3 4
     */
    public static function modes(): iterable
    {
        yield 'triangles' => [4, [0, 1, 2]];
        yield 'a strip' => [5, [0, 1, 2, 2, 1, 3, 2, 3, 4]];
        yield 'a fan' => [6, [0, 1, 2, 0, 2, 3, 0, 3, 4]];
    }

    /**
     * @param  list<int>  $expected
     */
    #[DataProvider('modes')]
    public function test_gltf_strips_and_fans_are_wound_alike(int $mode, array $expected): void
    {
        $points = pack('g*', ...array_merge(...array_map(static fn (int $i): array => [$i % 2, intdiv($i, 2), $i * $i], range(0, 4))));
        foreach ([[5121, 'C'], [5123, 'v'], [5125, 'V']] as [$type, $code]) {
            $row = pack("$code*", ...($mode === 4 ? [0, 1, 2] : [0, 1, 2, 3, 4]));
            $mesh = self::mesh('x.gltf', self::gltf($points.$row, [['bufferView' => 0, 'componentType' => 5126, 'count' => 5, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => $type, 'count' => $mode === 4 ? 3 : 5, 'type' => 'SCALAR']], [[0, 60], [60, strlen($row)]], ['POSITION' => 0], ['indices' => 1, 'mode' => $mode]));
            $corners = array_chunk($mesh->triangles, 3);
            self::assertSame(array_map(static fn (array $t): array => self::turned($t), array_chunk($expected, 3)), array_map(static fn (array $t): array => self::turned($t), $corners));
        }
    }

    public function test_gltf_reads_strides_offsets_and_sparse_values(): void
    {
        // Positions and normals side by side in one view; the second position is replaced.
        $rows = '';
        foreach ([[0, 0, 0], [5, 5, 5], [0, 1, 0]] as $p) {
            $rows .= pack('g*', ...$p, ...[0, 0, 1]);
        }
        $bytes = 'head'.$rows.pack('C', 1)."\0\0\0".pack('g*', 1, 0, 0);
        $mesh = self::mesh('x.gltf', self::gltf($bytes, [
            ['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3', 'sparse' => ['count' => 1, 'indices' => ['bufferView' => 1, 'componentType' => 5121], 'values' => ['bufferView' => 1, 'byteOffset' => 4]]],
            ['bufferView' => 0, 'byteOffset' => 12, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'],
        ], [[4, 72, 24], [76, 16]], ['POSITION' => 0, 'NORMAL' => 1]));
        self::assertSame([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0], $mesh->positions);
        self::assertSame([0.0, 0.0, 1.0], array_slice($mesh->normals, 6, 3));
        // An accessor without data is all zeros, but for what is sparse.
        $sparse = self::mesh('x.gltf', self::gltf(pack('v*', 0, 2).pack('g*', 3, 0, 0, 0, 4, 0), [['componentType' => 5126, 'count' => 3, 'type' => 'VEC3', 'sparse' => ['count' => 2, 'indices' => ['bufferView' => 0, 'componentType' => 5123], 'values' => ['bufferView' => 0, 'byteOffset' => 4]]]], [[0, 28]], ['POSITION' => 0]));
        self::assertSame([3.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 4.0, 0.0], $sparse->positions);
    }

    /**
     * @return iterable<string, array{list<array<string, mixed>>, string}>
     */
    public static function lyingAccessors(): iterable
    {
        $good = ['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'];
        yield 'one too many' => [[['count' => 4] + $good], 'needs more bytes'];
        yield 'past the end of its view' => [[['byteOffset' => 4] + $good], 'needs more bytes'];
        yield 'a view that is not there' => [[['bufferView' => 7] + $good], 'names bufferView 7'];
        yield 'an unknown component' => [[['componentType' => 5124] + $good], 'componentType 5124'];
        yield 'an unknown kind' => [[['type' => 'VEC9'] + $good], 'VEC9'];
        yield 'a kind that does not fit' => [[['type' => 'VEC2', 'count' => 3] + $good], 'does not fit'];
        yield 'too many without data' => [[['componentType' => 5126, 'count' => 40_000_000, 'type' => 'VEC3']], 'too large'];
        yield 'a sparse place out of range' => [[$good + ['sparse' => ['count' => 1, 'indices' => ['bufferView' => 0, 'componentType' => 5125, 'byteOffset' => 12], 'values' => ['bufferView' => 0]]]], 'names element'];
        yield 'sparse by signed numbers' => [[$good + ['sparse' => ['count' => 1, 'indices' => ['bufferView' => 0, 'componentType' => 5122], 'values' => ['bufferView' => 0]]]], 'not an unsigned type'];
    }

    /**
     * @param  list<array<string, mixed>>  $accessors
     */
    #[DataProvider('lyingAccessors')]
    public function test_an_accessor_that_lies_is_refused(array $accessors, string $words): void
    {
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage($words);
        FormatCatalogue::read(new MemorySource('x.gltf', self::gltf(pack('g*', 0, 0, 0, 1, 0, 0, 0, 1, 0), $accessors, [[0, 36]], ['POSITION' => 0])));
    }

    /**
     * @return iterable<string, array{string, array{float, float, float}}> transforms, where they bring (1, 2, 3)
     */
    public static function transforms(): iterable
    {
        yield 'a matrix, row by row' => ['<matrix>1 0 0 10 0 0 -1 20 0 1 0 30 0 0 0 1</matrix>', [11.0, 17.0, 32.0]];
        yield 'translate' => ['<translate>1 -2 0.5</translate>', [2.0, 0.0, 3.5]];
        yield 'scale' => ['<scale>2 3 -1</scale>', [2.0, 6.0, -3.0]];
        yield 'rotate about an axis that is not unit' => ['<rotate>0 0 5 90</rotate>', [-2.0, 1.0, 3.0]];
        yield 'rotate about nothing' => ['<rotate>0 0 0 90</rotate>', [1.0, 2.0, 3.0]];
        yield 'what stands first is done last' => ['<translate>10 0 0</translate><rotate>0 1 0 90</rotate><scale>2 2 2</scale>', [16.0, 4.0, -2.0]];
        yield 'lookat: its own axes, from its eye' => ['<lookat>0 0 5 0 0 0 0 1 0</lookat>', [1.0, 2.0, 8.0]];
        yield 'lookat to the side' => ['<lookat>5 0 0 0 0 0 0 1 0</lookat>', [8.0, 2.0, -1.0]];
        yield 'lookat along a slant, up a slant' => ['<lookat>0 3 0 4 0 0 0 0 1</lookat>', [-3.0, 4.0, 2.0]];
        yield 'lookat at itself leaves no direction' => ['<lookat>1 1 1 1 1 1 0 1 0</lookat>', [1.0, 1.0, 1.0]];
        yield 'skew by half a right angle' => ['<skew>45 0 1 0 1 0 0</skew>', [3.0, 2.0, 3.0]];
    }

    /**
     * @param  array{float, float, float}  $expected
     */
    #[DataProvider('transforms')]
    public function test_collada_nodes_are_placed_by_every_transform(string $transforms, array $expected): void
    {
        $mesh = self::mesh('x.dae', self::dae('<node name="post_low">'.$transforms.'<instance_geometry url="#g"/></node>'));
        self::assertEqualsWithDelta($expected, array_slice($mesh->positions, 0, 3), 1e-5);
    }

    public function test_collada_sorts_units_axes_and_primitives(): void
    {
        foreach (['<polylist count="1" material="m"><input semantic="VERTEX" source="#v" offset="0"/><vcount>4</vcount><p>0 1 2 3</p></polylist>', '<polygons count="1" material="m"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2 3</p></polygons>', '<trifans count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2 3</p></trifans>', '<tristrips count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 3 2</p></tristrips>', '<triangles count="2"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2 0 2 3</p></triangles>'] as $primitive) {
            $scene = FormatCatalogue::read(new MemorySource('x.dae', self::dae('<node name="a_low"><instance_geometry url="#g"/></node>', $primitive)));
            self::assertSame(['centimeter', 'Z'], [$scene->unit === null ? null : 'centimeter', $scene->upAxis]);
            self::assertEqualsWithDelta(self::area($scene), 2 * 1.0, 0.5, $primitive);
            self::assertSame(2, $scene->triangleCount());
        }
        // Two sets of numbers in one row: positions by the first, UVs by the second.
        $with = FormatCatalogue::read(new MemorySource('x.dae', self::dae('<node name="a_low"><instance_geometry url="#g"/></node>', '<triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/><input semantic="TEXCOORD" source="#t" offset="1" set="0"/><p>0 2 1 1 2 0</p></triangles>', '<source id="t"><float_array id="ta" count="6">0 0 .5 0 1 1</float_array><technique_common><accessor source="#ta" count="3" stride="2"><param name="S" type="float"/><param name="T" type="float"/></accessor></technique_common></source>')));
        $mesh = $with->parts[0]->mesh;
        self::assertSame([[1.0, 1.0], [0.5, 0.0], [0.0, 0.0]], array_map(static fn (int $k): array => [(float) $mesh->uvs[2 * $mesh->triUvs[$k]], (float) $mesh->uvs[2 * $mesh->triUvs[$k] + 1]], [0, 1, 2]));
        // A list of polygons with two numbers a corner.
        $two = '<polylist count="2"><input semantic="VERTEX" source="#v" offset="0"/><input semantic="TEXCOORD" source="#t" offset="1" set="0"/><vcount>4 3</vcount><p>0 0 1 1 2 2 3 0 3 1 1 2 0 0</p></polylist>';
        $list = self::mesh('x.dae', self::dae('<node name="a_low"><instance_geometry url="#g"/></node>', $two, '<source id="t"><float_array id="ta" count="6">0 0 .5 0 1 1</float_array><technique_common><accessor source="#ta" count="3" stride="2"><param name="S" type="float"/><param name="T" type="float"/></accessor></technique_common></source>'));
        self::assertSame([0, 0, 1], $list->faces);
        self::assertSame([3, 1, 0], array_slice($list->triangles, 6));
        self::assertSame([0.5, 0.0], [(float) $list->uvs[2 * $list->triUvs[6]], (float) $list->uvs[2 * $list->triUvs[6] + 1]]);
        // One geometry in two places is two parts; a node in a node stands where both bring it.
        $twice = FormatCatalogue::read(new MemorySource('x.dae', self::dae('<node name="a_low"><instance_geometry url="#g"/><node name="b_low"><translate>10 0 0</translate><instance_geometry url="#g"/></node></node>')));
        $where = array_combine(array_map(static fn (Part $part): string => $part->name, $twice->parts), array_map(static fn (Part $part): float => $part->mesh->positions[0], $twice->parts));
        ksort($where);
        self::assertSame(['a_low' => 1.0, 'b_low' => 11.0], $where);
    }

    /**
     * @return iterable<string, array{string, array{float, float, float}}>
     */
    public static function ops(): iterable
    {
        yield 'translate' => ["double3 xformOp:translate = (1, -2, 0.5)\nuniform token[] xformOpOrder = [\"xformOp:translate\"]", [2.0, 0.0, 3.5]];
        yield 'scale' => ["float3 xformOp:scale = (2, 3, -1)\nuniform token[] xformOpOrder = [\"xformOp:scale\"]", [2.0, 6.0, -3.0]];
        yield 'rotateZ' => ["float xformOp:rotateZ = 90\nuniform token[] xformOpOrder = [\"xformOp:rotateZ\"]", [-2.0, 1.0, 3.0]];
        yield 'rotateX' => ["float xformOp:rotateX = 90\nuniform token[] xformOpOrder = [\"xformOp:rotateX\"]", [1.0, -3.0, 2.0]];
        yield 'rotateY' => ["float xformOp:rotateY = 90\nuniform token[] xformOpOrder = [\"xformOp:rotateY\"]", [3.0, 2.0, -1.0]];
        yield 'rotateXYZ: x first' => ["float3 xformOp:rotateXYZ = (90, 0, 90)\nuniform token[] xformOpOrder = [\"xformOp:rotateXYZ\"]", [3.0, 1.0, 2.0]];
        yield 'rotateZYX: z first' => ["float3 xformOp:rotateZYX = (90, 0, 90)\nuniform token[] xformOpOrder = [\"xformOp:rotateZYX\"]", [-2.0, -3.0, 1.0]];
        yield 'orient, real part first' => ["quatf xformOp:orient = (0.70710678, 0, 0, 0.70710678)\nuniform token[] xformOpOrder = [\"xformOp:orient\"]", [-2.0, 1.0, 3.0]];
        yield 'transform, rows from the left' => ["matrix4d xformOp:transform = ((0, 1, 0, 0), (-1, 0, 0, 0), (0, 0, 1, 0), (10, 20, 30, 1))\nuniform token[] xformOpOrder = [\"xformOp:transform\"]", [8.0, 21.0, 33.0]];
        yield 'in the order that is named' => ["double3 xformOp:translate = (10, 0, 0)\nfloat3 xformOp:scale = (2, 2, 2)\nuniform token[] xformOpOrder = [\"xformOp:translate\", \"xformOp:scale\"]", [12.0, 4.0, 6.0]];
        yield 'inverted' => ["double3 xformOp:translate:pivot = (1, 1, 1)\nfloat xformOp:rotateZ = 180\nuniform token[] xformOpOrder = [\"xformOp:translate:pivot\", \"xformOp:rotateZ\", \"!invert!xformOp:translate:pivot\"]", [1.0, 0.0, 3.0]];
        yield 'not in the order is not done' => ["double3 xformOp:translate = (10, 0, 0)\nuniform token[] xformOpOrder = []", [1.0, 2.0, 3.0]];
    }

    /**
     * @param  array{float, float, float}  $expected
     */
    #[DataProvider('ops')]
    public function test_usd_prims_are_placed_by_every_op(string $ops, array $expected): void
    {
        $mesh = self::mesh('x.usda', "#usda 1.0\n(\n    defaultPrim = \"post_low\"\n    metersPerUnit = 0.01\n    upAxis = \"Y\"\n)\ndef Mesh \"post_low\"\n{\n    int[] faceVertexCounts = [3]\n    int[] faceVertexIndices = [0, 1, 2]\n    point3f[] points = [(1, 2, 3), (4, 2, 3), (1, 5, 3)]\n    $ops\n}\n");
        self::assertEqualsWithDelta($expected, array_slice($mesh->positions, 0, 3), 1e-5);
    }

    public function test_a_usd_parent_moves_its_children_unless_they_start_over(): void
    {
        $layer = static fn (string $order): string => "#usda 1.0\ndef Xform \"rig\"\n{\n    double3 xformOp:translate = (100, 0, 0)\n    uniform token[] xformOpOrder = [\"xformOp:translate\"]\n    def Mesh \"post_low\"\n    {\n        int[] faceVertexCounts = [3]\n        int[] faceVertexIndices = [0, 1, 2]\n        point3f[] points = [(1, 2, 3), (4, 2, 3), (1, 5, 3)]\n        double3 xformOp:translate = (0, 10, 0)\n        uniform token[] xformOpOrder = [$order]\n    }\n}\n";
        self::assertEqualsWithDelta([101.0, 12.0, 3.0], array_slice(self::mesh('x.usda', $layer('"xformOp:translate"'))->positions, 0, 3), 1e-6);
        self::assertEqualsWithDelta([1.0, 12.0, 3.0], array_slice(self::mesh('x.usda', $layer('"!resetXformStack!", "xformOp:translate"'))->positions, 0, 3), 1e-6);
    }

    public function test_an_stl_is_welded_by_place_and_read_as_text_or_bytes(): void
    {
        $text = "solid post\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nfacet normal 0 0 1\nouter loop\nvertex 1 0 0\nvertex 1 1 -0\nvertex 0 1 0\nendloop\nendfacet\nendsolid post\n";
        $binary = str_pad('solid that says so and is none', 80).pack('V', 2).pack('g12v', 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0).pack('g12v', 0, 0, 1, 1, 0, 0, 1, 1, -0.0, 0, 1, 0, 0);
        foreach ([$text, $binary] as $content) {
            $mesh = self::mesh('post_low.stl', $content);
            self::assertSame([0, 1, 2, 1, 3, 2], $mesh->triangles);
            self::assertSame([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 1.0, 1.0, 0.0], $mesh->positions);
        }
        foreach (["solid\nfacet\nvertex 0 0 0\nendfacet\n" => 'line 4', "solid\nvertex 0 0 0\n" => 'line 2', "solid\nfacet\nvertex 0 0 nan\n" => 'line 3', "solid\nfacet\nvertex 0 0 0\n" => 'inside a facet', "solid\n" => 'before its first triangle', "solid\nhello\n" => 'line 2'] as $broken => $words) {
            try {
                FormatCatalogue::read(new MemorySource('x.stl', $broken));
                self::fail("$broken was read");
            } catch (Unreadable $error) {
                self::assertStringContainsString($words, $error->getMessage());
            }
        }
        self::assertSame([], FormatCatalogue::read(new MemorySource('x.stl', "solid\nendsolid\n"))->parts);
    }

    public function test_obj_smoothing_groups_free_corners_and_lines_go_where_they_belong(): void
    {
        $mesh = self::mesh('x.obj', "o a_low\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nvt 0 0\nvt 1 0\nvt 1 1\ns 3\nf 1/1 2/2 3/3\ns off\nf 1 3 4\ns 0\nf -5 -4 -1\nl 1 2\np 1\n");
        self::assertSame([3, 0, 0], $mesh->smoothing);
        self::assertSame([0, 1, 2, -1, -1, -1, -1, -1, -1], $mesh->triUvs);
        self::assertSame([0, 1, 4], array_slice($mesh->triangles, 6));
        self::assertSame(6, $mesh->cornersWithoutUv());
    }

    public function test_obj_normals_and_uvs_count_back_from_the_end(): void
    {
        $mesh = self::mesh('x.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 0 1\nvn 0 1 0\nvn 1 0 0\nf -3/-3/-1 -2/-2/-2 -1/-1/-3\n");
        self::assertSame([0, 1, 2], $mesh->triangles);
        $of = static fn (array $values, array $numbers, int $width): array => array_merge(...array_map(static fn (int $n): array => array_slice($values, $width * $n, $width), $numbers));
        self::assertSame([1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0], array_map(floatval(...), $of($mesh->normals, $mesh->triNormals, 3)));
        self::assertSame([0.0, 0.0, 1.0, 0.0, 0.0, 1.0], array_map(floatval(...), $of($mesh->uvs, $mesh->triUvs, 2)));
        foreach (['f 1//-4 2//-1 3//-1', 'f 1/-4 2/-1 3/-1', 'f 1//4 2//1 3//1'] as $face) {
            try {
                self::mesh('x.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 0 1\nvn 0 1 0\nvn 1 0 0\n$face\n");
                self::fail("$face was read");
            } catch (Unreadable $error) {
                self::assertStringContainsString('line 10', $error->getMessage());
            }
        }
    }

    public function test_a_moved_gltf_keeps_its_side_file_and_moves_only_its_own_part(): void
    {
        $points = pack('g*', 0, 0, 0, 1, 0, 0, 0, 1, 0).pack('g*', 5, 0, 0, 6, 0, 0, 5, 1, 0).pack('g*', 0, 0, 1, 0, 0, 1, 0, 0, 1);
        $json = json_encode([
            'asset' => ['version' => '2.0'], 'scenes' => [['nodes' => [0, 1]]], 'nodes' => [['mesh' => 0, 'name' => 'a_low'], ['mesh' => 1, 'name' => 'b_low']],
            'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0, 'NORMAL' => 2]]]], ['primitives' => [['attributes' => ['POSITION' => 1]]]]],
            'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3', 'min' => [0, 0, 0], 'max' => [1, 1, 0]], ['bufferView' => 0, 'byteOffset' => 36, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3', 'min' => [5, 0, 0], 'max' => [6, 1, 0]], ['bufferView' => 0, 'byteOffset' => 72, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3']],
            'bufferViews' => [['buffer' => 0, 'byteLength' => 108]], 'buffers' => [['byteLength' => 108, 'uri' => 'post%20one.bin']],
        ], JSON_THROW_ON_ERROR);
        $source = new MemorySource('x.gltf', $json, ['post one.bin' => $points]);
        $turn = Matrix::ofTrs([0.0, 0.0, 0.0], [0.0, 0.0, sin(M_PI / 4), cos(M_PI / 4)], [2.0, 2.0, 2.0]);
        foreach ([new Changes(moves: ['b_low' => [0.0, 0.0, 3.0]]), new Changes(placed: $turn), new Changes(['a_low' => 'c_low'])] as $i => $changes) {
            $sink = new MemorySink;
            Rewriter::write($source, $changes, 'x.gltf', $sink);
            self::assertContains('post one.bin', $sink->names());
            $back = FormatCatalogue::read($sink->source('x.gltf'));
            [$a, $b] = [$back->parts[0]->mesh->positions, $back->parts[1]->mesh->positions];
            match ($i) {
                0 => self::assertEqualsWithDelta([[0.0, 0.0, 0.0], [5.0, 0.0, 3.0]], [array_slice($a, 0, 3), array_slice($b, 0, 3)], 1e-6),
                1 => self::assertEqualsWithDelta([[0.0, 2.0, 0.0], [0.0, 10.0, 0.0], [0.0, 0.0, 1.0]], [array_slice($a, 3, 3), array_slice($b, 0, 3), array_slice($back->parts[0]->mesh->normals, 0, 3)], 1e-6),
                default => self::assertSame(['c_low', 'b_low'], array_map(static fn (Part $part): string => $part->name, $back->parts)),
            };
            if ($i === 2) {
                self::assertSame($points, $sink->content('post one.bin'), 'a rename leaves the numbers alone');
            }
        }
    }

    public function test_what_an_obj_names_beside_it_goes_along(): void
    {
        $source = new MemorySource('x_low.obj', "mtllib x.mtl\no a_low\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl ink\nf 1 2 3\n", ['x.mtl' => "newmtl ink\nKd 0.5 0.5 0.5\nmap_Kd -s 1 1 1 ink.png\nbump bumps.png\n", 'ink.png' => 'png', 'bumps.png' => 'more']);
        $sink = new MemorySink;
        Rewriter::write($source, new Changes(['a_low' => 'b_low']), 'x_low.obj', $sink);
        $names = $sink->names();
        sort($names);
        self::assertSame(['bumps.png', 'ink.png', 'x.mtl', 'x_low.obj'], $names);
        self::assertSame('more', $sink->content('bumps.png'));
        self::assertSame(['b_low', ['ink' => '#808080']], [FormatCatalogue::read($sink->source('x_low.obj'))->parts[0]->name, FormatCatalogue::read($sink->source('x_low.obj'))->parts[0]->colors]);
    }

    /** Linear light of 0.5 and of 0.001 as sRGB: 0.7354 and 0.01292 (IEC 61966-2-1). */
    public function test_gltf_vertex_colours_are_linear_light(): void
    {
        $bytes = pack('g*', 0, 0, 0, 1, 0, 0, 0, 1, 0).pack('g*', 0.5, 0.001, 0, 1, 1, 1, 0.0031308, 0.2, 2);
        $mesh = self::mesh('x.gltf', self::gltf($bytes, [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3']], [[0, 36], [36, 36]], ['POSITION' => 0, 'COLOR_0' => 1]));
        self::assertEqualsWithDelta([0.7354, 0.01292, 0.0, 1.0, 1.0, 1.0, 0.04045, 0.4845, 1.0], $mesh->colors, 1e-4);
    }

    public function test_obj_faces_keep_their_numbers_over_triangles_and_polygons(): void
    {
        $head = "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 2 0 0\n";
        self::assertSame([0, 1, 1, 2], self::mesh('x.obj', "{$head}f 1 2 3\nf 1 2 3 4\nf 2 5 3\n")->faces);
        self::assertSame([0, 0, 1, 2, 3, 3, 3], self::mesh('x.obj', "{$head}f 1 2 3 4\nf 1 2 3\nf 2 5 3\nf 1 2 5 3 4\n")->faces);
        self::assertSame([], self::mesh('x.obj', "{$head}f 1 2 3\nf 2 5 3\n")->faces);
        // Lines that end in a lone CR, as old exporters write them; the last without any.
        self::assertSame([0, 1, 2], self::mesh('x.obj', "v 0 0 0\rv 1 0 0\rv 0 1 0\rf 1 2 3")->triangles);
        // A face that goes on over lines, and blanks of every kind.
        self::assertSame([0, 1, 2, 0, 2, 3], self::mesh('x.obj', "{$head}f  1\t2 \\\n3 \\\r\n 4\n")->triangles);
    }

    public function test_collada_that_is_damaged_says_where_and_what_is_passed_over_is_said(): void
    {
        $refused = static function (string $content): string {
            try {
                FormatCatalogue::read(new MemorySource('x.dae', $content));
            } catch (Unreadable $error) {
                return $error->getMessage();
            }

            return 'it was read';
        };
        $node = '<node name="a_low"><instance_geometry url="#g"/></node>';
        self::assertStringContainsString('<vcount> needs 4 numbers in <p>, and there are 3', $refused(self::dae($node, '<polylist count="1"><input semantic="VERTEX" source="#v" offset="0"/><vcount>4</vcount><p>0 1 2</p></polylist>')));
        self::assertStringContainsString('<vcount> needs 3 numbers in <p>, and there are 4', $refused(self::dae($node, '<polylist count="1"><input semantic="VERTEX" source="#v" offset="0"/><vcount>3</vcount><p>0 1 2 3</p></polylist>')));
        self::assertStringContainsString('says 2 and has 1', $refused(self::dae($node, '<triangles count="2"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>')));
        self::assertStringContainsString('loop', $refused(self::dae('<node id="n" name="a"><instance_node url="#n"/></node>')));
        self::assertStringContainsString('loop', $refused(self::dae('<node id="n" name="a"><node name="b"><instance_node url="#m"/></node></node><node id="m" name="c"><instance_node url="#n"/></node>')));
        // One node may stand in two places all the same.
        self::assertCount(3, FormatCatalogue::read(new MemorySource('x.dae', self::dae('<node id="n" name="a_low"><instance_geometry url="#g"/></node><node name="b"><instance_node url="#n"/></node><node name="c"><instance_node url="#n"/></node>')))->parts);
        // Lines and points are no faces.
        foreach (['lines', 'linestrips'] as $kind) {
            $lines = FormatCatalogue::read(new MemorySource('x.dae', self::dae($node, "<triangles count=\"1\"><input semantic=\"VERTEX\" source=\"#v\" offset=\"0\"/><p>0 1 2</p></triangles><$kind count=\"1\"><input semantic=\"VERTEX\" source=\"#v\" offset=\"0\"/><p>0 1</p></$kind>")));
            self::assertSame(1, $lines->triangleCount());
            self::assertSame(['lines are passed over'], $lines->remarks);
        }
        $noScene = str_replace('<instance_visual_scene url="#s"/>', '', str_replace('<library_visual_scenes><visual_scene id="s">'.$node.'</visual_scene></library_visual_scenes>', '', self::dae($node)));
        self::assertSame(['geometry stands in no scene and is passed over'], FormatCatalogue::read(new MemorySource('x.dae', $noScene))->remarks);
        self::assertSame([], FormatCatalogue::read(new MemorySource('x.dae', self::dae($node)))->remarks);
        // Two polygons of other sizes in one list.
        self::assertSame([[0, 1, 2], [0, 1, 2, 0, 2, 3]], array_map(static fn (string $p): array => self::mesh('x.dae', self::dae($node, $p))->triangles, ['<polylist count="1"><input semantic="VERTEX" source="#v" offset="0"/><vcount>3</vcount><p>0 1 2</p></polylist>', '<polylist count="2"><input semantic="VERTEX" source="#v" offset="0"/><vcount>3 3</vcount><p>0 1 2 0 2 3</p></polylist>']));
    }

    public function test_collada_colours_are_the_diffuse_else_what_glows(): void
    {
        $colors = static function (string $effect): array {
            $dae = self::dae('<node name="a_low"><instance_geometry url="#g"><bind_material><technique_common><instance_material symbol="m" target="#mat"/></technique_common></bind_material></instance_geometry></node>', '<triangles count="1" material="m"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>');

            return FormatCatalogue::read(new MemorySource('x.dae', str_replace('<library_geometries>', "<library_effects><effect id=\"e\"><profile_COMMON><technique><lambert>$effect</lambert></technique></profile_COMMON></effect></library_effects><library_materials><material id=\"mat\" name=\"ink\"><instance_effect url=\"#e\"/></material></library_materials><library_geometries>", $dae)))->parts[0]->colors;
        };
        self::assertSame(['ink' => '#FF0000'], $colors('<diffuse><color>1 0 0 1</color></diffuse>'));
        self::assertSame(['ink' => '#0000FF'], $colors('<diffuse><color>0 0 1</color></diffuse>'));
        self::assertSame(['ink' => '#000000'], $colors('<diffuse><color>0 0 0 1</color></diffuse><emission><color>0 1 0 1</color></emission>'));
        self::assertSame(['ink' => '#00FF00'], $colors('<emission><color>0 1 0 1</color></emission>'));
        self::assertSame([], $colors('<emission><color>0 0 0 1</color></emission>'));
        self::assertSame([], $colors('<diffuse><color>0 1</color></diffuse>'));
    }

    public function test_usd_values_by_corner_vertex_and_index(): void
    {
        $layer = static fn (string $more): string => "#usda 1.0\ndef Mesh \"post_low\" (\n    prepend apiSchemas = [\"MaterialBindingAPI\"]\n)\n{\n    int[] faceVertexCounts = [3, 3]\n    int[] faceVertexIndices = [0, 1, 2, 0, 2, 3]\n    point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]\n    rel material:binding = </looks/ink>\n    asset file = @ink.usda@</looks>\n    $more\n}\n";
        $uvs = static function (string $more) use ($layer): array {
            $mesh = self::mesh('x.usda', $layer($more));

            return array_map(static fn (int $i): array => [(float) $mesh->uvs[2 * $i], (float) $mesh->uvs[2 * $i + 1]], $mesh->triUvs);
        };
        $corners = [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 0.0], [1.0, 1.0], [0.0, 1.0]];
        self::assertSame($corners, $uvs('texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (interpolation = "vertex")'));
        self::assertSame($corners, $uvs('texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 0), (1, 1), (0, 1)] (interpolation = "faceVarying")'));
        self::assertSame($corners, $uvs("texCoord2f[] primvars:st = [(1, 1), (0, 0), (0, 1), (1, 0)] (interpolation = \"faceVarying\")\n    int[] primvars:st:indices = [1, 3, 0, 1, 0, 2]"));
        foreach (["texCoord2f[] primvars:st = [(1, 1), (0, 0)] (interpolation = \"faceVarying\")\n    int[] primvars:st:indices = [1, 0, 0, 1, 0, 2]" => 'leads past the 2 values', "texCoord2f[] primvars:st = [(1, 1), (0, 0)] (interpolation = \"faceVarying\")\n    int[] primvars:st:indices = [1, 0, 0, 1, 0, -1]" => 'leads past', 'texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1)] (interpolation = "vertex")' => 'needs 4 values, and there are 3'] as $more => $words) {
            try {
                self::mesh('x.usda', $layer($more));
                self::fail('it was read');
            } catch (Unreadable $error) {
                self::assertStringContainsString($words, $error->getMessage());
            }
        }
    }

    public function test_gltf_primitives_of_one_mesh_are_one_part_with_runs_of_materials(): void
    {
        $points = pack('g*', 0, 0, 0, 1, 0, 0, 0, 1, 0);
        $uv = pack('g*', 0, 0, 1, 0, 0, 1);
        $root = json_decode(self::gltf($points.$uv, [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC2']], [[0, 36], [36, 24]], ['POSITION' => 0, 'TEXCOORD_0' => 1]), true, 64, JSON_THROW_ON_ERROR);
        self::assertIsArray($root);
        $one = ['attributes' => ['POSITION' => 0, 'TEXCOORD_0' => 1]];
        $root['materials'] = [['name' => 'steel', 'pbrMetallicRoughness' => ['baseColorFactor' => [1.0, 0.0, 0.0, 1.0]]], ['name' => 'brass']];
        $root['meshes'] = [['primitives' => [$one + ['material' => 0], ['attributes' => ['POSITION' => 0], 'material' => 1], $one]]];
        $part = FormatCatalogue::read(new MemorySource('x.gltf', json_encode($root, JSON_THROW_ON_ERROR)))->parts[0];
        self::assertSame(3, $part->mesh->triangleCount());
        self::assertSame(3, $part->mesh->cornersWithoutUv());
        self::assertSame(['steel', 'brass'], array_slice($part->mesh->materials, 0, 2));
        self::assertSame('#FF0000', $part->colors['steel']);
        self::assertCount(3, array_unique($part->mesh->triangleMaterials()));
        $at = static fn (int $k): array => [(float) $part->mesh->uvs[2 * $part->mesh->triUvs[$k]], (float) $part->mesh->uvs[2 * $part->mesh->triUvs[$k] + 1]];
        self::assertSame([[0.0, 1.0], [1.0, 1.0], [0.0, 0.0], [0.0, 1.0], [1.0, 1.0], [0.0, 0.0]], array_map($at, [0, 1, 2, 6, 7, 8]));
    }

    public function test_units_are_told_by_their_usual_names(): void
    {
        self::assertSame(['m', 'cm', 'mm', 'in', '0.5 m'], array_map(Units::nameOf(...), [1.0, 0.01, 0.001, 0.0254, 0.5]));
        self::assertSame([0.3048, 0.5, null, null], array_map(Units::metresOf(...), ['ft', '0.5 m', '0 m', 'cubit']));
        self::assertTrue(FormatCatalogue::isExplodePlan('some/where/Explode.json'));
        self::assertFalse(FormatCatalogue::isExplodePlan('explode.json.txt'));
    }

    public function test_numbers_are_written_as_short_as_they_read_back(): void
    {
        foreach ([0.1, 1 / 3, 1e-20, 123456.789, -0.0078125, 16777216.0, 3.4e38, 0.0] as $value) {
            self::assertSame(pack('g', $value), pack('g', (float) Decimal::of($value)), (string) $value);
            self::assertStringNotContainsString('E', Decimal::of($value));
        }
        self::assertSame('0.3', Decimal::sum('0.1', 0.2));
    }

    /**
     * @param  list<int>  $triangle
     * @return list<int> the same, its least number first
     */
    private static function turned(array $triangle): array
    {
        $at = (int) array_search(min($triangle), $triangle, true);

        return [$triangle[$at], $triangle[($at + 1) % 3], $triangle[($at + 2) % 3]];
    }

    private static function area(Scene $scene): float
    {
        return array_sum($scene->parts[0]->mesh->triangleAreas());
    }

    private static function mesh(string $name, string $content): Mesh
    {
        return FormatCatalogue::read(new MemorySource($name, $content))->parts[0]->mesh;
    }

    /**
     * @param  list<array<string, mixed>>  $accessors
     * @param  list<array{0: int, 1: int, 2?: int}>  $views  offset, length, stride
     * @param  array<string, int>  $attributes
     * @param  array<string, int>  $primitive
     */
    private static function gltf(string $bytes, array $accessors, array $views, array $attributes, array $primitive = []): string
    {
        return json_encode([
            'asset' => ['version' => '2.0'], 'scenes' => [['nodes' => [0]]], 'nodes' => [['mesh' => 0, 'name' => 'post_low']],
            'meshes' => [['primitives' => [['attributes' => $attributes] + $primitive]]], 'accessors' => $accessors,
            'bufferViews' => array_map(static fn (array $view): array => ['buffer' => 0, 'byteOffset' => $view[0], 'byteLength' => $view[1]] + (isset($view[2]) ? ['byteStride' => $view[2]] : []), $views),
            'buffers' => [['byteLength' => strlen($bytes), 'uri' => 'data:application/octet-stream;base64,'.base64_encode($bytes)]],
        ], JSON_THROW_ON_ERROR);
    }

    private static function dae(string $nodes, string $primitive = '<triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>', string $sources = ''): string
    {
        return '<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><asset><unit name="centimeter" meter="0.01"/><up_axis>Z_UP</up_axis></asset><library_geometries><geometry id="g"><mesh><source id="p"><float_array id="pa" count="12">1 2 3 2 2 3 2 3 3 1 4 3</float_array><technique_common><accessor source="#pa" count="4" stride="3"><param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source>'.$sources.'<vertices id="v"><input semantic="POSITION" source="#p"/></vertices>'.$primitive.'</mesh></geometry></library_geometries><library_visual_scenes><visual_scene id="s">'.$nodes.'</visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>';
    }

    /** Lines so short that a block holds more of them than one pattern takes; a pattern that gives up at each line would never come to an end. */
    public function test_short_lines_without_number_are_read_in_runs(): void
    {
        $side = 320;
        $content = '';
        for ($i = 0; $i <= $side; $i++) {
            for ($j = 0; $j <= $side; $j++) {
                $content .= "v $i 0 $j\n";
            }
        }
        for ($i = 0; $i < $side; $i++) {
            for ($j = 0; $j < $side; $j++) {
                $a = $i * ($side + 1) + $j + 1;
                $content .= "f $a ".($a + 1).' '.($a + $side + 2).' '.($a + $side + 1)."\n";
            }
        }
        $scene = FormatCatalogue::read(new MemorySource('x_low.obj', $content));
        self::assertSame([2 * $side * $side, ($side + 1) ** 2], [$scene->triangleCount(), $scene->parts[0]->mesh->vertexCount()]);
        try {
            FormatCatalogue::read(new MemorySource('x_low.obj', str_replace('f 2 3 ', 'f 2 x3 ', $content)));
            self::fail('it was read');
        } catch (Unreadable $e) {
            self::assertSame(($side + 1) ** 2 + 2, $e->atLine);
        }
    }

    /** Over many blocks of the reader, and with either end of a line. */
    public function test_lines_that_go_on_are_read_as_one_and_counted_as_many(): void
    {
        $plain = $long = "o a_low\n";
        for ($i = 0; $i < 6000; $i++) {
            $end = '\\'.($i % 2 === 0 ? "\n" : "\r\n");
            $plain .= "v $i 0 0\nv $i 1 0\nv $i 0 1\nf -3 -2 -1\n";
            $long .= "v $i ".$end."0 0\nv $i 1 0\nv $i 0 1\nf -3".$end.' -2 '.$end."-1\n";
        }
        $read = static fn (string $text): Mesh => FormatCatalogue::read(new MemorySource('a_low.obj', $text))->parts[0]->mesh;
        self::assertEquals($read($plain), $read($long));
        $this->expectExceptionMessage('line '.(substr_count($long, "\n") + 1).':');
        $read($long.'v 1 2 x');
    }

    public function test_a_face_of_twenty_thousand_corners_is_read(): void
    {
        $content = '';
        $face = 'f';
        for ($i = 0; $i < 20_000; $i++) {
            $content .= sprintf("v %.9f 0 %.9f\n", cos($i * M_PI / 10_000), -sin($i * M_PI / 10_000));
            $face .= ' '.($i + 1);
        }
        self::assertSame(19_998, FormatCatalogue::read(new MemorySource('cap_low.obj', "$content$face\n"))->triangleCount());
        $this->expectExceptionMessage('is a face of more corners than can be read; triangulate it');
        FormatCatalogue::read(new MemorySource('cap_low.obj', $content.'f'.str_repeat(' 1//', 250_000)."\n"));
    }
}
