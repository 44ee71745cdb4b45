<?php

declare(strict_types=1);

namespace Anvil\Tests\References;

use Anvil\Formats\FileSource;
use Anvil\Formats\FolderSink;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Modelling\Shapes;
use Anvil\Rays\LowSurface;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;
use Anvil\Tests\Support\Outside;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * The main job against programs and data from outside the project. Each source stands beside its check.
 */
final class OutsideReferencesTest extends TestCase
{
    /** @var array<array-key, mixed>|null what three's loaders made of all models, read in one run */
    private static ?array $theirs = null;

    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/anvil-references-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        \Anvil\Formats\Folder::remove($this->folder);
    }

    /**
     * G. Sharma, W. Wu, E. N. Dalal, Color Research and Application 30 (2005), table 1: pairs that exercise every branch of the
     * formula; values typed in from the paper, so "from memory" of the table, checked to its last digit (5e-5).
     *
     * @return iterable<array{array{float, float, float}, array{float, float, float}, float}>
     */
    public static function sharma(): iterable
    {
        yield [[50.0, 2.6772, -79.7751], [50.0, 0.0, -82.7485], 2.0425];
        yield [[50.0, 3.1571, -77.2803], [50.0, 0.0, -82.7485], 2.8615];
        yield [[50.0, 2.8361, -74.0200], [50.0, 0.0, -82.7485], 3.4412];
        yield [[50.0, -1.3802, -84.2814], [50.0, 0.0, -82.7485], 1.0];
        yield [[50.0, -1.1848, -84.8006], [50.0, 0.0, -82.7485], 1.0];
        yield [[50.0, -0.9009, -85.5211], [50.0, 0.0, -82.7485], 1.0];
        yield [[50.0, 0.0, 0.0], [50.0, -1.0, 2.0], 2.3669];
        yield [[50.0, 2.49, -0.001], [50.0, -2.49, 0.0009], 7.1792];
        yield [[50.0, 2.49, -0.001], [50.0, -2.49, 0.0010], 7.1792];
        yield [[50.0, 2.49, -0.001], [50.0, -2.49, 0.0011], 7.2195];
        yield [[50.0, -0.001, 2.49], [50.0, 0.0009, -2.49], 4.8045];
        yield [[50.0, -0.001, 2.49], [50.0, 0.0011, -2.49], 4.7461];
        yield [[50.0, 2.5, 0.0], [50.0, 0.0, -2.5], 4.3065];
        yield [[50.0, 2.5, 0.0], [73.0, 25.0, -18.0], 27.1492];
        yield [[50.0, 2.5, 0.0], [61.0, -5.0, 29.0], 22.8977];
        yield [[50.0, 2.5, 0.0], [56.0, -27.0, -3.0], 31.9030];
        yield [[50.0, 2.5, 0.0], [58.0, 24.0, 15.0], 19.4535];
        yield [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644];
        yield [[63.0109, -31.0961, -5.8663], [62.8187, -29.7946, -4.0864], 1.2630];
        yield [[22.7233, 20.0904, -46.6940], [23.0331, 14.9730, -42.5619], 2.0373];
        yield [[90.8027, -2.0831, 1.4410], [91.1528, -1.6435, 0.0447], 1.4441];
        yield [[6.7747, -0.2908, -2.4247], [5.8714, -0.0985, -2.2286], 0.6377];
        yield [[2.0776, 0.0795, -1.1350], [0.9033, -0.0636, -0.5514], 0.9082];
    }

    /**
     * @param  array{float, float, float}  $one
     * @param  array{float, float, float}  $two
     */
    #[DataProvider('sharma')]
    public function test_delta_e_agrees_with_the_published_pairs_both_ways(array $one, array $two, float $expected): void
    {
        self::assertEqualsWithDelta($expected, DeltaE00::of($one, $two), 6e-5);
        self::assertEqualsWithDelta($expected, DeltaE00::of($two, $one), 6e-5);
    }

    public function test_chroma_agrees_with_the_published_value_of_red(): void
    {
        // B. Ottosson 2020, and npm culori: #ff0000 has C 0.25768.
        self::assertEqualsWithDelta(0.25768, Color::ofHex('#FF0000')->chroma(), 5e-5);
        self::assertEqualsWithDelta(0.0, Color::ofHex('#808080')->chroma(), 1e-4);
    }

    public function test_written_glb_files_pass_the_gltf_validator(): void
    {
        // npm gltf-validator (Khronos).
        $sink = new FolderSink("$this->folder/out");
        $mesh = Shapes::roundedBox(1, 1, 1, 0.1, 3)->mesh(30, [[0, 'one'], [20, 'two']]);
        GlbWriter::write([new Part('a_high', $mesh, ['one' => '#FF8000']), new Part('b_high', Shapes::sphere(1, 8, 12)->mesh())], 'written.glb', $sink);
        $sink->commit();
        $path = "$this->folder/out/written.glb";
        $report = Outside::node('validate.mjs', [$path])[$path];
        self::assertIsArray($report);
        self::assertSame([0, 0], [$report['errors'], $report['warnings']], (string) json_encode($report['messages']));
        self::assertSame(FormatCatalogue::read(new FileSource($path))->triangleCount(), $report['triangles']);
    }

    /**
     * @return iterable<string, array{string}>
     */
    public static function models(): iterable
    {
        $models = [
            'OBJ/spider.obj', 'OBJ/regr01.obj', 'OBJ/WusonOBJ.obj', 'OBJ/box.obj', 'OBJ/box_longline.obj', 'OBJ/concave_polygon.obj', 'OBJ/cube_with_vertexcolors.obj', 'OBJ/regr_3429812.obj',
            'OBJ/multiple_spaces.obj', 'OBJ/box_without_lineending.obj',
            'glTF2/2CylinderEngine-glTF-Binary/2CylinderEngine.glb', 'glTF2/BoxTextured-glTF-Binary/BoxTextured.glb', 'glTF2/BoxBadNormals-glTF-Binary/BoxBadNormals.glb',
            'PLY/Wuson.ply', 'PLY/cube.ply', 'PLY/cube_binary.ply', 'PLY/cube_uv.ply', 'PLY/float-color.ply',
            'STL/Spider_ascii.stl', 'STL/Spider_binary.stl', 'STL/Wuson.stl', 'STL/sphereWithHole.stl', 'STL/triangle_with_two_solids.stl',
            'Collada/COLLADA.dae', 'Collada/ConcavePolygon.dae', 'Collada/cube_UTF8BOM.dae', 'Collada/cube_xmlspecialchars.dae', 'Collada/regr01.dae', 'Collada/sphere.dae',
            'Collada/anims_with_full_rotations_between_keys.DAE', 'Collada/cube_with_2UVs.DAE',
        ];
        foreach ($models as $model) {
            yield $model => [$model];
        }
    }

    #[DataProvider('models')]
    public function test_open_models_read_like_an_independent_reader_reads_them(string $model): void
    {
        // Debian assimp-testmodels, read by three's loaders (npm three).
        $path = Outside::model($model);
        self::$theirs ??= Outside::node('read.mjs', array_map(static fn (array $one): string => Outside::model($one[0]), array_values(iterator_to_array(self::models()))));
        $theirs = self::$theirs[$path];
        self::assertIsArray($theirs);
        $ours = FormatCatalogue::read(new FileSource($path));
        self::assertEquals($theirs['triangles'], $ours->triangleCount());
        $bounds = Bounds::union(array_map(static fn (Part $part): ?Bounds => $part->bounds(), $ours->parts));
        self::assertNotNull($bounds);
        foreach ([0, 1, 2] as $axis) {
            self::assertEqualsWithDelta($theirs['min'][$axis], $bounds->min[$axis], 1e-5 * $bounds->diagonal());
            self::assertEqualsWithDelta($theirs['max'][$axis], $bounds->max[$axis], 1e-5 * $bounds->diagonal());
        }
    }

    public function test_collada_files_that_the_other_loader_does_not_read_have_the_faces_that_assimp_counts(): void
    {
        // Debian assimp: `assimp info` on its own models. Tristrips, nodes by reference, cameras beside the mesh.
        foreach (['duck.dae' => 4212, 'cube_tristrips.dae' => 12, 'earthCylindrical.DAE' => 1920, 'teapots.DAE' => 2976, 'box_nested_animation.dae' => 12] as $name => $faces) {
            $path = Outside::model("Collada/$name");
            preg_match('/^Faces:\s+(\d+)/m', (string) shell_exec('assimp info '.escapeshellarg($path).' 2>/dev/null'), $found);
            self::assertSame($faces, (int) ($found[1] ?? 0), $name);
            self::assertSame($faces, FormatCatalogue::read(new FileSource($path))->triangleCount(), $name);
        }
        // A node by reference stands with its own transform below the one that names it (COLLADA 1.4.1, instance_node).
        $bounds = Bounds::union(array_map(static fn (Part $part): ?Bounds => $part->bounds(), FormatCatalogue::read(new FileSource(Outside::model('Collada/teapot_instancenodes.DAE')))->parts));
        self::assertEqualsWithDelta(-189.9058, $bounds->min[0] ?? 0.0, 1e-3);
    }

    /**
     * @return iterable<string, array{string}>
     */
    public static function written(): iterable
    {
        foreach (['obj', 'glb', 'ply', 'stl', 'dae'] as $format) {
            yield $format => [$format];
        }
    }

    #[DataProvider('written')]
    public function test_what_an_independent_writer_made_of_our_mesh_reads_back_as_the_mesh(string $format): void
    {
        // Debian assimp reads our GLB and writes each format: both its reader and its writers are not ours.
        $sink = new FolderSink("$this->folder/out");
        $mesh = Shapes::roundedBox(1, 2, 3, 0.2, 2)->mesh(30);
        GlbWriter::write([new Part('crate_high', $mesh)], 'crate_high.glb', $sink);
        $sink->commit();
        Outside::convert("$this->folder/out/crate_high.glb", "$this->folder/back.$format");
        $scene = FormatCatalogue::read(new FileSource("$this->folder/back.$format"));
        $back = array_values(array_filter($scene->parts, static fn (Part $part): bool => $part->mesh->triangleCount() > 0))[0] ?? null;
        self::assertNotNull($back);
        self::assertSame($mesh->triangleCount(), $back->mesh->triangleCount());
        self::assertEqualsWithDelta($mesh->bounds()?->toArray(), $back->bounds()?->toArray(), 1e-5);
        self::assertEqualsWithDelta(array_sum($mesh->triangleAreas()), array_sum($back->mesh->triangleAreas()), 1e-4);
        if ($format !== 'stl') {
            self::assertTrue($back->mesh->hasNormals());
            self::assertSame(0, $back->mesh->cornersWithoutUv());
        }
        if (in_array($format, ['obj', 'glb', 'dae'], true)) {
            self::assertSame('crate_high', $back->name);
        }
    }

    public function test_known_parts_of_open_models(): void
    {
        // Counts of Debian assimp-testmodels as `assimp info` gives them; REFERENCES.md.
        self::assertCount(55, FormatCatalogue::read(new FileSource(Outside::model('OBJ/regr01.obj')))->parts);
        $spider = FormatCatalogue::read(new FileSource(Outside::model('OBJ/spider.obj')));
        self::assertSame([19, 1368], [count($spider->parts), $spider->triangleCount()]);
        self::assertSame(121496, FormatCatalogue::read(new FileSource(Outside::model('glTF2/2CylinderEngine-glTF-Binary/2CylinderEngine.glb')))->triangleCount());
    }

    public function test_ray_hits_and_nearest_points_agree_with_three_mesh_bvh(): void
    {
        // npm three-mesh-bvh, same mesh, same rays. Single precision on its side: 1e-5 of the size.
        $mesh = self::engine();
        $low = LowSurface::of([Shapes::sphere(1, 12, 24)->mesh()], true);
        $bounds = Bounds::ofPositions($mesh->positions);
        self::assertNotNull($bounds);
        $size = $bounds->diagonal();
        $rays = [];
        for ($i = 0; $i < 2000; $i++) {
            $from = 3 * ($i % intdiv(count($low->positions), 3));
            $to = [];
            foreach ([0.7548776662466927, 0.5698402909980532, 0.4301597090019468] as $k => $step) {
                $f = 0.5 + $i * $step;
                $to[] = $bounds->min[$k] + ($f - floor($f)) * ($bounds->max[$k] - $bounds->min[$k]);
            }
            $o = array_map(static fn (int $k): float => ($bounds->min[$k] + $bounds->max[$k]) / 2 + 0.7 * $size * $low->positions[$from + $k], [0, 1, 2]);
            $d = [$to[0] - $o[0], $to[1] - $o[1], $to[2] - $o[2]];
            $length = sqrt($d[0] ** 2 + $d[1] ** 2 + $d[2] ** 2);
            $rays[] = [...$o, $d[0] / $length, $d[1] / $length, $d[2] / $length, 3 * $size];
        }
        file_put_contents("$this->folder/rays.json", json_encode(['positions' => $mesh->positions, 'triangles' => $mesh->triangles, 'rays' => $rays], JSON_THROW_ON_ERROR));
        $theirs = Outside::node('rays.mjs', ["$this->folder/rays.json", 'both']);
        $tree = TriangleTree::of($mesh->positions, $mesh->triangles);
        $cast = new SegmentCast($tree);
        $hit = 0;
        self::assertIsArray($theirs['hits']);
        foreach ($rays as $i => [$x, $y, $z, $dx, $dy, $dz, $far]) {
            // Our lines run from the outside inward along −n.
            $face = $cast->first($x, $y, $z, -$dx, -$dy, -$dz, -$far, 0.0, 0);
            $their = $theirs['hits'][$i];
            self::assertSame($their === null, $face < 0, "ray $i");
            if (is_array($their)) {
                self::assertEqualsWithDelta($their[0], -$cast->t[0], 1e-5 * $size, "ray $i");
                $hit++;
            }
        }
        self::assertGreaterThan(800, $hit);
        $nearest = new NearestPoint($tree);
        self::assertIsArray($theirs['nearest']);
        foreach ($theirs['nearest'] as $i => $distance) {
            $nearest->find($rays[$i][0], $rays[$i][1], $rays[$i][2]);
            self::assertEqualsWithDelta($distance, sqrt($nearest->squared), 1e-5 * $size);
        }
    }

    private static function engine(): \Anvil\Geometry\Mesh
    {
        $scene = FormatCatalogue::read(new FileSource(Outside::model('glTF2/2CylinderEngine-glTF-Binary/2CylinderEngine.glb')));
        self::assertInstanceOf(Scene::class, $scene);
        $parts = $scene->parts;
        usort($parts, static fn (Part $a, Part $b): int => $b->mesh->triangleCount() <=> $a->mesh->triangleCount());

        return $parts[0]->mesh;
    }
}
