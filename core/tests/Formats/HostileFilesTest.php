<?php

declare(strict_types=1);

namespace Anvil\Tests\Formats;

use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Zip\ZippedFiles;
use Anvil\Fuzz\Seeds;
use Anvil\Fuzz\Strain;
use Anvil\Tests\Support\MemorySource;
use Anvil\Tests\Support\Outside;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use ZipArchive;

/**
 * Malformed files of every format, by hand, by cutting, and by a short run of the fuzz: each is read or refused in words with its place.
 */
final class HostileFilesTest extends TestCase
{
    /**
     * @return iterable<string, array{string, string, string}>
     */
    public static function broken(): iterable
    {
        $ply = static fn (string $rest, string $format = 'ascii'): string => "ply\nformat $format 1.0\n$rest";
        $vertex = "element vertex 3\nproperty float x\nproperty float y\nproperty float z\n";
        $face = "element face 1\nproperty list uchar int vertex_indices\nend_header\n";
        yield 'PLY without a format' => ['a.ply', "ply\nelement vertex 1\nend_header\n", 'format'];
        yield 'PLY of an unknown format' => ['a.ply', $ply($vertex.$face, 'text'), 'line 2: the format is none'];
        yield 'PLY with an unknown type' => ['a.ply', $ply("element vertex 1\nproperty quad x\nend_header\n"), 'line 4: a property needs a type'];
        yield 'PLY that counts more than it holds' => ['a.ply', $ply("element vertex 4000000000\nproperty float x\nproperty float y\nproperty float z\n$face", 'binary_little_endian').'abc', 'cut short'];
        yield 'PLY with an index out of range' => ['a.ply', $ply("$vertex{$face}0 0 0\n1 0 0\n0 1 0\n3 0 1 9\n"), 'line 13'];
        yield 'PLY with NaN' => ['a.ply', $ply("$vertex{$face}0 0 nan\n1 0 0\n0 1 0\n3 0 1 2\n"), 'line 10'];
        yield 'PLY cut in its faces' => ['a.ply', $ply("$vertex{$face}0 0 0\n1 0 0\n0 1 0\n3 0 1"), 'line 13'];
        yield 'PLY without positions' => ['a.ply', $ply("element vertex 1\nproperty float u\n{$face}0\n3 0 0 0\n"), 'x'];
        yield 'STL that counts more than it holds' => ['a.stl', str_repeat("\0", 80).pack('V', 5).str_repeat("\0", 60), 'triangle'];
        yield 'STL text cut short' => ['a.stl', "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0", 'line 5'];
        yield 'STL with NaN' => ['a.stl', str_repeat("\0", 80).pack('V', 1).pack('g12', 0, 0, 1, NAN, 0, 0, 1, 0, 0, 0, 1, 0).pack('v', 0), 'byte'];
        yield 'STL of nothing' => ['a.stl', 'solid', 'line'];
        yield 'COLLADA that is no XML' => ['a.dae', '<COLLADA version="1.4.1"><library_geometries>', 'line 1'];
        yield 'another XML file' => ['a.dae', '<?xml version="1.0"?><svg/>', 'svg'];
        yield 'COLLADA that names a source that is not there' => ['a.dae', self::dae('<triangles count="1"><input semantic="VERTEX" source="#none" offset="0"/><p>0 1 2</p></triangles>'), 'none'];
        yield 'COLLADA with an index out of range' => ['a.dae', self::dae('<triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 7</p></triangles>'), '7'];
        yield 'COLLADA with too few indices' => ['a.dae', self::dae('<triangles count="2"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>'), 'says 2 and has 1'];
        yield 'COLLADA with entities that grow' => ['a.dae', '<?xml version="1.0"?><!DOCTYPE COLLADA [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]><COLLADA version="1.4.1">&b;</COLLADA>', 'a document type'];
        yield 'COLLADA that asks for a file of the machine' => ['a.dae', '<?xml version="1.0"?><!DOCTYPE COLLADA [<!ENTITY a SYSTEM "file:///etc/passwd">]><COLLADA version="1.4.1">&a;</COLLADA>', 'a document type'];
        yield 'COLLADA whose nodes go round' => ['a.dae', '<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><library_nodes><node id="a"><instance_node url="#b"/></node><node id="b"><instance_node url="#a"/></node></library_nodes><library_visual_scenes><visual_scene id="s"><node id="r"><instance_node url="#a"/></node></visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>', 'form a loop'];
        yield 'USD cut short' => ['a.usda', "#usda 1.0\ndef Mesh \"a\"\n{\n    int[] faceVertexCounts = [3", 'line 4'];
        yield 'USD with an index out of range' => ['a.usda', "#usda 1.0\ndef Mesh \"a\"\n{\n    int[] faceVertexCounts = [3]\n    int[] faceVertexIndices = [0, 1, 5]\n    point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]\n}\n", '5'];
        yield 'USD whose counts do not add up' => ['a.usda', "#usda 1.0\ndef Mesh \"a\"\n{\n    int[] faceVertexCounts = [3, 3]\n    int[] faceVertexIndices = [0, 1, 2]\n    point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]\n}\n", 'faceVertexCounts'];
        yield 'USD with a normal too short, as the fuzz found it' => ['a.usda', "#usda 1.0\ndef Mesh \"a\"\n{\n    int[] faceVertexCounts = [3]\n    int[] faceVertexIndices = [0, 1, 2]\n    point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]\n    normal3f[] normals = [(0, 0, 1), (0, 0), (0, 0, 1)]\n}\n", 'no multiple of 3'];
        yield 'binary USD' => ['a.usda', "PXR-USDC\0\0\0", 'usda'];
        yield 'USD nested without end' => ['a.usda', "#usda 1.0\n".str_repeat("def Xform \"a\" {\n", 5000), 'line'];
    }

    #[DataProvider('broken')]
    public function test_a_malformed_file_is_refused_with_its_place(string $name, string $content, string $words): void
    {
        $start = hrtime(true);
        try {
            FormatCatalogue::read(new MemorySource($name, $content));
            self::fail('it was read');
        } catch (Unreadable $error) {
            self::assertStringContainsString($words, $error->getMessage());
            self::assertLessThan(400, strlen($error->getMessage()));
        }
        self::assertLessThan(10.0, (hrtime(true) - $start) / 1e9);
    }

    /**
     * @return iterable<string, array{string}>
     */
    public static function formats(): iterable
    {
        foreach (array_keys(Seeds::all()) as $name) {
            yield $name => [$name];
        }
    }

    #[DataProvider('formats')]
    public function test_a_file_cut_anywhere_is_read_or_refused_and_never_warns(string $name): void
    {
        $content = Seeds::all()[$name];
        $step = max(1, intdiv(strlen($content), 150));
        $refused = 0;
        for ($at = 1; $at < strlen($content); $at += $step) {
            $refused += Strain::survives($name, substr($content, 0, $at)) ? 0 : 1;
        }
        self::assertSame('', self::complaints());
        self::assertGreaterThan(0, $refused);
        self::assertTrue(Strain::survives($name, $content), 'the whole file is read');
    }

    #[DataProvider('formats')]
    public function test_a_short_fuzz_finds_nothing(string $name): void
    {
        Strain::run($name, Seeds::all()[$name], 250, 20260601);
        self::assertSame('', self::complaints());
    }

    public function test_an_attribute_with_a_number_for_a_name_is_passed_over(): void
    {
        // As the fuzz found it: PHP makes a number of such a key.
        self::assertTrue(Strain::survives('a.usda', "#usda 1.0\ndef Mesh \"a\"\n{\n    int 12 = 3\n    int[] faceVertexCounts = [3]\n    int[] faceVertexIndices = [0, 1, 2]\n    point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]\n}\n"));
        self::assertSame('', self::complaints());
    }

    public function test_the_broken_files_among_open_models_are_read_or_refused(): void
    {
        // Debian assimp-testmodels keeps files that once broke readers.
        foreach (['glTF2/IndexOutOfRange/IndexOutOfRange.gltf' => 'names vertex 255', 'glTF2/RecursiveNodes/RecursiveNodes.gltf' => 'tree', 'glTF2/wrongTypes/badArray.gltf' => 'is not an array', 'glTF2/MissingBin/BoxTextured.gltf' => 'BoxTextured0.bin', 'glTF2/BoxWithInfinites-glTF-Binary/BoxWithInfinites.glb' => 'NaN or an infinite', 'PLY/pond.0.ply' => 'cut short', 'OBJ/number_formats.obj' => 'line 11', 'Collada/cube_UTF16LE.dae' => 'UTF-16'] as $model => $words) {
            try {
                FormatCatalogue::read(new FileSource(Outside::model($model)));
                self::fail("$model was read");
            } catch (Unreadable $error) {
                self::assertStringContainsString($words, $error->getMessage(), $model);
            }
        }
        foreach (['OBJ/point_cloud.obj', 'OBJ/testpoints.obj', 'OBJ/testline.obj', 'Collada/cameras.dae', 'Collada/lights.dae'] as $model) {
            self::assertSame(0, FormatCatalogue::read(new FileSource(Outside::model($model)))->triangleCount(), $model);
        }
    }

    public function test_a_zip_lets_nothing_out_of_its_folder_and_holds_no_bomb(): void
    {
        $obj = "o a_low\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";
        self::assertSame([['sub/a_low.obj', 'sub/a.mtl'], null], $this->unzip(['sub/a_low.obj' => $obj, 'sub/a.mtl' => 'newmtl a', 'notes.txt' => 'x', '__MACOSX/a.obj' => 'x', 'sub/.hidden.obj' => 'x']));
        self::assertStringContainsString('leave its folder', (string) $this->unzip(['../a_low.obj' => $obj])[1]);
        self::assertStringContainsString('leave its folder', (string) $this->unzip(['/etc/a_low.obj' => $obj])[1]);
        self::assertStringContainsString('leave its folder', (string) $this->unzip(['a\\..\\..\\a_low.obj' => $obj])[1]);
        self::assertStringContainsString('holds no mesh file', (string) $this->unzip(['a.txt' => 'x', 'inner.zip' => 'PK'])[1]);
        self::assertStringContainsString('twice', (string) $this->unzip(['a_low.obj' => $obj, 'A_LOW.obj' => $obj])[1]);
        self::assertStringContainsString('over 200 times', (string) $this->unzip(['a_low.obj' => str_repeat("v 0 0 0\n", 10_000_000)])[1]);
        self::assertStringContainsString('a link', (string) $this->unzip(['a_low.obj' => '/etc/passwd'], static function (ZipArchive $zip): void {
            $zip->setExternalAttributesIndex(0, ZipArchive::OPSYS_UNIX, 0o120777 << 16);
        })[1]);
        self::assertStringContainsString('password', (string) $this->unzip(['a_low.obj' => $obj], static function (ZipArchive $zip): void {
            $zip->setEncryptionIndex(0, ZipArchive::EM_AES_256, 'harbour');
        })[1]);
        // Many that are small each are a flood together; nothing is unpacked of it.
        self::assertStringContainsString('which no meshes do', (string) $this->unzip(array_combine(array_map(static fn (int $i): string => "part_$i.obj", range(1, 3)), array_fill(0, 3, str_repeat("v 0 0 0\n", 4_000_000))))[1]);
        self::assertNull($this->unzip(array_combine(array_map(static fn (int $i): string => "part_$i.obj", range(1, 300)), array_fill(0, 300, $obj)))[1]);
        self::assertStringContainsString('a file and a folder of one name', (string) $this->unzip(['hull.obj' => $obj, 'Hull.obj/deck.obj' => $obj])[1]);
        self::assertStringContainsString('line break', (string) $this->unzip(["a\nb.obj" => $obj])[1]);
        self::assertDoesNotMatchRegularExpression('/[\x00-\x1f]/', (string) $this->unzip(["a\x1b[2Jb.obj" => $obj])[1]);
        self::assertStringContainsString('longer or deeper', (string) $this->unzip([str_repeat('keel', 70).'.obj' => $obj])[1]);
        self::assertStringContainsString('longer or deeper', (string) $this->unzip([str_repeat('a/', 30).'b.obj' => $obj])[1]);
        self::assertNull($this->unzip([str_repeat('k', 236).'.obj' => $obj, str_repeat('a/', 20).'b.obj' => $obj])[1]);
        // A bit of the packed bytes turned, as the fuzz found it: the stream warns, and the archive is refused in words.
        $seed = Seeds::all()['a.zip'];
        $refused = 0;
        for ($at = 46; $at < 66; $at++) {
            $refused += Strain::survives('a.zip', substr_replace($seed, chr(ord($seed[$at]) ^ 16), $at, 1)) ? 0 : 1;
        }
        self::assertSame('', self::complaints());
        self::assertGreaterThan(5, $refused);
        file_put_contents($path = (string) tempnam(sys_get_temp_dir(), 'anvil-zip'), 'no zip at all');
        try {
            ZippedFiles::extract($path, sys_get_temp_dir());
            self::fail('it was unpacked');
        } catch (Unreadable $error) {
            self::assertStringContainsString('no zip archive', $error->getMessage());
        } finally {
            unlink($path);
        }
    }

    /** What is looked for in the bytes, a document type, would be written otherwise in another encoding. */
    public function test_collada_is_utf_8_and_has_no_document_type(): void
    {
        $said = static function (string $content): string {
            try {
                \Anvil\Formats\FormatCatalogue::read(new \Anvil\Tests\Support\MemorySource('x.dae', $content));
            } catch (Unreadable $error) {
                return $error->getMessage();
            }

            return 'it was read';
        };
        $plain = self::dae('<triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>');
        self::assertSame('it was read', $said($plain));
        self::assertSame('it was read', $said("\xEF\xBB\xBF".str_replace('version="1.0"', 'version="1.0" encoding="utf-8"', $plain)));
        self::assertSame('it was read', $said(str_replace('version="1.0"', "version='1.0' encoding='ISO-8859-1'", $plain)));
        $entity = '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]>';
        self::assertStringContainsString('document type', $said(str_replace("?>\n", "?>\n$entity", $plain)));
        foreach (['UTF-7', 'utf-16', 'EBCDIC-CP-US'] as $encoding) {
            self::assertStringContainsString('is not in UTF-8 but says', $said((string) str_replace('version="1.0"', "version=\"1.0\" encoding=\"$encoding\"", $plain)), $encoding);
        }
        foreach (['UTF-16LE', 'UTF-16BE'] as $encoding) {
            $wide = (string) mb_convert_encoding(str_replace("?>\n", "?>\n$entity", $plain), $encoding, 'UTF-8');
            self::assertNotSame('it was read', $said($wide), $encoding);
            self::assertNotSame('it was read', $said(($encoding === 'UTF-16LE' ? "\xFF\xFE" : "\xFE\xFF").$wide), $encoding);
        }
    }

    /**
     * @param  array<string, string>  $files
     * @param  (\Closure(ZipArchive): void)|null  $change
     * @return array{list<string>, string|null} what came out, what was said
     */
    private function unzip(array $files, ?\Closure $change = null): array
    {
        $folder = sys_get_temp_dir().'/anvil-unzip-'.bin2hex(random_bytes(4));
        mkdir("$folder/in/side", 0o700, true);
        $zip = new ZipArchive;
        $zip->open("$folder/x.zip", ZipArchive::CREATE);
        foreach ($files as $name => $content) {
            $zip->addFromString($name, $content);
        }
        if ($change !== null) {
            $change($zip);
        }
        $zip->close();
        try {
            return [ZippedFiles::extract("$folder/x.zip", "$folder/in/side"), null];
        } catch (Unreadable $error) {
            // Whatever came out before lies inside.
            self::assertSame(['side'], array_values(array_diff(scandir("$folder/in") ?: [], ['.', '..'])));

            return [[], $error->getMessage()];
        } finally {
            Folder::remove($folder);
        }
    }

    private static function complaints(): string
    {
        $all = Strain::$complaints;
        Strain::$complaints = [];

        return substr(implode("\n", array_map(static fn (string $one): string => substr($one, 0, 400), array_slice($all, 0, 3))), 0, 1500);
    }

    private static function dae(string $primitives): string
    {
        return "<?xml version=\"1.0\"?>\n<COLLADA xmlns=\"http://www.collada.org/2005/11/COLLADASchema\" version=\"1.4.1\">\n<library_geometries><geometry id=\"g\"><mesh><source id=\"p\"><float_array id=\"pa\" count=\"9\">0 0 0 1 0 0 0 1 0</float_array><technique_common><accessor source=\"#pa\" count=\"3\" stride=\"3\"/></technique_common></source><vertices id=\"v\"><input semantic=\"POSITION\" source=\"#p\"/></vertices>\n$primitives</mesh></geometry></library_geometries><library_visual_scenes><visual_scene id=\"s\"><node name=\"a\"><instance_geometry url=\"#g\"/></node></visual_scene></library_visual_scenes><scene><instance_visual_scene url=\"#s\"/></scene></COLLADA>\n";
    }
}
