<?php

declare(strict_types=1);

namespace Tests\Machines;

use App\Models\Delivery;
use App\Models\Output;
use App\Models\State\DeliveryState;
use App\Models\State\MakingState;
use Closure;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Tests\Support\HandsIn;
use Tests\Support\Waits;
use Tests\TestCase;
use Throwable;
use ZipArchive;

/**
 * Workers on two machines that share a database and a store and nothing else: two folders, `bin/worker` in each. Whatever is stopped on the
 * way, every delivery comes to its end, each set measured once, with the same result.
 */
final class MachinesTest extends TestCase
{
    use HandsIn;
    use Waits;

    private const SETS = 6;

    /** @var array<string, resource> */
    private array $running = [];

    /** Number of the database server that is started here in place of the one that was stopped. */
    private static int $database = 0;

    /** @var list<string> how the database server was started */
    private array $command = [];

    protected function setUp(): void
    {
        parent::setUp();
        (new Filesystem)->deleteDirectory(self::folder().'/store');
        $this->startStore();
        $this->untilAtLast(static fn (): bool => Storage::put('here', 'x'), 30);
        $this->emptied(measures: true);
    }

    protected function tearDown(): void
    {
        foreach (array_keys($this->running) as $name) {
            $this->stop($name, SIGKILL);
        }
        parent::tearDown();
    }

    public static function tearDownAfterClass(): void
    {
        if (self::$database > 0) {
            posix_kill(self::$database, SIGTERM);
        }
    }

    public function test_two_machines_do_one_work_whatever_is_stopped(): void
    {
        $this->startMachine('a');
        $this->startMachine('b');
        $calm = $this->handIn(self::asset(0));
        $this->untilAtLast(static fn (): bool => Delivery::query()->findOrFail($calm)->isOver());
        $wanted = $this->figures($calm);
        self::assertStringStartsWith('["ready"', $wanted);

        $ids = array_map(fn (int $n): int => $this->handIn(self::asset($n)), range(1, 6));
        $this->untilAtLast(static fn (): bool => DB::table('workers')->whereNotNull('job_id')->distinct()->count('machine') === 2);

        // A machine is gone from one moment to the next, with what it held.
        $held = DB::table('workers')->whereNotNull('job_id')->count();
        self::assertGreaterThan(0, $held);
        $this->stop('b', SIGKILL);

        $this->stopDatabase();
        $this->startDatabase();

        $this->startMachine('b');
        $this->untilAtLast(static fn (): bool => DB::table('workers')->distinct()->count('machine') === 2);
        $this->stop('store', SIGKILL);
        // Until somebody has tried again what the store did not give, or for as long as it is to stay away.
        self::comes(static fn (): bool => DB::table('jobs')->where('attempts', '>', 1)->exists(), (float) (getenv('ANVIL_TEST_OUTAGE') ?: 20));
        self::assertSame(0, DB::table('failed_jobs')->count());
        $this->startStore();

        $this->untilAtLast(static fn (): bool => Delivery::query()->whereNotIn('state', DeliveryState::OVER)->doesntExist());
        self::assertSame(array_fill(0, 6, DeliveryState::Done), Delivery::query()->whereIn('id', $ids)->pluck('state')->all(), (string) json_encode(Delivery::query()->whereIn('id', $ids)->pluck('error')));
        foreach ($ids as $id) {
            self::assertSame($wanted, $this->figures($id));
            self::assertSame([2, 2 * self::SETS, self::SETS], [DB::table('files')->where('delivery_id', $id)->count(), DB::table('parts')->where('delivery_id', $id)->count(), DB::table('sets')->where('delivery_id', $id)->count()]);
        }
        self::assertSame([0, 0], [DB::table('jobs')->count(), DB::table('failed_jobs')->count()]);
        $this->handsOut($ids[0]);

        // What a machine keeps for itself is copies, and nothing else.
        $left = array_filter(glob(self::folder().'/[ab]/storage/*') ?: [], static fn (string $path): bool => ! in_array(basename($path), ['copies', 'work'], true));
        self::assertSame([], array_values($left));
        self::assertSame([], glob(self::folder().'/[ab]/storage/work/*'));

        // Deleted in the store, too.
        $folder = Delivery::query()->findOrFail($ids[1])->folder();
        self::assertNotSame([], Storage::allFiles($folder));
        $this->deleteJson("/api/deliveries/$ids[1]", ['number' => 1])->assertNoContent();
        self::assertSame([], Storage::allFiles($folder));
        self::assertSame([], array_filter(Storage::allFiles('work'), static fn (string $path): bool => str_contains($path, 'deleted-')));
    }

    public function test_what_cannot_be_reached_is_told(): void
    {
        [$code, $words] = $this->ready(['ANVIL_DB_PORT' => '1', 'DB_PORT' => '1']);
        self::assertSame([1, true], [$code, str_contains($words, 'The database cannot be used') && str_contains($words, 'ANVIL_DB_HOST')], $words);
        foreach ([['ANVIL_S3_ENDPOINT' => 'http://127.0.0.1:1'], ['ANVIL_S3_BUCKET' => 'nowhere']] as $wrong) {
            [$code, $words] = $this->ready($wrong);
            self::assertSame([1, true], [$code, str_contains($words, 'The store cannot be used') && str_contains($words, 'ANVIL_S3_ENDPOINT')], $words);
        }
        [$code, $words] = $this->ready([]);
        self::assertSame([0, "Database and store answer.\n"], [$code, $words]);
    }

    /** Files, meshes, packages: all that a browser fetches comes out of the store. */
    private function handsOut(int $id): void
    {
        $zip = new ZipArchive;
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-zip');
        file_put_contents($path, $this->get("/api/deliveries/$id/download")->assertOk()->streamedContent());
        self::assertTrue($zip->open($path));
        self::assertSame(2, $zip->numFiles);
        unlink($path);
        $mesh = $this->get("/api/deliveries/$id/files/".\App\Models\File::query()->where('delivery_id', $id)->where('name', 'like', '%high%')->firstOrFail()->id.'/mesh')->assertOk()->streamedContent();
        self::assertGreaterThan(500, strlen($mesh));
        self::assertSame(200, $this->postJson("/api/deliveries/$id/packages")->assertCreated()->baseResponse->getStatusCode() - 1);
        $output = $this->postJson("/api/deliveries/$id/outputs", ['kind' => 'cage'])->assertCreated()->json('id');
        self::assertIsInt($output);
        $this->untilAtLast(static fn (): bool => Output::query()->findOrFail($output)->state === MakingState::Done && DB::table('packages')->where('state', 'done')->exists());
        $got = $this->get("/api/outputs/$output")->assertOk()->streamedContent();
        $row = Output::query()->findOrFail($output);
        self::assertSame([$row->bytes, $row->sha256], [strlen($got), hash('sha256', $got)]);
    }

    /**
     * @param  array<string, string>  $changes
     * @return array{int, string}
     */
    private function ready(array $changes): array
    {
        $process = proc_open([PHP_BINARY, base_path('artisan'), 'anvil-workers:ready'], [1 => ['pipe', 'w'], 2 => ['file', '/dev/null', 'w']], $pipes, base_path(), [...getenv(), ...$changes]);
        self::assertIsResource($process);
        $words = (string) stream_get_contents($pipes[1]);

        return [proc_close($process), $words];
    }

    /** Starts a machine, and waits until its workers run. */
    private function startMachine(string $name): void
    {
        $log = self::folder()."/$name.log";
        $atWork = static fn (): int => substr_count((string) @file_get_contents($log), 'At work: 2.');
        $before = $atWork();
        $this->start($name, ['setsid', '--wait', base_path('bin/worker'), '2'], ['ANVIL_VAR' => self::folder()."/$name"]);
        $running = fn (): bool => proc_get_status($this->running[$name])['running'];
        self::until(static fn (): bool => $atWork() > $before || ! $running(), static fn (): string => "Machine $name does not start. ".self::logs(), 120);
        self::assertGreaterThan($before, $atWork(), "Machine $name ended at its start. ".self::logs());
    }

    /** The ends of all logs of machines and store. */
    private static function logs(): string
    {
        $words = '';
        foreach ([...glob(self::folder().'/*.log') ?: [], ...glob(self::folder().'/[ab]/log/*') ?: []] as $path) {
            $words .= "\n== $path\n".substr((string) file_get_contents($path), -2000);
        }

        return $words;
    }

    private function startStore(): void
    {
        $address = parse_url(config()->string('filesystems.disks.anvil.endpoint'));
        self::assertIsArray($address);
        $this->start('store', ['setsid', '--wait', 'node', base_path('node_modules/s3rver/bin/s3rver.js'), '--silent', '--directory', self::folder().'/store', '--address', $address['host'] ?? '', '--port', (string) ($address['port'] ?? ''), '--configure-bucket', 'anvil'], []);
    }

    /**
     * @param  list<string>  $command
     * @param  array<string, string>  $environment
     */
    private function start(string $name, array $command, array $environment): void
    {
        is_dir(self::folder()."/$name") || mkdir(self::folder()."/$name", 0o777, true);
        $log = self::folder()."/$name.log";
        $process = proc_open($command, [0 => ['file', '/dev/null', 'r'], 1 => ['file', $log, 'a'], 2 => ['file', $log, 'a']], $pipes, base_path(), [...getenv(), ...$environment]);
        self::assertIsResource($process);
        $this->running[$name] = $process;
    }

    /** Ends a machine with all that runs on it. */
    private function stop(string $name, int $signal): void
    {
        $process = $this->running[$name];
        unset($this->running[$name]);
        self::killTree(proc_get_status($process)['pid'], $signal);
        proc_close($process);
    }

    private static function killTree(int $pid, int $signal): void
    {
        $children = preg_split('/\s+/', trim((string) @shell_exec("pgrep -P $pid")), -1, PREG_SPLIT_NO_EMPTY);
        posix_kill($pid, $signal);
        foreach ($children === false ? [] : $children as $child) {
            self::killTree((int) $child, $signal);
        }
    }

    private function stopDatabase(): void
    {
        $pid = (int) getenv('ANVIL_TEST_DATABASE');
        $this->command = array_values(array_filter(explode("\0", (string) file_get_contents("/proc/$pid/cmdline")), static fn (string $word): bool => $word !== '' && ! str_starts_with($word, '--init-file')));
        posix_kill($pid, SIGKILL);
        DB::purge();
    }

    private function startDatabase(): void
    {
        $process = proc_open(['setsid', ...$this->command], [0 => ['file', '/dev/null', 'r'], 1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']], $pipes);
        self::assertIsResource($process);
        self::$database = proc_get_status($process)['pid'];
        $this->untilAtLast(static fn (): bool => DB::scalar('select 1') === 1, 60);
    }

    private static function folder(): string
    {
        return (string) getenv('ANVIL_TEST_FOLDER');
    }

    /** Waits until something holds, while database and store may be away. */
    private function untilAtLast(Closure $holds, int $seconds = 240): void
    {
        $error = null;
        self::until(static function () use ($holds, &$error): bool {
            try {
                $error = null;

                return $holds();
            } catch (Throwable $error) {
                DB::purge();

                return false;
            }
        }, static function () use (&$error): string {
            return ($error?->getMessage() ?? '').self::logs().json_encode([DB::table('jobs')->get(['id', 'attempts', 'reserved_at']), Delivery::query()->whereNotIn('state', DeliveryState::OVER)->get(['id', 'state', 'step', 'run']), DB::table('workers')->get()]);
        }, $seconds);
    }

    /**
     * Posts side by side, far enough from each other.
     *
     * @return array<string, string>
     */
    private static function asset(int $number): array
    {
        $files = [];
        foreach (['low' => 0.0, 'high' => 0.001] as $role => $z) {
            $text = '';
            for ($i = 0; $i < self::SETS; $i++) {
                $text .= "o post{$i}_$role\n";
                // The number stands far from everything in a digit that no measure sees: no two deliveries share what was measured.
                foreach ([[0, 0], [1, 0], [1, 1], [0, 1]] as [$x, $y]) {
                    $text .= 'v '.(3 * $i + $x).' '.$y.' '.($role === 'high' && $x + $y === 2 ? $z : 0)."\n";
                }
                foreach ([[0.0, 0.0], [0.3, 0.0], [0.3, 0.3], [0.0, 0.3]] as [$x, $y]) {
                    $text .= 'vt '.($i % 3 / 3 + 0.01 + $x).' '.(intdiv($i, 3) / 3 + 0.01 + $y)."\n";
                }
                $text .= "usemtl plain\n";
                [$v, $u] = [4 * $i, 4 * $i];
                foreach ($role === 'low' ? [[1, 2, 3, 4]] : [[1, 2, 3], [1, 3, 4]] as $face) {
                    $text .= 'f '.implode(' ', array_map(static fn (int $c): string => ($v + $c).'/'.($u + $c), $face))."\n";
                }
            }
            $files["quay{$number}_$role.obj"] = $text;
        }

        return $files;
    }
}
