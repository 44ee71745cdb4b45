<?php

declare(strict_types=1);

namespace Database\Factories;

use App\Models\Standard;
use Illuminate\Database\Eloquent\Factories\Factory;

/**
 * @extends Factory<Standard>
 */
final class StandardFactory extends Factory
{
    protected $model = Standard::class;

    /**
     * @return array<string, mixed>
     */
    public function definition(): array
    {
        static $number = 0;
        $number++;

        return ['name' => "harbour rules $number", 'rules' => '{}', 'changed_by' => 'test'];
    }
}
