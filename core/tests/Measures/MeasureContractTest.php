<?php

declare(strict_types=1);

namespace Anvil\Tests\Measures;

use Anvil\Asset\GivenMap;
use Anvil\Asset\LastDelivery;
use Anvil\Asset\ReadFile;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Finding;
use Anvil\Checks\Runner;
use Anvil\Clearance\SetClearance;
use Anvil\Explode\Assembled;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Measures\Kind\Cage;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\Health;
use Anvil\Measures\Kind\Layout;
use Anvil\Measures\Kind\LowNgons;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\Shades;
use Anvil\Measures\Kind\Suffixes;
use Anvil\Measures\Kind\Turn;
use Anvil\Measures\MeasureCatalogue;
use Anvil\Measures\Measures;
use Anvil\Measures\NotKnown;
use Anvil\Measures\Plan;
use Anvil\Measures\Subject;
use Anvil\Measures\Task;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Figures\FigureAssets;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySource;
use Anvil\Tests\Support\SharedMeasures;
use LogicException;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * What every measure owes: a name of its own, what it reads declared, and the same result whether it is computed, forked, or kept.
 */
#[Group('matrix')]
final class MeasureContractTest extends TestCase
{
    /** Assets that between them bring a result of every measure about, and none where it has none: these are computed twice, whatever was kept. */
    private const COMPUTED = ['a hundred times too large and turned', 'a corner and its fillet', 'names in disorder', 'cage, pose and ID'];

    /** As many rays as KeptFiguresTest has, so that both have the same measures. */
    private const RAYS = 2048;

    public function test_measures_are_found_and_named(): void
    {
        $names = array_map(static fn ($measure): string => $measure->name(), MeasureCatalogue::all());
        self::assertCount(count(glob(dirname(__DIR__, 2).'/src/Measures/Kind/*.php') ?: []), $names);
        self::assertSame(array_unique($names), $names);
        foreach ($names as $class => $name) {
            self::assertMatchesRegularExpression('/^[a-z]+(-[a-z]+)*$/D', $name);
            self::assertSame($class, MeasureCatalogue::named($name)::class);
            self::assertGreaterThan(0, MeasureCatalogue::named($name)->revision());
        }
        $this->expectException(LogicException::class);
        MeasureCatalogue::named('mood');
    }

    /** Neither more than is declared, or `--only` would not measure it, nor less, or it would measure for nothing. */
    public function test_every_check_reads_what_it_declares(): void
    {
        $read = [];
        $assets = [...iterator_to_array(FigureAssets::all(), false), self::everything()];
        foreach ($assets as $asset) {
            $files = [Assets::file('x_low.obj', $asset[0]), Assets::file('x_high.obj', $asset[1]), ...(isset($asset[4]) ? [Assets::file('x_id.obj', $asset[4])] : []), ...($asset[5] ?? [])];
            $measures = Measures::of($files, self::few($asset[2] ?? '{}', self::RAYS), Choices::ofJson($asset[3] ?? '{}'), isset($asset[5]) ? [GivenMap::of('x_normal.png', null, null, new MemorySource('x_normal.png', 'no map'))] : []);
            $measures = SharedMeasures::of($measures)->since(LastDelivery::of($measures->asset));
            $measures = isset($asset[5]) ? $measures->exploded(Assembled::ofOriginal(Measures::of([Assets::file('x_low.obj', $asset[0]), Assets::file('x_high.obj', array_map(static fn (Polygons $one): Polygons => $one->moved(1, 0, 0), $asset[1]))], self::few('{}'), Choices::ofJson('{}'))->asset)) : $measures;
            Plan::of($measures, Runner::measures($measures))->run($measures);
            $measures->asked();
            foreach (Catalogue::all() as $check) {
                $check->run($measures);
                $about = $check->about();
                $asked = $measures->asked();
                $read[$about->code] = [...($read[$about->code] ?? []), ...$asked];
            }
        }
        foreach (Catalogue::about() as $code => $about) {
            self::assertSame([], array_values(array_unique(array_diff($read[$code], $about->measures, $about->beside))), "$code reads what it does not declare");
            self::assertSame([], array_values(array_diff([...$about->measures, ...$about->beside], $read[$code])), "$code declares what it does not read");
        }
    }

    /**
     * @return iterable<string, array{list<ReadFile>, string}>
     */
    public static function assets(): iterable
    {
        foreach (FigureAssets::all() as $name => $asset) {
            yield $name => [[Assets::file('x_low.obj', $asset[0]), Assets::file('x_high.obj', $asset[1]), ...(isset($asset[4]) ? [Assets::file('x_id.obj', $asset[4])] : [])], $asset[2] ?? '{}'];
        }
        $all = self::everything();
        yield 'cage, pose and ID' => [[Assets::file('x_low.obj', $all[0]), Assets::file('x_high.obj', $all[1]), ...$all[5]], $all[2]];
    }

    /**
     * @param  list<ReadFile>  $files
     */
    #[DataProvider('assets')]
    public function test_what_was_kept_is_what_was_computed_and_needs_no_mesh(array $files, string $standard): void
    {
        $store = new KeptInMemory;
        $shared = in_array($this->dataName(), self::COMPUTED, true) ? null : SharedMeasures::ofThisRun();
        $rules = self::few($standard, $shared === null ? 1024 : self::RAYS);
        $choices = Choices::ofJson('{}');
        // The last delivery had everything elsewhere.
        $last = LastDelivery::of(Measures::of(array_map(static fn (ReadFile $file): ReadFile => new ReadFile($file->path, $file->role, $file->sha256, $file->scene === null ? null : new Scene('obj', array_map(static fn (Part $part): Part => $part->placedBy(Matrix::scaling(2.0)), $file->scene->parts)), $file->error), $files), $rules, $choices)->asset);
        $fresh = Measures::of($files, $rules, $choices)->since($last);
        $fresh = $shared === null ? $fresh : $fresh->keptIn($shared, true);
        $wanted = [...Runner::measures($fresh), Shades::class, Layout::class];
        Plan::of($fresh, $wanted)->run($fresh);
        $kept = Measures::of($files, $rules, $choices)->since($last)->keptIn($store->fedBy($shared), true);
        Plan::of($kept, $wanted)->run($kept);
        self::assertNotSame([], $shared === null ? $store->counts() : $store->kept);
        $light = Measures::of(array_map(self::withoutMeshes(...), $files), $rules, $choices)->since($last)->keptIn($store, false);
        foreach (MeasureCatalogue::all() as $class => $measure) {
            foreach (in_array($class, $wanted, true) ? $measure->subjects($fresh) : [] as $i => $subject) {
                $other = $measure->subjects($light)[$i];
                self::assertSame($subject->key, $other->key);
                $written = json_encode($measure->toArray($fresh->get($class, $subject), $fresh, $subject), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
                self::assertSame($written, json_encode($measure->toArray($kept->get($class, $subject), $kept, $subject), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION), $measure->name());
                self::assertSame($written, json_encode($measure->toArray($light->get($class, $other), $light, $other), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION), $measure->name());
                self::assertTrue($light->wasKnown($measure->name(), $other));
            }
        }
        $told = static fn (Measures $measures): array => array_map(static fn ($result): array => [$result->about->code, $result->state, $result->reason, array_map(static fn (Finding $f): array => $f->toArray(), $result->findings)], Runner::run($measures));
        self::assertSame(json_encode($told($fresh)), json_encode($told($light)));
        self::assertSame([], $store->counts(), 'nothing was computed a second time');
    }

    public function test_a_changed_part_computes_only_what_it_touches(): void
    {
        $store = new KeptInMemory;
        $measure = static function (float $size, string $prefix = 'stone', string $standard = '{}') use ($store): array {
            $low = $high = [];
            for ($i = 0; $i < 12; $i++) {
                $low["$prefix{$i}_low"] = Shapes::box(1, 1, 1)->moved(4.0 * $i, 0, 0);
                $high["$prefix{$i}_high"] = Shapes::roundedBox($i === 3 ? $size : 1, 1, 1, 0.05, 2)->moved(4.0 * $i, 0, 0);
            }
            $measures = Measures::of([Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high)], self::few($standard), Choices::ofJson('{}'))->keptIn($store, true);
            Plan::of($measures, Runner::measures($measures))->run($measures);
            // Under the names that they have now.
            self::assertEqualsCanonicalizing(array_map(static fn (int $i): string => "$prefix$i", range(0, 11)), array_values(array_map(static fn (SetClearance $one): string => $one->name, $measures->clearances())));
            self::assertSame(["{$prefix}3", "{$prefix}3_low", "{$prefix}3_high"], [$measures->placesOf("{$prefix}3")[0]->base, $measures->placesOf("{$prefix}3")[0]->low, $measures->placesOf("{$prefix}3")[0]->high]);

            return $store->counts();
        };
        $first = $measure(1.0);
        self::assertSame([12, 12, 12], [$first['rays'] ?? 0, $first['places'] ?? 0, $first['seen'] ?? 0]);
        self::assertSame([], $measure(1.0));
        $second = $measure(0.99);
        self::assertSame(['places' => 1, 'rays' => 1], array_intersect_key($second, ['rays' => 0, 'places' => 0, 'seen' => 0]));
        self::assertSame([1, 1], [$second['mesh-health'] ?? 0, $second['facets'] ?? 0]);
        self::assertSame([], array_diff_key($measure(1.0, 'rock'), ['suffixes' => 0, 'id-colors' => 0, 'touching-colors' => 0, 'crossings' => 0]), 'renaming shoots no ray');
        self::assertSame(12, $measure(1.0, 'rock', '{"reach":{"*":{"out":0.2,"in":0.2}}}')['rays'] ?? 0, 'another reach is another measure');
    }

    public function test_a_part_that_hides_a_set_no_more_is_seen_without_names(): void
    {
        $store = new KeptInMemory;
        $measure = static function (bool $lid) use ($store): array {
            $low = ['cup_low' => Shapes::box(1, 1, 1), 'cap_low' => $lid ? Shapes::box(1.2, 1.2, 1.2) : Shapes::box(1.2, 1.2, 1.2)->moved(9, 0, 0)];
            $high = ['cup_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2), 'cap_high' => Shapes::roundedBox(1.2, 1.2, 1.2, 0.05, 2)->moved($lid ? 0 : 9, 0, 0)];
            $measures = Measures::of([Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high)], self::few('{}'), Choices::ofJson('{}'))->keptIn($store, true);
            Plan::of($measures, [Rays::class])->run($measures);

            return [$measures->clearances()['cup']->details->buried, $store->counts()];
        };
        [[$hidden]] = $measure(true);
        [[$open], $counts] = $measure(false);
        self::assertEqualsWithDelta([1.0, 0.0], [$hidden, $open], 0.01);
        self::assertSame(2, $counts['rays'] ?? 0);
    }

    public function test_what_is_not_known_is_said_where_nothing_is_computed(): void
    {
        $measures = Measures::of([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)])], Standard::builtIn(), Choices::ofJson('{}'))->keptIn(new KeptInMemory, false);
        $this->expectException(NotKnown::class);
        $this->expectExceptionMessage('contents of 0 has not been computed');
        $measures->ofPart(Contents::class, $measures->asset->parts[0]);
    }

    public function test_a_plan_has_what_is_read_before_what_reads_it(): void
    {
        $asset = self::everything();
        $measures = Measures::of([Assets::file('x_low.obj', $asset[0]), Assets::file('x_high.obj', $asset[1]), ...$asset[5]], self::few('{}'), Choices::ofJson('{}'));
        $plan = Plan::of($measures, [Cage::class, Health::class]);
        $waves = [];
        foreach ($plan->waves as $wave => $bundles) {
            foreach ($bundles as $bundle) {
                foreach ($bundle as $task) {
                    $waves[$task->measure->name()] = $wave;
                }
            }
        }
        self::assertEquals(['contents' => 0, 'turn' => 0, 'rays' => 1, 'mesh-health' => 1, 'cage' => 2], $waves);
        self::assertSame([Turn::class, Contents::class], array_values(array_intersect([Turn::class, Contents::class], (new Rays)->reads())));
    }

    /** What is measured of a part stays together, small parts are bundled, and of sets each is a bundle: the most work first. */
    public function test_a_plan_bundles_what_is_small(): void
    {
        $part = static fn (string $name, int $triangles): Part => new Part($name, new Mesh([], []), [], Bounds::of([0.0, 0.0, 0.0], [1.0, 1.0, 1.0]), hash: $name, triangles: $triangles);
        $files = [
            Assets::file('x_low.obj', ['a_low' => $part('a_low', 90_000), 'b_low' => $part('b_low', 110_000), 'c_low' => $part('c_low', 1), 'd_low' => $part('d_low', 900_000)]),
            Assets::file('x_high.obj', ['a_high' => $part('a_high', 10), 'b_high' => $part('b_high', 20)]),
        ];
        $measures = Measures::of($files, Standard::builtIn(), Choices::ofJson('{}'))->keptIn(new KeptInMemory, true);
        $told = static fn (array $wanted): array => array_map(static fn (array $wave): array => array_map(static fn (array $bundle): string => implode(' ', array_map(static fn (Task $task): string => "{$task->measure->name()}:{$task->subject->key}", $bundle)), $wave), Plan::of($measures, $wanted)->waves);
        self::assertSame([['mesh-health:3 ngons:3', 'mesh-health:0 ngons:0 mesh-health:1 ngons:1', 'mesh-health:4 mesh-health:5', 'mesh-health:2 ngons:2']], $told([Health::class, LowNgons::class]));
        // What only tells whether rays are shot again goes before them, many at once; rays by what they are.
        self::assertSame(['seen:a seen:b', 'rays:b', 'rays:a'], [...array_values(preg_grep('/^seen/', $told([Rays::class])[0]) ?: []), ...$told([Rays::class])[1]]);
        // Small measures of the whole asset are one bundle, a large one is one by itself.
        self::assertSame([['id-colors: suffixes:']], $told([Colors::class, Suffixes::class]));
        self::assertSame([['turn:', 'id-colors: suffixes:']], $told([Colors::class, Suffixes::class, Turn::class]));
    }

    public function test_one_process_measures_parts_before_sets(): void
    {
        $asset = self::everything();
        $said = [];
        $measures = Measures::of([Assets::file('x_low.obj', $asset[0]), Assets::file('x_high.obj', $asset[1])], self::few('{}'), Choices::ofJson('{}'));
        Plan::of($measures, [Rays::class, Health::class])->run($measures, static function (string $what, int $number, int $of) use (&$said): void {
            $said[] = "$what $number/$of";
        });
        $all = count($said);
        self::assertSame(range(1, $all), array_map(static fn (string $one): int => (int) preg_replace("#^.* (\d+)/$all$#", '$1', $one), $said), implode(', ', $said));
        // Contents and the turn first, then health, then a set after the other.
        self::assertSame(['looking at a_low 1', 'looking at a_low 2'], array_map(static fn (string $one): string => explode('/', $one)[0], array_slice($said, 0, 2)));
        self::assertCount($all - 2, preg_grep('/^shooting rays of /', array_slice($said, 2)) ?: []);
        self::assertGreaterThan(0.0, $measures->secondsOf(Rays::class));
        self::assertGreaterThan($measures->secondsOf(Health::class), $measures->secondsOf(Rays::class));
    }

    public function test_a_subject_is_what_it_is(): void
    {
        $this->expectExceptionMessage('a asset is no set');
        Subject::asset()->ofSet();
    }

    /** Of the assets that are computed anew, each measure has a result, and each that may have none has none in one of them. */
    public function test_the_assets_that_are_computed_anew_cover_every_measure(): void
    {
        $found = [];
        foreach (self::assets() as $name => [$files, $standard]) {
            $measures = SharedMeasures::of(Measures::of($files, self::few($standard, self::RAYS), Choices::ofJson('{}')));
            foreach (Runner::measures($measures) as $class) {
                $measure = MeasureCatalogue::get($class);
                foreach ($measure->subjects($measures) as $subject) {
                    $found[$measure->name().($measure->toArray($measures->get($class, $subject), $measures, $subject) === null ? ' of nothing' : '')][$name] = true;
                }
            }
        }
        foreach ($found as $what => $by) {
            self::assertNotSame([], array_intersect(self::COMPUTED, array_keys($by)), $what);
        }
    }

    private static function few(string $standard, int $rays = 1024): Standard
    {
        $rules = Standard::ofJson($standard);

        return $rules->withRays(new RaySettings($rules->rays->smooth, $rules->rays->cageLength, $rules->rays->backFaces, $rays, $rules->rays->setsKeptApart));
    }

    private static function withoutMeshes(ReadFile $file): ReadFile
    {
        $parts = array_map(static fn (Part $part): Part => new Part($part->name, new Mesh([], [], materials: $part->mesh->materials), $part->colors, $part->bounds(), $part->facts, $part->hash(), $part->triangleCount()), $file->scene->parts ?? []);

        return new ReadFile($file->path, $file->role, $file->sha256, $file->scene === null ? null : new Scene($file->scene->format, $parts, $file->scene->unit, $file->scene->upAxis, $file->scene->remarks, $file->scene->extras), $file->error);
    }

    /**
     * @return array{array<string, Polygons>, array<string, Polygons>, string, string, null, list<ReadFile>}
     */
    private static function everything(): array
    {
        $box = Shapes::box(1, 1, 1);
        // Without area: nothing can be shot from it.
        $line = Shapes::sheet(1, 1)->scaled(1, 1, 0)->moved(-3, 0, 0);

        return [
            ['a_low' => $box, 'b_low' => $box->moved(3, 0, 0), 'c_low' => $box->moved(3.4, 0, 0), 'd_low' => $line],
            ['a_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2), 'b_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)->moved(3, 0, 0), 'c_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)->moved(3.4, 0, 0), 'd_high' => $line],
            '{"pages":1,"upright":true}', '{}', null,
            [
                Assets::file('x_cage.obj', ['a_cage' => $box->scaled(1.1, 1.1, 1.1), 'b_cage' => Shapes::box(1.1, 1.1, 1.1, 2)->moved(3, 0, 0)], Role::Cage),
                Assets::file('x_pose.obj', ['a_pose' => $box->moved(0, 2, 0), 'b_pose' => $box->moved(3, 2, 0)], Role::Pose),
            ],
        ];
    }
}
