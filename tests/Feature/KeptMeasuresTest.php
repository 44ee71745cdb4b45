<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\MemorySink;
use Anvil\Version;
use App\Deliveries\Cleaning;
use App\Deliveries\KeptMeasures;
use App\Deliveries\StoredDelivery;
use App\Jobs\Measure;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\Task;
use Illuminate\Support\Facades\DB;
use Tests\Support\HandsIn;
use Tests\TestCase;

/**
 * A measure is kept once by the hash of what it depends on, whichever delivery or asset asks for it, and goes when none does.
 */
final class KeptMeasuresTest extends TestCase
{
    use HandsIn;

    private const SETS = 40;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied(measures: true);
    }

    /** Counted on many parts: what is not told here was known. */
    public function test_of_many_parts_one_changed_is_measured_alone(): void
    {
        $first = $this->measured('quay', 0.0);
        $counts = self::computed($first);
        self::assertSame([self::SETS, self::SETS, self::SETS], [$counts['rays'], $counts['places'], $counts['seen']]);
        self::assertSame(self::SETS, $counts['contents'], 'of the high poly; the low poly was measured while that was still to be read');
        $kept = DB::table('measures')->count();

        $second = $this->measured('quay', 0.02);
        self::assertSame([$first->asset_id, 2], [$second->asset_id, $second->number]);
        $counts = self::computed($second);
        self::assertSame(['contents' => 1, 'facets' => 1, 'mesh-health' => 1, 'places' => 1, 'rays' => 1], array_intersect_key($counts, array_flip(['rays', 'places', 'seen', 'facets', 'mesh-health', 'contents', 'ngons', 'tile-borders', 'normal-sides'])));
        self::assertLessThan($kept + 24, DB::table('measures')->count());

        // The same meshes in another asset, under other names.
        $other = $this->measured('pier', 0.0, 'plank');
        self::assertNotSame($first->asset_id, $other->asset_id);
        self::assertSame([], array_intersect_key(self::computed($other), array_flip(['rays', 'places', 'seen', 'facets', 'mesh-health', 'contents', 'ngons', 'tile-borders', 'normal-sides', 'turn'])));
        self::assertSame('plank0', $other->sets->firstOrFail()->measured()?->name);
    }

    public function test_what_nobody_asks_for_any_more_is_cleared_away(): void
    {
        $first = $this->measured('quay', 0.0, 'stone', 3);
        $second = $this->measured('pier', 0.02, 'stone', 3);
        self::assertSame(0, KeptMeasures::prune(0), 'all of it is asked for');
        $all = DB::table('measures')->count();
        $this->deleteJson("/api/assets/$first->asset_id", ['name' => 'Quay'])->assertNoContent();
        self::assertSame(0, KeptMeasures::prune(), 'what is new stays a day');
        $second->update(['state' => DeliveryState::Measuring]);
        self::assertSame(0, KeptMeasures::prune(0), 'while something is measured its keys are not all known');
        $second->update(['state' => DeliveryState::Done]);
        DB::table('measures')->update(['kept_at' => now()->subDays(2)]);
        Cleaning::run();
        $left = DB::table('measures')->pluck('key')->sort()->values()->all();
        self::assertLessThan($all, count($left));
        self::assertSame(Task::query()->distinct()->orderBy('key')->pluck('key')->all(), $left);
        // What is left is all that the delivery is judged by.
        $this->postJson("/api/deliveries/$second->id/recheck")->assertNoContent();
        $this->work();
        self::assertSame([], self::computed($second->refresh()));
        self::assertSame(DeliveryState::Done, $second->state);
    }

    public function test_two_workers_that_measure_the_same_keep_it_once(): void
    {
        $store = new KeptMeasures;
        $store->keep(str_repeat('a', 64), 'turn', ['degrees' => 90.0], null);
        (new KeptMeasures)->keep(str_repeat('a', 64), 'turn', ['degrees' => 90.0], null);
        self::assertSame(1, DB::table('measures')->count());
        self::assertSame(['stored' => ['degrees' => 90.0], 'names' => null], $store->find(str_repeat('a', 64)));
        // Nothing is as good a result as any.
        $store->keep(str_repeat('b', 64), 'turn', null, ['set' => 'a']);
        self::assertSame(['stored' => null, 'names' => ['set' => 'a']], (new KeptMeasures(true))->find(str_repeat('b', 64)));
        $still = new KeptMeasures(true);
        self::assertNull($still->find(str_repeat('c', 64)));
        $store->keep(str_repeat('c', 64), 'turn', null, null);
        self::assertNull($still->find(str_repeat('c', 64)), 'asked once where nothing is computed');
        self::assertNotNull($store->find(str_repeat('c', 64)));
        self::assertSame([str_repeat('b', 64) => true], KeptMeasures::known([str_repeat('b', 64), str_repeat('d', 64)]));
    }

    /** Of a large delivery only the meshes of the task at hand are loaded: what comes out is the same. */
    public function test_a_measure_of_some_meshes_is_that_of_all(): void
    {
        $delivery = $this->measured('quay', 0.0, 'stone', 4);
        $keys = $delivery->tasks->pluck('key', 'id')->all();
        $stored = DB::table('measures')->orderBy('key')->pluck('stored', 'key')->all();
        DB::table('measures')->delete();
        config(['anvil.keep_triangles' => 10]);
        $delivery->tasks()->update(['state' => 'waiting', 'key' => null]);
        $delivery->update(['state' => DeliveryState::Measuring, 'step' => 'measure', 'run' => $delivery->run + 1]);
        foreach ($delivery->tasks()->reorder('bundle')->distinct()->pluck('bundle') as $bundle) {
            self::assertIsInt($bundle);
            (new Measure($delivery->id, $delivery->run, $bundle))->handle();
        }
        self::assertSame($keys, $delivery->refresh()->tasks->pluck('key', 'id')->all());
        self::assertSame($stored, DB::table('measures')->orderBy('key')->pluck('stored', 'key')->all());
        self::assertCount(8, (new StoredDelivery($delivery))->parts());
        self::assertMatchesRegularExpression('/^\d+\.\d+\.\d+$/D', Version::CORE);
    }

    /**
     * @return array<string, int> measure → how many were computed
     */
    private static function computed(Delivery $delivery): array
    {
        $out = [];
        foreach ($delivery->tasks()->get() as $task) {
            $out[$task->measure] = ($out[$task->measure] ?? 0) + ($task->reused ? 0 : 1);
        }

        ksort($out);

        return array_filter($out);
    }

    private function measured(string $asset, float $more, string $name = 'stone', int $sets = self::SETS): Delivery
    {
        $files = [];
        foreach (['low', 'high'] as $side) {
            $parts = [];
            for ($i = 0; $i < $sets; $i++) {
                $shape = $side === 'low' ? Shapes::box(1, 1, 1) : Shapes::roundedBox(1, $i === 1 ? 1 + $more : 1, 1, 0.05, 1);
                $parts[] = new Part("$name{$i}_$side", $shape->moved(3.0 * ($i % 16), 0, 3.0 * intdiv($i, 16))->mesh());
            }
            $sink = new MemorySink;
            ObjWriter::write($parts, "{$asset}_$side.obj", $sink);
            $files["{$asset}_$side.obj"] = $sink->content("{$asset}_$side.obj");
        }
        DB::table('standards')->where('name', 'few rays')->exists() ?: DB::table('standards')->insert(['name' => 'few rays', 'rules' => '{"rays":{"count":1024}}', 'changed_by' => 'test', 'created_at' => now(), 'updated_at' => now()]);
        $id = $this->handIn($files);
        $this->work();
        $delivery = Delivery::query()->findOrFail($id);
        self::assertSame(DeliveryState::Done, $delivery->state, (string) $delivery->error);

        return $delivery;
    }
}
