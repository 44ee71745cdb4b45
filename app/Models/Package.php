<?php

declare(strict_types=1);

namespace App\Models;

use App\Models\State\MakingState;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A sealed hand-off package.
 *
 * @property int $id
 * @property int $delivery_id
 * @property MakingState $state
 * @property string|null $error
 * @property string|null $name
 * @property string|null $path
 * @property int|null $bytes
 * @property string|null $sha256
 * @property string|null $sealed_of hash of what it was sealed of (`Delivery::judged_of`)
 * @property list<string>|null $with what goes along
 * @property string $sealed_by
 * @property Carbon $created_at
 * @property Delivery $delivery
 */
final class Package extends Model
{
    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['state' => MakingState::class, 'with' => 'array'];
    }

    /**
     * @return BelongsTo<Delivery, $this>
     */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }
}
