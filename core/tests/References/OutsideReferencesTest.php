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
     * G. Sharma, W. Wu, E. N. Dalal, Color Research and Application 30 (2005), table 1: all 34 pairs, which exercise every branch of the formula,
     * as Debian's python3-skimage has them; to the table's last digit.
     */
    public function test_delta_e_agrees_with_all_published_pairs_both_ways(): void
    {
        $path = '/usr/lib/python3/dist-packages/skimage/color/tests/ciede2000_test_data.txt';
        self::assertFileExists($path, 'install the Debian package python3-skimage; bin/test does');
        $pairs = 0;
        foreach (file($path) ?: [] as $line) {
            $words = preg_split('/\s+/', trim($line)) ?: [];
            if (! ctype_digit($words[0]) || count($words) < 20) {
                continue;
            }
            // Pair, 1, L, a, b, eleven values in between with ΔE00 as the last of them, 2, L, a, b.
            $numbers = array_map(floatval(...), $words);
            $one = [$numbers[2], $numbers[3], $numbers[4]];
            $two = [$numbers[17], $numbers[18], $numbers[19]];
            self::assertSame([1.0, 2.0], [$numbers[1], $numbers[16]], $line);
            self::assertEqualsWithDelta($numbers[15], DeltaE00::of($one, $two), 6e-5, $line);
            self::assertEqualsWithDelta($numbers[15], DeltaE00::of($two, $one), 6e-5, $line);
            $pairs++;
        }
        self::assertSame(34, $pairs);
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
