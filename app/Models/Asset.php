<?php

declare(strict_types=1);

namespace App\Models;

use Anvil\Standard\Choices;
use Anvil\Standard\Standard as Rules;
use Database\Factories\AssetFactory;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Factories\HasFactory;
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
 * @property array<string, array{out: float|null, in: float|null}>|null $reaches that were set by hand, by set
 * @property array{clearance: float|int|null, all: bool}|null $explode how sets are moved apart, where that was set by hand
 * @property array<string, mixed>|null $color_ids what was decided about its IDs
 * @property int $color_ids_version how often
 * @property string $changed_by
 * @property Carbon $created_at
 * @property Carbon $updated_at
 * @property Standard $standard
 * @property Collection<int, Delivery> $deliveries
 */
final class Asset extends Model
{
    /** @use HasFactory<AssetFactory> */
    use HasFactory;

    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['choices' => 'array', 'reaches' => 'array', 'explode' => 'array', 'color_ids' => 'array'];
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

    /** The studio's standard with the reaches that were set for this asset. */
    public function rules(): Rules
    {
        return $this->standard->parsed()->withReaches($this->reaches ?? []);
    }

    /**
     * How its sets are moved apart.
     *
     * @return array{float|null, bool} clearance in file units (null: the usual one), whether all are moved
     */
    public function layout(): array
    {
        $clearance = $this->explode['clearance'] ?? null;

        return [$clearance === null ? null : (float) $clearance, $this->explode['all'] ?? false];
    }

    public function decided(): Choices
    {
        $choices = $this->choices;
        foreach (['sets', 'occlusion', 'mirroredIslands'] as $byName) {
            if (is_array($choices[$byName] ?? null)) {
                // Names such as 0 and 1 are no list, and none at all is none either.
                $choices[$byName] = (object) $choices[$byName];
            }
        }

        return Choices::ofJson((string) json_encode((object) $choices));
    }
}
