<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Person;
use App\People\Leave;
use Illuminate\Auth\Access\Response;

/**
 * Who may look after people: leads; and everybody after their own account.
 */
final class PersonPolicy
{
    public function manage(Person $person): Response
    {
        return $person->may(Leave::People) ? Response::allow() : Response::deny(Leave::People->refusal());
    }

    /** One's own account: by a session, never by a token. */
    public function account(Person $person): Response
    {
        return $person->via() === null && $person->disabled_at === null ? Response::allow() : Response::deny('a token does nothing with the account that it belongs to; sign in');
    }
}
