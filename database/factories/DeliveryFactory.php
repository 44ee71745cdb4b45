<?php

declare(strict_types=1);

namespace Database\Factories;

use App\Models\Asset;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use Illuminate\Database\Eloquent\Factories\Factory;

/**
 * A delivery that was judged, without files.
 *
 * @extends Factory<Delivery>
 */
final class DeliveryFactory extends Factory
{
    protected $model = Delivery::class;

    /**
     * @return array<string, mixed>
     */
    public function definition(): array
    {
        return ['asset_id' => Asset::factory(), 'number' => 1, 'state' => DeliveryState::Done, 'step' => null, 'verdict' => 'ready', 'handed_in_by' => 'test', 'checked_at' => now()];
    }
}
