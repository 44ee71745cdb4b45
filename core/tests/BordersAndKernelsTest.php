<?php

declare(strict_types=1);

namespace Anvil\Tests;

use Anvil\Checks\Catalogue;
use Anvil\Formats\FormatCatalogue;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Outside;
use Anvil\Unreadable;
use FilesystemIterator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;

/**
 * What holds for the core as a whole: its borders, its settings, its kernels with and without the JIT, its pages in the docs.
 */
final class BordersAndKernelsTest extends TestCase
{
    public function test_the_core_knows_no_framework_and_no_application(): void
    {
        foreach (self::files('core/src') as $path => $code) {
            self::assertDoesNotMatchRegularExpression('/\b(Illuminate|Laravel|App|Database)\\\\\\\\?[A-Z]/', $code, $path);
        }
    }

    public function test_the_application_does_no_geometry(): void
    {
        foreach (self::files('app') as $path => $code) {
            self::assertDoesNotMatchRegularExpression('/\b(sqrt|hypot|atan2|acos|cos|sin)\(/', $code, $path);
            self::assertDoesNotMatchRegularExpression('/->positions\[/', $code, $path);
        }
    }

    public function test_kernels_give_the_same_with_the_jit_on_and_off(): void
    {
        $code = 'require '.var_export(Outside::root().'/vendor/autoload.php', true).';
            $low = Anvil\Modelling\Shapes::cylinder(1, 2, 24)->mesh(); $high = Anvil\Modelling\Shapes::roundedCylinder(1, 2, .08, 64, 6)->mesh();
            $set = new Anvil\Rays\SetSurfaces("a", [$low], [$high], true);
            $r = Anvil\Clearance\ClearanceMeasure::of($set, [], Anvil\Rays\Visibility::assembled([$set]), Anvil\Standard\Standard::builtIn(), 8192);
            $health = Anvil\Geometry\MeshHealth::of($high); $off = Anvil\Place\OffsetSearch::of([$low], Anvil\Spatial\TriangleTree::of($high->moved([0.02, -0.01, 0.0])->positions, $high->triangles), 512);
            $costs = []; mt_srand(5); for ($i = 0; $i < 60; $i++) { for ($j = 0; $j < 60; $j++) { $costs[$i][$j] = mt_rand(0, 1000) / 700; } }
            $read = Anvil\Formats\FormatCatalogue::read(new Anvil\Tests\Support\MemorySource("a.obj", Anvil\Fuzz\Seeds::all()["a.obj"]));
            $large = Anvil\Modelling\Polygons::join([Anvil\Modelling\Shapes::box(4, .1, 4), ...array_map(fn ($i) => Anvil\Modelling\Shapes::sphere(.03, 5, 8)->moved($i % 4 - 1.5, .06, intdiv($i, 4) - 1.5), range(0, 15))])->mesh();
            $tree = Anvil\Spatial\TriangleTree::of($large->positions, $large->triangles); $near = new Anvil\Spatial\NearestPoint($tree); $found = [$tree->order, $tree->minX];
            for ($i = 0; $i < 2000; $i++) { $found[] = $near->find(sin($i), 0.5 * cos(2 * $i), cos($i)); $found[] = $near->squared; }
            echo (opcache_get_status(false)["jit"]["on"] ?? false) ? "on " : "off ", md5(serialize([$found, $r->toArray(), $set->high()->tree()->order, $set->high()->tree()->skip,
                $health->degenerate, $health->manyFaced, $health->fans, $health->againstNeighbours, $health->insideOut, $off, Anvil\Pairing\Assignment::of($costs), $read->parts[0]->mesh->positions]));';
        $run = static fn (string $flags): string => (string) shell_exec(PHP_BINARY." $flags -r ".escapeshellarg($code));
        $on = $run(trim((string) file_get_contents(Outside::root().'/bin/jit.flags')));
        $off = $run('-d opcache.enable_cli=1 -d opcache.jit=off');
        self::assertStringStartsWith('on ', $on, 'the JIT cannot be switched on here');
        self::assertStringStartsWith('off ', $off);
        self::assertSame(substr($on, 3), substr($off, 4));
    }

    /**
     * @return iterable<string, array{string, string}>
     */
    public static function wrongStandards(): iterable
    {
        yield 'an unknown key' => ['{"maps":1}', 'maps is not a known key'];
        yield 'a wrong type' => ['{"mapSize":"big"}', 'mapSize is not a whole number'];
        yield 'an unknown check' => ['{"checks":{"smudge":{}}}', 'checks.smudge is no check'];
        yield 'an unknown severity' => ['{"checks":{"ray-miss":{"severity":"fatal"}}}', '"fatal" is not one of'];
        yield 'a wrong reach' => ['{"reach":{"*":{"out":"wide"}}}', 'reach.*.out is neither'];
        yield 'a star in the middle' => ['{"suffixes":{"high":"_h*gh"}}', 'is no suffix'];
        yield 'no JSON' => ['nonsense', 'JSON'];
    }

    #[DataProvider('wrongStandards')]
    public function test_a_wrong_standard_is_refused_by_key(string $json, string $words): void
    {
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage($words);
        Catalogue::standard($json);
    }

    public function test_a_standard_and_choices_survive_being_written_and_read(): void
    {
        $standard = Standard::ofJson('{"name":"harbour","suffixes":{"high":["_high","_high_*"]},"mapSize":4096,"reach":{"*":{"out":"1%"},"drum":{"out":0.5,"in":0.25}},"checks":{"ray-miss":{"severity":"note","limit":0.1}}}');
        self::assertEquals($standard, Standard::ofJson((string) json_encode($standard->toArray())));
        self::assertEquals([0.5, 0.25], array_values($standard->reachOf('drum', 10.0)?->toArray() ?? []));
        self::assertEqualsWithDelta(0.1, $standard->reachOf('other', 10.0)->out ?? 0.0, 1e-12);
        $choices = Choices::ofJson('{"sets":{"body":["a*"]},"bakedOnItself":true,"occlusion":"all"}');
        self::assertEquals($choices, Choices::ofJson((string) json_encode($choices->toArray())));
        $this->expectExceptionMessage('keep is not a known key');
        Choices::ofJson('{"keep":[]}');
    }

    public function test_every_check_has_its_page_in_the_docs_as_the_catalogue_says(): void
    {
        foreach (Catalogue::about() as $about) {
            $drawing = Outside::root()."/docs/checks/drawings/$about->code.svg";
            self::assertFileExists($drawing, 'every check has a drawing of its fault: bin/check-drawings.php');
            $svg = simplexml_load_string((string) file_get_contents($drawing));
            self::assertNotFalse($svg, $about->code);
            self::assertNotSame('', (string) $svg->title, "$about->code: what the drawing shows");
            $path = Outside::root()."/docs/checks/$about->code.md";
            self::assertFileExists($path);
            $page = (string) file_get_contents($path);
            foreach (['![the fault](drawings/'.$about->code.'.svg)', $about->title, $about->measured, $about->limitWords, $about->afterBake, $about->remedy, $about->source] as $text) {
                self::assertStringContainsString($text, $page, "$about->code: run php bin/check-pages.php");
            }
            if ($about->limit !== null) {
                self::assertStringContainsString('"limit":'.json_encode($about->limit).($about->caution === null ? '' : ',"caution":'.json_encode($about->caution)).'}', $page, "$about->code: run php bin/check-pages.php");
            }
        }
    }

    public function test_the_page_on_formats_is_that_of_the_catalogue(): void
    {
        $page = (string) file_get_contents(Outside::root().'/docs/formats.md');
        foreach (FormatCatalogue::CARRIED as $what) {
            $row = "| $what | ".implode(' | ', array_map(static fn (array $format): string => in_array($what, $format['lacks'], true) ? 'no' : 'yes', FormatCatalogue::overview())).' |';
            self::assertStringContainsString($row, $page, 'run php bin/check-pages.php');
        }
    }

    /**
     * @return iterable<string, string>
     */
    private static function files(string $below): iterable
    {
        /** @var SplFileInfo $file */
        foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(Outside::root()."/$below", FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file->getExtension() === 'php') {
                yield $file->getPathname() => (string) file_get_contents($file->getPathname());
            }
        }
    }
}
