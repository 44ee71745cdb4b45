<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Person;
use Illuminate\Support\Facades\Auth;

/**
 * Who does what is being done.
 */
final class Who
{
    /** Where nobody asked for it: the program itself. */
    public const NOBODY = 'Yellow Anvil';

    public static function person(): ?Person
    {
        /** @var mixed $person */
        $person = Auth::user();

        return $person instanceof Person ? $person : null;
    }

    public static function name(): string
    {
        return self::person()->name ?? self::NOBODY;
    }
}
