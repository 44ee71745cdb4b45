<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Deliveries\Workers;
use Illuminate\Console\Command;

/**
 * Puts the jobs of workers that are no more back into the queue, so that they are run again at once.
 */
final class ReleaseWorkers extends Command
{
    protected $signature = 'anvil-workers:release {--all : no worker of this machine is running}';

    protected $description = 'Put jobs held by dead workers of this machine back into the queue';

    public function handle(): int
    {
        Workers::release((bool) $this->option('all'));

        return self::SUCCESS;
    }
}
