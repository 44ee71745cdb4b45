<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Person;
use App\People\Leave;
use Illuminate\Auth\Access\Response;

/**
 * Who may do what: by what they are in the studio, the same for all assets.
 */
abstract class ByStanding
{
    public function view(Person $person): Response
    {
        return self::answer($person, Leave::View);
    }

    public function mend(Person $person): Response
    {
        return self::answer($person, Leave::Mend);
    }

    public function decide(Person $person): Response
    {
        return self::answer($person, Leave::Decide);
    }

    public function waive(Person $person): Response
    {
        return self::answer($person, Leave::Waive);
    }

    public function sendBack(Person $person): Response
    {
        return self::answer($person, Leave::SendBack);
    }

    public function seal(Person $person): Response
    {
        return self::answer($person, Leave::Seal);
    }

    public function delete(Person $person): Response
    {
        return self::answer($person, Leave::Delete);
    }

    protected static function answer(Person $person, Leave $leave): Response
    {
        return $person->may($leave) ? Response::allow() : Response::deny($leave->refusal());
    }
}
