<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Models\Delivery;
use App\Models\State\DeliveryState;
use Illuminate\Support\Facades\DB;

/**
 * Workers and the keeper are killed at random while deliveries are checked: all come to their end, once, with the same result as without.
 *
 * How many by ANVIL_KILL_DELIVERIES and ANVIL_KILLS: the run of 150 and 100 that docs/reliability.md tells of, a shorter one each time.
 */
final class KillsTest extends AttackCase
{
    private const WORKERS = 2;

    public function test_whatever_is_killed_every_delivery_comes_to_its_end(): void
    {
        $count = max(2, (int) (getenv('ANVIL_KILL_DELIVERIES') ?: 16));
        $kills = (int) (getenv('ANVIL_KILLS') ?: 12);
        mt_srand(20261127);
        $calm = $this->handIn(self::pair(0));
        $processes = [];
        $start = static function (int $i) use (&$processes): void {
            $command = $i === 0 ? ['anvil-keeper'] : ['queue:work', 'database', '--sleep=0.1', '--tries=3', '--memory=3500'];
            $flags = explode(' ', trim((string) file_get_contents(base_path('bin/jit.flags'))));
            $processes[$i] = proc_open([PHP_BINARY, ...$flags, '-d', 'memory_limit=3G', base_path('artisan'), ...$command], [0 => ['file', '/dev/null', 'r'], 1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']], $pipes, base_path());
        };
        for ($i = 0; $i <= self::WORKERS; $i++) {
            $start($i);
        }
        try {
            self::until(static fn (): bool => Delivery::query()->findOrFail($calm)->isOver(), self::doing(...), 600);
            $wanted = $this->figures($calm);
            $ids = [];
            $doing = static fn (): string => (string) json_encode(DB::table('workers')->orderBy('pid')->get(['pid', 'step']));
            for ($n = 1; $n <= $count; $n++) {
                $ids[] = $this->handIn(self::pair($n));
            }
            for ($k = 0; $k < $kills; $k++) {
                // After so many further steps, wherever its worker is by then.
                $steps = mt_rand(1, 6);
                $last = $doing();
                self::comes(static function () use (&$steps, &$last, $doing): bool {
                    [$before, $last] = [$last, $doing()];

                    return $before !== $last && --$steps <= 0;
                }, 1.2);
                $i = mt_rand(0, self::WORKERS);
                $process = $processes[$i];
                self::assertIsResource($process);
                proc_terminate($process, SIGKILL);
                proc_close($process);
                $start($i);
            }
            self::until(static fn (): bool => Delivery::query()->whereNotIn('state', DeliveryState::OVER)->doesntExist(), self::doing(...), 600);
            self::assertSame(array_fill(0, $count, DeliveryState::Done), Delivery::query()->whereIn('id', $ids)->orderBy('id')->pluck('state')->all(), (string) json_encode(Delivery::query()->whereIn('id', $ids)->whereNot('state', 'done')->pluck('error', 'id')));
            foreach ($ids as $id) {
                self::assertSame($wanted, $this->figures($id));
                // Nothing is doubled.
                self::assertSame([2, 2, 1], [DB::table('files')->where('delivery_id', $id)->count(), DB::table('parts')->where('delivery_id', $id)->count(), DB::table('sets')->where('delivery_id', $id)->count()]);
            }
            self::assertSame(0, DB::table('failed_jobs')->count());
        } finally {
            foreach ($processes as $process) {
                if (is_resource($process)) {
                    proc_terminate($process, SIGKILL);
                    proc_close($process);
                }
            }
        }
        self::assertSame(0, DB::table('jobs')->count(), 'nothing is left in the queue');
    }

    private static function doing(): string
    {
        return (string) json_encode([DB::table('jobs')->get(['id', 'attempts', 'reserved_at']), Delivery::query()->whereNotIn('state', DeliveryState::OVER)->get(['id', 'state', 'step', 'run']), DB::table('workers')->get()]);
    }
}
