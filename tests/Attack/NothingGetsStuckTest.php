<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Deliveries\Cleaning;
use App\Deliveries\Steps;
use App\Deliveries\Store;
use App\Deliveries\Workers;
use App\Http\ErrorAnswer;
use App\Jobs\WriteFiles;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\Step;
use App\Models\Upload;
use App\Models\Worker;
use ErrorException;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use PDOException;
use PHPUnit\Framework\Attributes\DataProvider;
use RuntimeException;

/**
 * What is due is read from the rows: whatever is lost, killed or done twice, a delivery comes to its end once.
 */
final class NothingGetsStuckTest extends AttackCase
{
    /** Every job that lies in the queue is lost, at each step in turn. */
    public function test_a_lost_job_is_sent_again(): void
    {
        $id = $this->handIn(self::pair(1));
        $steps = [];
        for ($round = 0; $round < 20; $round++) {
            $delivery = Delivery::query()->findOrFail($id);
            if ($delivery->isOver()) {
                break;
            }
            $steps[] = $delivery->step;
            DB::table('jobs')->delete();
            self::assertGreaterThan(0, Steps::reconcile());
            self::assertSame(0, Steps::reconcile(), 'what is sent is not sent again');
            $this->work(1, mayFail: true);
        }
        self::assertSame(DeliveryState::Done, Delivery::query()->findOrFail($id)->state);
        // One file after the other, then what its plan holds, bundle by bundle.
        self::assertSame(['read', 'read', 'pair', 'measure', 'check'], [...array_slice(array_map(static fn (?Step $step): ?string => $step?->value, $steps), 0, 3), ...array_values(array_unique(array_map(static fn (?Step $step): ?string => $step?->value, array_slice($steps, 3))))]);
    }

    public function test_the_jobs_of_a_killed_worker_go_on_and_count_as_no_attempt(): void
    {
        $id = $this->handIn(self::pair(1));
        foreach (range(1, Workers::STOPS - 1) as $round) {
            $job = DB::table('jobs')->orderBy('id')->first();
            self::assertIsObject($job);
            DB::table('jobs')->where('id', $job->id)->update(['reserved_at' => time(), 'attempts' => 1]);
            // Of another boot, of a number that another process has now, and of one that never was.
            Worker::query()->create(['machine' => getenv('ANVIL_MACHINE'), 'pid' => [getmypid(), 4_000_000, 1][$round % 3], 'born' => 'long ago', 'job_id' => $job->id, 'step' => 'read:1:1']);
            Workers::release();
            self::assertSame([0, null], [DB::table('jobs')->where('id', $job->id)->value('attempts'), DB::table('jobs')->where('id', $job->id)->value('reserved_at')]);
            self::assertSame(0, Worker::query()->count());
        }
        $this->work(mayFail: true);
        self::assertSame(DeliveryState::Done, Delivery::query()->findOrFail($id)->state);
    }

    public function test_a_living_worker_keeps_its_job(): void
    {
        $this->handIn(self::pair(1));
        $job = DB::table('jobs')->orderBy('id')->value('id');
        DB::table('jobs')->where('id', $job)->update(['reserved_at' => time() - 500, 'attempts' => 1]);
        Worker::query()->create(['machine' => getenv('ANVIL_MACHINE'), 'pid' => getmypid(), 'born' => Workers::born((int) getmypid()), 'job_id' => $job, 'step' => 'read:1:1']);
        Workers::release();
        self::assertNotNull(DB::table('jobs')->where('id', $job)->value('reserved_at'));
        self::assertSame(1, Worker::query()->count());
        self::assertNull(Workers::born(4_000_000));
        // A job that was taken and that nobody says he holds was taken by one that was killed just then.
        Worker::query()->delete();
        Workers::release();
        self::assertNull(DB::table('jobs')->where('id', $job)->value('reserved_at'));
    }

    public function test_a_step_that_stops_its_workers_over_and_over_is_given_up_in_words(): void
    {
        $id = $this->handIn(self::pair(1));
        for ($round = 0; $round < Workers::STOPS && ! Delivery::query()->findOrFail($id)->isOver(); $round++) {
            $job = DB::table('jobs')->orderBy('id')->first();
            self::assertIsObject($job);
            Worker::query()->create(['machine' => getenv('ANVIL_MACHINE'), 'pid' => 4_000_000, 'born' => "once $round", 'job_id' => $job->id, 'step' => 'read:7:1']);
            Workers::release();
        }
        $delivery = Delivery::query()->findOrFail($id);
        self::assertSame(DeliveryState::Failed, $delivery->state);
        self::assertStringContainsString('The worker was stopped 12 times while reading post1_low.obj', (string) $delivery->error);
    }

    public function test_a_job_that_needs_more_memory_than_there_is_says_so(): void
    {
        $id = $this->handIn(self::pair(1));
        $job = DB::table('jobs')->orderBy('id')->value('id');
        Worker::query()->create(['machine' => getenv('ANVIL_MACHINE'), 'pid' => 4_000_000, 'born' => 'once', 'job_id' => $job, 'step' => 'read:7:1', 'last_words' => 'needs more than 4.1 GB of memory, and a worker has 4 GB. Give workers more with ANVIL_WORKER_MEMORY, or hand in fewer triangles.']);
        Workers::release();
        self::assertStringContainsString('Reading post1_low.obj needs more than 4.1 GB of memory', (string) Delivery::query()->findOrFail($id)->error);
        // What can be told beforehand is told before it is read.
        config(['anvil.worker_memory' => 100]);
        $large = $this->handIn(self::pair(2));
        $this->work(mayFail: true);
        $page = $this->getJson("/api/deliveries/$large");
        $page->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'blocked');
        self::assertStringContainsString('of memory to be read; a worker has 100.0 B', (string) json_encode($page->json('files.0.error')));
    }

    /** A worker that really runs out of memory, in a process of its own. */
    public function test_a_worker_that_runs_out_of_memory_leaves_its_words(): void
    {
        $faces = '';
        for ($i = 0; $i < 120_000; $i++) {
            $faces .= "v $i 0 0\nv $i 1 0\nv $i 0 1\nf -3 -2 -1\n";
        }
        $id = $this->handIn(['heavy_low.obj' => "o heavy_low\n$faces"]);
        config(['anvil.worker_memory' => 1 << 40]);
        $process = proc_open([PHP_BINARY, '-d', 'memory_limit=48M', base_path('artisan'), 'queue:work', 'database', '--once', '--memory=4000'], [1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']], $pipes, base_path(), [...getenv(), 'ANVIL_WORKER_BYTES' => (string) (1 << 40)]);
        self::assertIsResource($process);
        proc_close($process);
        Workers::release();
        $delivery = Delivery::query()->findOrFail($id);
        self::assertSame(DeliveryState::Failed, $delivery->state, (string) json_encode(DB::table('workers')->get()));
        self::assertStringContainsString('Reading heavy_low.obj needs more than', (string) $delivery->error);
    }

    public function test_what_a_silent_machine_held_goes_to_others(): void
    {
        $id = $this->handIn(self::pair(1));
        $job = DB::table('jobs')->orderBy('id')->first();
        self::assertIsObject($job);
        DB::table('jobs')->where('id', $job->id)->update(['reserved_at' => time(), 'attempts' => 1]);
        $silent = config()->integer('anvil.silent_after');
        $worker = Worker::query()->create(['machine' => 'another', 'pid' => 7, 'born' => 'there', 'job_id' => $job->id, 'step' => 'read:1:1']);
        // It spoke a moment ago by the database's clock, whatever this machine's says.
        Worker::query()->whereKey($worker->id)->update(['seen_at' => DB::raw('CURRENT_TIMESTAMP - INTERVAL '.($silent - 5).' SECOND')]);
        $this->travel(1)->days();
        Workers::release();
        self::assertSame(1, Worker::query()->count());
        self::assertNotNull(DB::table('jobs')->where('id', $job->id)->value('reserved_at'));
        $this->travelBack();
        Worker::query()->whereKey($worker->id)->update(['seen_at' => DB::raw('CURRENT_TIMESTAMP - INTERVAL '.($silent + 5).' SECOND')]);
        Workers::release();
        self::assertSame([0, 0, null], [Worker::query()->count(), DB::table('jobs')->where('id', $job->id)->value('attempts'), DB::table('jobs')->where('id', $job->id)->value('reserved_at')]);
        $this->work(mayFail: true);
        self::assertSame(DeliveryState::Done, Delivery::query()->findOrFail($id)->state);
    }

    /** A delivery of mended files: written by a job that may be lost, stopped, or left without what it writes from. */
    public function test_mended_files_are_written_or_it_is_said_why_not(): void
    {
        $id = $this->handIn(self::pair(1));
        $this->work(mayFail: true);
        $file = Delivery::query()->findOrFail($id)->files->firstOrFail();
        $mend = fn (string $to): Delivery => Delivery::query()->findOrFail((int) $this->postJson("/api/deliveries/$id/mend", ['renames' => [['fileId' => $file->id, 'from' => 'post_low', 'to' => $to]]])->assertCreated()->json('deliveryId')); // @phpstan-ignore cast.int

        $lost = $mend('pole_low');
        DB::table('jobs')->delete();
        self::assertSame(1, Steps::reconcile());
        // Run twice, as after a kill at its end.
        (new WriteFiles($lost->id, 1))->handle();
        $this->work(mayFail: true);
        self::assertSame([DeliveryState::Done, 2], [$lost->refresh()->state, $lost->files()->count()]);
        self::assertSame(['pole_low'], $lost->parts()->where('name', 'like', '%_low')->pluck('name')->all());
        self::assertCount(2, Storage::files($lost->folder().'/original'));

        $cancelled = $mend('mast_low');
        $this->postJson("/api/deliveries/$cancelled->id/cancel")->assertNoContent();
        $this->work(mayFail: true);
        self::assertSame([DeliveryState::Cancelled, 0], [$cancelled->refresh()->state, $cancelled->files()->count()]);
        $this->postJson("/api/deliveries/$cancelled->id/recheck")->assertNoContent();
        self::assertSame(DeliveryState::Writing, $cancelled->refresh()->state);
        $this->work(mayFail: true);
        self::assertSame([DeliveryState::Done, 2], [$cancelled->refresh()->state, $cancelled->files()->count()]);

        $torn = $mend('boom_low');
        Storage::delete($file->path);
        $this->work(mayFail: true);
        self::assertSame([DeliveryState::Failed, 0], [$torn->refresh()->state, $torn->files()->count()]);
        self::assertStringStartsWith('The files could not be mended: ', (string) $torn->error);

        $orphan = $mend('spar_low');
        $this->deleteJson("/api/deliveries/$id", ['number' => 1])->assertNoContent();
        $this->work(mayFail: true);
        self::assertSame([DeliveryState::Failed, 'The delivery that this one was to be made from was deleted.'], [$orphan->refresh()->state, $orphan->error]);
        self::assertSame([], glob(Store::here()->path('work').'/*'));
    }

    public function test_a_choice_stops_the_check_that_runs_and_is_refused_while_files_are_written(): void
    {
        $id = $this->handIn(self::pair(1));
        $delivery = static fn (): Delivery => Delivery::query()->findOrFail($id);
        $asset = $delivery()->asset;
        $this->postJson("/api/deliveries/$id/recheck")->assertStatus(422)->assertJsonPath('message', 'the delivery is being checked already');
        $this->postJson("/api/deliveries/$id/choices", ['base' => 'post', 'choice' => 'out'])->assertNoContent();
        $this->postJson("/api/deliveries/$id/explode", ['clearance' => 1, 'all' => true])->assertNoContent();
        self::assertSame([3, DeliveryState::Reading, ['post']], [$delivery()->run, $delivery()->state, $asset->refresh()->choices['leftOut'] ?? null]);
        // While its mended files are written there is nothing yet that could be judged by it.
        $before = $asset->toArray();
        DB::table('deliveries')->where('id', $id)->update(['state' => 'writing', 'step' => 'write']);
        $this->postJson("/api/deliveries/$id/choices", ['base' => 'post', 'choice' => 'self'])->assertStatus(422)->assertJsonPath('message', 'its mended files are being written; wait for them');
        self::assertSame($before, $asset->refresh()->toArray());
        DB::table('deliveries')->where('id', $id)->update(['state' => 'reading', 'step' => 'read']);
        // Cancelled, and what a job of that run, or of those before, brings late is put over nothing.
        $this->postJson("/api/deliveries/$id/cancel")->assertNoContent();
        $this->work(mayFail: true);
        self::assertSame(DeliveryState::Cancelled, $delivery()->state);
        $this->postJson("/api/deliveries/$id/choices", ['base' => 'lost', 'choice' => 'out'])->assertNoContent();
        $this->postJson("/api/deliveries/$id/cancel")->assertNoContent();
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->work(mayFail: true);
        self::assertSame([DeliveryState::Done, 5], [$delivery()->state, $delivery()->run], 'begun anew four times');
    }

    public function test_a_piece_whose_answer_was_lost_is_taken_as_come_in(): void
    {
        $id = $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => 10])->json('id');
        self::assertIsString($id);
        $this->piece($id, '0', 'abcde')->assertOk()->assertJsonPath('received', 5);
        $this->piece($id, '0', 'abcde')->assertOk()->assertJsonPath('received', 5);
        $this->piece($id, '2', 'cde')->assertOk()->assertJsonPath('received', 5);
        $this->piece($id, '0', 'abcdX')->assertStatus(409)->assertJsonPath('received', 5);
        $this->piece($id, '4', 'ef')->assertStatus(409);
        $this->piece($id, '7', 'fgh')->assertStatus(409);
        $this->piece($id, '5', 'fghij')->assertOk()->assertJsonPath('received', 10);
        self::assertSame('abcdefghij', Storage::get("uploads/$id"));
        $this->piece($id, '5', 'fghijk')->assertStatus(422);
        $this->piece($id, '10', '')->assertStatus(422);
    }

    public function test_files_are_handed_in_once(): void
    {
        $ids = [$this->upload('a_low.obj', self::LOW)];
        $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated();
        $this->postJson('/api/deliveries', ['uploads' => $ids])->assertStatus(422);
        self::assertSame([1, 1, 0], [Asset::query()->count(), Delivery::query()->count(), Upload::query()->count()]);
        self::assertFalse(Storage::exists("uploads/$ids[0]"));
    }

    /**
     * @return iterable<string, array{string}>
     */
    public static function names(): iterable
    {
        yield 'a blank at the end' => ['post_low '];
        yield 'longer than any field' => [str_repeat('keel', 200).'_low'];
        yield 'emoji' => [str_repeat('⚓', 190).'_low'];
        yield 'marks of SQL' => ["'; DROP TABLE assets; -- _low"];
        yield 'markup' => ['<img src=x onerror=alert(1)>_low'];
        yield 'a slash' => ['hull/deck_low'];
        yield 'a number' => ['0'];
    }

    #[DataProvider('names')]
    public function test_names_of_parts_are_kept_whole(string $name): void
    {
        $id = $this->handIn(['pier_low.obj' => str_replace('post_low', $name, self::LOW).str_replace('post_low', 'other_low', self::LOW), 'pier_high.obj' => str_replace('post_low', str_replace('_low', '_high', $name), self::LOW)]);
        $this->work(mayFail: true);
        $page = $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'done');
        // OBJ itself ends a name at its last letter.
        self::assertContains(rtrim($name), array_column((array) $page->json('parts'), 'name'));
    }

    public function test_names_longer_than_any_program_gives_are_refused_in_words(): void
    {
        foreach (['part' => ['post_low', 'the name of part 1'], 'material' => ['plain', 'the material of part 1']] as $what => [$old, $words]) {
            $id = $this->handIn(['pier_low.obj' => str_replace($old, str_repeat('k', 70_000).'_low', self::LOW), 'pier_high.obj' => str_replace('post_low', 'post_high', self::LOW)]);
            $this->work();
            $found = $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'done')->collect('findings')->firstWhere('code', 'file-unreadable');
            self::assertIsArray($found, $what);
            self::assertStringContainsString("$words has 70,004 bytes (\"kkkkkkkkkkkkkkkkkkkkkkkk…\"); names of at most 4,096 are read. Give it a shorter one", is_string($found['message']) ? $found['message'] : '');
        }
    }

    public function test_names_of_files_are_kept_whole_and_compared_byte_for_byte(): void
    {
        $emoji = str_repeat('⚓', 190).'_low.obj';
        $id = $this->handIn([$emoji => self::LOW, 'a.obj' => self::LOW, 'a .obj' => str_replace('post', 'mast', self::LOW), 'ä_low.obj' => str_replace('post', 'jib', self::LOW)]);
        $this->work(mayFail: true);
        $page = $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'done');
        self::assertSame([$emoji, 'a.obj', 'a .obj', 'ä_low.obj'], array_column((array) $page->json('files'), 'name'));
        $zip = new \ZipArchive;
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-zip');
        file_put_contents($path, $this->get("/api/deliveries/$id/download")->assertOk()->streamedContent());
        self::assertTrue($zip->open($path, \ZipArchive::CHECKCONS));
        self::assertSame([self::LOW, str_replace('post', 'mast', self::LOW)], [$zip->getFromName($emoji), $zip->getFromName('a .obj')]);
        unlink($path);
    }

    public function test_deliveries_and_assets_are_deleted_when_asked_twice(): void
    {
        $first = $this->handIn(self::pair(1));
        $this->work(mayFail: true);
        $second = $this->handIn(self::pair(1));
        $this->work(mayFail: true);
        $asset = Delivery::query()->findOrFail($first)->asset_id;
        $this->deleteJson("/api/deliveries/$second")->assertStatus(422);
        $this->deleteJson("/api/deliveries/$second", ['number' => 1])->assertStatus(422)->assertJsonPath('message', 'to delete it, give its number once more: 2');
        self::assertTrue(Storage::exists("assets/$asset/2"));
        $this->deleteJson("/api/deliveries/$second", ['number' => 2])->assertNoContent();
        self::assertFalse(Storage::exists("assets/$asset/2"));
        self::assertTrue(Storage::exists("assets/$asset/1"));
        $this->deleteJson("/api/assets/$asset", ['name' => 'something else'])->assertStatus(422);
        $this->deleteJson("/api/assets/$asset", ['name' => Asset::query()->findOrFail($asset)->name])->assertNoContent();
        self::assertSame([0, 0, 0], [Asset::query()->count(), Delivery::query()->count(), DB::table('parts')->count()]);
        self::assertFalse(Storage::exists("assets/$asset"));
        // One that is deleted while it is checked: its jobs do nothing.
        $third = $this->handIn(self::pair(3));
        $this->deleteJson("/api/deliveries/$third", ['number' => 1])->assertNoContent();
        $this->work(mayFail: true);
        self::assertSame([0, 0, 0], [Asset::query()->count(), DB::table('parts')->count(), DB::table('failed_jobs')->count()]);
    }

    public function test_what_cannot_be_made_any_more_is_told_and_not_sent_for_ever(): void
    {
        $id = $this->handIn(self::pair(1));
        $this->work(mayFail: true);
        $output = $this->postJson("/api/deliveries/$id/outputs", ['kind' => 'ids'])->assertCreated()->json('id');
        DB::table('jobs')->delete();
        self::assertSame(1, Steps::reconcile(), 'a lost job is sent again');
        // Before it is run the delivery is begun anew, and then cancelled.
        DB::table('jobs')->delete();
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->postJson("/api/deliveries/$id/cancel")->assertNoContent();
        DB::table('jobs')->delete();
        self::assertSame(1, Steps::reconcile());
        $this->work(mayFail: true);
        self::assertSame(['failed', 'the delivery is not checked to its end; make this again once it is'], [DB::table('outputs')->where('id', $output)->value('state'), DB::table('outputs')->where('id', $output)->value('error')]);
        self::assertSame(0, Steps::reconcile());
    }

    /** The number that comes free is given to the next delivery at once. */
    public function test_a_deleted_deliverys_number_and_folder_are_the_next_ones(): void
    {
        $this->handIn(self::pair(1));
        $second = $this->handIn(self::pair(1));
        $this->deleteJson("/api/deliveries/$second", ['number' => 2])->assertNoContent();
        $third = $this->handIn(self::pair(1));
        $this->work(mayFail: true);
        $page = $this->getJson("/api/deliveries/$third")->assertJsonPath('number', 2)->assertJsonPath('state', 'done');
        self::assertSame([null, null], array_column((array) $page->json('files'), 'error'));
        self::assertSame([], Storage::directories('work'), 'nothing that was deleted is left');
    }

    public function test_what_nobody_comes_back_for_is_cleared_away(): void
    {
        $id = $this->handIn(self::pair(1));
        $this->work(mayFail: true);
        $folder = Delivery::query()->findOrFail($id)->folder();
        $upload = $this->upload('late_low.obj', 'abc');
        $fresh = $this->upload('now_low.obj', 'abc');
        Upload::query()->whereKey($upload)->update(['updated_at' => now()->subDays(3)]);
        foreach (["$folder/mending-1/a", "$folder/outputs/77.zip", "$folder/original/stray", 'assets/900/1/original/x', 'uploads/left', 'work/left.zip'] as $left) {
            Storage::put($left, 'left');
        }
        Cleaning::run();
        self::assertTrue(Storage::exists('work/left.zip'), 'what is new may be in use');
        self::assertFalse(Storage::exists("uploads/$upload"));
        self::assertTrue(Storage::exists("uploads/$fresh"));
        exec('find '.escapeshellarg(Storage::path('')).' -exec touch -d "3 hours ago" {} +');
        Cleaning::run();
        foreach (["$folder/mending-1", "$folder/outputs/77.zip", "$folder/original/stray", 'assets/900/1', 'uploads/left', 'work/left.zip'] as $left) {
            self::assertFalse(Storage::exists($left), $left);
        }
        self::assertTrue(Storage::exists("uploads/$fresh"));
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'done');
        self::assertCount(2, Storage::files("$folder/original"));
    }

    public function test_a_disk_that_would_be_full_is_told_before(): void
    {
        config(['anvil.spare_disk' => PHP_INT_MAX >> 2, 'anvil.largest_upload' => 1 << 40]);
        $said = $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => 1000])->assertStatus(507)->json('message');
        self::assertStringContainsString('the disk has', strtolower(is_string($said) ? $said : ''));
        self::assertSame(0, Upload::query()->count());
        config(['anvil.largest_delivery' => 100]);
        config(['anvil.spare_disk' => 0]);
        $id = $this->upload('a_low.obj', self::LOW);
        $said = $this->postJson('/api/deliveries', ['uploads' => [$id]])->assertStatus(422)->json('message');
        self::assertStringContainsString('a delivery takes at most 100 B', is_string($said) ? $said : '');
    }

    public function test_a_zip_that_would_fill_the_disk_is_refused_before_a_byte_is_written(): void
    {
        $path = tempnam(sys_get_temp_dir(), 'anvil-zip-');
        $zip = new \ZipArchive;
        $zip->open((string) $path, \ZipArchive::OVERWRITE);
        foreach (self::pair(1) as $name => $content) {
            $zip->addFromString($name, $content.str_repeat("# a long comment of a long file\n", 40_000));
        }
        $zip->close();
        $id = $this->upload('pier.zip', (string) file_get_contents((string) $path));
        unlink((string) $path);
        $before = Storage::allFiles();
        // Room for what is packed, and not for what it holds: 2.5 MB, twice.
        config(['anvil.spare_disk' => (int) disk_free_space(Storage::path('')) - 4_500_000]);
        $said = $this->postJson('/api/deliveries', ['uploads' => [$id]])->assertStatus(507)->json('message');
        self::assertStringContainsString('pier.zip needs', is_string($said) ? $said : '');
        self::assertSame([0, 1], [Delivery::query()->count(), Upload::query()->count()]);
        self::assertSame($before, Storage::allFiles());
        config(['anvil.spare_disk' => 0]);
        $this->postJson('/api/deliveries', ['uploads' => [$id]])->assertCreated();
        $this->work();
    }

    public function test_a_name_in_a_zip_is_checked_as_that_of_an_upload(): void
    {
        foreach (["a\u{202e}jbo._low.obj", "a\u{85}_low.obj", "a\u{2066}_low.obj"] as $name) {
            $this->postJson('/api/uploads', ['name' => $name, 'bytes' => 3])->assertUnprocessable();
            $path = tempnam(sys_get_temp_dir(), 'anvil-zip-');
            $zip = new \ZipArchive;
            $zip->open((string) $path, \ZipArchive::OVERWRITE);
            $zip->addFromString($name, self::LOW);
            $zip->close();
            $id = $this->handIn(['pier.zip' => (string) file_get_contents((string) $path)]);
            unlink((string) $path);
            $this->work();
            $found = $this->getJson("/api/deliveries/$id")->collect('findings')->firstWhere('code', 'file-unreadable');
            self::assertIsArray($found);
            self::assertStringContainsString('control character', is_string($found['message']) ? $found['message'] : '');
        }
    }

    public function test_a_disk_that_is_full_is_told_in_words_though_the_log_lies_on_it(): void
    {
        config(['logging.default' => 'safe', 'logging.channels.anvil' => ['driver' => 'single', 'path' => '/dev/full']]);
        app('log')->forgetChannel();
        $full = new PDOException('SQLSTATE[HY000]: General error: 1114');
        $full->errorInfo = ['HY000', 1114, "The table 'deliveries' is full"];
        foreach ([new QueryException('mariadb', 'update deliveries', [], $full), new ErrorException('file_put_contents(): Write of 10 bytes failed with errno=28 No space left on device')] as $error) {
            $answer = ErrorAnswer::of($error);
            self::assertSame(507, $answer->getStatusCode());
            self::assertStringContainsString('is full, and nothing was changed', (string) $answer->getContent());
        }
        $answer = ErrorAnswer::of(new RuntimeException('something else'));
        self::assertSame(500, $answer->getStatusCode(), 'a log that cannot be written takes no answer with it');
        self::assertMatchesRegularExpression('/the log knows it as [0-9A-F]{6}/', (string) $answer->getContent());
    }
}
