<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Jobs\DeliveryJob;
use App\Models\Worker;
use Illuminate\Contracts\Queue\Job;
use Illuminate\Support\Facades\DB;
use stdClass;
use Throwable;

/**
 * Which worker holds which job, so that what a killed one held goes on at once; and what a job that kills its workers was about.
 */
final class Workers
{
    /** So often the worker of one step may be stopped from outside before the step is given up. */
    public const STOPS = 12;

    /** A job that was taken this long ago and that no worker says it holds was taken by one that was killed just then. */
    private const UNTOLD = 10;

    /** Called by a worker as it takes a job, and as it lays it down. */
    public static function holds(?Job $job): void
    {
        $self = ['machine' => self::machine(), 'pid' => (int) getmypid(), 'born' => self::born((int) getmypid()) ?? ''];
        $held = ['job_id' => $job === null ? null : (int) $job->getJobId(), 'step' => $job === null ? null : self::stepOf($job->getRawBody()), 'last_words' => null, 'seen_at' => DB::raw('CURRENT_TIMESTAMP'), 'updated_at' => now()];
        if (Worker::query()->where($self)->update($held) === 0) {
            Worker::query()->insertOrIgnore([...$self, ...$held, 'created_at' => now()]);
        }
    }

    /** What a worker says as it dies of want of memory. */
    public static function dying(string $words): void
    {
        try {
            Worker::query()->where(['machine' => self::machine(), 'pid' => (int) getmypid(), 'born' => self::born((int) getmypid()) ?? ''])->update(['last_words' => mb_strimwidth($words, 0, 500)]);
        } catch (Throwable) {
            // Then the job is run again as that of any killed worker.
        }
    }

    /**
     * Puts the jobs of workers that are no more back into the queue.
     *
     * @param  bool  $all  no worker is running
     */
    public static function release(bool $all = false): void
    {
        // By the database's clock alone: those of machines differ.
        $silent = Worker::query()->whereRaw('seen_at < CURRENT_TIMESTAMP - INTERVAL ? SECOND', [config()->integer('anvil.silent_after')])->pluck('id')->all();
        foreach (Worker::query()->get() as $worker) {
            // Of another machine's that machine's own keeper tells, as long as there is one.
            $isAlive = $worker->machine === self::machine() ? self::born($worker->pid) === $worker->born : ! in_array($worker->id, $silent, true);
            if (! $all && $isAlive) {
                continue;
            }
            if ($worker->job_id !== null) {
                self::putBack($worker);
            }
            $worker->delete();
        }
        $held = Worker::query()->whereNotNull('job_id')->pluck('job_id')->all();
        DB::table('jobs')->whereNotNull('reserved_at')->where('reserved_at', '<', $all ? PHP_INT_MAX : time() - self::UNTOLD)->whereNotIn('id', $held)
            ->update(['reserved_at' => null, 'available_at' => time(), 'attempts' => DB::raw('CASE WHEN attempts > 0 THEN attempts - 1 ELSE 0 END')]);
    }

    /** Says of this machine's workers that they are there still. */
    public static function speak(): void
    {
        foreach (Worker::query()->where('machine', self::machine())->get() as $worker) {
            if (self::born($worker->pid) === $worker->born) {
                Worker::query()->whereKey($worker->id)->update(['seen_at' => DB::raw('CURRENT_TIMESTAMP')]);
            }
        }
    }

    private static function putBack(Worker $worker): void
    {
        $row = DB::table('jobs')->where('id', $worker->job_id)->first();
        $job = $row instanceof stdClass && is_string($row->payload) ? self::jobOf($row->payload) : null;
        if ($row === null) {
            return;
        }
        $reason = $worker->last_words !== null && $job !== null ? "{$job->words()} {$worker->last_words}" : null;
        if ($reason === null && $worker->step !== null) {
            DB::statement('INSERT INTO stopped_steps (step, times, created_at, updated_at) VALUES (?, 1, NOW(), NOW()) ON DUPLICATE KEY UPDATE times = times + 1, updated_at = NOW()', [$worker->step]);
            $times = DB::table('stopped_steps')->where('step', $worker->step)->value('times');
            $reason = is_numeric($times) && (int) $times >= self::STOPS && $job !== null ? "the worker was stopped $times times while {$job->words()}; the machine may be short of memory. Hand in a smaller file, or free some memory and check again." : null;
        }
        if ($reason !== null) {
            $job?->giveUp($reason);
            DB::table('jobs')->where('id', $worker->job_id)->delete();

            return;
        }
        // That its worker was killed is no attempt of the job's.
        DB::table('jobs')->where('id', $worker->job_id)->update(['reserved_at' => null, 'available_at' => time(), 'attempts' => DB::raw('CASE WHEN attempts > 0 THEN attempts - 1 ELSE 0 END')]);
    }

    private static function jobOf(string $payload): ?DeliveryJob
    {
        $decoded = json_decode($payload, true);
        $command = is_array($decoded) && is_array($decoded['data'] ?? null) ? ($decoded['data']['command'] ?? null) : null;
        $job = is_string($command) ? unserialize($command) : null;

        return $job instanceof DeliveryJob ? $job : null;
    }

    private static function stepOf(string $payload): ?string
    {
        $decoded = json_decode($payload, true);

        return is_array($decoded) && is_string($decoded['step'] ?? null) ? $decoded['step'] : null;
    }

    /** This machine, whatever its name is now. */
    private static function machine(): string
    {
        $id = getenv('ANVIL_MACHINE');

        return is_string($id) && $id !== '' ? substr($id, 0, 64) : 'this';
    }

    /** Boot and start time of a process; null when there is none by that number. */
    public static function born(int $pid): ?string
    {
        $stat = @file_get_contents("/proc/$pid/stat");
        if ($stat === false) {
            return null;
        }
        // The name in brackets may hold blanks; the start time is the 20th word after it.
        $words = explode(' ', substr($stat, (int) strrpos($stat, ')') + 2));
        // A zombie has ended already.
        if (($words[0] ?? 'Z') === 'Z') {
            return null;
        }

        return trim((string) @file_get_contents('/proc/sys/kernel/random/boot_id')).' '.($words[19] ?? '');
    }
}
