<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Deliveries\Steps;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Storage;
use Tests\Support\HandsIn;
use Tests\TestCase;

/**
 * What those see who look after the machines, and that small work does not wait behind large.
 */
final class HealthTest extends TestCase
{
    use HandsIn;

    private const POST = "o post_low\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n";

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied(measures: true);
    }

    public function test_the_page_of_health_tells_what_waits_and_since_when(): void
    {
        $this->getJson('/up')->assertOk()->assertJson(['well' => true, 'database' => true, 'store' => true, 'queues' => [], 'workers' => [], 'failed' => 0]);
        self::assertSame([], Storage::files('health'), 'nothing is left of the trial');
        $this->handIn();
        DB::table('jobs')->update(['created_at' => time() - 90]);
        $said = $this->getJson('/up')->assertOk()->json();
        self::assertSame(1, $said['queues']['default']['waiting'] ?? null);
        self::assertGreaterThanOrEqual(90, $said['queues']['default']['oldestSeconds'] ?? 0);
        self::assertLessThan(100, $said['queues']['default']['oldestSeconds'] ?? 0);
        DB::table('workers')->insert(['machine' => 'quay', 'pid' => 7, 'born' => 'x', 'job_id' => 3, 'step' => 'read:1:1']);
        $this->getJson('/up')->assertJsonPath('workers', [['machine' => 'quay', 'process' => 7, 'step' => 'read:1:1']]);
    }

    public function test_a_store_that_cannot_be_written_is_told(): void
    {
        $disk = config()->string('filesystems.default');
        config(["filesystems.disks.$disk.root" => '/proc/nowhere']);
        Storage::forgetDisk($disk);
        $this->getJson('/up')->assertStatus(503)->assertJson(['well' => false, 'store' => false, 'database' => true]);
        Storage::forgetDisk($disk);
    }

    public function test_a_large_delivery_waits_in_a_queue_of_its_own(): void
    {
        config(['anvil.large_from' => 100]);
        $large = $this->handIn(str_repeat("# a long file\n", 20));
        config(['anvil.large_from' => 1 << 20]);
        $small = $this->handIn();
        config(['anvil.large_from' => 100]);
        self::assertSame(['large', 'default'], [Steps::queueOf(Delivery::query()->findOrFail($large)), Steps::queueOf(Delivery::query()->findOrFail($small))]);
        self::assertSame(['default', 'large'], DB::table('jobs')->orderBy('queue')->pluck('queue')->unique()->values()->all());
        // A worker of both takes the small one first, and each step stays in its queue.
        $work = static fn (string $queues): int => Artisan::call('queue:work', ['connection' => 'database', '--queue' => $queues, '--stop-when-empty' => true, '--memory' => 3500, '--sleep' => 0]);
        $work('default');
        self::assertSame([DeliveryState::Reading, DeliveryState::Done], [Delivery::query()->findOrFail($large)->state, Delivery::query()->findOrFail($small)->state]);
        DB::table('jobs')->delete();
        Steps::reconcile();
        self::assertSame(['large'], DB::table('jobs')->pluck('queue')->unique()->values()->all(), 'what was lost is sent again to its own');
        $work('default,large');
        self::assertSame(DeliveryState::Done, Delivery::query()->findOrFail($large)->state);
    }

    public function test_each_job_leaves_a_line_in_the_log(): void
    {
        $lines = [];
        Log::listen(static function (\Illuminate\Log\Events\MessageLogged $line) use (&$lines): void {
            $lines[] = [$line->message, array_keys($line->context)];
        });
        DB::table('measures')->delete();
        $id = $this->handIn();
        $this->work();
        self::assertContains(["done pair:$id:1", ['seconds', 'mebibytes']], $lines);
        self::assertContains(["done check:$id:1", ['seconds', 'mebibytes']], $lines);
        self::assertContains(["done measure:$id:1:1", ['seconds', 'mebibytes']], $lines);
        self::assertSame([], array_values(array_filter(array_column($lines, 0), static fn (string $line): bool => preg_match('/^done (read|pair|measure|check):/', $line) !== 1)));
        self::assertSame(array_unique(array_column($lines, 0)), array_column($lines, 0), 'each once');
    }

    private function handIn(string $before = ''): int
    {
        static $number = 0;
        $number++;
        $id = $this->postJson('/api/deliveries', ['uploads' => [$this->upload("post{$number}_low.obj", $before.self::POST)]])->assertCreated()->json('deliveryId');

        return is_int($id) ? $id : 0;
    }
}
