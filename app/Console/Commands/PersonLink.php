<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Http\Controllers\PeopleController;
use App\Models\Person;
use App\People\Letters;
use Illuminate\Console\Command;

/**
 * For whoever runs the machine: a link that sets somebody's password, where mail cannot reach them.
 */
final class PersonLink extends Command
{
    protected $signature = 'anvil-people:link {email : of somebody who has an account}';

    protected $description = 'Print a link that sets the password of somebody; it works once, for three days';

    public function handle(): int
    {
        $person = Person::query()->where('email', mb_strtolower((string) $this->argument('email')))->where('is_demo', false)->first();
        if ($person === null) {
            $this->error('There is nobody with this e-mail.');

            return self::FAILURE;
        }
        $this->line(Letters::link($person, PeopleController::invites()->createToken($person), true));

        return self::SUCCESS;
    }
}
