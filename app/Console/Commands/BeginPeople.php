<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\People\Crew;
use App\People\Owner;
use Illuminate\Console\Command;

/**
 * At a start: the demo's crew, or the link by which the first person signs up.
 */
final class BeginPeople extends Command
{
    protected $signature = 'anvil-people:begin';

    protected $description = 'Make the first person, and print the link by which they sign up';

    public function handle(): int
    {
        if (config('anvil.demo') === true) {
            Crew::make();

            return self::SUCCESS;
        }
        $link = Owner::link();
        if ($link !== null) {
            $this->line($link);
        }

        return self::SUCCESS;
    }
}
