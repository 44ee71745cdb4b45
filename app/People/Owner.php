<?php

declare(strict_types=1);

namespace App\People;

use App\Http\Controllers\PeopleController;
use App\Models\Person;

/**
 * The first person: made at the first start, and signed up by a link that is printed there.
 */
final class Owner
{
    /** Theirs until they have given their own. */
    public const EMAIL = 'owner@localhost';

    /** The link by which the first person signs up; null where somebody has. */
    public static function link(): ?string
    {
        if (Person::query()->whereNotNull('password')->exists()) {
            return null;
        }
        $owner = Person::query()->firstOrCreate(['email' => self::EMAIL], ['name' => 'Owner', 'role' => Standing::Lead]);

        return Letters::link($owner, PeopleController::invites()->createToken($owner), true);
    }
}
