<?php

declare(strict_types=1);

namespace App\Models;

use App\Models\State\MakingState;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * Files written from a delivery, as one zip: `mended`, `exploded` or `ids`.
 *
 * @property int $id
 * @property int $delivery_id
 * @property string $kind
 * @property MakingState $state
 * @property string|null $error
 * @property array<string, mixed>|null $detail
 * @property string|null $name
 * @property string|null $path
 * @property int|null $bytes
 * @property string|null $sha256
 * @property string|null $key hash of all that a trial was made of
 * @property string $made_by
 * @property Carbon $created_at
 * @property Delivery $delivery
 */
final class Output extends Model
{
    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['state' => MakingState::class, 'detail' => 'array'];
    }

    /**
     * @return BelongsTo<Delivery, $this>
     */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }
}
