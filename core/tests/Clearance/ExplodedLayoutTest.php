<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Asset\GivenFile;
use Anvil\Asset\ReadFile;
use Anvil\Explode\Assembled;
use Anvil\Explode\ExplodedFiles;
use Anvil\Explode\ExplodePlan;
use Anvil\Formats\FileSource;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Formats\Rewriter;
use Anvil\Geometry\Part;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * An exploded layout that was handed in again: recognised from the asset that it was made of, and put back.
 */
final class ExplodedLayoutTest extends TestCase
{
    /**
     * @return iterable<string, array{array<string, array{float, float}>, bool}>
     */
    public static function layouts(): iterable
    {
        // Shifts along x of low and high; the three boxes stand 1.1 apart, each 1 wide.
        yield 'nothing moved' => [[], false];
        yield 'one set apart' => [['c' => [2, 2]], true];
        yield 'two sets apart' => [['a' => [-2, -2], 'c' => [2, 2]], true];
        yield 'all of it elsewhere' => [['a' => [5, 5], 'b' => [5, 5], 'c' => [5, 5]], false];
        yield 'low parts only' => [['a' => [-2, 0], 'c' => [2, 0]], false];
        yield 'one drifted among two that did not' => [['a' => [-2, -2], 'b' => [0, 0], 'c' => [2, 2], 'd' => [4, 4.01]], true];
        yield 'moved into another set, as a redesign does' => [['c' => [-0.5, -0.5]], false];
        yield 'moved by less than anyone would explode by' => [['c' => [0.001, 0.001]], false];
    }

    /**
     * @param  array<string, array{float, float}>  $shifts
     */
    #[DataProvider('layouts')]
    public function test_a_layout_is_recognised_by_its_vectors(array $shifts, bool $isExploded): void
    {
        $names = isset($shifts['d']) ? ['a', 'b', 'c', 'd'] : ['a', 'b', 'c'];
        $found = Assembled::recognise(self::row($names, $shifts)->asset, self::row($names, [])->asset);
        self::assertSame($isExploded, $found !== null);
        self::assertTrue($found?->isOriginal() ?? true);
    }

    public function test_a_layout_written_here_is_recognised_and_goes_back_to_where_it_was(): void
    {
        $folder = sys_get_temp_dir().'/anvil-exploded-'.bin2hex(random_bytes(4));
        mkdir($folder);
        try {
            $given = [];
            foreach (['x_low.obj' => '_low', 'x_high.obj' => '_high'] as $name => $suffix) {
                $sink = new MemorySink;
                $parts = [];
                foreach (['a' => [1, 0.0], 'b' => [0.05, 0.7]] as $base => [$wide, $x]) {
                    // The second is a plate that the rays of the first pass through on their way.
                    $parts[] = new Part($base.$suffix, Assets::worn(($suffix === '_low' ? Shapes::box($wide, 1, 1) : Shapes::roundedBox($wide, 1, 1, 0.02, 3))->moved($x, 0, 0)->mesh()));
                }
                ObjWriter::write($parts, $name, $sink);
                foreach ($sink->names() as $file) {
                    file_put_contents("$folder/$file", $sink->content($file));
                }
                $given[] = new GivenFile($name, null, new FileSource("$folder/$name"));
            }
            $original = Assets::reportOf(self::read($given), '{"rays":{"setsKeptApart":false},"reach":{"*":{"out":0.5}}}')->measures;
            $plan = ExplodePlan::of($original->asset, $original->clearances());
            self::assertCount(1, $plan->moved());
            $sink = new MemorySink;
            ExplodedFiles::write($original->asset, $given, $plan, $sink);
            foreach ($sink->names() as $name) {
                file_put_contents("$folder/apart_$name", $sink->content($name));
            }
            $apart = array_map(static fn (GivenFile $one): GivenFile => new GivenFile($one->path, null, new FileSource("$folder/apart_$one->path")), $given);
            $now = Measures::of(self::read($apart), $original->asset->standard, new Choices);
            $byPlan = Assembled::ofPlan((string) file_get_contents("$folder/apart_explode.json"));
            $byOriginal = Assembled::recognise($now->asset, $original->asset);
            self::assertNotNull($byOriginal);
            foreach ([$byPlan, $byOriginal] as $assembled) {
                foreach (ExplodedFiles::back($now->asset, $assembled) as $number => $changes) {
                    $sink = new MemorySink;
                    Rewriter::write($apart[$number]->source, $changes, $apart[$number]->path, $sink);
                    file_put_contents("$folder/back.obj", $sink->content($apart[$number]->path));
                    $back = FormatCatalogue::read(new FileSource("$folder/back.obj"));
                    foreach ($back->parts as $i => $part) {
                        $before = $original->asset->files[$number]->scene->parts[$i]->mesh->positions ?? [];
                        foreach ($part->mesh->positions as $k => $value) {
                            self::assertEqualsWithDelta($before[$k], $value, 1e-6);
                        }
                    }
                }
            }
        } finally {
            foreach (glob("$folder/*") ?: [] as $file) {
                unlink($file);
            }
            rmdir($folder);
        }
    }

    /**
     * @param  list<GivenFile>  $given
     * @return list<ReadFile>
     */
    private static function read(array $given): array
    {
        return array_map(static fn (GivenFile $one): ReadFile => new ReadFile($one->path, $one->role, '', FormatCatalogue::read($one->source), null), $given);
    }

    /**
     * @param  list<string>  $names
     * @param  array<string, array{float, float}>  $shifts  along x, of low and high
     */
    private static function row(array $names, array $shifts): Measures
    {
        $low = $high = [];
        foreach ($names as $i => $name) {
            [$ofLow, $ofHigh] = $shifts[$name] ?? [0.0, 0.0];
            $low["{$name}_low"] = self::at(Shapes::box(1, 1, 1), 1.1 * $i + $ofLow);
            $high["{$name}_high"] = self::at(Shapes::roundedBox(1, 1, 1, 0.05, 2), 1.1 * $i + $ofHigh);
        }

        return Measures::of([Assets::file('x_low.obj', $low, Role::Low), Assets::file('x_high.obj', $high, Role::High)], Standard::builtIn(), new Choices);
    }

    private static function at(Polygons $shape, float $x): Polygons
    {
        return $shape->moved($x, 0, 0);
    }
}
