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
 * @property int $samples
 * @property string|null $inputs hash of all that its rays depend on, but for what is seen
 * @property array{set: string, others: list<string>, ties: list<array{base: string, low: list<array{string, string}>, high: list<array{string, string}>}>}|null $names what these inputs were called
 * @property string|null $seen hash of what is seen of it
 * @property bool $reused nothing of it changed: what its rays met is known from before
 * @property array<string, mixed>|null $clearance
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
        return ['state' => SetState::class, 'clearance' => 'array', 'names' => 'array', 'reused' => 'boolean'];
    }

    /**
     * @return BelongsTo<Delivery, $this>
     */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }

    public function measured(): ?SetClearance
    {
        return $this->clearance === null ? null : SetClearance::ofArray($this->clearance);
    }
}
