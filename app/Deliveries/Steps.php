<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Jobs\CheckDelivery;
use App\Jobs\DeliveryJob;
use App\Jobs\MakeOutput;
use App\Jobs\Measure;
use App\Jobs\PairDelivery;
use App\Jobs\ReadFile;
use App\Jobs\SealPackage;
use App\Jobs\WriteFiles;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Output;
use App\Models\Package;
use App\Models\State\DeliveryState;
use App\Models\State\FileState;
use App\Models\State\MakingState;
use App\Models\State\Step;
use App\Models\State\TaskState;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/**
 * What is due of a delivery, read from its rows: write its files, where they are those of another one mended; read its files, pair its parts, measure what its plan holds, check.
 *
 * Every change of step takes the delivery's lock, and its jobs are sent in the same transaction: they lie in the same database, so that
 * neither can be there without the other. A run has a number; a job of an earlier one does nothing.
 */
final class Steps
{
    /** Begins a run with what is not done yet: writing, reading, pairing. In a transaction with the delivery's row locked. */
    public static function begin(Delivery $delivery): void
    {
        $files = $delivery->files()->where('kind', 'mesh');
        if ($delivery->core_version !== null && $delivery->core_version !== config()->string('anvil.core_version')) {
            // Another core may read a file in another way than the one that read it.
            (clone $files)->where('state', FileState::Read)->update(['state' => FileState::Waiting]);
        }
        $unread = (clone $files)->whereIn('state', FileState::OPEN)->exists();
        (clone $files)->where('state', FileState::Reading)->update(['state' => FileState::Waiting]);
        [$state, $step] = match (true) {
            $delivery->changes !== null && $delivery->files()->doesntExist() => [DeliveryState::Writing, Step::Write],
            $unread => [DeliveryState::Reading, Step::Read],
            default => [DeliveryState::Measuring, Step::Pair],
        };
        Turn::to($delivery, $state, $step, ['run' => $delivery->run + 1, 'error' => null, 'verdict' => null]);
        self::send($delivery);
    }

    /** Goes on to the next step where the one at hand is done. */
    public static function advance(int $id): void
    {
        Turn::locked($id, static function (Delivery $delivery): void {
            $next = match ($delivery->isOver() ? null : $delivery->step) {
                Step::Read => $delivery->files()->where('kind', 'mesh')->whereIn('state', FileState::OPEN)->exists() ? null : [$delivery->state, Step::Pair, $delivery->wave],
                Step::Measure => self::afterWave($delivery),
                default => null,
            };
            if ($next !== null) {
                [$state, $step, $wave] = $next;
                Turn::to($delivery, $state, $step, ['wave' => $wave]);
                self::send($delivery);
            }
        });
    }

    /**
     * What follows once a wave of its plan is measured.
     *
     * @return array{DeliveryState, Step, int}|null state, step and wave; null while it is not
     */
    private static function afterWave(Delivery $delivery): ?array
    {
        $open = $delivery->tasks()->where('state', TaskState::Waiting)->min('wave');

        return match (true) {
            $open === null => [DeliveryState::Checking, Step::Check, $delivery->wave],
            is_numeric($open) && (int) $open > $delivery->wave => [DeliveryState::Measuring, Step::Measure, (int) $open],
            default => null,
        };
    }

    /**
     * Sends the jobs of the step at hand that are not sent yet.
     *
     * @param  array<string, true>  $sent  names of the jobs that lie in the queue already
     * @return int how many were sent
     */
    public static function send(Delivery $delivery, array $sent = []): int
    {
        $count = 0;
        foreach (self::due($delivery) as $job) {
            if (! isset($sent[$job->name()])) {
                Queue::pushOn($queue ??= self::queueOf($delivery), $job);
                $count++;
            }
        }

        return $count;
    }

    /** Large deliveries have a queue of their own, so that small ones do not wait behind them. */
    public static function queueOf(Delivery $delivery): string
    {
        return $delivery->files()->sum('bytes') > config()->integer('anvil.large_from') ? 'large' : 'default';
    }

    /**
     * @return list<DeliveryJob>
     */
    private static function due(Delivery $delivery): array
    {
        [$id, $run] = [$delivery->id, $delivery->run];

        return match ($delivery->isOver() ? null : $delivery->step) {
            Step::Write => [new WriteFiles($id, $run)],
            Step::Read => array_values($delivery->files()->where('kind', 'mesh')->whereIn('state', FileState::OPEN)->get(['id'])->map(static fn (File $file): ReadFile => new ReadFile($id, $run, $file->id))->all()),
            Step::Pair => [new PairDelivery($id, $run)],
            Step::Measure => array_map(static fn (int $bundle): Measure => new Measure($id, $run, $bundle), self::bundles($delivery)),
            Step::Check => [new CheckDelivery($id, $run)],
            default => [],
        };
    }

    /**
     * @return list<int> bundles of the wave at hand in which something is not measured yet
     */
    private static function bundles(Delivery $delivery): array
    {
        return array_values(array_filter($delivery->tasks()->reorder('bundle')->where('state', TaskState::Waiting)->where('wave', '<=', $delivery->wave)->distinct()->pluck('bundle')->all(), is_int(...)));
    }

    /**
     * Sends again what is due and lies nowhere: of every delivery, output and package that is not over.
     *
     * @return int how many jobs were sent
     */
    public static function reconcile(): int
    {
        $sent = self::inQueue();
        $count = 0;
        foreach (Delivery::query()->whereNotIn('state', DeliveryState::OVER)->orderBy('id')->pluck('id') as $id) {
            if (! is_int($id)) {
                continue;
            }
            self::advance($id);
            $count += Turn::locked($id, static function (Delivery $delivery) use ($sent): int {
                if (array_filter(self::due($delivery), static fn (DeliveryJob $job): bool => ! isset($sent[$job->name()])) === []) {
                    return 0;
                }

                // What was sent since the queue was looked at is seen now, under the lock.
                return self::send($delivery, self::inQueue());
            }) ?? 0;
        }
        foreach (Output::query()->whereIn('state', MakingState::OPEN)->get() as $output) {
            $count += self::again(new MakeOutput($output->delivery_id, $output->id), $sent);
        }
        foreach (Package::query()->whereIn('state', MakingState::OPEN)->get() as $package) {
            $count += self::again(new SealPackage($package->delivery_id, $package->id), $sent);
        }

        return $count;
    }

    /**
     * @param  array<string, true>  $sent
     */
    private static function again(DeliveryJob $job, array $sent): int
    {
        if (isset($sent[$job->name()]) || isset(self::inQueue()[$job->name()])) {
            return 0;
        }
        $delivery = Delivery::query()->find($job->deliveryId);
        Queue::pushOn($delivery === null ? 'default' : self::queueOf($delivery), $job);

        return 1;
    }

    /**
     * @return array<string, true> names of the jobs that lie in the queue, held or not
     */
    private static function inQueue(): array
    {
        $out = [];
        foreach (DB::table('jobs')->pluck('payload') as $payload) {
            $decoded = is_string($payload) ? json_decode($payload, true) : null;
            if (is_array($decoded) && is_string($decoded['step'] ?? null)) {
                $out[$decoded['step']] = true;
            }
        }

        return $out;
    }
}
