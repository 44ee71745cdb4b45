<?php

declare(strict_types=1);

namespace Anvil\Tests\Formats;

use Anvil\Formats\Decimal;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\PolygonSoup;
use Anvil\Json;
use Anvil\Tests\Support\MemorySource;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use RuntimeException;

/**
 * What every reader and writer stands on: folders that are filled whole, side files, typed JSON, faces that become triangles.
 */
final class FilesAndPiecesTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/anvil-pieces-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
    }

    public function test_a_folder_appears_whole_and_only_when_it_is_done(): void
    {
        $sink = new FolderSink("$this->folder/new/out/");
        $this->write($sink, 'deep/er/mast.obj', 'mast');
        $this->write($sink, 'mast.mtl', 'paint');
        self::assertSame([['deep/er/mast.obj', 'mast.mtl'], true, false], [$sink->names(), $sink->has('mast.mtl'), $sink->has('mast.obj')]);
        self::assertDirectoryDoesNotExist("$this->folder/new/out");
        $sink->commit();
        self::assertSame(['out'], array_values(array_diff(scandir("$this->folder/new") ?: [], ['.', '..'])), 'nothing is left beside it');
        self::assertSame(['mast', 'paint'], [file_get_contents("$this->folder/new/out/deep/er/mast.obj"), file_get_contents("$this->folder/new/out/mast.mtl")]);
    }

    public function test_a_folder_that_holds_something_is_left_alone_unless_forced(): void
    {
        mkdir("$this->folder/empty");
        $sink = new FolderSink("$this->folder/empty");
        $this->write($sink, 'a.obj', 'new');
        $sink->commit();
        self::assertSame('new', file_get_contents("$this->folder/empty/a.obj"), 'an empty folder may be filled');
        try {
            new FolderSink("$this->folder/empty");
            self::fail('it holds a file');
        } catch (RuntimeException $e) {
            self::assertStringContainsString('is not empty', $e->getMessage());
        }
        $sink = new FolderSink("$this->folder/empty", true);
        $this->write($sink, 'a.obj', 'newer');
        $this->write($sink, 'maps/wood/b.png', 'picture');
        $sink->commit();
        self::assertSame(['newer', 'picture'], [file_get_contents("$this->folder/empty/a.obj"), file_get_contents("$this->folder/empty/maps/wood/b.png")]);
        $sink = new FolderSink("$this->folder/empty", true);
        $this->write($sink, 'a.obj', 'never');
        $sink->discard();
        self::assertSame('newer', file_get_contents("$this->folder/empty/a.obj"));
        self::assertCount(3, scandir($this->folder) ?: [], 'nothing is left beside it');
    }

    public function test_nothing_is_written_outside_a_folder_or_twice(): void
    {
        touch("$this->folder/file");
        foreach (["$this->folder/file" => 'is a file, not a folder', '/proc/anvil/out' => 'cannot be made', '/proc/out' => 'cannot be written to'] as $folder => $words) {
            try {
                new FolderSink($folder);
                self::fail($folder);
            } catch (RuntimeException $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
        $sink = new FolderSink("$this->folder/out");
        $this->write($sink, 'a.obj', '');
        foreach (['../a.obj' => 'outside', 'b/../../a.obj' => 'outside', '/a.obj' => 'outside', 'a.obj' => 'two files', str_repeat('x', 300) => 'cannot be written'] as $name => $words) {
            try {
                $sink->open($name);
                self::fail($name);
            } catch (RuntimeException $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
        $sink->discard();
        self::assertDirectoryDoesNotExist("$this->folder/out");
    }

    private function write(FolderSink $sink, string $name, string $content): void
    {
        $stream = $sink->open($name);
        fwrite($stream, $content);
        fclose($stream);
    }

    public function test_side_files_stand_in_the_files_own_folder(): void
    {
        mkdir("$this->folder/in/maps", 0o777, true);
        foreach (['in/a.obj', 'in/a.mtl', 'in/maps/b.mtl', 'secret.mtl'] as $name) {
            file_put_contents("$this->folder/$name", $name);
        }
        symlink("$this->folder/secret.mtl", "$this->folder/in/link.mtl");
        $source = new FileSource("$this->folder/in/a.obj");
        self::assertSame(8, $source->size());
        self::assertSame(['a.mtl', 'b.mtl'], [$source->side('a.mtl')?->name(), $source->side('maps\\b.mtl')?->name()]);
        self::assertSame([null, null, null], [$source->side('link.mtl'), $source->side('maps'), $source->side('none.mtl')], 'a link out of it, a folder, nothing');
        foreach (['../secret.mtl', 'maps/../../secret.mtl', '/etc/hostname', 'C:\\a.mtl', 'file://a.mtl', "a.mtl\0"] as $name) {
            try {
                $source->side($name);
                self::fail($name);
            } catch (Unreadable $e) {
                self::assertStringContainsString('outside its own folder', $e->getMessage());
            }
        }
        $named = new FileSource("$this->folder/in/a.obj", 'a.obj', ['b.mtl' => "$this->folder/in/maps/b.mtl"]);
        self::assertSame(['b.mtl', 'b.mtl', null], [$named->side('b.mtl')?->name(), $named->side('maps/b.mtl')?->name(), $named->side('a.mtl')], 'only what was handed in with it');
        $this->expectExceptionMessage('cannot be opened');
        (new FileSource("$this->folder/in"))->open();
    }

    /**
     * @return iterable<string, array{string, string, string|null}>
     */
    public static function heads(): iterable
    {
        yield 'glTF with a byte order mark' => ['a.gltf', "\xEF\xBB\xBF{}", null];
        yield 'glTF after blanks' => ['a.gltf', " \n{\"asset\":{\"version\":\"2.0\"}}", null];
        yield 'glTF that is none' => ['a.gltf', '[1]', 'does not begin like .gltf'];
        yield 'binary under the text ending' => ['a.gltf', "glTF\x02\0\0\0{", 'is named .gltf but begins like a binary glTF'];
        yield 'a PLY under obj' => ['a.obj', "ply\nformat ascii 1.0\n", 'begins like a PLY'];
        yield 'a zip under stl' => ['a.stl', "PK\x03\x04", 'begins like a zip archive'];
        yield 'COLLADA without a prolog' => ['a.dae', "\xEF\xBB\xBF <COLLADA/>", null];
        yield 'COLLADA that is none' => ['a.dae', 'solid', 'does not begin like .dae'];
        yield 'USD that is binary' => ['a.usd', 'PXR-USDC', 'export it as text'];
        yield 'wide text' => ['a.obj', "\xFF\xFEv\0", 'save it as UTF-8'];
        yield 'an unknown ending' => ['a.blob', 'x', 'is no mesh format known here'];
        yield 'a known one that is not read' => ['a.fbx', 'x', 'is a format that is not read here'];
        yield 'no ending' => ['a', 'x', 'a file without an ending'];
        yield 'nothing in it' => ['a.obj', '', 'the file is empty'];
    }

    #[DataProvider('heads')]
    public function test_a_file_is_held_against_its_ending(string $name, string $content, ?string $words): void
    {
        try {
            FormatCatalogue::read(new MemorySource($name, $content));
            $said = null;
        } catch (Unreadable $e) {
            $said = $e->getMessage();
        }
        if ($words === null) {
            self::assertDoesNotMatchRegularExpression('/begin/', (string) $said);
        } else {
            self::assertStringContainsString($words, (string) $said);
        }
        $ending = pathinfo($name, PATHINFO_EXTENSION);
        self::assertSame(in_array($ending, ['gltf', 'obj', 'stl', 'dae', 'usd'], true), FormatCatalogue::refusalOf($ending) === null);
    }

    public function test_faces_of_any_size_become_triangles_that_remember_them(): void
    {
        $square = [0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 1.0, 1.0, 0.0, 0.0, 1.0, 0.0];
        $soup = new PolygonSoup;
        self::assertSame([], $soup->addPolygon([0, 1], $square));
        $soup->addTriangles([0, 1, 2, 0, 2, 3]);
        self::assertSame([0, 1, 2], $soup->addPolygon([0, 1, 3], $square));
        self::assertSame([[], [], []], [$soup->faces, $soup->uvs, $soup->triUvs], 'nothing is kept that all triangles would say');
        $soup->addPolygon([0, 1, 2, 3], $square);
        self::assertSame([0, 1, 2, 3, 3], $soup->faces, 'one number a triangle once a face has more corners');
        $soup->addTriangles([1, 2, 3, 3, 2, 1]);
        $soup->addTriangles([]);
        $soup->addPolygon([2, 1, 0], $square);
        self::assertSame([0, 1, 2, 3, 3, 4, 5, 6], $soup->faces);
        self::assertSame([], $soup->triUvs);
        $cut = $soup->addPolygon([0, 1, 2, 3], $square, [0.0, 0.0, 0.5, 0.0, 0.5, 0.5, 0.0, 0.5]);
        self::assertSame([...array_fill(0, 24, -1), ...$cut], $soup->triUvs, 'what came before has none');
        $soup->addPolygon([0, 1, 2], $square);
        $soup->addTriangles([0, 1, 2]);
        $soup->addPolygon([0, 1, 2], $square, [0.1, 0.2, 0.3, 0.4, 0.5, 0.6]);
        self::assertSame([-1, -1, -1, -1, -1, -1, 4, 5, 6], array_slice($soup->triUvs, -9));
        self::assertSame([0.1, 0.2, 0.3, 0.4, 0.5, 0.6], array_slice($soup->uvs, 8));
        self::assertSame([7, 7, 8, 9, 10], array_slice($soup->faces, -5));
        self::assertSame(count($soup->triangles), count($soup->triUvs));
    }

    public function test_uvs_of_the_first_face_need_no_filling(): void
    {
        $soup = new PolygonSoup;
        $soup->addPolygon([0, 1, 2], [0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 1.0, 1.0, 0.0], [0.1, 0.2, 0.3, 0.4, 0.5, 0.6]);
        self::assertSame([0, 1, 2], $soup->triUvs);
    }

    public function test_json_is_taken_by_type_and_says_where_it_is_not(): void
    {
        $json = Json::parse('{"n":3,"whole":4.0,"half":4.5,"large":9007199254740992.0,"minus":-1,"text":"a","yes":true,"list":["a",1],"in":{"n":"x"}}');
        self::assertSame([3, 4, null], [$json->int('n'), $json->int('whole'), $json->int('none')]);
        self::assertSame(['a', null, true, false], [$json->string('text'), $json->string('none'), $json->bool('yes'), $json->bool('none')]);
        $inner = $json->object('in');
        self::assertNotNull($inner);
        foreach ([
            'half is not a whole number' => static fn () => $json->int('half'), 'large is not a whole number' => static fn () => $json->int('large'), 'minus is not a whole number' => static fn () => $json->int('minus'),
            'text is not true or false' => static fn () => $json->bool('text'), 'yes is not a string' => static fn () => $json->string('yes'), 'list is not strings' => static fn () => $json->strings('list'),
            'in.n is not a whole number' => static fn () => $inner->int('n'), 'none is missing' => static fn () => $json->need('none'), 'in.none is missing' => static fn () => $inner->need('none'),
        ] as $words => $ask) {
            try {
                $ask();
                self::fail($words);
            } catch (Unreadable $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }

    public function test_a_number_moves_by_any_length_with_the_decimals_of_both(): void
    {
        self::assertSame(['1.50', '2.50', '1.75', '15', '0', '2'], [Decimal::sum('1.50', 0.0), Decimal::sum('1.50', 1.0), Decimal::sum('1.50', 0.25), Decimal::sum('1.4e1', 1.0), Decimal::of(-0.0), Decimal::of(2.0)]);
    }
}
