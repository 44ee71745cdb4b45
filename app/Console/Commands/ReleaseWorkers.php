<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Worker;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/**
 * Puts the jobs of workers that are no more back into the queue, so that they are run again at once.
 */
final class ReleaseWorkers extends Command
{
    protected $signature = 'anvil-workers:release {--all : no worker of this machine is running}';

    protected $description = 'Put jobs held by dead workers of this machine back into the queue';

    public function handle(): int
    {
        foreach (Worker::query()->where('host', (string) gethostname())->get() as $worker) {
            if (! $this->option('all') && $this->isAlive($worker->pid)) {
                continue;
            }
            if ($worker->job_id !== null) {
                DB::table('jobs')->where('id', $worker->job_id)->update(['reserved_at' => null, 'available_at' => time()]);
            }
            $worker->delete();
        }

        return self::SUCCESS;
    }

    /** Its number may have gone to another program since. */
    private function isAlive(int $pid): bool
    {
        $command = @file_get_contents("/proc/$pid/cmdline");

        return $command !== false && str_contains($command, 'queue:work');
    }
}
