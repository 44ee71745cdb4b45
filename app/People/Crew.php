<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Person;

/**
 * The made-up crew of the signal station: who is signed in with the demo, without a password and from this machine alone.
 */
final class Crew
{
    private const PEOPLE = [
        ['Ines Falk', 'ines.falk@signal.example', Standing::Lead],
        ['Tomas Reed', 'tomas.reed@signal.example', Standing::TechnicalArtist],
        ['Mara Lind', 'mara.lind@signal.example', Standing::Artist],
    ];

    public static function make(): void
    {
        foreach (self::PEOPLE as [$name, $email, $role]) {
            Person::query()->firstOrCreate(['email' => $email], ['name' => $name, 'role' => $role, 'is_demo' => true]);
        }
    }

    /**
     * @return list<Person> none where this is no demo
     */
    public static function all(): array
    {
        return config('anvil.demo') === true ? array_values(Person::query()->where('is_demo', true)->whereNull('disabled_at')->orderBy('id')->get()->all()) : [];
    }
}
