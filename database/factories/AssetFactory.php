<?php

declare(strict_types=1);

namespace Database\Factories;

use App\Models\Asset;
use App\Models\Standard;
use Illuminate\Database\Eloquent\Factories\Factory;

/**
 * @extends Factory<Asset>
 */
final class AssetFactory extends Factory
{
    protected $model = Asset::class;

    /**
     * @return array<string, mixed>
     */
    public function definition(): array
    {
        static $number = 0;
        $number++;

        return ['name' => "Buoy $number", 'key' => "buoy_$number", 'standard_id' => Standard::factory(), 'choices' => [], 'changed_by' => 'test'];
    }
}
