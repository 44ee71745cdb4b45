<?php

declare(strict_types=1);

namespace Database\Factories;

use App\Models\Person;
use App\People\Standing;
use Illuminate\Database\Eloquent\Factories\Factory;

/**
 * A lead who has signed up.
 *
 * @extends Factory<Person>
 */
final class PersonFactory extends Factory
{
    public const PASSWORD = 'fog horn at seven';

    protected $model = Person::class;

    /**
     * @return array<string, mixed>
     */
    public function definition(): array
    {
        static $number = 0;
        $number++;

        return ['name' => "Keeper $number", 'email' => "keeper$number@harbor.example", 'password' => self::PASSWORD, 'role' => Standing::Lead];
    }
}
