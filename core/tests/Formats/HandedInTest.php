<?php

declare(strict_types=1);

namespace Anvil\Tests\Formats;

use Anvil\Asset\GivenFile;
use Anvil\Asset\WrittenNames;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Zip\ZippedFiles;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;
use Anvil\Standard\Waiver;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySource;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use ZipArchive;

/**
 * What files are handed in as, and what they are called when they go out again.
 */
final class HandedInTest extends TestCase
{
    private const MESH = 'int[] faceVertexCounts = [3] int[] faceVertexIndices = [0, 1, 2] point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]';

    /**
     * @return iterable<string, array{string, list<string>}>
     */
    public static function usdNames(): iterable
    {
        yield 'the Xform over a lone mesh names it' => ['def Xform "winch_low" { def Mesh "Mesh_001" { '.self::MESH.' } }', ['winch_low']];
        yield 'a mesh by itself' => ['def Mesh "winch_low" { '.self::MESH.' }', ['winch_low']];
        yield 'two meshes keep their own' => ['def Xform "winch" { def Mesh "drum_low" { '.self::MESH.' } def Mesh "pawl_low" { '.self::MESH.' } }', ['drum_low', 'pawl_low']];
        yield 'two Xforms below one' => ['def Xform "root" { def Xform "drum_low" { def Mesh "a" { '.self::MESH.' } } def Xform "pawl_low" { def Mesh "b" { '.self::MESH.' } } }', ['drum_low', 'pawl_low']];
        yield 'a scope names nothing' => ['def Scope "things" { def Mesh "drum_low" { '.self::MESH.' } }', ['drum_low']];
    }

    /**
     * @param  list<string>  $names
     */
    #[DataProvider('usdNames')]
    public function test_usd_parts_are_named_by_the_object(string $body, array $names): void
    {
        $scene = FormatCatalogue::read(new MemorySource('x.usda', "#usda 1.0\n$body\n"));
        self::assertSame($names, array_map(static fn ($part): string => $part->name, $scene->parts));
        self::assertSame(str_contains($body, 'Mesh_001') ? 'Mesh_001' : $scene->parts[0]->facts->meshName, $scene->parts[0]->facts->meshName);
    }

    public function test_a_usd_layer_that_only_refers_to_others_says_so(): void
    {
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessageMatches('/only references to other layers \(\.\/winch\.usdc\)/');
        FormatCatalogue::read(new MemorySource('x.usda', "#usda 1.0\ndef Xform \"winch\" (\n    references = @./winch.usdc@\n) { }\n"));
    }

    public function test_an_archive_whose_checksum_is_wrong_is_refused(): void
    {
        $folder = sys_get_temp_dir().'/anvil-handed-in-'.bin2hex(random_bytes(4));
        mkdir("$folder/out", 0o700, true);
        try {
            foreach ([ZipArchive::CM_STORE, ZipArchive::CM_DEFLATE] as $method) {
                $zip = new ZipArchive;
                $zip->open("$folder/a.zip", ZipArchive::CREATE | ZipArchive::OVERWRITE);
                $zip->addFromString('a_low.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
                $zip->setCompressionName('a_low.obj', $method);
                $zip->close();
                self::assertSame(['a_low.obj'], ZippedFiles::extract("$folder/a.zip", "$folder/out"));
                $bytes = (string) file_get_contents("$folder/a.zip");
                // The checksum stands 14 bytes into the local header and 16 into the central one.
                $bytes[14] = chr(ord($bytes[14]) ^ 1);
                $central = (int) strpos($bytes, "PK\x01\x02");
                $bytes[$central + 16] = chr(ord($bytes[$central + 16]) ^ 1);
                file_put_contents("$folder/a.zip", $bytes);
                try {
                    ZippedFiles::extract("$folder/a.zip", "$folder/out");
                    self::fail('a wrong checksum went through');
                } catch (Unreadable $error) {
                    self::assertStringContainsString('does not', $error->getMessage());
                }
            }
        } finally {
            Folder::remove($folder);
        }
    }

    public function test_materials_that_are_cut_out_make_a_card(): void
    {
        $obj = "mtllib x.mtl\no a\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl leaf\nf 1 2 3\n";
        foreach (['map_d leaf.png' => true, 'd 0.5' => true, 'd 1.0' => false, 'Tr 0.5' => true, 'Tr 0' => false, 'Kd 1 0 0' => false] as $line => $is) {
            $scene = FormatCatalogue::read(new MemorySource('x.obj', $obj, ['x.mtl' => "newmtl leaf\n$line\n"]));
            self::assertSame($is, $scene->parts[0]->facts->cutOut, $line);
        }
        $data = 'data:application/octet-stream;base64,'.base64_encode(pack('f9', 0, 0, 0, 1, 0, 0, 0, 1, 0));
        foreach (['MASK' => true, 'BLEND' => true, 'OPAQUE' => false] as $mode => $is) {
            $json = json_encode(['asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => [0]]], 'nodes' => [['mesh' => 0, 'name' => 'a']], 'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0], 'material' => 0]]]], 'materials' => [['name' => 'leaf', 'alphaMode' => $mode]],
                'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'count' => 3, 'type' => 'VEC3', 'min' => [0, 0, 0], 'max' => [1, 1, 0]]], 'bufferViews' => [['buffer' => 0, 'byteLength' => 36]], 'buffers' => [['byteLength' => 36, 'uri' => $data]]]);
            self::assertSame($is, FormatCatalogue::read(new MemorySource('x.gltf', (string) $json))->parts[0]->facts->cutOut, $mode);
        }
    }

    public function test_files_of_one_base_name_go_out_under_their_role(): void
    {
        $file = static fn (string $path, ?Role $role = null): GivenFile => new GivenFile($path, $role, new MemorySource(basename($path), ''));
        self::assertSame(['low/crate.obj', 'high/crate.obj', 'bolt_low.obj'], WrittenNames::of([$file('a/crate.obj', Role::Low), $file('b/crate.obj', Role::High), $file('bolt_low.obj')], Standard::builtIn()));
        self::assertSame(['low/a_low.obj', 'low-2/a_low.obj'], WrittenNames::of([$file('a/a_low.obj'), $file('b/a_low.obj')], Standard::builtIn()));
        self::assertSame(['files/x.obj', 'files-2/X.obj'], WrittenNames::of([$file('a/x.obj'), $file('b/X.obj')], Standard::builtIn()));
    }

    public function test_a_waiver_goes_by_the_base_name_of_its_file(): void
    {
        $finding = new Finding('mesh-loose', Severity::Caution, '', '', ['part' => 'a_low', 'file' => '/srv/deliveries/3/winch_low.obj'], new Measured(2, 0, 'count'));
        $waived = static fn (array $subject): bool => $finding->heldBy([new Waiver('mesh-loose', $subject, 2.0, 'mo', 'old scan')])->waived;
        self::assertTrue($waived(['file' => 'winch_low.obj']));
        self::assertTrue($waived(['file' => 'elsewhere/winch_low.obj', 'part' => 'a_low']));
        self::assertFalse($waived(['file' => 'winch_high.obj']));
        self::assertFalse($waived(['part' => 'b_low']));
    }

    public function test_parts_of_one_name_are_told_once_and_judged_by_nothing_else(): void
    {
        $box = \Anvil\Modelling\Shapes::box(1, 1, 1);
        $report = Assets::reportOf([Assets::file('a_low.obj', ['keel_low' => $box]), Assets::file('b_low.obj', ['keel_low' => $box->scaled(9, 9, 9)]), Assets::file('c_high.obj', ['keel_high' => \Anvil\Modelling\Shapes::roundedBox(1, 1, 1, 0.05, 3)])]);
        self::assertSame(['name-duplicate blocker'], Assets::codesBesideSurface($report));
        self::assertSame('not-run', Assets::state($report, 'ray-miss'));
    }
}
