<?php

declare(strict_types=1);

namespace App\Models;

use Anvil\Standard\Choices;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * A thing to bake, with its deliveries.
 *
 * @property int $id
 * @property string $name
 * @property string $key what file names have in common, lower case
 * @property int $standard_id
 * @property array<string, mixed> $choices
 * @property string $changed_by
 * @property Carbon $created_at
 * @property Carbon $updated_at
 * @property Standard $standard
 * @property Collection<int, Delivery> $deliveries
 */
final class Asset extends Model
{
    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['choices' => 'array'];
    }

    /**
     * @return BelongsTo<Standard, $this>
     */
    public function standard(): BelongsTo
    {
        return $this->belongsTo(Standard::class);
    }

    /**
     * @return HasMany<Delivery, $this>
     */
    public function deliveries(): HasMany
    {
        return $this->hasMany(Delivery::class)->orderBy('number');
    }

    public function decided(): Choices
    {
        return Choices::ofJson((string) json_encode((object) $this->choices));
    }
}
