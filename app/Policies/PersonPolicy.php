<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Person;
use App\People\Leave;
use Illuminate\Auth\Access\Response;

/**
 * Who may look after people: leads.
 */
final class PersonPolicy
{
    public function manage(Person $person): Response
    {
        return $person->may(Leave::People) ? Response::allow() : Response::deny(Leave::People->refusal());
    }
}
