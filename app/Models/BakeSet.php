<?php

declare(strict_types=1);

namespace App\Models;

use Anvil\Clearance\SetClearance;
use App\Models\State\SetState;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A bake set of a delivery, with what its rays met.
 *
 * @property int $id
 * @property int $delivery_id
 * @property string $name
 * @property SetState $state
 * @property string|null $error
 * @property string|null $key under which what its rays met lies in `measures`
 * @property array<string, mixed>|null $names what that depends on is called here
 * @property bool $reused nothing of it changed: what its rays met is known from before
 * @property Measured|null $kept what its rays met
 * @property Delivery $delivery
 */
final class BakeSet extends Model
{
    protected $table = 'sets';

    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['state' => SetState::class, 'names' => 'array', 'reused' => 'boolean'];
    }

    /**
     * @return BelongsTo<Delivery, $this>
     */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }

    /**
     * @return BelongsTo<Measured, $this>
     */
    public function kept(): BelongsTo
    {
        return $this->belongsTo(Measured::class, 'key', 'key');
    }

    /** What its rays met; null where they were not shot, or not yet. */
    public function measured(): ?SetClearance
    {
        return $this->kept?->rays($this->names);
    }
}
