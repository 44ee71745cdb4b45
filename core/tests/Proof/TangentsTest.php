<?php

declare(strict_types=1);

namespace Anvil\Tests\Proof;

use Anvil\Formats\FileSource;
use Anvil\Formats\FormatCatalogue;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\MeshStore;
use Anvil\Modelling\Shapes;
use Anvil\Proof\CornerNormals;
use Anvil\Proof\MikkTSpace;
use Anvil\Proof\Tangents;
use Anvil\Tests\Support\MemorySource;
use Anvil\Tests\Support\Outside;
use PHPUnit\Framework\TestCase;

/**
 * Tangents against the npm package `mikktspace`, M. Mikkelsen's reference as WebAssembly (MikkTSpace, 2008).
 */
final class TangentsTest extends TestCase
{
    /**
     * @return array<string, Mesh>
     */
    private static function shapes(): array
    {
        $sheet = Shapes::sheet(2, 3, 5, 4)->mesh(180);
        $uvs = $sheet->uvs;
        // One half mirrored, one triangle without UV area.
        foreach ($uvs as $i => $value) {
            $uvs[$i] = $i % 2 === 0 ? abs($value - 0.5) : $value;
        }
        $mirrored = self::with($sheet, $uvs);
        foreach ([6, 7, 8] as $corner) {
            $uvs[2 * $sheet->triUvs[$corner]] = 0.25;
        }

        return [
            'box, hard' => Shapes::roundedBox(2, 1, 3, 0.2, 3)->triangulated()->mesh(30), 'box, smooth' => Shapes::box(2, 1, 3, 2)->triangulated()->mesh(180), 'sphere' => Shapes::sphere(1, 12, 18)->triangulated()->mesh(180),
            'torus' => Shapes::torus(2, 0.5, 16, 9)->triangulated()->mesh(60), 'cylinder' => Shapes::cylinder(1, 2, 11)->triangulated()->mesh(40), 'mirrored UVs' => $mirrored, 'no UV area' => self::with($sheet, $uvs),
            'spider' => FormatCatalogue::read(new FileSource(Outside::model('OBJ/spider.obj')))->parts[1]->mesh, 'engine part' => FormatCatalogue::read(new FileSource(Outside::model('OBJ/WusonOBJ.obj')))->parts[0]->mesh,
        ];
    }

    /**
     * @param  list<float>  $uvs
     */
    private static function with(Mesh $mesh, array $uvs): Mesh
    {
        return new Mesh($mesh->positions, $mesh->triangles, $uvs, $mesh->triUvs, $mesh->normals, $mesh->triNormals);
    }

    public function test_tangents_are_those_of_the_reference(): void
    {
        $shapes = array_map(static fn (Mesh $mesh): Mesh => $mesh->asFloat32(), self::shapes());
        $asked = [];
        foreach ($shapes as $mesh) {
            $own = CornerNormals::of($mesh);
            $one = ['positions' => [], 'normals' => [], 'uvs' => []];
            foreach ($mesh->triangles as $c => $v) {
                array_push($one['positions'], ...array_slice($mesh->positions, 3 * $v, 3));
                array_push($one['normals'], ...$own->corner(intdiv($c, 3), $c % 3));
                array_push($one['uvs'], ...array_slice($mesh->uvs, 2 * $mesh->triUvs[$c], 2));
            }
            $asked[] = $one;
        }
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-tangents');
        file_put_contents($path, json_encode($asked, JSON_THROW_ON_ERROR));
        $reference = Outside::node('tangents.mjs', [$path]);
        unlink($path);
        $number = 0;
        foreach ($shapes as $name => $mesh) {
            /** @var list<float> $expected */
            $expected = $reference[$number++];
            $found = MikkTSpace::of($mesh, CornerNormals::of($mesh));
            self::assertCount(count($expected), $found, $name);
            $off = 0;
            $worst = 0.0;
            for ($i = 0; $i < count($found); $i += 4) {
                $distance = sqrt(($found[$i] - $expected[$i]) ** 2 + ($found[$i + 1] - $expected[$i + 1]) ** 2 + ($found[$i + 2] - $expected[$i + 2]) ** 2);
                $worst = max($worst, $distance);
                $off += $distance > 2e-3 || $found[$i + 3] !== (float) $expected[$i + 3] ? 1 : 0;
            }
            // Its numbers are of single precision: slivers of UV area tell no direction there.
            self::assertLessThanOrEqual(0.002 * count($found) / 4, $off, "$name: $off of ".(count($found) / 4)." corners, $worst");
        }
    }

    /**
     * glTF's V points down and its `w` is negated for it; with V upward in the core it is the sign of MikkTSpace again. On a file that another writer made.
     */
    public function test_tangents_of_a_file_are_those_that_are_computed(): void
    {
        $ball = Shapes::sphere(1, 8, 12)->triangulated()->mesh(180)->asFloat32();
        $one = ['positions' => [], 'normals' => [], 'uvs' => []];
        $own = CornerNormals::of($ball);
        foreach ($ball->triangles as $c => $v) {
            array_push($one['positions'], ...array_slice($ball->positions, 3 * $v, 3));
            array_push($one['normals'], ...$own->corner(intdiv($c, 3), $c % 3));
            array_push($one['uvs'], $ball->uvs[2 * $ball->triUvs[$c]], 1 - $ball->uvs[2 * $ball->triUvs[$c] + 1]);
        }
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-tangents');
        file_put_contents($path, json_encode([$one], JSON_THROW_ON_ERROR));
        /** @var list<float> $tangents */
        $tangents = Outside::node('tangents.mjs', [$path])[0];
        unlink($path);
        foreach ($tangents as $i => $value) {
            $tangents[$i] = $i % 4 === 3 ? -$value : $value;
        }
        $read = FormatCatalogue::read(new MemorySource('ball_low.gltf', self::gltf(['POSITION' => $one['positions'], 'NORMAL' => $one['normals'], 'TEXCOORD_0' => $one['uvs'], 'TANGENT' => $tangents])))->parts[0]->mesh;
        self::assertNotSame([], $read->tangents);
        self::assertSame($read->tangents, MeshStore::decode(MeshStore::encode($read))->tangents, 'kept in the geometry store');
        $ofFile = Tangents::of($read, CornerNormals::of($read));
        $off = 0;
        foreach (MikkTSpace::of($read, CornerNormals::of($read)) as $i => $value) {
            $off += abs($value - $ofFile[$i]) > 1e-3 ? 1 : 0;
        }
        self::assertLessThan(0.01 * count($ofFile), $off);
        $mesh = Shapes::sphere(1, 8, 12)->triangulated()->mesh(180);
        $computed = MikkTSpace::of($mesh, CornerNormals::of($mesh));
        // As the file would carry them: a tangent a normal, here one a corner.
        $normals = [];
        $own = CornerNormals::of($mesh);
        foreach ($mesh->triangles as $c => $_) {
            array_push($normals, ...$own->corner(intdiv($c, 3), $c % 3));
        }
        $carrying = new Mesh($mesh->positions, $mesh->triangles, $mesh->uvs, $mesh->triUvs, $normals, array_keys($mesh->triangles), [], [], [], [], [], $computed);
        self::assertSame($computed, Tangents::of($carrying, CornerNormals::of($carrying)));
        // Moved as the mesh is, in a frame that mirrors: what is computed there is the same.
        $mirror = Matrix::of([-1.0, 0.0, 0.0, 0.0, 0.0, 2.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 3.0, 4.0, 5.0, 1.0]);
        $placed = $carrying->placedBy($mirror);
        $again = MikkTSpace::of($placed, CornerNormals::of($placed));
        $carried = Tangents::of($placed, CornerNormals::of($placed));
        $same = 0;
        foreach ($again as $i => $value) {
            $same += $i % 4 === 3 && $value === $carried[$i] ? 1 : 0;
        }
        self::assertGreaterThan(0.98 * count($again) / 4, $same, 'signs of the bitangents');
    }

    /**
     * @param  array<string, list<float>>  $attributes
     */
    private static function gltf(array $attributes): string
    {
        $buffer = '';
        $views = $accessors = $numbers = [];
        foreach ($attributes as $name => $values) {
            $bytes = pack('g*', ...$values);
            $width = ['POSITION' => 3, 'NORMAL' => 3, 'TEXCOORD_0' => 2, 'TANGENT' => 4][$name];
            $numbers[$name] = count($accessors);
            $accessors[] = ['bufferView' => count($views), 'componentType' => 5126, 'count' => intdiv(count($values), $width), 'type' => "VEC$width", ...($name === 'POSITION' ? ['min' => [-2, -2, -2], 'max' => [2, 2, 2]] : [])];
            $views[] = ['buffer' => 0, 'byteOffset' => strlen($buffer), 'byteLength' => strlen($bytes)];
            $buffer .= $bytes;
        }

        return json_encode([
            'asset' => ['version' => '2.0'], 'scenes' => [['nodes' => [0]]], 'scene' => 0, 'nodes' => [['name' => 'ball_low', 'mesh' => 0]],
            'meshes' => [['primitives' => [['attributes' => $numbers]]]], 'accessors' => $accessors, 'bufferViews' => $views,
            'buffers' => [['byteLength' => strlen($buffer), 'uri' => 'data:application/octet-stream;base64,'.base64_encode($buffer)]],
        ], JSON_THROW_ON_ERROR);
    }
}
