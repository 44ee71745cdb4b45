<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Deliveries\Cleaning;
use App\Deliveries\Steps;
use App\Deliveries\Waivers;
use App\Deliveries\Workers;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Log;
use Throwable;

/**
 * Sees to it that nothing stays undone: takes back what dead workers held, sends again what is due, clears away what was left. One at a time.
 */
final class Keep extends Command
{
    protected $signature = 'anvil-keeper {--once : one round, then end}';

    protected $description = 'Send again what is due, take back what dead workers held, clear away what was left';

    /** Seconds from round to round, and from cleaning to cleaning. */
    private const ROUND = 2;

    private const CLEANING = 600;

    public function handle(): int
    {
        $cleaned = 0;
        do {
            try {
                Workers::speak();
                // One keeper at a time, on however many machines.
                $got = DB::selectOne("SELECT GET_LOCK('anvil-keeper', 0) AS got");
                if (is_object($got) && ($got->got ?? 0) === 1) {
                    Workers::release();
                    Steps::reconcile();
                    Waivers::end();
                    if ((bool) $this->option('once') || time() - $cleaned >= self::CLEANING) {
                        $cleaned = time();
                        Cleaning::run();
                    }
                    DB::selectOne("SELECT RELEASE_LOCK('anvil-keeper')");
                }
            } catch (Throwable $error) {
                Log::warning('keeper: '.$error->getMessage());
                DB::purge();
            }
            if (! $this->option('once')) {
                sleep(self::ROUND);
            }
        } while (! $this->option('once'));

        return self::SUCCESS;
    }
}
