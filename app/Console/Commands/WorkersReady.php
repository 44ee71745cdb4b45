<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Deliveries\Store;
use App\Models\Delivery;
use Illuminate\Console\Command;
use Throwable;

/**
 * Whether workers of this machine could work: the database answers and fits this version, the store takes a file and gives it back.
 */
final class WorkersReady extends Command
{
    protected $signature = 'anvil-workers:ready';

    protected $description = 'Say whether database and store can be reached from this machine';

    public function handle(): int
    {
        try {
            Delivery::query()->exists();
        } catch (Throwable $error) {
            $this->error('The database cannot be used: '.mb_strimwidth($error->getMessage(), 0, 200, '…').' Look at ANVIL_DB_HOST, ANVIL_DB_PORT and ANVIL_DB_PASSWORD; the machine that bin/start runs on must have been started once.');

            return self::FAILURE;
        }
        config(['anvil.store_waits' => 2]);
        try {
            $path = 'health/'.bin2hex(random_bytes(8));
            Store::put($path, 'x');
            $came = Store::get($path);
            Store::dropFile($path);
        } catch (Throwable $error) {
            $this->error('The store cannot be used: '.mb_strimwidth($error->getMessage(), 0, 200, '…').' Look at ANVIL_S3_ENDPOINT, ANVIL_S3_BUCKET, ANVIL_S3_KEY and ANVIL_S3_SECRET.');

            return self::FAILURE;
        }
        if ($came !== 'x') {
            $this->error('The store gives back something else than it was given.');

            return self::FAILURE;
        }
        $this->line('Database and store answer.');

        return self::SUCCESS;
    }
}
