<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Auth\GenericUser;

/**
 * Who does something. One built-in person until accounts come.
 */
final class Person extends GenericUser
{
    public function name(): string
    {
        $name = $this->attributes['name'] ?? null;

        return is_string($name) ? $name : '';
    }

    public static function builtIn(): self
    {
        return new self(['id' => 1, 'name' => config()->string('anvil.user')]);
    }
}
